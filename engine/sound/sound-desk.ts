/**
 * The Web Audio graph of the programme. Channel: input → gain → programme gain → limiter → ears and tap; a meter on
 * each channel before its gain and on the programme after the limiter. Gains are set to the frame by `planSound`.
 */
import { dbToGain, gainToDb } from '#core/sound/level';
import { advanceMeter, type MeterReading, restingMeter } from '#core/sound/meter';
import { planSound } from '#core/sound/plan';
import { type Air } from '#core/show/air';
import { type Show } from '#core/show/show';
import { frameToMicros } from '#core/time/rate';
import { SOUND_DELAY_MICROS } from '../time/delays';
import { type SharedClock } from '../time/shared-clock';
import { SAMPLE_RATE } from './chunk';
import workletUrl from './worklets.ts?worker&url';

const LOOKAHEAD = 240;
/** A gain reaches a new value within this many seconds at a cut: no click, and not heard as a fade. */
const RAMP_SECONDS = 0.008;
/** A difference that no pace can make up in time: the sound device slept. */
const JUMP_SECONDS = 0.25;
/** A lasting difference that would be noticed between picture and sound: the device left something out. */
const LASTING_SECONDS = 0.025;
/** Sound devices are off by far less; one that is simulated under load may not be. */
const MOST_STEERING = 0.01;
/** Seconds of buffer asked of the device: steadiness before quickness, all sound is later than this anyway. */
const LATENCY_HINT = 0.05;
const PROGRAMME = 'programme';
/** Time from a sound at a microphone to its arrival here, as far as is known, seconds. */
const INPUT_LATENCY = 0.03;

const clampTo = (value: number, most: number) => Math.max(-most, Math.min(most, value));

interface Channel {
  input: AudioNode;
  gain: GainNode;
  meter: AudioWorkletNode;
  stop: () => void;
  pcm: AudioWorkletNode | null;
}

export class SoundDesk {
  readonly readings = new Map<string, [MeterReading, MeterReading]>();
  /** Times that show clock and sound had to be put together anew with a jump. */
  resyncs = 0;
  private readonly channels = new Map<string, Channel>();
  /** Channels that are recorded on their own. */
  private readonly taps = new Map<string, AudioWorkletNode>();
  private readonly values = new Map<string, number>();
  private programme!: GainNode;
  private limiter!: AudioWorkletNode;
  private tap!: AudioWorkletNode;
  private ears!: GainNode;
  private ceilingDb = NaN;
  /** Audio context seconds at which show second 0 plays; null until the context runs. */
  private offset: number | null = null;
  private error = 0;
  /** How much faster the device's clock runs, learnt over time. */
  private pace = 0;
  private timer: ReturnType<typeof setInterval> | undefined;

  private constructor(
    readonly context: AudioContext,
    private readonly clock: SharedClock,
  ) {}

  /** Builds the graph; it is silent until the browser lets sound start (`wake`). */
  static async create(clock: SharedClock): Promise<SoundDesk> {
    const context = new AudioContext({ sampleRate: SAMPLE_RATE, latencyHint: LATENCY_HINT });
    await context.audioWorklet.addModule(workletUrl);
    const desk = new SoundDesk(context, clock);
    desk.programme = new GainNode(context, { gain: 0, channelCount: 2, channelCountMode: 'explicit' });
    desk.limiter = new AudioWorkletNode(context, 'bivoca-limiter', {
      outputChannelCount: [2],
      processorOptions: { ceiling: dbToGain(-1), lookahead: LOOKAHEAD },
    });
    desk.tap = new AudioWorkletNode(context, 'bivoca-tap', { numberOfOutputs: 0, channelCount: 2, channelCountMode: 'explicit' });
    desk.ears = new GainNode(context, { gain: 1 });
    desk.programme.connect(desk.limiter);
    desk.limiter.connect(desk.tap);
    desk.limiter.connect(desk.ears).connect(context.destination);
    desk.metered(PROGRAMME, desk.limiter);
    desk.timer = setInterval(() => desk.follow(), 200);
    return desk;
  }

  get awake(): boolean {
    return this.context.state === 'running';
  }

  /** Lets sound start; browsers allow it after a press or a key in the window. */
  async wake(): Promise<void> {
    if (this.context.state === 'suspended') await this.context.resume();
  }

  /** What the crew hears on this machine, 0 to 1; the programme itself is not changed. */
  setListening(level: number): void {
    this.ears.gain.setTargetAtTime(level, this.context.currentTime, 0.02);
  }

  /** Sound chunks of a source come in through `port`. */
  connectPcm(id: string, port: MessagePort): void {
    const node = new AudioWorkletNode(this.context, 'bivoca-pcm', { numberOfInputs: 0, outputChannelCount: [2] });
    node.port.postMessage({ type: 'port', port }, [port]);
    this.sendOffset(node);
    this.connect(id, node, node, () => node.port.postMessage({ type: 'end' }));
  }

  /** A device's sound; delayed so that it meets its picture. */
  connectStream(id: string, stream: MediaStream): void {
    const input = this.context.createMediaStreamSource(stream);
    const delay = new DelayNode(this.context, { maxDelayTime: 1, delayTime: SOUND_DELAY_MICROS / 1e6 - INPUT_LATENCY });
    input.connect(delay);
    this.connect(id, delay, null, () => input.disconnect());
  }

  /**
   * Sends a channel's sound before its gain, or the programme, to `port` as chunks, also after the channel was connected
   * anew. Returns how to end it.
   */
  record(id: string, port: MessagePort): () => void {
    const node = new AudioWorkletNode(this.context, 'bivoca-tap', { numberOfOutputs: 0, channelCount: 2, channelCountMode: 'explicit' });
    node.port.postMessage({ type: 'port', port }, [port]);
    const input = id === PROGRAMME ? this.limiter : this.channels.get(id)?.input;
    input?.connect(node);
    this.taps.set(id, node);
    this.sendTapOffsets();
    return () => {
      if (this.taps.get(id) === node) this.taps.delete(id);
      node.port.postMessage({ type: 'end' });
      try {
        (id === PROGRAMME ? this.limiter : this.channels.get(id)?.input)?.disconnect(node);
      } catch {
        // The channel has been connected anew meanwhile.
      }
    };
  }

  private connect(id: string, input: AudioNode, pcm: AudioWorkletNode | null, stop: () => void): void {
    this.disconnect(id);
    const gain = new GainNode(this.context, { gain: 0 });
    input.connect(gain).connect(this.programme);
    const recorder = this.taps.get(id);
    if (recorder) input.connect(recorder);
    const meter = this.metered(id, input);
    this.values.delete(id);
    this.channels.set(id, {
      input,
      gain,
      meter,
      pcm,
      stop: () => {
        stop();
        input.disconnect();
        gain.disconnect();
        meter.port.postMessage('end');
      },
    });
  }

  disconnect(id: string): void {
    this.channels.get(id)?.stop();
    this.channels.delete(id);
    this.readings.delete(id);
  }

  /** Programme sound goes to `port` as chunks. */
  tapTo(port: MessagePort): void {
    this.tap.port.postMessage({ type: 'port', port }, [port]);
    this.sendTapOffsets();
  }

  private metered(id: string, node: AudioNode): AudioWorkletNode {
    const meter = new AudioWorkletNode(this.context, 'bivoca-meter', { numberOfOutputs: 0 });
    node.connect(meter);
    this.readings.set(id, [restingMeter(), restingMeter()]);
    meter.port.onmessage = ({ data }: MessageEvent<[number, number]>) => {
      const now = performance.now() / 1000;
      const old = this.readings.get(id);
      if (old) this.readings.set(id, [advanceMeter(old[0], gainToDb(data[0]), now), advanceMeter(old[1], gainToDb(data[1]), now)]);
    };
    return meter;
  }

  /** Sets every gain for `frame`; call once a frame, as it is mixed. */
  apply(show: Show, air: Air, frame: number): void {
    if (this.offset === null) return;
    const plan = planSound(show, air, frame);
    const at = frameToMicros(frame, show.rate) / 1e6 + this.offset;
    this.ramp(PROGRAMME, this.programme.gain, plan.programme, at);
    for (const [id, channel] of this.channels) this.ramp(id, channel.gain.gain, plan.channels[id] ?? 0, at);
    if (show.programme.ceilingDb !== this.ceilingDb) {
      this.ceilingDb = show.programme.ceilingDb;
      this.limiter.port.postMessage({ ceiling: dbToGain(this.ceilingDb) });
    }
  }

  private ramp(key: string, param: AudioParam, value: number, at: number): void {
    const before = this.values.get(key);
    if (before === value) return;
    this.values.set(key, value);
    const start = Math.max(this.context.currentTime, at);
    if (before === undefined) {
      param.setValueAtTime(value, start);
      return;
    }
    param.setValueAtTime(before, start);
    param.linearRampToValueAtTime(value, start + RAMP_SECONDS);
  }

  /** Keeps the show clock with the sound device's clock: slowly, by its pace; after a long sleep, by a jump. */
  private follow(): void {
    if (!this.awake) return;
    const { context, clock } = this;
    const stands = context.currentTime - clock.now() / 1e6 + SOUND_DELAY_MICROS / 1e6;
    if (this.offset === null || Math.abs(stands - this.offset) > JUMP_SECONDS || Math.abs(this.error) > LASTING_SECONDS) {
      if (this.offset !== null) this.resyncs += 1;
      this.offset = this.offset !== null && Math.abs(stands - this.offset) <= JUMP_SECONDS ? this.offset + this.error : stands;
      this.error = 0;
      this.values.clear();
      for (const channel of this.channels.values()) if (channel.pcm) this.sendOffset(channel.pcm);
      this.sendTapOffsets();
      return;
    }
    const drift = stands - this.offset;
    // The context's time moves in steps; a long average tells the drift from the steps.
    this.error += (drift - this.error) * 0.05;
    this.pace = clampTo(this.pace + this.error * 0.004, MOST_STEERING);
    clock.steer(1 + clampTo(this.pace + this.error * 0.1, MOST_STEERING));
  }

  /** Seconds by which the show clock is off the sound device's clock, smoothed. */
  get clockError(): number {
    return this.error;
  }

  private sendOffset(node: AudioWorkletNode): void {
    if (this.offset !== null) node.port.postMessage({ type: 'offset', samples: Math.round(this.offset * SAMPLE_RATE) });
  }

  private sendTapOffsets(): void {
    if (this.offset === null) return;
    const samples = Math.round(this.offset * SAMPLE_RATE);
    // What is tapped behind the limiter left the channels one look-ahead earlier.
    this.tap.port.postMessage({ type: 'offset', samples: samples + LOOKAHEAD });
    for (const [id, node] of this.taps) node.port.postMessage({ type: 'offset', samples: id === PROGRAMME ? samples + LOOKAHEAD : samples });
  }

  async close(): Promise<void> {
    clearInterval(this.timer);
    for (const id of [...this.channels.keys()]) this.disconnect(id);
    await this.context.close();
  }
}
