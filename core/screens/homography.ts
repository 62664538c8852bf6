/** Four-corner fit: the projective map between a rectangle and the quadrilateral that its corners are pulled to. */
import { bottom, type Point, type Rect, right } from '../show/geometry';
import { type Corners } from './surface';

/** A projective map, row by row; the last number is 1. */
export type Homography = readonly [number, number, number, number, number, number, number, number, number];

/** Corners of a rectangle when they are pulled: upper left, upper right, lower right, lower left. */
export function pulled(r: Rect, c: Corners): [Point, Point, Point, Point] {
  return [
    { x: r.x + c.topLeft.x, y: r.y + c.topLeft.y },
    { x: right(r) + c.topRight.x, y: r.y + c.topRight.y },
    { x: right(r) + c.bottomRight.x, y: bottom(r) + c.bottomRight.y },
    { x: r.x + c.bottomLeft.x, y: bottom(r) + c.bottomLeft.y },
  ];
}

/** Twice the area of a triangle, negative when it turns anticlockwise on the screen. */
const turn = (a: Point, b: Point, c: Point): number => (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);

/** True when a quadrilateral can be filled: no corner is pulled past a line between others. */
export const isConvex = (q: readonly [Point, Point, Point, Point]): boolean =>
  [0, 1, 2, 3].every((i) => turn(q[i] as Point, q[(i + 1) % 4] as Point, q[(i + 2) % 4] as Point) > 1e-6);

/**
 * The map of the unit square to a quadrilateral (0,0 to the first corner, 1,0 to the second …). Source: P. Heckbert, Fundamentals of
 * Texture Mapping and Image Warping (1989), section 2.2.3.
 */
export function squareTo([p0, p1, p2, p3]: readonly [Point, Point, Point, Point]): Homography {
  const [dx1, dx2, dx3] = [p1.x - p2.x, p3.x - p2.x, p0.x - p1.x + p2.x - p3.x];
  const [dy1, dy2, dy3] = [p1.y - p2.y, p3.y - p2.y, p0.y - p1.y + p2.y - p3.y];
  const under = dx1 * dy2 - dx2 * dy1;
  const g = (dx3 * dy2 - dx2 * dy3) / under;
  const h = (dx1 * dy3 - dx3 * dy1) / under;
  return [p1.x - p0.x + g * p1.x, p3.x - p0.x + h * p3.x, p0.x, p1.y - p0.y + g * p1.y, p3.y - p0.y + h * p3.y, p0.y, g, h, 1];
}

/** The map back. */
export function inverse([a, b, c, d, e, f, g, h, i]: Homography): Homography {
  const under = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  const m = [
    e * i - f * h,
    c * h - b * i,
    b * f - c * e,
    f * g - d * i,
    a * i - c * g,
    c * d - a * f,
    d * h - e * g,
    b * g - a * h,
    a * e - b * d,
  ].map((n) => n / under);
  const last = m[8] as number;
  return m.map((n) => n / last) as unknown as Homography;
}

/** Where a map takes a point. */
export function through([a, b, c, d, e, f, g, h, i]: Homography, { x, y }: Point): Point {
  const w = g * x + h * y + i;
  return { x: (a * x + b * y + c) / w, y: (d * x + e * y + f) / w };
}
