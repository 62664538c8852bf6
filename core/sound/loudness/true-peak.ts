/**
 * True peak after ITU-R BS.1770-5, Annex 2: four times oversampled, by a windowed sinc (Kaiser) of 4 × 12 taps, as many as the
 * example filter of the standard has.
 */
const PHASES = 4;
const TAPS = 12;

/** Modified Bessel function I0, by its series. */
function bessel0(x: number): number {
  let sum = 1;
  let term = 1;
  for (let k = 1; k < 40; k += 1) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}

/** Filters for the three places between two samples; the place of the sample itself needs none. */
function makePhases(): Float64Array[] {
  const beta = 4.5;
  const half = TAPS / 2;
  return Array.from({ length: PHASES - 1 }, (_, p) => {
    const shift = (p + 1) / PHASES;
    const taps = Float64Array.from({ length: TAPS }, (_, i) => {
      const x = i - half + 1 - shift;
      const window = bessel0(beta * Math.sqrt(Math.max(0, 1 - (x / half) ** 2))) / bessel0(beta);
      return (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x)) * window;
    });
    const sum = taps.reduce((a, b) => a + b, 0);
    return taps.map((t) => t / sum);
  });
}

const FILTERS = makePhases();
const [FIRST, HALF, LAST] = FILTERS.map((taps) => taps.toReversed()) as [Float64Array, Float64Array, Float64Array];
/** No interpolated value can exceed the highest sample by more than this factor (sum of the taps' magnitudes). */
const MOST_RISE = Math.max(...FILTERS.map((f) => f.reduce((sum, t) => sum + Math.abs(t), 0)));

/** Highest true peak of one channel since the last reset, as amplitude. */
export class TruePeak {
  peak = 0;
  private readonly recent = new Float64Array(TAPS * 2);
  private at = 0;
  /** Highest sample within the filter's reach, roughly: of this block and the one before. */
  private before = 0;

  process(x: Float32Array, count: number): void {
    let highest = 0;
    for (let i = 0; i < count; i += 1) highest = Math.max(highest, Math.abs(x[i] as number));
    // Only a block that could set a new peak is interpolated; the rest is kept for the filter's memory.
    const could = Math.max(highest, this.before) * MOST_RISE > this.peak;
    this.before = highest;
    const { recent } = this;
    let { at, peak } = this;
    for (let i = could ? 0 : Math.max(0, count - TAPS); i < count; i += 1) {
      const value = x[i] as number;
      // Written twice, so that the last TAPS values always lie in a row.
      recent[at] = recent[at + TAPS] = value;
      at = at + 1 === TAPS ? 0 : at + 1;
      if (!could) continue;
      peak = Math.max(peak, Math.abs(value));
      let [first, half, last] = [0, 0, 0];
      for (let k = 0; k < TAPS; k += 1) {
        const v = recent[at + k] as number;
        first += v * (FIRST[k] as number);
        half += v * (HALF[k] as number);
        last += v * (LAST[k] as number);
      }
      peak = Math.max(peak, Math.abs(first), Math.abs(half), Math.abs(last));
    }
    this.at = at;
    this.peak = peak;
  }

  reset(): void {
    this.peak = 0;
  }
}
