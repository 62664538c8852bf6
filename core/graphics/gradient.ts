/** Gradients as stops along 0 to 1, with what follows after the last colour worked in. */
import { type GradientFill, type GradientStop } from './fill';

/** Periods at most: finer stripes than the eye can part. */
const MOST_PERIODS = 64;

/** Stops in order of place; one that is alone fills all. */
const sorted = (stops: readonly GradientStop[]): GradientStop[] => [...stops].sort((a, b) => a.at - b.at);

/** Stops over the whole way across, 0 to 1: squeezed to the gradient's length, padded, repeated or mirrored. */
export function spreadStops({ stops, length, spread }: Pick<GradientFill, 'stops' | 'length' | 'spread'>): GradientStop[] {
  const own = sorted(stops);
  if (own.length === 0) return [];
  if (spread === 'pad')
    return own.map((s) => ({ ...s, at: s.at * length })).filter((s, i, all) => s.at <= 1 || i === 0 || (all[i - 1]?.at ?? 0) < 1);
  const periods = Math.min(MOST_PERIODS, Math.ceil(1 / length));
  const out: GradientStop[] = [];
  for (let k = 0; k < periods; k += 1) {
    const back = spread === 'mirror' && k % 2 === 1;
    const period = back ? [...own].reverse().map((s) => ({ ...s, at: 1 - s.at })) : own;
    for (const s of period) out.push({ ...s, at: (k + s.at) * length });
  }
  return out;
}

const channel = (colour: string, i: number): number => parseInt(colour.slice(1 + 2 * i, 3 + 2 * i), 16);

/** Colour and opacity at a place 0 to 1 of a gradient: between stops straight from one to the other, in signal values. Red, green, blue 0 to 255. */
export function gradientAt(stops: readonly GradientStop[], at: number): { rgb: [number, number, number]; opacity: number } {
  const after = stops.findIndex((s) => s.at > at);
  const before = stops[after === -1 ? stops.length - 1 : Math.max(0, after - 1)];
  const next = stops[after === -1 ? stops.length - 1 : after];
  if (!before || !next) return { rgb: [0, 0, 0], opacity: 0 };
  const share = next.at > before.at ? Math.min(1, Math.max(0, (at - before.at) / (next.at - before.at))) : 0;
  const mix = (a: number, b: number) => a + (b - a) * share;
  return {
    rgb: [0, 1, 2].map((i) => mix(channel(before.colour, i), channel(next.colour, i))) as [number, number, number],
    opacity: mix(before.opacity, next.opacity),
  };
}

/** Where a linear gradient begins and ends in a box, so that its colours reach just from one side to the other (as CSS Images 3 draws `linear-gradient`). */
export function gradientLine(width: number, height: number, angle: number): { x0: number; y0: number; x1: number; y1: number } {
  const radians = (angle * Math.PI) / 180;
  const [dx, dy] = [Math.cos(radians), Math.sin(radians)];
  const half = (Math.abs(width * dx) + Math.abs(height * dy)) / 2;
  return { x0: width / 2 - dx * half, y0: height / 2 - dy * half, x1: width / 2 + dx * half, y1: height / 2 + dy * half };
}
