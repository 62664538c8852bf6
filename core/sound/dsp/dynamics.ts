/** Gate and compressor: gains that follow the level. */
import { type Compressor, type Gate } from '../strip';
import { dbToGain, gainToDb } from '../level';

/** Samples between two values of a dynamics gain; between them it goes in a straight line. */
const STEP = 8;

const perStep = (ms: number, sampleRate: number) => 1 - Math.exp(-STEP / Math.max(1e-3 * ms * sampleRate, 1));

/** Highest sample of a stretch of both sides. */
function peakOf(left: Float32Array, right: Float32Array, from: number, to: number): number {
  let peak = 0;
  for (let i = from; i < to; i += 1) {
    const l = Math.abs(left[i] as number);
    const r = Math.abs(right[i] as number);
    if (l > peak) peak = l;
    if (r > peak) peak = r;
  }
  return peak;
}

/** Applies a gain that goes from `from` to `to` over a stretch. */
function glide(left: Float32Array, right: Float32Array, start: number, end: number, from: number, to: number): void {
  const rise = (to - from) / (end - start);
  for (let i = start; i < end; i += 1) {
    const gain = from + rise * (i - start + 1);
    left[i] = (left[i] as number) * gain;
    right[i] = (right[i] as number) * gain;
  }
}

/** Turns down what stays under a threshold. */
export class GateProcessor {
  /** Gain of the last sample, 0 to 1. */
  gain = 1;
  private open = true;
  private held = 0;

  constructor(private readonly sampleRate: number) {}

  process(left: Float32Array, right: Float32Array, count: number, { thresholdDb, rangeDb, attackMs, holdMs, releaseMs }: Gate): void {
    const opens = dbToGain(thresholdDb);
    const closes = dbToGain(thresholdDb - 3);
    const floor = dbToGain(rangeDb);
    const [attack, release] = [perStep(attackMs, this.sampleRate), perStep(releaseMs, this.sampleRate)];
    const hold = holdMs * 1e-3 * this.sampleRate;
    for (let at = 0; at < count; at += STEP) {
      const end = Math.min(count, at + STEP);
      const peak = peakOf(left, right, at, end);
      if (peak >= opens || (this.open && peak >= closes)) {
        this.open = true;
        this.held = 0;
      } else {
        this.held += end - at;
        if (this.held > hold) this.open = false;
      }
      const target = this.open ? 1 : floor;
      const next = this.gain + (target - this.gain) * (target > this.gain ? attack : release);
      glide(left, right, at, end, this.gain, next);
      this.gain = next;
    }
  }
}

/**
 * Level out of a compressor for a level in, dB, without make-up: soft knee, quadratic (Giannoulis, Massberg and Reiss,
 * "Digital Dynamic Range Compressor Design", JAES 2012, eq. 4).
 */
export function compressedDb(db: number, { thresholdDb, ratio, kneeDb }: Pick<Compressor, 'thresholdDb' | 'ratio' | 'kneeDb'>): number {
  const over = db - thresholdDb;
  if (2 * over < -kneeDb || db === -Infinity) return db;
  if (kneeDb > 0 && 2 * Math.abs(over) <= kneeDb) return db + ((1 / ratio - 1) * (over + kneeDb / 2) ** 2) / (2 * kneeDb);
  return thresholdDb + over / ratio;
}

/** Feed-forward compressor on the peaks of both sides together, with smoothed gain reduction (same source, section 3). */
export class CompressorProcessor {
  /** Gain reduction now, dB at or below 0. */
  reductionDb = 0;
  private gain = 1;

  constructor(private readonly sampleRate: number) {}

  process(left: Float32Array, right: Float32Array, count: number, settings: Compressor): void {
    const attack = perStep(settings.attackMs, this.sampleRate);
    const release = perStep(settings.releaseMs, this.sampleRate);
    for (let at = 0; at < count; at += STEP) {
      const end = Math.min(count, at + STEP);
      const peak = peakOf(left, right, at, end);
      const db = peak > 1e-6 ? gainToDb(peak) : -120;
      const wanted = compressedDb(db, settings) - db;
      this.reductionDb += (wanted - this.reductionDb) * (wanted < this.reductionDb ? attack : release);
      const next = dbToGain(this.reductionDb + settings.makeUpDb);
      glide(left, right, at, end, this.gain, next);
      this.gain = next;
    }
  }
}
