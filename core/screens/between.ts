/** Distances between neighbouring screens of a canvas. */
import { bottom, type Rect, right } from '../show/geometry';
import { type Screen } from './surface';

/** The distance between a screen and the next one beside or below it: a gap, or an overlap below 0. */
export interface Between {
  from: Screen;
  to: Screen;
  axis: 'across' | 'down';
  /** Pixels of the canvas. */
  gap: number;
  /** Where it is written, on the canvas. */
  at: { x: number; y: number };
}

/** Gaps and overlaps between neighbours: of every screen the nearest one to its right and below it that lies beside it. */
export function betweenScreens(screens: readonly Screen[]): Between[] {
  const found: Between[] = [];
  for (const from of screens)
    for (const axis of ['across', 'down'] as const) {
      const beside = (r: Rect) =>
        axis === 'across'
          ? Math.min(bottom(r), bottom(from.rect)) - Math.max(r.y, from.rect.y)
          : Math.min(right(r), right(from.rect)) - Math.max(r.x, from.rect.x);
      const [start, end] = axis === 'across' ? ([(r: Rect) => r.x, right] as const) : ([(r: Rect) => r.y, bottom] as const);
      const next = screens
        .filter((s) => s.id !== from.id && beside(s.rect) > 0 && start(s.rect) > start(from.rect) && end(s.rect) > end(from.rect))
        .sort((a, b) => start(a.rect) - start(b.rect))[0];
      if (!next) continue;
      const gap = start(next.rect) - end(from.rect);
      const middle = (end(from.rect) + start(next.rect)) / 2;
      const along =
        axis === 'across'
          ? (Math.max(next.rect.y, from.rect.y) + Math.min(bottom(next.rect), bottom(from.rect))) / 2
          : (Math.max(next.rect.x, from.rect.x) + Math.min(right(next.rect), right(from.rect))) / 2;
      found.push({ from, to: next, axis, gap, at: axis === 'across' ? { x: middle, y: along } : { x: along, y: middle } });
    }
  return found;
}
