/** Elements turned about the upright and the level axis, as they are seen: what is further away is smaller. Homogeneous coordinates. */
import { type Point } from '../show/geometry';
import { type Raster } from '../show/raster';
import { type Element } from './element';

const RADIANS = Math.PI / 180;

/** Three rows of three: x′ = (ax + by + c) / (gx + hy + i), y′ = (dx + ey + f) / (gx + hy + i). */
export type Projection = readonly [number, number, number, number, number, number, number, number, number];

/** How far the eye is from an element, in widths of its picture. */
const EYE = 1.6;

export const isTurned = ({ turnX, turnY }: Element): boolean => turnX % 360 !== 0 || turnY % 360 !== 0;

/**
 * From pixels of an element's own box, origin at its top left, to pixels of the graphic's raster: skew and flip, turned about the upright and
 * then the level axis through its middle, seen from straight in front of it, and rotated. The eye is never inside the element.
 */
export function projectionOf(element: Element, raster: Raster): Projection {
  const { x, y, width, height, rotation, skewX, skewY, flipX, flipY, turnX, turnY } = element;
  const eye = EYE * Math.max(raster.width, Math.hypot(width, height));
  const [kx, ky] = [Math.tan(skewX * RADIANS), Math.tan(skewY * RADIANS)];
  const [sx, sy] = [flipX ? -1 : 1, flipY ? -1 : 1];
  const [cosY, sinY] = [Math.cos(turnY * RADIANS), Math.sin(turnY * RADIANS)];
  const [cosX, sinX] = [Math.cos(turnX * RADIANS), Math.sin(turnX * RADIANS)];
  const [cos, sin] = [Math.cos(rotation * RADIANS), Math.sin(rotation * RADIANS)];
  const [mx, my] = [x + width / 2, y + height / 2];
  // What a step along the box's two sides is after skew, flip and both turns: across, down, and away from the eye.
  const turned = (px: number, py: number) => {
    const away = px * sinY;
    return { x: px * cosY, y: py * cosX - away * sinX, w: (py * sinX + away * cosX) / eye };
  };
  const u = turned(sx, ky * sx);
  const v = turned(kx * sy, sy);
  const column = (c: { x: number; y: number; w: number }): [number, number, number] => [
    cos * c.x - sin * c.y + mx * c.w,
    sin * c.x + cos * c.y + my * c.w,
    c.w,
  ];
  const [a, d, g] = column(u);
  const [b, e, h] = column(v);
  const [ox, oy] = [-width / 2, -height / 2];
  return [a, b, a * ox + b * oy + mx, d, e, d * ox + e * oy + my, g, h, g * ox + h * oy + 1];
}

/** Where a point lands; null when it is behind the eye. */
export function project([a, b, c, d, e, f, g, h, i]: Projection, { x, y }: Point): Point | null {
  const w = g * x + h * y + i;
  return w <= 1e-9 ? null : { x: (a * x + b * y + c) / w, y: (d * x + e * y + f) / w };
}

/** The way back; null for an element seen exactly from its side. */
export function inverseOf([a, b, c, d, e, f, g, h, i]: Projection): Projection | null {
  const [A, B, C] = [e * i - f * h, f * g - d * i, d * h - e * g];
  const det = a * A + b * B + c * C;
  if (Math.abs(det) < 1e-9) return null;
  const inverse = [A, c * h - b * i, b * f - c * e, B, a * i - c * g, c * d - a * f, C, b * g - a * h, a * e - b * d];
  return inverse.map((n) => n / det) as unknown as Projection;
}

/** The second projection after the first. */
export function after(second: Projection, first: Projection): Projection {
  const cell = (row: number, column: number) =>
    [0, 1, 2].reduce((sum, k) => sum + (second[row * 3 + k] as number) * (first[k * 3 + column] as number), 0);
  return [0, 1, 2].flatMap((row) => [0, 1, 2].map((column) => cell(row, column))) as unknown as Projection;
}

/** Pixels: RGBA, not premultiplied. */
export interface Pixels {
  data: Uint8ClampedArray;
  width: number;
  height: number;
}

/**
 * Pixels of `source` as they are seen: `back` leads from pixels of the result to those of the source. Between pixels it is bilinear, weighted by
 * opacity; outside of the source it is clear.
 */
export function projectPixels(source: Pixels, back: Projection, width: number, height: number): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint8ClampedArray(width * height * 4);
  const [a, b, c, d, e, f, g, h, i] = back;
  const { data, width: sw, height: sh } = source;
  for (let y = 0; y < height; y += 1) {
    const py = y + 0.5;
    for (let x = 0; x < width; x += 1) {
      const px = x + 0.5;
      const w = g * px + h * py + i;
      if (w <= 1e-9) continue;
      const sx = (a * px + b * py + c) / w - 0.5;
      const sy = (d * px + e * py + f) / w - 0.5;
      if (sx <= -1 || sy <= -1 || sx >= sw || sy >= sh) continue;
      const [x0, y0] = [Math.floor(sx), Math.floor(sy)];
      const [fx, fy] = [sx - x0, sy - y0];
      let [red, green, blue, alpha] = [0, 0, 0, 0];
      for (let k = 0; k < 4; k += 1) {
        const [cx, cy] = [x0 + (k & 1), y0 + (k >> 1)];
        if (cx < 0 || cy < 0 || cx >= sw || cy >= sh) continue;
        const at = (cy * sw + cx) * 4;
        const weight = ((k & 1) === 1 ? fx : 1 - fx) * (k >> 1 === 1 ? fy : 1 - fy) * (data[at + 3] as number);
        red += (data[at] as number) * weight;
        green += (data[at + 1] as number) * weight;
        blue += (data[at + 2] as number) * weight;
        alpha += weight;
      }
      if (alpha < 0.5) continue;
      const to = (y * width + x) * 4;
      out[to] = red / alpha;
      out[to + 1] = green / alpha;
      out[to + 2] = blue / alpha;
      out[to + 3] = alpha;
    }
  }
  return out;
}
