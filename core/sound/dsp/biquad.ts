/** Second-order filters (biquads) and their response. */
import { type BandKind } from '../strip';

/** H(z) = (b0 + b1 z⁻¹ + b2 z⁻²) / (1 + a1 z⁻¹ + a2 z⁻²). */
export interface Coefficients {
  b0: number;
  b1: number;
  b2: number;
  a1: number;
  a2: number;
}

export const THROUGH: Coefficients = { b0: 1, b1: 0, b2: 0, a1: 0, a2: 0 };

const make = (b0: number, b1: number, b2: number, a0: number, a1: number, a2: number): Coefficients => ({
  b0: b0 / a0,
  b1: b1 / a0,
  b2: b2 / a0,
  a1: a1 / a0,
  a2: a2 / a0,
});

/**
 * A band of an equaliser. Formulas: R. Bristow-Johnson, "Cookbook formulae for audio EQ biquad filter coefficients".
 * @param hz centre or corner, held under half the sample rate.
 */
export function bandCoefficients(kind: BandKind, hz: number, gainDb: number, q: number, sampleRate: number): Coefficients {
  const w = (2 * Math.PI * Math.min(hz, sampleRate * 0.49)) / sampleRate;
  const a = 10 ** (gainDb / 40);
  const cos = Math.cos(w);
  const alpha = Math.sin(w) / (2 * q);
  if (kind === 'bell') return make(1 + alpha * a, -2 * cos, 1 - alpha * a, 1 + alpha / a, -2 * cos, 1 - alpha / a);
  const root = 2 * Math.sqrt(a) * alpha;
  const s = kind === 'low-shelf' ? 1 : -1;
  return make(
    a * (a + 1 - s * (a - 1) * cos + root),
    s * 2 * a * (a - 1 - s * (a + 1) * cos),
    a * (a + 1 - s * (a - 1) * cos - root),
    a + 1 + s * (a - 1) * cos + root,
    -s * 2 * (a - 1 + s * (a + 1) * cos),
    a + 1 + s * (a - 1) * cos - root,
  );
}

/** A Butterworth high-pass of 12 dB an octave (same source). */
export function highPassCoefficients(hz: number, sampleRate: number): Coefficients {
  const w = (2 * Math.PI * hz) / sampleRate;
  const cos = Math.cos(w);
  const alpha = Math.sin(w) / (2 * Math.SQRT1_2);
  return make((1 + cos) / 2, -(1 + cos), (1 + cos) / 2, 1 + alpha, -2 * cos, 1 - alpha);
}

/** Response of a filter at `hz`, dB: |H(e^jω)|. */
export function responseDb({ b0, b1, b2, a1, a2 }: Coefficients, hz: number, sampleRate: number): number {
  const w = (2 * Math.PI * hz) / sampleRate;
  const power = (x0: number, x1: number, x2: number) => {
    const re = x0 + x1 * Math.cos(w) + x2 * Math.cos(2 * w);
    const im = x1 * Math.sin(w) + x2 * Math.sin(2 * w);
    return re * re + im * im;
  };
  return 10 * Math.log10(power(b0, b1, b2) / power(1, a1, a2));
}

/** One filter for left and right (transposed direct form II). */
export class Biquad {
  private readonly state = new Float64Array(4);

  constructor(public coefficients: Coefficients = THROUGH) {}

  /** Filters the first `count` samples of both sides in place. */
  process(left: Float32Array, right: Float32Array, count: number): void {
    this.side(left, 0, count);
    this.side(right, 2, count);
  }

  private side(x: Float32Array, at: 0 | 2, count: number): void {
    const { b0, b1, b2, a1, a2 } = this.coefficients;
    let s1 = this.state[at] as number;
    let s2 = this.state[at + 1] as number;
    for (let i = 0; i < count; i += 1) {
      const v = x[i] as number;
      const y = b0 * v + s1;
      s1 = b1 * v - a1 * y + s2;
      s2 = b2 * v - a2 * y;
      x[i] = y;
    }
    // Tails that nobody hears would cost a hundred times as much as sound, as denormal numbers do. A fault heals too.
    this.state[at] = Math.abs(s1) > 1e-15 && Number.isFinite(s1) ? s1 : 0;
    this.state[at + 1] = Math.abs(s2) > 1e-15 && Number.isFinite(s2) ? s2 : 0;
  }

  reset(): void {
    this.state.fill(0);
  }
}
