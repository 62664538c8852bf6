/** One object for equal parts of graphics: copies that come over a port are known again, so that what was worked out for them stays. */
import { type Desk } from '../desk/air';
import { lanePicturesOf } from '../picture/air';
import { type Filled } from './air';

/** Designs and values that are kept; the oldest is forgotten. A design may have a hundred kilobytes as text. */
const MOST = 300;
const known = new Map<string, object>();

/** The object that stands for all that are equal to this one. It must not be changed any more. */
export function intern<T extends object>(part: T): T {
  const key = JSON.stringify(part);
  const found = known.get(key);
  if (found) return found as T;
  known.set(key, Object.freeze(part));
  const oldest = known.size > MOST ? known.keys().next().value : undefined;
  if (oldest !== undefined) known.delete(oldest);
  return part;
}

function internFilled(filled: Filled): void {
  filled.graphic.elements = intern(filled.graphic.elements);
  filled.graphic.fields = intern(filled.graphic.fields);
  filled.values = intern(filled.values);
}

/** Does so for everything on air, and for graphics of the document where `graphics` says that they are new. Changes the desk, which must be the caller's own copy. */
export function internDesk({ show, air }: Desk, graphics: boolean): void {
  const shown = [...Object.values(air.graphics.shown), ...lanePicturesOf(air.lanes)];
  for (const one of shown) {
    internFilled(one);
    if (one.before) internFilled(one.before);
  }
  if (!graphics) return;
  for (const graphic of show.graphics.list) {
    graphic.elements = intern(graphic.elements);
    graphic.fields = intern(graphic.fields);
    for (const entry of graphic.entries) entry.values = intern(entry.values);
  }
  Object.freeze(show.graphics.list);
}
