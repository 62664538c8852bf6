/** Rectangles and points in pixels of the show's raster, origin at the top left, y downwards. */
import { Num } from '../schema/fields';

export interface Rect {
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface Point {
  x: number;
  y: number;
}

/** Farthest that anything may lie from the raster's origin, pixels. */
export const FARTHEST = 20_000;

/** A rectangle as it is saved. */
export class RectField implements Rect {
  @Num(-FARTHEST, FARTHEST, 'left edge, pixels') x!: number;
  @Num(-FARTHEST, FARTHEST, 'top edge, pixels') y!: number;
  @Num(1, FARTHEST, 'width, pixels') width!: number;
  @Num(1, FARTHEST, 'height, pixels') height!: number;
}

/** A place in a picture: shares of its width and height from the top left. */
export class PlaceField implements Point {
  @Num(0, 1, 'share of the width') x!: number;
  @Num(0, 1, 'share of the height') y!: number;
}

export const fullRect = ({ width, height }: { width: number; height: number }): Rect => ({ x: 0, y: 0, width, height });

export const right = (r: Rect): number => r.x + r.width;
export const bottom = (r: Rect): number => r.y + r.height;

/** The part that two rectangles share; null when they share none. */
export function intersect(a: Rect, b: Rect): Rect | null {
  const x = Math.max(a.x, b.x);
  const y = Math.max(a.y, b.y);
  const width = Math.min(right(a), right(b)) - x;
  const height = Math.min(bottom(a), bottom(b)) - y;
  return width > 0 && height > 0 ? { x, y, width, height } : null;
}

/** `a` on its way to `b`; exactly `a` at 0 and exactly `b` at 1. */
export const between = (a: number, b: number, share: number): number => (share >= 1 ? b : a + (b - a) * share);

export const betweenRects = (a: Rect, b: Rect, share: number): Rect => ({
  x: between(a.x, b.x, share),
  y: between(a.y, b.y, share),
  width: between(a.width, b.width, share),
  height: between(a.height, b.height, share),
});

/** `target` shrunk to the proportions of a picture of `width` × `height`, centred. */
export function containRect(target: Rect, width: number, height: number): Rect {
  const scale = Math.min(target.width / width, target.height / height);
  const w = width * scale;
  const h = height * scale;
  return { x: target.x + (target.width - w) / 2, y: target.y + (target.height - h) / 2, width: w, height: h };
}
