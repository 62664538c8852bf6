/** Graphics on air are copies: made when they come, changed when somebody says so, forgotten when they have gone. */
import { current, isDraft } from 'immer';
import { type Air } from '../desk/air';
import { type Filled, type Shown } from './air';
import { type EntryValue } from './document';
import { filledOf, type FoundGraphic } from './find';
import { changeLength } from './lengths';
import { hashOf } from './hash';

/** What a draft stands for; what is none as it is. */
export const plain = <T extends object>(value: T): T => (isDraft(value) ? (current(value as never) as T) : value);

/** A graphic as it is now, without its entries, and its values. */
export function copyOf(found: FoundGraphic): Filled {
  const { graphic, values } = filledOf(found);
  return { graphic: { ...plain(graphic), entries: [] }, values: plain(values) };
}

export const shownAt = (found: FoundGraphic, frame: number): Shown => ({
  ...copyOf(found),
  start: frame,
  before: null,
  hold: { index: 0, start: frame },
});

const hashes = new WeakMap<object, string>();

function hashed(part: object): string {
  const known = hashes.get(part);
  if (known !== undefined) return known;
  const hash = hashOf(JSON.stringify(part));
  if (Object.isFrozen(part)) hashes.set(part, hash);
  return hash;
}

const filledIn = (values: readonly EntryValue[]): string => (values.length === 0 ? '' : hashed(values));

/** True when two filled graphics look alike: the same elements and fields, the same values. */
export const sameFilled = (a: Filled, b: Filled): boolean =>
  (a.graphic.elements === b.graphic.elements || hashed(a.graphic.elements) === hashed(b.graphic.elements)) &&
  (a.graphic.fields === b.graphic.fields || hashed(a.graphic.fields) === hashed(b.graphic.fields)) &&
  (a.values === b.values || filledIn(a.values) === filledIn(b.values));

/** What is shown with another entry, or another graphic of the same design: only what differs will move. */
export const changedTo = (shown: Shown, next: Filled, frame: number): Shown => ({
  ...next,
  start: shown.start,
  hold: shown.hold,
  before: { graphic: shown.graphic, values: shown.values, start: frame },
});

/** Forgets what was shown before, once the change is over. */
export function settleShown(shown: Shown, frame: number): void {
  if (shown.before && frame - shown.before.start > changeLength(shown.graphic)) shown.before = null;
}

/** What a picture of the show shows of a graphic: the copy that is on air, or the document. */
export const shownOrStored = (air: Air, id: string, found: FoundGraphic): Filled & Partial<Shown> =>
  air.graphics.shown[id] ?? filledOf(found);

/** Which copies air should hold, for graphics seen in `seen`: those there are, and new ones. Null when nothing is to be done. */
export function copiesFor(
  { graphics: { shown } }: Air,
  seen: ReadonlySet<string>,
  find: (id: string) => FoundGraphic | null,
  frame: number,
): Record<string, Shown> | null {
  const wanted = [...seen].flatMap((id) => {
    const kept = shown[id];
    const found = kept ? null : find(id);
    return kept ? [[id, kept] as const] : found ? [[id, shownAt(found, frame)] as const] : [];
  });
  const same = wanted.length === Object.keys(shown).length && wanted.every(([id, copy]) => shown[id] === copy);
  return same ? null : Object.fromEntries(wanted);
}
