/** Handles of boxes and what dragging them does. Pixels of the show's raster; independent of how they are drawn. */
import { type Sides, snapMove, snapResize, type Guide } from './arrange';
import { type Point, type Rect } from '../show/geometry';
import { type Crop } from './look';

export const HANDLES = ['nw', 'n', 'ne', 'e', 'se', 's', 'sw', 'w'] as const;
export type Handle = (typeof HANDLES)[number];

export const sidesOf = (handle: Handle): Sides => ({
  left: handle.includes('w'),
  right: handle.includes('e'),
  top: handle.includes('n'),
  bottom: handle.includes('s'),
});

/** Where a handle stands on an upright rectangle. */
export function handlePlace(handle: Handle, r: Rect): Point {
  const s = sidesOf(handle);
  return { x: s.left ? r.x : s.right ? r.x + r.width : r.x + r.width / 2, y: s.top ? r.y : s.bottom ? r.y + r.height : r.y + r.height / 2 };
}

/** A movement on the screen, seen from a box that is turned by `degrees`. */
export function turnedDelta(dx: number, dy: number, degrees: number): Point {
  const a = (-degrees * Math.PI) / 180;
  return { x: dx * Math.cos(a) - dy * Math.sin(a), y: dx * Math.sin(a) + dy * Math.cos(a) };
}

/** A rectangle after its side or corner was dragged by (dx, dy); never smaller than 4 pixels. With `locked`, proportions stay. */
export function resized(start: Rect, handle: Handle, dx: number, dy: number, locked: boolean): Rect {
  const s = sidesOf(handle);
  let width = Math.max(4, start.width + (s.right ? dx : s.left ? -dx : 0));
  let height = Math.max(4, start.height + (s.bottom ? dy : s.top ? -dy : 0));
  if (locked) {
    const scale = s.left || s.right ? width / start.width : height / start.height;
    [width, height] = [start.width * scale, start.height * scale];
  }
  return {
    x: s.left ? start.x + start.width - width : start.x,
    y: s.top ? start.y + start.height - height : start.y,
    width,
    height,
  };
}

/** `rect`, resized as if upright, moved so that the sides that were not dragged stay where they are seen on a turned box. */
function keptCorner(start: Rect, rect: Rect, degrees: number): Rect {
  const middle = (r: Rect): Point => ({ x: r.x + r.width / 2, y: r.y + r.height / 2 });
  const [from, to] = [middle(start), middle(rect)];
  const moved = turnedDelta(to.x - from.x, to.y - from.y, -degrees);
  return { ...rect, x: from.x + moved.x - rect.width / 2, y: from.y + moved.y - rect.height / 2 };
}

/** A drag of a handle with snapping; a locked or turned box does not snap. */
export function resizeDrag(
  start: Rect,
  handle: Handle,
  dx: number,
  dy: number,
  options: { locked: boolean; rotation: number; guides: readonly Guide[]; reach: number },
): { rect: Rect; held: Guide[] } {
  const delta = turnedDelta(dx, dy, options.rotation);
  const rect = resized(start, handle, delta.x, delta.y, options.locked);
  if (options.rotation % 360 !== 0) return { rect: keptCorner(start, rect, options.rotation), held: [] };
  if (options.locked) return { rect, held: [] };
  return snapResize(rect, sidesOf(handle), options.guides, options.reach);
}

export const moveDrag = (start: Rect, dx: number, dy: number, guides: readonly Guide[], reach: number): { rect: Rect; held: Guide[] } =>
  snapMove({ ...start, x: start.x + dx, y: start.y + dy }, guides, reach);

/** A crop after its side or corner was dragged inwards by (dx, dy) over a picture shown at `shown` pixels. */
export function cropDrag(start: Crop, handle: Handle, dx: number, dy: number, shown: { width: number; height: number }): Crop {
  const s = sidesOf(handle);
  const most = 0.95;
  const side = (value: number, by: number, other: number) => Math.min(Math.max(0, value + by), Math.max(0, most - other));
  return {
    left: s.left ? side(start.left, dx / shown.width, start.right) : start.left,
    right: s.right ? side(start.right, -dx / shown.width, start.left) : start.right,
    top: s.top ? side(start.top, dy / shown.height, start.bottom) : start.top,
    bottom: s.bottom ? side(start.bottom, -dy / shown.height, start.top) : start.bottom,
  };
}

/** Whole pixels. */
export const wholePixels = (r: Rect): Rect => ({
  x: Math.round(r.x),
  y: Math.round(r.y),
  width: Math.max(1, Math.round(r.width)),
  height: Math.max(1, Math.round(r.height)),
});

/** True when a point lies on a box, turned or not. */
export function isOn(point: Point, rect: Rect, rotation: number): boolean {
  const [cx, cy] = [rect.x + rect.width / 2, rect.y + rect.height / 2];
  const p = turnedDelta(point.x - cx, point.y - cy, rotation);
  return Math.abs(p.x) <= rect.width / 2 && Math.abs(p.y) <= rect.height / 2;
}

/** Pan (−1 to 1) after the picture in a box of `side` pixels was dragged by `by`: a whole box of travel is half of the pan. */
export const panDrag = (pan: number, by: number, side: number): number => Math.min(1, Math.max(-1, pan - (2 * by) / side));

/** Degrees clockwise from upright that a box is turned to when its turning handle stands at `point`. */
export const turnDrag = (rect: Rect, point: Point): number =>
  (Math.atan2(point.x - rect.x - rect.width / 2, rect.y + rect.height / 2 - point.y) * 180) / Math.PI;
