/** Level of one frequency in a signal. */

const RATE = 48_000;

/** Amplitude of the part of `x` at `hz`: correlation with sine and cosine under a Hann window. */
export function levelAt(x: readonly number[] | Float32Array, hz: number): number {
  let [re, im, sum] = [0, 0, 0];
  for (let i = 0; i < x.length; i += 1) {
    const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / x.length);
    const angle = (2 * Math.PI * hz * i) / RATE;
    re += window * (x[i] as number) * Math.cos(angle);
    im += window * (x[i] as number) * Math.sin(angle);
    sum += window;
  }
  return sum === 0 ? 0 : (2 * Math.hypot(re, im)) / sum;
}

/** Samples of one window of `steadyLevelAt`: 20 ms, whole waves of every multiple of 50 Hz. */
const WINDOW = 960;

/**
 * Amplitude at `hz` where the sound is whole: the level that nine tenths of the windows of 20 ms stay under. A machine that
 * cannot keep up leaves holes in what it plays; they say nothing of how loud a channel is.
 */
export function steadyLevelAt(x: Float32Array, hz: number): number {
  const levels: number[] = [];
  for (let at = 0; at + WINDOW <= x.length; at += WINDOW) levels.push(levelAt(x.subarray(at, at + WINDOW), hz));
  return levels.sort((a, b) => a - b)[Math.floor(levels.length * 0.9)] ?? 0;
}
