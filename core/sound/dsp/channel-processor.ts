/**
 * One channel: gain and pick → high-pass → gate → equaliser → compressor → delay → (before the fader) → fader and pan →
 * (after the fader). In `picture` timing live inputs wait for their pictures.
 */
import { type ChannelConfig } from '../desk-config';
import { dbToGain } from '../level';
import { type EqBand } from '../strip';
import { bandCoefficients, Biquad, highPassCoefficients } from './biquad';
import { DelayLine } from './delay-line';
import { CompressorProcessor, GateProcessor } from './dynamics';
import { Ramp, scale } from './ramp';
import { BLOCK, peakOf, silence, stereo, type Stereo } from './stereo';

/** Seconds in which a set value is reached: no click, and not heard as a fade. */
export const RAMP_SECONDS = 0.008;

/** Filters of an equaliser's bands; bands without effect are left out. */
export class BandFilters {
  /** One for each band, so that what a band has in memory stays its own. */
  private readonly filters: Biquad[] = [];
  private active: Biquad[] = [];

  constructor(private readonly sampleRate: number) {}

  set(bands: readonly EqBand[]): void {
    this.active = bands.flatMap(({ kind, hz, gainDb, q }, i) => {
      const filter = (this.filters[i] ??= new Biquad());
      if (gainDb === 0) {
        filter.reset();
        return [];
      }
      filter.coefficients = bandCoefficients(kind, hz, gainDb, q, this.sampleRate);
      return [filter];
    });
  }

  process({ left, right }: Stereo, count: number): void {
    for (const filter of this.active) filter.process(left, right, count);
  }
}

/** Both sides with a gain of their own each. */
function place(from: Stereo, to: Stereo, count: number, l0: number, l1: number, r0: number, r1: number): void {
  scale(from.left, to.left, count, l0, l1);
  scale(from.right, to.right, count, r0, r1);
}

export class ChannelProcessor {
  /** Highest sample of left and right since last asked, before the fader. */
  readonly peaks = new Float32Array(2);
  readonly before = stereo();
  /** As `before`, for people in the room: without waiting for pictures. */
  readonly beforeLive = stereo();
  readonly after = stereo();
  readonly afterLive = stereo();
  /** Which of the four are taken by anybody: the others are not worked out. */
  readonly taken = { before: false, beforeLive: false, after: false, afterLive: false };
  private readonly work = stereo();
  private readonly highPass = new Biquad();
  private readonly gate: GateProcessor;
  private readonly bands: BandFilters;
  private readonly compressor: CompressorProcessor;
  private readonly delay = new DelayLine();
  private readonly afterGain = new Ramp();
  private readonly beforeGain = new Ramp();
  private readonly sides = [new Ramp(1), new Ramp(1)] as const;
  private readonly entry = new Ramp(1);
  private config: ChannelConfig;
  /** Samples of silence so far: after the longest tail there is nothing left to work on. */
  private quiet = Infinity;
  private phase = 0;
  private resting = false;

  constructor(
    config: ChannelConfig,
    private readonly sampleRate: number,
  ) {
    this.gate = new GateProcessor(sampleRate);
    this.bands = new BandFilters(sampleRate);
    this.compressor = new CompressorProcessor(sampleRate);
    this.config = config;
    this.configure(config, true);
  }

  /** Gain reduction of gate and compressor now, dB at or below 0. */
  get reductionDb(): number {
    const { gate, compressor } = this.config.processing;
    return (gate.on ? 20 * Math.log10(Math.max(1e-4, this.gate.gain)) : 0) + (compressor.on ? this.compressor.reductionDb : 0);
  }

  configure(config: ChannelConfig, fresh = false): void {
    const ramp = fresh ? 0 : RAMP_SECONDS * this.sampleRate;
    this.config = config;
    const { gainDb, highPass, eq, pick } = config.processing;
    this.entry.to(dbToGain(gainDb), ramp);
    this.highPass.coefficients = highPassCoefficients(highPass.hz, this.sampleRate);
    this.bands.set(eq.bands);
    // A mono sound is placed with equal power, 0 dB in the middle; a stereo one is balanced.
    const p = config.pan;
    const [l, r] =
      pick === 'stereo' && config.feed !== null && 'key' in config.feed && config.feed.side === 'both'
        ? [Math.min(1, 1 - p), Math.min(1, 1 + p)]
        : [Math.SQRT2 * Math.cos(((p + 1) * Math.PI) / 4), Math.SQRT2 * Math.sin(((p + 1) * Math.PI) / 4)];
    this.sides[0].to(l, ramp);
    this.sides[1].to(r, ramp);
    this.delay.fit(this.samples(config.delayMs + config.waitMs));
  }

  private samples(ms: number): number {
    return Math.round((ms * this.sampleRate) / 1000);
  }

  /** Aims the fader at a gain, reached in `seconds`. */
  setGains(after: number, before: number, seconds: number): void {
    this.afterGain.to(after, Math.max(RAMP_SECONDS, seconds) * this.sampleRate);
    this.beforeGain.to(before, RAMP_SECONDS * this.sampleRate);
  }

  /** True while nothing of this channel can be heard anywhere. */
  get silent(): boolean {
    return this.resting;
  }

  process(input: Stereo | null, count: number): void {
    const { work, config } = this;
    const { feed, processing } = config;
    if (feed && 'hz' in feed) this.tone(feed.hz, feed.gain, count);
    else if (input && feed) this.pick(input, feed.side, count);
    else silence(work);
    const peakLeft = peakOf(work.left, count);
    const peakRight = peakOf(work.right, count);
    const peak = Math.max(peakLeft, peakRight);
    // NaN compares as false: a faulty block is taken for silence.
    const heard = peak > 1e-7 && Number.isFinite(peak);
    if (!heard) silence(work);
    this.quiet = heard ? 0 : this.quiet + count;
    if (this.quiet > this.samples(config.delayMs + config.waitMs) + this.sampleRate) {
      this.rest();
      return;
    }
    this.resting = false;
    const start = this.entry.value;
    const end = this.entry.advance(count);
    const { left, right } = work;
    if (start !== 1 || end !== 1) {
      scale(left, left, count, start, end);
      scale(right, right, count, start, end);
    }
    if (processing.highPass.on) this.highPass.process(left, right, count);
    if (processing.gate.on) this.gate.process(left, right, count, processing.gate);
    if (processing.eq.on) this.bands.process(work, count);
    if (processing.compressor.on) this.compressor.process(left, right, count, processing.compressor);
    const changed =
      start !== 1 || end !== 1 || !heard || processing.highPass.on || processing.gate.on || processing.eq.on || processing.compressor.on;
    this.peaks[0] = Math.max(this.peaks[0] as number, changed ? peakOf(left, count) : peakLeft);
    this.peaks[1] = Math.max(this.peaks[1] as number, changed ? peakOf(right, count) : peakRight);
    this.spread(count);
  }

  /** Nothing comes: gains go on, and everything else rests. */
  private rest(): void {
    this.afterGain.advance(BLOCK);
    this.beforeGain.advance(BLOCK);
    this.sides[0].advance(BLOCK);
    this.sides[1].advance(BLOCK);
    this.entry.advance(BLOCK);
    if (this.resting) return;
    this.resting = true;
    for (const block of [this.before, this.beforeLive, this.after, this.afterLive]) silence(block);
    this.highPass.reset();
    this.delay.write(this.work.left, this.work.right, BLOCK);
  }

  /** Delay, mute, fader and pan, for both timings. */
  private spread(count: number): void {
    const { work, before, beforeLive, after, afterLive, config } = this;
    const [live, wait] = [this.samples(config.delayMs), this.samples(config.waitMs)];
    const b0 = this.beforeGain.value;
    const b1 = this.beforeGain.advance(count);
    const a0 = this.afterGain.value;
    const a1 = this.afterGain.advance(count);
    const l0 = this.sides[0].value;
    const l1 = this.sides[0].advance(count);
    const r0 = this.sides[1].value;
    const r1 = this.sides[1].advance(count);
    const { taken } = this;
    if (live + wait > 0) {
      this.delay.write(work.left, work.right, count);
      if (live > 0) this.delay.read(live, work.left, work.right, count);
    }
    if (wait > 0) {
      if (taken.afterLive) place(work, afterLive, count, a0 * l0, a1 * l1, a0 * r0, a1 * r1);
      if (taken.beforeLive) place(work, beforeLive, count, b0, b1, b0, b1);
      this.delay.read(live + wait, work.left, work.right, count);
    }
    if (taken.after) place(work, after, count, a0 * l0, a1 * l1, a0 * r0, a1 * r1);
    if (taken.before) place(work, before, count, b0, b1, b0, b1);
  }

  /** Says that somebody takes the blocks of a timing and tap. */
  take(live: boolean, tap: 'after' | 'before'): void {
    const waits = live && this.config.waitMs > 0;
    if (tap === 'after') this.taken[waits ? 'afterLive' : 'after'] = true;
    else this.taken[waits ? 'beforeLive' : 'before'] = true;
  }

  /** Says that nobody takes anything, until `take` is called. */
  release(): void {
    Object.assign(this.taken, { before: false, beforeLive: false, after: false, afterLive: false });
  }

  /** The blocks for a bus of a timing; they must have been taken. */
  blocks(live: boolean, tap: 'after' | 'before'): Stereo {
    const waits = this.config.waitMs > 0;
    if (tap === 'after') return live && waits ? this.afterLive : this.after;
    return live && waits ? this.beforeLive : this.before;
  }

  private pick(input: Stereo, side: 'both' | 'left' | 'right', count: number): void {
    const { left, right } = this.work;
    const from: Stereo =
      side === 'both' ? input : side === 'left' ? { left: input.left, right: input.left } : { left: input.right, right: input.right };
    switch (this.config.processing.pick) {
      case 'left':
        left.set(from.left);
        right.set(from.left);
        return;
      case 'right':
        left.set(from.right);
        right.set(from.right);
        return;
      case 'mono':
        for (let i = 0; i < count; i += 1) left[i] = right[i] = ((from.left[i] as number) + (from.right[i] as number)) / 2;
        return;
      case 'stereo':
        left.set(from.left);
        right.set(from.right);
    }
  }

  private tone(hz: number, gain: number, count: number): void {
    const { left, right } = this.work;
    const step = (2 * Math.PI * hz) / this.sampleRate;
    for (let i = 0; i < count; i += 1) {
      left[i] = right[i] = gain * Math.sin(this.phase);
      this.phase += step;
    }
    this.phase %= 2 * Math.PI;
  }
}
