/** What several commands do to the elements of a graphic: moving them with what is in them, keeping groups together, copying. */
import { CommandError } from '../commands/command';
import { plainCopy } from '../schema/plain-copy';
import { type Rect } from '../show/geometry';
import { type Graphic } from './document';
import { withParts } from './edit';
import { type Element, MOST_ELEMENTS } from './element';
import { designProblems } from './validate';

export function checkRoom(graphic: Graphic, more = 1): void {
  if (graphic.elements.length + more > MOST_ELEMENTS)
    throw new CommandError('too-many', `A graphic holds at most ${MOST_ELEMENTS} elements.`);
}

/** A name that no element has yet: "Text 2". */
export function freeName(graphic: Graphic, name: string): string {
  const taken = new Set(graphic.elements.map((e) => e.name));
  if (!taken.has(name)) return name;
  const plain = name.replace(/ \d+$/, '');
  for (let n = 2; ; n += 1) if (!taken.has(`${plain} ${n}`)) return `${plain} ${n}`.slice(0, 60);
}

/** Moves elements, those of groups with them. */
export function shift(graphic: Graphic, ids: readonly string[], x: number, y: number): void {
  for (const e of withParts(graphic, ids)) {
    e.x += x;
    e.y += y;
  }
}

/** Puts elements where `rects` say, each with what is in it. */
export function put(graphic: Graphic, elements: readonly Element[], rects: readonly Rect[]): void {
  elements.forEach((e, i) => {
    const r = rects[i] as Rect;
    shift(graphic, [e.id], r.x - e.x, r.y - e.y);
  });
}

/** @throws CommandError when the graphic is not sound any more. */
export function checkSound(graphic: Graphic, field: string): void {
  const problem = designProblems(plainCopy(graphic), 'graphic')[0];
  if (problem) throw new CommandError('bad-argument', `${graphic.name}: ${problem.message}.`, field);
}

/** Groups stay next to what is in them: a group is the first of its elements. */
export function tidy(graphic: Graphic): void {
  const order: Element[] = [];
  const add = (parentId: string | null) => {
    for (const e of graphic.elements) {
      if (e.parentId !== parentId) continue;
      order.push(e);
      if (e.content.kind === 'group') add(e.id);
    }
  };
  add(null);
  graphic.elements = order;
}

export function dropElements(graphic: Graphic, ids: ReadonlySet<string>): void {
  graphic.elements = graphic.elements.filter((e) => !ids.has(e.id));
  for (const e of graphic.elements) if (e.mask && ids.has(e.mask.elementId)) e.mask = null;
  for (const f of graphic.fields) f.targets = f.targets.filter((t) => !ids.has(t.elementId));
}

/** Adds copies with new identities, with the ties among them kept; returns those that are in no group of them. */
export function addCopies(graphic: Graphic, copies: Element[], newId: () => string, step: number): string[] {
  checkRoom(graphic, copies.length);
  const ids = new Map(copies.map((e) => [e.id, newId()]));
  const here = new Set(graphic.elements.map((e) => e.id));
  const outer: string[] = [];
  for (const e of copies) {
    const id = ids.get(e.id) as string;
    if (e.parentId === null || !ids.has(e.parentId)) outer.push(id);
    e.id = id;
    e.parentId = e.parentId === null ? null : (ids.get(e.parentId) ?? (here.has(e.parentId) ? e.parentId : null));
    if (e.mask)
      e.mask = ids.has(e.mask.elementId)
        ? { ...e.mask, elementId: ids.get(e.mask.elementId) as string }
        : here.has(e.mask.elementId)
          ? e.mask
          : null;
    e.x += step;
    e.y += step;
    e.name = freeName(graphic, e.name);
    graphic.elements.push(e);
  }
  tidy(graphic);
  return outer;
}
