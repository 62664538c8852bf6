/**
 * Loudness after ITU-R BS.1770-5 and EBU R 128: momentary (400 ms), short-term (3 s), integrated with both gates, loudness
 * range (EBU Tech 3342) and true peak.
 */
import { KWeighting } from './k-weighting';
import { TruePeak } from './true-peak';

/** What is shown of a bus. LUFS, LU and dBTP; −Infinity where nothing was heard. */
export interface LoudnessReading {
  momentary: number;
  shortTerm: number;
  integrated: number;
  /** Loudness range, LU; 0 until there is enough. */
  range: number;
  /** Highest since the measurement began, dBTP. */
  truePeak: number;
  momentaryMax: number;
  shortTermMax: number;
  /** Seconds measured. */
  seconds: number;
}

export const SILENT_READING: LoudnessReading = {
  momentary: -Infinity,
  shortTerm: -Infinity,
  integrated: -Infinity,
  range: 0,
  truePeak: -Infinity,
  momentaryMax: -Infinity,
  shortTermMax: -Infinity,
  seconds: 0,
};

/** Seconds of one step: fine enough that no onset is missed by more than 5 ms. */
const STEP_SECONDS = 0.01;
const STEPS_MOMENTARY = 40;
const STEPS_SHORT = 300;
/** Gating blocks of 400 ms overlap by 75 %: one every 100 ms. */
const STEPS_BLOCK = 10;
const ABSOLUTE_GATE = -70;

/** L = −0.691 + 10 log10 Σ G·z (BS.1770-5, eq. 2). */
const lufs = (power: number) => (power > 0 ? -0.691 + 10 * Math.log10(power) : -Infinity);

/** Loudness values counted in bins of 0.05 LU from −70 to +10, with their powers, so that hours cost no more than minutes. */
class Gating {
  private static readonly STEP = 0.05;
  private readonly counts = new Float64Array(1600);
  private readonly powers = new Float64Array(1600);

  add(power: number): void {
    const value = lufs(power);
    if (!(value >= ABSOLUTE_GATE)) return;
    const bin = Math.min(this.counts.length - 1, Math.floor((value - ABSOLUTE_GATE) / Gating.STEP));
    this.counts[bin] = (this.counts[bin] as number) + 1;
    this.powers[bin] = (this.powers[bin] as number) + power;
  }

  /** Mean power of the values from bin `from` on. */
  private mean(from: number): number {
    let count = 0;
    let power = 0;
    for (let i = from; i < this.counts.length; i += 1) {
      count += this.counts[i] as number;
      power += this.powers[i] as number;
    }
    return count === 0 ? 0 : power / count;
  }

  /** First bin at or above the relative gate, `below` LU under the mean of all. */
  private gate(below: number): number {
    return Math.max(0, Math.round((lufs(this.mean(0)) - below - ABSOLUTE_GATE) / Gating.STEP));
  }

  /** Mean of what passes the relative gate of −10 LU. */
  integrated(): number {
    const mean = this.mean(0);
    return mean === 0 ? -Infinity : lufs(this.mean(this.gate(10)));
  }

  /** Distance of the 10th and the 95th percentile of what passes a relative gate of −20 LU (EBU Tech 3342). */
  range(): number {
    if (this.mean(0) === 0) return 0;
    const from = this.gate(20);
    let total = 0;
    for (let i = from; i < this.counts.length; i += 1) total += this.counts[i] as number;
    const at = (share: number) => {
      let passed = 0;
      for (let i = from; i < this.counts.length; i += 1) {
        passed += this.counts[i] as number;
        if (passed > share * (total - 1)) return i;
      }
      return this.counts.length - 1;
    };
    return total < 2 ? 0 : (at(0.95) - at(0.1)) * Gating.STEP;
  }

  reset(): void {
    this.counts.fill(0);
    this.powers.fill(0);
  }
}

/** A pair of channels and what each counts in the sum (G of BS.1770: 1 for left, right and centre, 1.41 for surrounds). */
interface PairFilter {
  filter: KWeighting;
  left: Float32Array;
  right: Float32Array;
  peaks: [TruePeak, TruePeak];
}

export class LoudnessMeter {
  private readonly pairs: PairFilter[];
  private readonly stepLength: number;
  private readonly steps = new Float64Array(STEPS_SHORT);
  private stepCount = 0;
  private energy = 0;
  private filled = 0;
  private sumMomentary = 0;
  private sumShort = 0;
  private readonly blocks = new Gating();
  private readonly shorts = new Gating();
  private momentaryMax = 0;
  private shortMax = 0;
  private measured = 0;
  private running = true;

  /** @param weights G of each channel; channels come in pairs. */
  constructor(
    sampleRate: number,
    private readonly weights: readonly number[] = [1, 1],
  ) {
    this.stepLength = Math.round(STEP_SECONDS * sampleRate);
    this.pairs = Array.from({ length: Math.ceil(weights.length / 2) }, () => ({
      filter: new KWeighting(sampleRate),
      left: new Float32Array(128),
      right: new Float32Array(128),
      peaks: [new TruePeak(), new TruePeak()],
    }));
  }

  /** Takes in up to 128 samples of every channel. */
  process(channels: readonly Float32Array[], count: number): void {
    this.pairs.forEach((pair, p) => {
      const left = channels[p * 2];
      const right = channels[p * 2 + 1];
      if (left) pair.left.set(count === left.length ? left : left.subarray(0, count));
      else pair.left.fill(0);
      if (right) pair.right.set(count === right.length ? right : right.subarray(0, count));
      else pair.right.fill(0);
      if (this.running) {
        pair.peaks[0].process(pair.left, count);
        pair.peaks[1].process(pair.right, count);
      }
      pair.filter.process(pair.left, pair.right, count);
    });
    for (let at = 0; at < count;) {
      const end = Math.min(count, at + this.stepLength - this.filled);
      this.pairs.forEach((pair, p) => {
        const [gl, gr] = [this.weights[p * 2] ?? 0, this.weights[p * 2 + 1] ?? 0];
        let [sl, sr] = [0, 0];
        for (let i = at; i < end; i += 1) {
          sl += (pair.left[i] as number) ** 2;
          sr += (pair.right[i] as number) ** 2;
        }
        this.energy += gl * sl + gr * sr;
      });
      this.filled += end - at;
      at = end;
      if (this.filled === this.stepLength) this.step();
    }
  }

  /** Ends a step of 10 ms. */
  private step(): void {
    const power = this.energy / this.stepLength;
    this.energy = 0;
    this.filled = 0;
    const { steps } = this;
    const at = this.stepCount % STEPS_SHORT;
    this.sumShort += power - (steps[at] as number);
    this.sumMomentary += power - (steps[(at + STEPS_SHORT - STEPS_MOMENTARY) % STEPS_SHORT] as number);
    steps[at] = power;
    this.stepCount += 1;
    // Sums are made afresh now and then, so that rounding never adds up.
    if (at === 0) this.resum();
    if (!this.running) return;
    this.measured += 1;
    if (this.measured >= STEPS_MOMENTARY) this.momentaryMax = Math.max(this.momentaryMax, this.sumMomentary);
    if (this.measured >= STEPS_SHORT) this.shortMax = Math.max(this.shortMax, this.sumShort);
    if (this.measured % STEPS_BLOCK !== 0) return;
    if (this.measured >= STEPS_MOMENTARY) this.blocks.add(this.sumMomentary / STEPS_MOMENTARY);
    if (this.measured >= STEPS_SHORT) this.shorts.add(this.sumShort / STEPS_SHORT);
  }

  private resum(): void {
    this.sumShort = this.steps.reduce((a, b) => a + b, 0);
    this.sumMomentary = 0;
    for (let i = 1; i <= STEPS_MOMENTARY; i += 1)
      this.sumMomentary += this.steps[(this.stepCount - i + STEPS_SHORT) % STEPS_SHORT] as number;
  }

  /** Begins a new measurement: integrated, range, true peak and maxima. Momentary and short-term run on. */
  restart(): void {
    this.running = true;
    this.measured = 0;
    this.momentaryMax = this.shortMax = 0;
    this.blocks.reset();
    this.shorts.reset();
    for (const { peaks } of this.pairs) peaks.forEach((p) => p.reset());
  }

  /** Keeps the measured values as they are. */
  stop(): void {
    this.running = false;
  }

  read(): LoudnessReading {
    const peak = Math.max(...this.pairs.flatMap(({ peaks }) => peaks.map((p) => p.peak)));
    return {
      momentary: lufs(Math.max(0, this.sumMomentary) / STEPS_MOMENTARY),
      shortTerm: lufs(Math.max(0, this.sumShort) / STEPS_SHORT),
      integrated: this.blocks.integrated(),
      range: this.shorts.range(),
      truePeak: peak > 0 ? 20 * Math.log10(peak) : -Infinity,
      momentaryMax: lufs(this.momentaryMax / STEPS_MOMENTARY),
      shortTermMax: lufs(this.shortMax / STEPS_SHORT),
      seconds: this.measured * STEP_SECONDS,
    };
  }
}
