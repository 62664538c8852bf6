/** What a mixer needs of the graphics of a show: those that something refers to, with just the entries that are meant. */
import { type Desk } from '../desk/air';
import { walkRefs } from '../desk/refs';
import { Show } from '../desk/show';
import { type Constructor, fieldMap } from '../schema/fields';
import { type Graphics, type Graphic } from './document';
import { findGraphic } from './find';

const KINDS = new Set(['graphic', 'entry'] as const);

const references = new WeakMap<object, readonly string[]>();

/** Identities that a part of the show refers to. Parts that have not changed are not gone through again: this is asked with every act. */
function referredIn(of: Constructor, part: object): readonly string[] {
  const known = references.get(part);
  if (known) return known;
  const ids: string[] = [];
  walkRefs(of, part, ({ id }) => ids.push(id), KINDS);
  if (Object.isFrozen(part)) references.set(part, ids);
  return ids;
}

/** Identities that the show refers to outside of its graphics. */
function* referred(show: Show): Iterable<string> {
  for (const { name, nested } of fieldMap(Show).values()) {
    const value = (show as unknown as Record<string, unknown>)[name];
    if (!nested || name === 'graphics' || typeof value !== 'object' || value === null) continue;
    const parts = nested.list ? (value as object[]) : [value];
    for (const part of parts) yield* referredIn(nested.of(), part);
  }
}

/** Identities of graphics and entries that lanes, boxes, transitions and the like refer to, and what is in Next or on air. */
export function meant({ show, air }: Desk, watched: Iterable<string>): Set<string> {
  const ids = new Set<string>(watched);
  for (const id of referred(show)) ids.add(id);
  for (const id of [air.nextId, air.onAirId, air.transition?.fromId]) if (id) ids.add(id);
  // Windows may show graphics in their turn.
  for (const id of ids) {
    const found = findGraphic(show, id);
    for (const { content } of found?.graphic.elements ?? [])
      if (content.kind === 'window' && content.pictureId !== null) ids.add(content.pictureId);
    for (const value of [...(found?.graphic.fields.map((f) => f.default) ?? []), ...(found?.entry?.values.map((v) => v.value) ?? [])])
      if (value.kind === 'picture' && value.pictureId !== null) ids.add(value.pictureId);
  }
  return ids;
}

/** Graphics as a mixer gets them. `before` is what it has: returned again where nothing of it has changed. */
export function graphicsForMixer(desk: Desk, watched: Iterable<string>, before: Graphics | null): Graphics {
  const { list, clocks } = desk.show.graphics;
  if (list.length === 0 && before?.list.length === 0 && before.clocks === clocks) return before;
  const ids = meant(desk, watched);
  const wanted = new Map<Graphic, Set<string>>();
  for (const id of ids) {
    const found = findGraphic(desk.show, id);
    if (!found) continue;
    const entries = wanted.get(found.graphic) ?? new Set<string>();
    wanted.set(found.graphic, entries);
    if (found.entry) entries.add(found.entry.id);
  }
  const made = [...wanted].map(([graphic, entries]): Graphic => {
    const kept = graphic.entries.filter((e) => entries.has(e.id));
    const old = before?.list.find((g) => g.id === graphic.id);
    const same =
      old?.elements === graphic.elements &&
      old.fields === graphic.fields &&
      old.in === graphic.in &&
      old.out === graphic.out &&
      old.name === graphic.name &&
      old.stingerFrames === graphic.stingerFrames &&
      old.cutFrame === graphic.cutFrame &&
      old.entries.length === kept.length &&
      old.entries.every((e, i) => e === kept[i]);
    return same ? old : { ...graphic, entries: kept };
  });
  const same = before?.clocks === clocks && before.list.length === made.length && before.list.every((g, i) => g === made[i]);
  return same ? before : { list: made, clocks, finishes: [], fonts: [] };
}
