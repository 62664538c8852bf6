/**
 * Text boxes that grow with their words. In a group that flows they push what stands behind them, and what stands around them grows too: a
 * plate, the group itself. How large words are is measured where there are fonts, and told to air; until then a box is as it was drawn.
 */
import { type Rect } from '../show/geometry';
import { type Size } from './air';
import { type Element, type TextContent } from './element';
import { shift } from './flow';
import { hashOf } from './hash';

/** What a measured size depends on, as a key. */
export const sizeKey = ({ text, style, accents }: TextContent, width: number): string =>
  hashOf(JSON.stringify([text, style, accents, style.wrap ? width : 0]));

/** Sizes by key. */
export type Sizes = Readonly<Record<string, Size>>;

/** A text whose box grows, with the width that it wraps at. */
export interface Growing {
  key: string;
  content: TextContent;
  width: number;
}

const grows = ({ visible, content }: Element): boolean => visible && content.kind === 'text' && content.style.overflow === 'grow';

/** The texts among these elements whose boxes grow. */
export const growingOf = (elements: readonly Element[]): Growing[] =>
  elements.flatMap((e) =>
    grows(e) && e.content.kind === 'text' ? [{ key: sizeKey(e.content, e.width), content: e.content, width: e.width }] : [],
  );

type Axis = 'x' | 'y';
const SIDE = { x: 'width', y: 'height' } as const;

/** Shares of what a text grows by that go to the left or upwards, by how it is set. */
const BACK = { left: 0, top: 0, centre: 0.5, middle: 0.5, right: 1, bottom: 1 } as const;

/** The box of a text with the size of its words: never smaller than it was drawn. */
function grownBox(e: Element, size: Size, flow: Axis | null): Rect {
  if (e.content.kind !== 'text') return e;
  const { across, down, wrap } = e.content.style;
  const width = wrap ? e.width : Math.max(e.width, size.width);
  const height = Math.max(e.height, size.height);
  // Along the way of its group it grows forwards: the group says where all of it stands.
  const x = e.x - (flow === 'x' ? 0 : (width - e.width) * BACK[across]);
  const y = e.y - (flow === 'y' ? 0 : (height - e.height) * BACK[down]);
  return { x, y, width, height };
}

const ALIGN = { start: 0, middle: 0.5, end: 1 } as const;

/** Where something ends along an axis. */
const end = (r: Rect, axis: Axis): number => r[axis] + r[SIDE[axis]];

/** A hair, for what was drawn edge to edge. */
const HAIR = 0.01;

/** Lets the texts in a group grow (`id` null: those in none), deepest groups first; `drawn` is how all was drawn. */
function growIn(id: string | null, all: Map<string, Element>, drawn: ReadonlyMap<string, Element>, sizes: Sizes): void {
  const children = [...drawn.values()].filter((e) => e.parentId === id);
  const parent = id === null ? undefined : drawn.get(id);
  const flow = parent?.content.kind === 'group' && parent.content.flow !== 'none' ? (parent.content.flow === 'row' ? 'x' : 'y') : null;
  for (const child of children) {
    if (child.content.kind === 'group') growIn(child.id, all, drawn, sizes);
    if (!grows(child) || child.content.kind !== 'text') continue;
    const size = sizes[sizeKey(child.content, child.width)];
    if (size) all.set(child.id, { ...child, ...grownBox(child, size, flow) });
  }
  if (flow === null || !parent || parent.content.kind !== 'group') return;
  const grownBy = (e: Element, axis: Axis) => (all.get(e.id) as Element)[SIDE[axis]] - e[SIDE[axis]];
  const grew = children.filter((e) => e.visible && (grownBy(e, 'x') > 0 || grownBy(e, 'y') > 0));
  if (grew.length === 0) return;
  const own = grew.map((e) => ({ before: e, now: all.get(e.id) as Element }));
  const around = (outer: Rect, inner: Rect): boolean =>
    (['x', 'y'] as const).every((axis) => outer[axis] <= inner[axis] + HAIR && end(outer, axis) >= end(inner, axis) - HAIR);
  for (const child of children) {
    const inside = own.filter(({ before }) => before.id !== child.id && around(child, before));
    if (inside.length > 0) all.set(child.id, { ...(all.get(child.id) as Element), ...aroundGrown(child, inside, flow) });
  }
  // Along the way of the group all grows forwards.
  for (const { before, now } of own) shift(all, before.id, flow, before[flow] - now[flow]);
  // What stood behind something that grew goes on by as much.
  for (const child of children) {
    const before = own.filter(({ before: b }) => b.id !== child.id && end(b, flow) <= child[flow] + HAIR);
    shift(
      all,
      child.id,
      flow,
      before.reduce((sum, { before: b }) => sum + grownBy(b, flow), 0),
    );
  }
  // The group holds all of it, with the distances to its edges that it had.
  const reach = (of: (e: Element) => number) => Math.max(0, ...children.filter((c) => c.visible).map(of));
  const group = { ...(all.get(parent.id) as Element) };
  const by = { x: 0, y: 0 };
  for (const axis of ['x', 'y'] as const) {
    const back = reach((c) => c[axis] - (all.get(c.id) as Element)[axis]);
    const on = reach((c) => end(all.get(c.id) as Element, axis) - end(c, axis));
    group[axis] -= back;
    group[SIDE[axis]] += back + on;
    if (axis === flow) by[axis] = on * ALIGN[parent.content.align];
  }
  all.set(parent.id, group);
  shift(all, parent.id, flow, -by[flow]);
}

/** An element around what grows keeps its distance to it on every side. */
function aroundGrown(outer: Rect, inside: readonly { before: Rect; now: Rect }[], flow: Axis): Rect {
  const grown = { x: outer.x, y: outer.y, width: outer.width, height: outer.height };
  for (const axis of ['x', 'y'] as const) {
    if (axis === flow) {
      grown[SIDE[axis]] += inside.reduce((sum, { before, now }) => sum + now[SIDE[axis]] - before[SIDE[axis]], 0);
      continue;
    }
    const back = Math.max(0, ...inside.map(({ before, now }) => before[axis] - now[axis]));
    const on = Math.max(0, ...inside.map(({ before, now }) => end(now, axis) - end(before, axis)));
    grown[axis] -= back;
    grown[SIDE[axis]] += back + on;
  }
  return grown;
}

/** Elements with their text boxes grown to the measured size of their words, and what that pushes; the same list where nothing grows. */
export function grown(elements: readonly Element[], sizes: Sizes): readonly Element[] {
  if (!elements.some(grows)) return elements;
  const drawn = new Map(elements.map((e) => [e.id, e]));
  const all = new Map(drawn);
  growIn(null, all, drawn, sizes);
  return elements.map((e) => all.get(e.id) as Element);
}
