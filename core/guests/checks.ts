/** What can be told of a guest's picture and sound before they are admitted: hum, echo, light. Pure. */

/** Frequencies of mains, Hz, and how many of their harmonics are looked at. */
const MAINS = [50, 60] as const;
const HARMONICS = 4;
/** By how much each harmonic stands over what is around it for a hum, dB, and the least of the loudest of them, dBFS. */
const OVER_DB = 14;
const LEAST_DB = -70;
/** Neighbours of a harmonic that are looked at, Hz on either side. */
const AROUND_HZ = 18;

/**
 * The mains whose hum is in a sound, Hz; null for none. `bins` are levels of a spectrum in dB, `hertz` apart, from 0. A hum has several harmonics of one
 * mains standing out at once, which no voice has.
 */
export function humOf(bins: ArrayLike<number>, hertz: number): number | null {
  for (const mains of MAINS) {
    let loudest = -Infinity;
    let all = true;
    for (let n = 1; n <= HARMONICS && all; n += 1) {
      const middle = Math.round((mains * n) / hertz);
      const reach = Math.round(AROUND_HZ / hertz);
      const peak = Math.max(bins[middle - 1] ?? -200, bins[middle] ?? -200, bins[middle + 1] ?? -200);
      const around: number[] = [];
      for (let i = middle - reach; i <= middle + reach; i += 1) if (i >= 0 && Math.abs(i - middle) > 2) around.push(bins[i] ?? -200);
      around.sort((a, b) => a - b);
      all = peak - (around[Math.floor(around.length / 2)] ?? -200) >= OVER_DB;
      loudest = Math.max(loudest, peak);
    }
    if (all && loudest >= LEAST_DB) return mains;
  }
  return null;
}

/** Least correlation that is taken for an echo, and least swing of both sounds, dB: what stands still says nothing. */
const ECHO = 0.75;
const LEAST_SWING_DB = 4;

const swing = (values: readonly number[]): number => {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  return Math.sqrt(values.reduce((a, b) => a + (b - mean) ** 2, 0) / values.length);
};

/** Correlation (Pearson) of two rows of the same length; 0 where one of them stands still. */
function correlation(a: readonly number[], b: readonly number[]): number {
  const [ma, mb] = [a.reduce((x, y) => x + y, 0) / a.length, b.reduce((x, y) => x + y, 0) / b.length];
  let [both, aa, bb] = [0, 0, 0];
  for (let i = 0; i < a.length; i += 1) {
    const [da, db] = [(a[i] ?? 0) - ma, (b[i] ?? 0) - mb];
    both += da * db;
    aa += da * da;
    bb += db * db;
  }
  return aa === 0 || bb === 0 ? 0 : both / Math.sqrt(aa * bb);
}

/**
 * After how many steps what was sent comes back; null when it does not. Both are levels in dB at even steps, the oldest first; delays from
 * `from` to `to` steps are tried. What a guest says themself is not what was sent, so the two go their own ways.
 */
export function echoOf(sent: readonly number[], back: readonly number[], from: number, to: number): number | null {
  const length = Math.min(sent.length, back.length) - to;
  if (length < 3 * to || swing(sent) < LEAST_SWING_DB || swing(back) < LEAST_SWING_DB) return null;
  let best: { lag: number; r: number } = { lag: 0, r: 0 };
  for (let lag = from; lag <= to; lag += 1) {
    const r = correlation(sent.slice(sent.length - length - lag, sent.length - lag), back.slice(back.length - length));
    if (r > best.r) best = { lag, r };
  }
  return best.r >= ECHO ? best.lag : null;
}

/** Brightness of pixels, 0 to 255, under which a picture is too dark and over which it is too bright; and the share that may be burnt out. */
const DARK = 38;
const BRIGHT = 205;
const BURNT = 0.35;

/** What is wrong with the light; empty where nothing is. `luma` are brightnesses of pixels all over the picture, 0 to 255. */
export function lightOf(luma: ArrayLike<number>): '' | 'dark' | 'bright' {
  if (luma.length === 0) return '';
  let [sum, burnt] = [0, 0];
  for (let i = 0; i < luma.length; i += 1) {
    sum += luma[i] ?? 0;
    if ((luma[i] ?? 0) >= 250) burnt += 1;
  }
  const mean = sum / luma.length;
  if (mean < DARK) return 'dark';
  return mean > BRIGHT || burnt / luma.length > BURNT ? 'bright' : '';
}
