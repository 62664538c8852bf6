/** Aligning, distributing and snapping rectangles. Pixels of the show's raster. */
import { bottom, type Rect, right } from '../show/geometry';

export const ALIGNMENTS = ['left', 'centre', 'right', 'top', 'middle', 'bottom'] as const;
export type Alignment = (typeof ALIGNMENTS)[number];

/** The smallest rectangle around all. */
export function around(rects: readonly Rect[]): Rect {
  const x = Math.min(...rects.map((r) => r.x));
  const y = Math.min(...rects.map((r) => r.y));
  return { x, y, width: Math.max(...rects.map(right)) - x, height: Math.max(...rects.map(bottom)) - y };
}

/** `rects` aligned to an edge or middle line of `frame`; sizes stay. */
export function align(rects: readonly Rect[], how: Alignment, frame: Rect): Rect[] {
  const place: Record<Alignment, (r: Rect) => Partial<Rect>> = {
    left: () => ({ x: frame.x }),
    centre: (r) => ({ x: frame.x + (frame.width - r.width) / 2 }),
    right: (r) => ({ x: right(frame) - r.width }),
    top: () => ({ y: frame.y }),
    middle: (r) => ({ y: frame.y + (frame.height - r.height) / 2 }),
    bottom: (r) => ({ y: bottom(frame) - r.height }),
  };
  return rects.map((r) => ({ ...r, ...place[how](r) }));
}

/** `rects` moved so that the gaps between them, in order of place, are equal; the outermost stay. */
export function distribute(rects: readonly Rect[], axis: 'across' | 'down'): Rect[] {
  if (rects.length < 3) return rects.map((r) => ({ ...r }));
  const [start, size] = axis === 'across' ? (['x', 'width'] as const) : (['y', 'height'] as const);
  const order = rects.map((r, i) => ({ r, i })).sort((a, b) => a.r[start] + a.r[size] / 2 - b.r[start] - b.r[size] / 2);
  const first = (order[0] as { r: Rect }).r;
  const last = (order.at(-1) as { r: Rect }).r;
  const inner = rects.reduce((sum, r) => sum + r[size], 0);
  const gap = (last[start] + last[size] - first[start] - inner) / (rects.length - 1);
  const out = rects.map((r) => ({ ...r }));
  let at = first[start];
  for (const { i } of order) {
    const rect = out[i] as Rect;
    rect[start] = at;
    at += rect[size] + gap;
  }
  return out;
}

/** A line that edges and centres snap to, with its meaning. */
export interface Guide {
  axis: 'x' | 'y';
  at: number;
  what: string;
}

/** Safe areas of SMPTE ST 2046-1: action 93 %, title 90 % of width and height. */
export const SAFE_AREAS = [
  { name: '93 % safe area', share: 0.93 },
  { name: '90 % safe area', share: 0.9 },
] as const;

/** Everything that a box snaps to: edges, centre, thirds, safe areas, and the other boxes. */
export function guidesFor(raster: { width: number; height: number }, others: readonly Rect[]): Guide[] {
  const guides: Guide[] = [];
  const both = (share: number, what: string) =>
    guides.push({ axis: 'x', at: raster.width * share, what }, { axis: 'y', at: raster.height * share, what });
  both(0, 'edge');
  both(1, 'edge');
  both(0.5, 'centre');
  both(1 / 3, 'third');
  both(2 / 3, 'third');
  for (const { name, share } of SAFE_AREAS) {
    both((1 - share) / 2, name);
    both((1 + share) / 2, name);
  }
  for (const r of others) {
    guides.push(
      { axis: 'x', at: r.x, what: 'box' },
      { axis: 'x', at: right(r), what: 'box' },
      { axis: 'x', at: r.x + r.width / 2, what: 'middle of a box' },
    );
    guides.push(
      { axis: 'y', at: r.y, what: 'box' },
      { axis: 'y', at: bottom(r), what: 'box' },
      { axis: 'y', at: r.y + r.height / 2, what: 'middle of a box' },
    );
  }
  return guides;
}

/** The nearest guide within `reach` of any of `places`; with how far to move. */
export function nearestGuide(
  guides: readonly Guide[],
  axis: 'x' | 'y',
  places: readonly number[],
  reach: number,
): { guide: Guide; by: number } | null {
  let best: { guide: Guide; by: number } | null = null;
  for (const guide of guides) {
    if (guide.axis !== axis) continue;
    for (const place of places) {
      const by = guide.at - place;
      if (Math.abs(by) <= reach && (!best || Math.abs(by) < Math.abs(best.by))) best = { guide, by };
    }
  }
  return best;
}

/** A rectangle being moved, snapped by its edges and middle; and the guides that hold it. */
export function snapMove(rect: Rect, guides: readonly Guide[], reach: number): { rect: Rect; held: Guide[] } {
  const across = nearestGuide(guides, 'x', [rect.x, rect.x + rect.width / 2, right(rect)], reach);
  const down = nearestGuide(guides, 'y', [rect.y, rect.y + rect.height / 2, bottom(rect)], reach);
  return {
    rect: { ...rect, x: rect.x + (across?.by ?? 0), y: rect.y + (down?.by ?? 0) },
    held: [across, down].flatMap((g) => (g ? [g.guide] : [])),
  };
}

export interface Sides {
  left: boolean;
  right: boolean;
  top: boolean;
  bottom: boolean;
}

/** A rectangle being resized by some of its sides, snapped by those. */
export function snapResize(rect: Rect, sides: Sides, guides: readonly Guide[], reach: number): { rect: Rect; held: Guide[] } {
  const out = { ...rect };
  const held: Guide[] = [];
  const x = sides.left ? nearestGuide(guides, 'x', [rect.x], reach) : sides.right ? nearestGuide(guides, 'x', [right(rect)], reach) : null;
  const y = sides.top ? nearestGuide(guides, 'y', [rect.y], reach) : sides.bottom ? nearestGuide(guides, 'y', [bottom(rect)], reach) : null;
  if (x) {
    if (sides.left) out.x += x.by;
    out.width += sides.left ? -x.by : x.by;
    held.push(x.guide);
  }
  if (y) {
    if (sides.top) out.y += y.by;
    out.height += sides.top ? -y.by : y.by;
    held.push(y.guide);
  }
  return { rect: out.width >= 1 && out.height >= 1 ? out : rect, held };
}
