/** K-weighting of ITU-R BS.1770-5, Annex 1: the two filters before the mean square. */
import { Biquad, type Coefficients } from '../dsp/biquad';

/**
 * Stage 1: the head's effect, a shelf of +4 dB. The standard prints coefficients for 48 kHz; these are the analogue
 * prototype behind them (f0, G, Q), warped to any rate, and equal to the printed ones at 48 kHz to nine digits.
 */
export function headShelf(sampleRate: number): Coefficients {
  const [f0, gain, q] = [1681.974450955533, 3.999843853973347, 0.7071752369554196];
  const k = Math.tan((Math.PI * f0) / sampleRate);
  const vh = 10 ** (gain / 20);
  const vb = vh ** 0.4996667741545416;
  const a0 = 1 + k / q + k * k;
  return {
    b0: (vh + (vb * k) / q + k * k) / a0,
    b1: (2 * (k * k - vh)) / a0,
    b2: (vh - (vb * k) / q + k * k) / a0,
    a1: (2 * (k * k - 1)) / a0,
    a2: (1 - k / q + k * k) / a0,
  };
}

/** Stage 2: a high-pass (RLB weighting), with numerator 1, −2, 1 as printed. */
export function rlbHighPass(sampleRate: number): Coefficients {
  const [f0, q] = [38.13547087602444, 0.5003270373238773];
  const k = Math.tan((Math.PI * f0) / sampleRate);
  const a0 = 1 + k / q + k * k;
  return { b0: 1, b1: -2, b2: 1, a1: (2 * (k * k - 1)) / a0, a2: (1 - k / q + k * k) / a0 };
}

/** Both stages for a pair of channels, in place. */
export class KWeighting {
  private readonly head: Biquad;
  private readonly rlb: Biquad;

  constructor(sampleRate: number) {
    this.head = new Biquad(headShelf(sampleRate));
    this.rlb = new Biquad(rlbHighPass(sampleRate));
  }

  process(left: Float32Array, right: Float32Array, count: number): void {
    this.head.process(left, right, count);
    this.rlb.process(left, right, count);
  }
}
