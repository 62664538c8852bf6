/** Where an element puts ink: its box with everything that reaches out of it. */
import { type Rect } from '../show/geometry';
import { type Raster } from '../show/raster';
import { type Element } from './element';
import { isTurned, project, projectionOf } from './perspective';

/** Places of what is drawn are multiples of this, so that it meets whole pixels (of chroma too) at the usual sizes. */
const GRID = 8;

const RADIANS = Math.PI / 180;

/** Skew, then rotation of a box about its middle, as a matrix `[a, b, c, d]` with x′ = ax + cy, y′ = bx + dy. */
export function turnMatrix({ rotation, skewX, skewY, flipX, flipY }: Element): [number, number, number, number] {
  const [cos, sin] = [Math.cos(rotation * RADIANS), Math.sin(rotation * RADIANS)];
  const [kx, ky] = [Math.tan(skewX * RADIANS), Math.tan(skewY * RADIANS)];
  const [sx, sy] = [flipX ? -1 : 1, flipY ? -1 : 1];
  const [a, b, c, d] = [sx, ky * sx, kx * sy, sy];
  return [cos * a - sin * b, sin * a + cos * b, cos * c - sin * d, sin * c + cos * d];
}

/** The upright rectangle around a box as it is seen: turned, skewed, in perspective. */
export function turnedBox(element: Element, raster: Raster): Rect {
  if (isTurned(element)) {
    const projection = projectionOf(element, raster);
    const { width, height } = element;
    const corners = [
      { x: 0, y: 0 },
      { x: width, y: 0 },
      { x: 0, y: height },
      { x: width, y: height },
    ].flatMap((p) => project(projection, p) ?? []);
    const [xs, ys] = [corners.map((p) => p.x), corners.map((p) => p.y)];
    const [left, top] = [Math.min(...xs), Math.min(...ys)];
    return { x: left, y: top, width: Math.max(...xs) - left, height: Math.max(...ys) - top };
  }
  const [a, b, c, d] = turnMatrix(element);
  const { x, y, width, height } = element;
  const w = Math.abs(a) * width + Math.abs(c) * height;
  const h = Math.abs(b) * width + Math.abs(d) * height;
  return { x: x + width / 2 - w / 2, y: y + height / 2 - h / 2, width: w, height: h };
}

/** Pixels that an element reaches out of its box, to each side. */
export function reach({ content, stroke, shadow, glow, reflection, height }: Element): {
  left: number;
  top: number;
  right: number;
  bottom: number;
} {
  const line = stroke.width * (stroke.place === 'outside' ? 1 : stroke.place === 'centre' ? 0.5 : 0);
  const text = content.kind === 'text' || content.kind === 'clock' || content.kind === 'ticker';
  const around =
    (content.kind === 'line' ? stroke.width : line) +
    (text ? content.style.size * 0.35 + content.style.depth + stroke.width : 0) +
    // An animation ends at its box.
    (content.kind === 'animation' ? 0 : 1);
  const out = { left: around, top: around, right: around, bottom: around };
  const grow = (x: number, y: number, by: number) => {
    out.left = Math.max(out.left, around + by - x);
    out.right = Math.max(out.right, around + by + x);
    out.top = Math.max(out.top, around + by - y);
    out.bottom = Math.max(out.bottom, around + by + y);
  };
  if (shadow && shadow.opacity > 0) grow(shadow.x, shadow.y, shadow.spread + shadow.blur * 1.5);
  if (glow && glow.opacity > 0) grow(0, 0, glow.blur * 1.5);
  if (reflection && reflection.height > 0) out.bottom = Math.max(out.bottom, height * reflection.height + reflection.gap + around);
  return out;
}

/** Where an element can put ink, in pixels of its raster, on the grid; nothing further than a raster away from the picture. */
export function inkBounds(element: Element, raster: Raster, blur = 0): Rect {
  const box = turnedBox(element, raster);
  const r = reach(element);
  const spills = element.content.kind === 'text' && element.content.style.overflow === 'spill';
  const left = spills ? Math.min(0, box.x) : box.x - r.left - blur * 2;
  const right = spills ? Math.max(raster.width, box.x + box.width) : box.x + box.width + r.right + blur * 2;
  return onGrid(
    {
      x: left,
      y: box.y - r.top - blur * 2,
      width: right - left,
      height: box.height + r.top + r.bottom + (spills ? box.height : 0) + blur * 4,
    },
    raster,
  );
}

/** A rectangle made larger to the grid, and cut to one raster around the picture. */
export function onGrid(rect: Rect, raster: Raster): Rect {
  const low = (v: number, most: number) => Math.floor(Math.max(v, -most) / GRID) * GRID;
  const high = (v: number, most: number) => Math.ceil(Math.min(v, 2 * most) / GRID) * GRID;
  const [x, y] = [low(rect.x, raster.width), low(rect.y, raster.height)];
  return {
    x,
    y,
    width: Math.max(GRID, high(rect.x + rect.width, raster.width) - x),
    height: Math.max(GRID, high(rect.y + rect.height, raster.height) - y),
  };
}
