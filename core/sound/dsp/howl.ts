/**
 * Catches feedback by its level: what howls grows until something limits it, and then pushes the limiter without a pause, as
 * speech and music do not. Where no loop is known it must be even as well: its peaks hardly higher than its mean.
 */

/** Length of one look, seconds. */
const LOOK_SECONDS = 0.01;
/** Peak over RMS of a sine is 3.0 dB; speech has 12 and more, dense music 6 and more. */
const MOST_CREST = 10 ** (5 / 20);

export interface HowlLimits {
  /** RMS above which it looks, as amplitude. */
  level: number;
  /** Seconds for which it must last. */
  seconds: number;
  /** The limiter must be turning down to at most this gain. */
  gain: number;
  /** Most that peaks may stand over RMS, as factor. */
  crest: number;
}

/** Where the routing has a loop. A loop in a dry room howls at many frequencies at once, and is then no tone. */
export const IN_LOOP: HowlLimits = { level: 10 ** (-14 / 20), seconds: 0.2, gain: 10 ** (-1 / 20), crest: Infinity };
/** Where none is known. */
export const ANYWHERE: HowlLimits = { level: 10 ** (-9 / 20), seconds: 0.3, gain: 10 ** (-3 / 20), crest: MOST_CREST };

export class HowlWatch {
  private readonly look: number;
  private count = 0;
  private energy = 0;
  private peak = 0;
  private crossings = 0;
  private last = 0;
  private lasting = 0;
  private lastingCrossings = 0;
  /** Samples for which it has been a tone. */
  private even = 0;

  constructor(private readonly sampleRate: number) {
    this.look = Math.round(LOOK_SECONDS * sampleRate);
  }

  /** Takes in what a bus puts out. Once a howl is certain, returns its frequency in Hz, 0 when it is no tone; before that null. */
  process(left: Float32Array, right: Float32Array, count: number, limiterGain: number, limits: HowlLimits): number | null {
    // Nothing that leaves the limiter alone is a howl: no need to look closer.
    if (limiterGain > limits.gain && this.lasting === 0) {
      this.count = this.energy = this.peak = this.crossings = 0;
      return null;
    }
    for (let i = 0; i < count; i += 1) {
      const l = left[i] as number;
      const r = right[i] as number;
      const value = Math.abs(l) >= Math.abs(r) ? l : r;
      this.energy += value * value;
      this.peak = Math.max(this.peak, Math.abs(value));
      if (l * this.last < 0) this.crossings += 1;
      if (l !== 0) this.last = l;
    }
    this.count += count;
    return this.count < this.look ? null : this.judge(limiterGain, limits);
  }

  private judge(limiterGain: number, { level, seconds, gain, crest }: HowlLimits): number | null {
    const rms = Math.sqrt(this.energy / this.count);
    const even = this.peak < rms * MOST_CREST;
    const howls = rms > level && this.peak < rms * crest && limiterGain <= gain;
    this.even = howls && even ? this.even + this.count : 0;
    this.lasting = howls ? this.lasting + this.count : 0;
    this.lastingCrossings = howls ? this.lastingCrossings + this.crossings : 0;
    this.count = this.energy = this.peak = this.crossings = 0;
    if (this.lasting < seconds * this.sampleRate) return null;
    const hz = this.even >= this.lasting ? Math.round((this.lastingCrossings * this.sampleRate) / (2 * this.lasting)) : 0;
    this.lasting = this.lastingCrossings = 0;
    return hz;
  }
}
