/**
 * One bus: sum → equaliser → (before the fader) → fader → (after it: to other buses) → talkback → delay → hold → limiter → out.
 * Talkback comes in behind the tap for other buses: by wires it reaches nobody but this bus's listener.
 */
import { type BusConfig } from '../desk-config';
import { dbToGain } from '../level';
import { Limiter } from '../limiter';
import { LoudnessMeter } from '../loudness/loudness-meter';
import { BandFilters, RAMP_SECONDS } from './channel-processor';
import { DelayLine } from './delay-line';
import { ANYWHERE, HowlWatch, IN_LOOP } from './howl';
import { add, Ramp, scale } from './ramp';
import { peakOf, silence, stereo, type Stereo } from './stereo';

/** Samples by which a bus comes out later than it went in: the limiter's look-ahead, 5 ms. */
export const LOOKAHEAD = 240;
/** How far a bus that howls is turned down, dB. */
export const HOLD_DB = 24;
/** Seconds between two words about the same bus. */
const WORD_SECONDS = 20;

export interface Howl {
  busId: string;
  /** Frequency; 0 when it is no single tone. */
  hz: number;
  /** The bus was turned down, as the routing has a loop through it. */
  held: boolean;
}

export class BusProcessor {
  /** What is summed for this block. */
  readonly sum = stereo();
  readonly before = stereo();
  readonly after = stereo();
  readonly out = stereo();
  /** Highest sample of left and right since last asked, as it leaves. */
  readonly peaks = new Float32Array(2);
  /** Least gain of the limiter since last asked. */
  least = 1;
  readonly loudness: LoudnessMeter;
  /** Somebody looks at its loudness, although it is not being measured. */
  watched = false;
  private readonly bands: BandFilters;
  private readonly delay = new DelayLine();
  private readonly limiter: Limiter;
  private readonly gain = new Ramp();
  private readonly dim = new Ramp(1);
  private readonly hold = new Ramp(1);
  private readonly talk = new Ramp(0);
  private readonly howl: HowlWatch;
  private run = 0;
  private sinceWord = Infinity;
  /** A howl was caught here; the plan has taken the turning down over. */
  private state: 'free' | 'caught' | 'held' = 'free';

  constructor(
    private config: BusConfig,
    private readonly sampleRate: number,
  ) {
    this.bands = new BandFilters(sampleRate);
    this.limiter = new Limiter(dbToGain(config.ceilingDb), LOOKAHEAD, 2, sampleRate);
    this.loudness = new LoudnessMeter(sampleRate);
    // Integrated loudness, range and true peak are worked out from the start of a measurement on.
    this.loudness.stop();
    this.howl = new HowlWatch(sampleRate);
    this.configure(config);
  }

  get id(): string {
    return this.config.id;
  }

  get live(): boolean {
    return this.config.live;
  }

  configure(config: BusConfig): void {
    this.config = config;
    this.bands.set(config.eq.bands);
    this.limiter.ceiling = dbToGain(config.ceilingDb);
    this.delay.fit(this.delaySamples);
    if (config.run !== this.run) {
      this.run = config.run;
      this.loudness.restart();
    }
    if (config.stopped) this.loudness.stop();
  }

  private get delaySamples(): number {
    return Math.round((this.config.delayMs * this.sampleRate) / 1000);
  }

  /** Aims the fader at a gain. A hold that was reported is part of it from then on. */
  setGain(gain: number, held: boolean): void {
    const ramp = RAMP_SECONDS * this.sampleRate;
    this.gain.to(gain, ramp);
    if (held) {
      this.state = 'held';
      this.hold.to(1, ramp);
    } else if (this.state === 'held') this.state = 'free';
  }

  /** Works on what was summed. Says when it howls. */
  process(talkback: Stereo | null, dimTo: number, count: number): Howl | null {
    const { sum, before, after, out, config } = this;
    if (config.eq.on) this.bands.process(sum, count);
    before.left.set(sum.left);
    before.right.set(sum.right);
    const g0 = this.gain.value;
    const g1 = this.gain.advance(count);
    scale(sum.left, after.left, count, g0, g1);
    scale(sum.right, after.right, count, g0, g1);
    this.dim.to(config.talk ? dimTo : 1, 0.03 * this.sampleRate);
    this.talk.to(config.talk ? 1 : 0, 0.01 * this.sampleRate);
    const d0 = this.dim.value;
    const d1 = this.dim.advance(count);
    scale(after.left, sum.left, count, d0, d1);
    scale(after.right, sum.right, count, d0, d1);
    const t0 = this.talk.value;
    const t1 = this.talk.advance(count);
    if (talkback && (t0 > 0 || t1 > 0)) {
      add(talkback.left, sum.left, count, t0, t1);
      add(talkback.right, sum.right, count, t0, t1);
    }
    if (this.delaySamples > 0) {
      this.delay.write(sum.left, sum.right, count);
      this.delay.read(this.delaySamples, sum.left, sum.right, count);
    }
    const h0 = this.hold.value;
    const h1 = this.hold.advance(count);
    if (h0 !== 1 || h1 !== 1) {
      scale(sum.left, sum.left, count, h0, h1);
      scale(sum.right, sum.right, count, h0, h1);
    }
    this.limiter.process([sum.left, sum.right], [out.left, out.right], count);
    this.least = Math.min(this.least, this.limiter.gain);
    this.peaks[0] = Math.max(this.peaks[0] as number, peakOf(out.left, count));
    this.peaks[1] = Math.max(this.peaks[1] as number, peakOf(out.right, count));
    if (this.config.run > 0 || this.watched) this.loudness.process([out.left, out.right], count);
    const hz = this.howl.process(out.left, out.right, count, this.limiter.gain, config.looped ? IN_LOOP : ANYWHERE);
    silence(sum);
    this.sinceWord += count;
    if (hz === null || this.state !== 'free') return null;
    if (!config.looped) {
      // No loop is known, so it may be a tone that somebody wants: it is held by the limiter, and told now and then.
      if (this.sinceWord < WORD_SECONDS * this.sampleRate) return null;
      this.sinceWord = 0;
      return { busId: config.id, hz, held: false };
    }
    this.state = 'caught';
    this.hold.to(dbToGain(-HOLD_DB), 0.02 * this.sampleRate);
    return { busId: config.id, hz, held: true };
  }
}
