/**
 * The whole desk, block by block: channels, the matrix, buses, the operator's ears, meters. Runs on the audio thread, and as
 * it is in tests.
 */
import { type DeskConfig, type SendConfig } from '../desk-config';
import { LoudnessMeter, type LoudnessReading } from '../loudness/loudness-meter';
import { type SoundPlan } from '../plan';
import { BusProcessor, type Howl } from './bus-processor';
import { ChannelProcessor, RAMP_SECONDS } from './channel-processor';
import { add, Ramp } from './ramp';
import { BLOCK, silence, stereo, type Stereo } from './stereo';

interface Crosspoint {
  from: ChannelProcessor | BusProcessor;
  bus: BusProcessor;
  tap: 'after' | 'before';
  gain: Ramp;
  /** It is being closed, and goes when it is silent. */
  leaving: boolean;
}

/** What a channel or bus shows: peaks as amplitudes since the last report, and what turns it down. */
export interface DeskMeters {
  /** Left and right peak, then reduction in dB, for each channel. */
  channels: Record<string, [left: number, right: number, reductionDb: number]>;
  buses: Record<string, [left: number, right: number, reductionDb: number]>;
}

/** Gains of one frame, as the plan gives them. */
export type DeskGains = Pick<SoundPlan, 'gains' | 'buses'> & { held: readonly string[] };

export class DeskProcessor {
  readonly ears: Stereo = stereo();
  /** What others listen to as well: see `alsoHear`. */
  private also: readonly DeskConfig['ears'][] = [];
  private config: DeskConfig = { channels: [], buses: [], sends: [], ears: { busId: 'programme', solos: [] }, talk: null };
  private channels = new Map<string, ChannelProcessor>();
  private buses = new Map<string, BusProcessor>();
  /** Buses in the order in which they feed each other; where they go round in a circle, one hears the block before. */
  private order: BusProcessor[] = [];
  private crosspoints = new Map<string, Crosspoint>();
  private into = new Map<BusProcessor, Crosspoint[]>();
  /** The channel whose loudness somebody looks at. */
  private watched: { id: string; meter: LoudnessMeter } | null = null;

  constructor(private readonly sampleRate: number) {}

  /** Takes a new configuration over; what stays the same goes on without a click. */
  configure(config: DeskConfig): void {
    this.config = config;
    this.channels = new Map(
      config.channels.map((c) => {
        const known = this.channels.get(c.id);
        known?.configure(c);
        return [c.id, known ?? new ChannelProcessor(c, this.sampleRate)];
      }),
    );
    this.buses = new Map(
      config.buses.map((b) => {
        const known = this.buses.get(b.id);
        known?.configure(b);
        return [b.id, known ?? new BusProcessor(b, this.sampleRate)];
      }),
    );
    this.connect(config.sends);
    this.take();
    this.sortBuses();
  }

  private connect(sends: readonly SendConfig[]): void {
    const ramp = RAMP_SECONDS * this.sampleRate;
    const wanted = new Set<string>();
    for (const { from, bus, gain, tap } of sends) {
      const start = this.channels.get(from) ?? this.buses.get(from);
      const end = this.buses.get(bus);
      if (!start || !end) continue;
      const key = `${from} ${bus} ${tap}`;
      wanted.add(key);
      const known = this.crosspoints.get(key);
      if (known && known.from === start && known.bus === end) {
        known.leaving = false;
        known.gain.to(gain, ramp);
      } else {
        const point: Crosspoint = { from: start, bus: end, tap, gain: new Ramp(0), leaving: false };
        point.gain.to(gain, ramp);
        this.crosspoints.set(key, point);
      }
    }
    const nodes = new Set<unknown>([...this.channels.values(), ...this.buses.values()]);
    for (const [key, point] of this.crosspoints) {
      if (wanted.has(key)) continue;
      if (!nodes.has(point.from) || !nodes.has(point.bus)) this.crosspoints.delete(key);
      else {
        point.leaving = true;
        point.gain.to(0, ramp);
      }
    }
    this.gather();
  }

  /** Shows the loudness of one bus, or of one channel before its fader, until another is watched; null for none. */
  watch(id: string | null): void {
    for (const [busId, bus] of this.buses) bus.watched = busId === id;
    const channel = id !== null && !this.buses.has(id) ? id : null;
    if (channel !== (this.watched?.id ?? null))
      this.watched = channel === null ? null : { id: channel, meter: new LoudnessMeter(this.sampleRate) };
    this.take();
  }

  /** Tells every channel which of its outputs are heard by anybody. */
  private take(): void {
    for (const channel of this.channels.values()) channel.release();
    for (const { from, bus, tap } of this.crosspoints.values()) if (from instanceof ChannelProcessor) from.take(bus.live, tap);
    for (const { solos } of [this.config.ears, ...this.also]) for (const { id, tap } of solos) this.channels.get(id)?.take(false, tap);
    const talker = this.config.talk ? this.channels.get(this.config.talk.channelId) : undefined;
    talker?.take(false, 'before');
    talker?.take(true, 'before');
    if (this.watched) this.channels.get(this.watched.id)?.take(false, 'before');
  }

  /** What others listen to besides the operator, such as people at panels: `hear` gives it. */
  alsoHear(ears: readonly DeskConfig['ears'][]): void {
    this.also = ears;
    this.take();
  }

  private gather(): void {
    this.into = new Map([...this.buses.values()].map((b) => [b, []]));
    for (const point of this.crosspoints.values()) this.into.get(point.bus)?.push(point);
  }

  private sortBuses(): void {
    const done = new Set<BusProcessor>();
    const order: BusProcessor[] = [];
    const visit = (bus: BusProcessor) => {
      if (done.has(bus)) return;
      done.add(bus);
      for (const { from } of this.into.get(bus) ?? []) if (from instanceof BusProcessor) visit(from);
      order.push(bus);
    };
    for (const bus of this.buses.values()) visit(bus);
    this.order = order;
  }

  /** Aims every gain at what the plan of a frame says. */
  setGains({ gains, buses, held }: DeskGains): void {
    for (const [id, channel] of this.channels) {
      const gain = gains[id];
      channel.setGains(gain?.after ?? 0, gain?.before ?? 0, gain?.seconds ?? 0);
    }
    for (const [id, bus] of this.buses) bus.setGain(buses[id] ?? 0, held.includes(id));
  }

  /** Works out one block from what comes in by key. Returns howls that were caught in it. */
  process(feeds: ReadonlyMap<string, Stereo>, count = BLOCK): Howl[] {
    const { config } = this;
    for (const { id, feed } of config.channels) {
      this.channels.get(id)?.process(feed && 'key' in feed ? (feeds.get(feed.key) ?? null) : null, count);
    }
    const talker = config.talk ? this.channels.get(config.talk.channelId) : undefined;
    const seen = this.watched ? this.channels.get(this.watched.id) : undefined;
    if (seen) {
      const { left, right } = seen.blocks(false, 'before');
      this.watched?.meter.process([left, right], count);
    }
    const howls: Howl[] = [];
    let gone = false;
    for (const bus of this.order) {
      for (const point of this.into.get(bus) ?? []) gone = this.mix(point, count) || gone;
      const howl = bus.process(talker && !talker.silent ? talker.blocks(bus.live, 'before') : null, config.talk?.dim ?? 1, count);
      if (howl) howls.push(howl);
    }
    if (gone) {
      for (const [key, { leaving, gain }] of this.crosspoints) if (leaving && gain.silent) this.crosspoints.delete(key);
      this.gather();
      this.take();
    }
    this.hear(this.config.ears, this.ears, count);
    return howls;
  }

  /** Adds one crosspoint into its bus. True when it has closed for good. */
  private mix({ from, bus, tap, gain, leaving }: Crosspoint, count: number): boolean {
    const start = gain.value;
    const end = gain.advance(count);
    if (start === 0 && end === 0) return leaving;
    if (from instanceof ChannelProcessor && from.silent) return false;
    const { left, right } = from instanceof ChannelProcessor ? from.blocks(bus.live, tap) : tap === 'after' ? from.after : from.before;
    add(left, bus.sum.left, count, start, end);
    add(right, bus.sum.right, count, start, end);
    return false;
  }

  /** Puts what one person hears in this block into `ears`: soloed channels and buses, or one bus. What is soloed must have been told. */
  hear({ busId, solos }: DeskConfig['ears'], ears: Stereo, count = BLOCK): void {
    silence(ears);
    const put = ({ left, right }: Stereo) => {
      add(left, ears.left, count, 1, 1);
      add(right, ears.right, count, 1, 1);
    };
    if (solos.length === 0) put((this.buses.get(busId) ?? this.buses.values().next().value)?.out ?? ears);
    for (const { id, tap } of solos) {
      const channel = this.channels.get(id);
      const bus = this.buses.get(id);
      if (channel) put(channel.blocks(false, tap));
      else if (bus) put(tap === 'after' ? bus.out : bus.before);
    }
    for (const side of [ears.left, ears.right]) for (let i = 0; i < count; i += 1) side[i] = Math.max(-1, Math.min(1, side[i] as number));
  }

  /** What a bus puts out in this block; null for none of this name. */
  outOf(busId: string): Stereo | null {
    return this.buses.get(busId)?.out ?? null;
  }

  /** Peaks since the last call. */
  meters(): DeskMeters {
    const take = (peaks: Float32Array, reductionDb: number): [number, number, number] => {
      const taken: [number, number, number] = [peaks[0] as number, peaks[1] as number, reductionDb];
      peaks.fill(0);
      return taken;
    };
    const channels: DeskMeters['channels'] = {};
    const buses: DeskMeters['buses'] = {};
    for (const [id, c] of this.channels) channels[id] = take(c.peaks, c.reductionDb);
    for (const [id, b] of this.buses) {
      buses[id] = take(b.peaks, 20 * Math.log10(Math.max(1e-4, b.least)));
      b.least = 1;
    }
    return { channels, buses };
  }

  loudness(): Record<string, LoudnessReading> {
    const readings = Object.fromEntries([...this.buses].map(([id, bus]) => [id, bus.loudness.read()]));
    if (this.watched && this.channels.has(this.watched.id)) readings[this.watched.id] = this.watched.meter.read();
    return readings;
  }
}
