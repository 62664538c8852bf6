/**
 * What a wall looks like: the light of all screens that shine on a point adds up. Signals are 0 to 255; light is signal ** gamma, and every
 * screen adds the little light that is left in its black.
 */
import { type Rect } from '../show/geometry';
import { type Blend, type Surface } from './surface';

/** Light that a projector gives at black, share of its white: a contrast of about 1000 to 1. */
const LEAK = 0.001;
/** Of one kind of screens at a point, at most so many are told apart. */
const MOST = 15;

/** At every pixel of a picture of `view`: how many screens shine there that blend (low four bits), and that do not (high four bits). */
export function shiningAt({ screens }: Pick<Surface, 'screens'>, view: Rect, width: number, height: number): Uint8Array {
  const counts = new Uint8Array(width * height);
  const [sx, sy] = [width / view.width, height / view.height];
  for (const { rect, blends } of screens) {
    const pixel = (n: number, most: number) => Math.min(most, Math.max(0, Math.round(n)));
    const [left, right] = [pixel((rect.x - view.x) * sx, width), pixel((rect.x + rect.width - view.x) * sx, width)];
    const [top, low] = [pixel((rect.y - view.y) * sy, height), pixel((rect.y + rect.height - view.y) * sy, height)];
    for (let y = top; y < low; y += 1)
      for (let i = y * width + left; i < y * width + right; i += 1) {
        const shift = blends ? 0 : 4;
        const now = counts[i] as number;
        if (((now >> shift) & 15) < MOST) counts[i] = now + (1 << shift);
      }
  }
  return counts;
}

/** The signal that is seen for each signal sent, where so many screens shine; `on` false as if nothing was blended. */
export function seenSignal(count: number, { gamma, lift }: Blend, on: boolean): Uint8ClampedArray {
  const [blending, plain] = [count & 15, count >> 4];
  const out = new Uint8ClampedArray(256);
  const screens = blending + plain;
  if (screens === 0) return out;
  // Blended, the shares of light are one together; black is lifted where one shines alone.
  const lifted = on && blending === 1 ? lift : 0;
  for (let v = 0; v < 256; v += 1) {
    const signal = v / 255;
    const own = signal ** gamma;
    const together = on ? (blending > 0 ? (signal * (1 - lifted) + lifted) ** gamma : 0) : blending * own;
    out[v] = 255 * Math.min(1, together + plain * own + screens * LEAK) ** (1 / gamma);
  }
  return out;
}

/** Makes a picture of a view of a canvas what is seen on the wall; RGBA in rows of `stride` pixels from `x`, `y`. */
export function asWall(
  data: Uint8ClampedArray,
  place: { x: number; y: number; width: number; height: number; stride: number },
  surface: Pick<Surface, 'screens' | 'blend'>,
  view: Rect,
  on: boolean,
): void {
  const { x, y, width, height, stride } = place;
  const counts = shiningAt(surface, view, width, height);
  const tables = new Map<number, Uint8ClampedArray>();
  for (let row = 0, i = 0; row < height; row += 1)
    for (let col = 0; col < width; col += 1, i += 1) {
      const count = counts[i] as number;
      let table = tables.get(count);
      if (!table) tables.set(count, (table = seenSignal(count, surface.blend, on)));
      const at = ((y + row) * stride + x + col) * 4;
      for (let c = 0; c < 3; c += 1) data[at + c] = table[data[at + c] as number] as number;
    }
}
