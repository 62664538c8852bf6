/** The outline of an item: rounded corners, border and shadow, as coverage of a point. Pixels. */
import { type Rect } from '../show/geometry';

/**
 * Signed distance of a point from a rounded rectangle, negative inside. Distances are taken from the middle.
 * Source: the usual formula for a rounded box, q = |p| − half + r; |max(q, 0)| + min(max(q.x, q.y), 0) − r.
 */
export function roundedDistance(px: number, py: number, halfWidth: number, halfHeight: number, radius: number): number {
  const r = Math.min(radius, halfWidth, halfHeight);
  const qx = Math.abs(px) - halfWidth + r;
  const qy = Math.abs(py) - halfHeight + r;
  return Math.hypot(Math.max(qx, 0), Math.max(qy, 0)) + Math.min(Math.max(qx, qy), 0) - r;
}

/** Coverage of a pixel whose centre lies `distance` from an edge; the edge is one output pixel soft. */
export const edgeCoverage = (distance: number, scale = 1): number => Math.min(1, Math.max(0, 0.5 - distance * scale));

/** Coverage of a border of `width` inside a rounded rectangle. */
export function borderCoverage(
  px: number,
  py: number,
  halfWidth: number,
  halfHeight: number,
  radius: number,
  width: number,
  scale = 1,
): number {
  const outer = edgeCoverage(roundedDistance(px, py, halfWidth, halfHeight, radius), scale);
  if (width >= Math.min(halfWidth, halfHeight)) return outer;
  const inner = edgeCoverage(roundedDistance(px, py, halfWidth - width, halfHeight - width, Math.max(0, radius - width)), scale);
  return Math.max(0, outer - inner);
}

/** Share of a soft shadow at a signed distance from its rectangle: smooth over `blur` to either side. */
export function shadowCoverage(distance: number, blur: number, scale = 1): number {
  const soft = Math.max(blur, 0.5 / scale);
  const t = Math.min(1, Math.max(0, (soft - distance) / (2 * soft)));
  return t * t * (3 - 2 * t);
}

/** A place relative to the middle of `r`, turned back by `degrees`: where it lies on the rectangle before turning. */
export function turnedBack(px: number, py: number, r: Rect, degrees: number): { x: number; y: number } {
  const dx = px - r.x - r.width / 2;
  const dy = py - r.y - r.height / 2;
  if (degrees === 0) return { x: dx, y: dy };
  const a = (-degrees * Math.PI) / 180;
  const [cos, sin] = [Math.cos(a), Math.sin(a)];
  return { x: dx * cos - dy * sin, y: dx * sin + dy * cos };
}
