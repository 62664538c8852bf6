/** How far picture and sound of a recording are apart. */
import { type Analysis } from '../harness/media';

/** Quiet milliseconds before a beep. */
const QUIET = 200;

/**
 * Means of how much later beeps come than flashes, milliseconds. A flash is where the cell of the 3 × 3 grid becomes brighter than `light`, 0 to 255;
 * the first is left out, as it may have begun before the file.
 */
export function apartOf({ pictures, envelope, soundStart }: Analysis, cell: number, light: number): number {
  const bright = pictures.map(({ time, grid }) => ({ time, light: (grid[cell]?.[0] ?? 0) > light }));
  const flashes = bright.filter((p, i) => i > 0 && p.light && !bright[i - 1]?.light).map((p) => p.time);
  const beeps = envelope.flatMap((v, at) =>
    v > 0.08 && at > QUIET && envelope.slice(at - QUIET, at).every((b) => b < 0.05) ? [soundStart + at / 1000] : [],
  );
  const apart = flashes
    .slice(1)
    .map((f) => beeps.map((b) => (b - f) * 1000).reduce((a, b) => (Math.abs(b) < Math.abs(a) ? b : a), Infinity));
  return apart.reduce((sum, a) => sum + a, 0) / apart.length;
}
