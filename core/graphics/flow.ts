/** Groups that close the gaps which hidden elements leave. */
import { type Element } from './element';

/** Elements moved by `by` along an axis, with all that is in them. */
export function shift(all: Map<string, Element>, id: string, axis: 'x' | 'y', by: number): void {
  const element = all.get(id);
  if (!element || by === 0) return;
  all.set(id, { ...element, [axis]: element[axis] + by });
  for (const child of all.values()) if (child.parentId === id) shift(all, child.id, axis, by);
}

/**
 * Elements with the gaps of hidden ones closed, in groups that flow: what is left keeps its distances and stands at the start, in the middle
 * or at the end of the group's box. A group in which nothing is hidden stays as it was drawn.
 */
export function closeGaps(elements: readonly Element[]): readonly Element[] {
  const flowing = elements.filter((e) => e.content.kind === 'group' && e.content.flow !== 'none');
  if (flowing.length === 0) return elements;
  const all = new Map(elements.map((e) => [e.id, e]));
  for (const { id, content } of flowing) {
    if (content.kind !== 'group') continue;
    const group = all.get(id) as Element;
    const [axis, side] = content.flow === 'row' ? (['x', 'width'] as const) : (['y', 'height'] as const);
    const children = [...all.values()].filter((e) => e.parentId === id).sort((a, b) => a[axis] - b[axis]);
    const left = children.filter((e) => e.visible);
    if (left.length === children.length || left.length === 0) continue;
    // The distance to whatever stood before, hidden or not, is what it keeps.
    const gap = (child: Element): number => {
      const before = children[children.indexOf(child) - 1];
      return before ? child[axis] - before[axis] - before[side] : 0;
    };
    const length = left.reduce((sum, child, i) => sum + child[side] + (i === 0 ? 0 : gap(child)), 0);
    const room = group[side] - length;
    const first = children[0] as Element;
    let at = content.align === 'start' ? first[axis] : content.align === 'end' ? group[axis] + room : group[axis] + room / 2;
    left.forEach((child, i) => {
      if (i > 0) at += gap(child);
      shift(all, child.id, axis, at - child[axis]);
      at += child[side];
    });
  }
  return elements.map((e) => all.get(e.id) as Element);
}
