/**
 * The sound desk in the browser: one node on the audio thread that runs core's desk, what comes in and where it goes, and the
 * show clock's tie to the sound device. Gains are set to the frame by `planSound`.
 */
import { createStore, type StoreApi } from 'zustand/vanilla';
import { deskConfig } from '#core/sound/desk-config';
import { MOST_BUSES, PROGRAMME_BUS } from '#core/sound/document';
import { type Howl } from '#core/sound/dsp/bus-processor';
import { type DeskGains } from '#core/sound/dsp/desk-processor';
import { gainToDb } from '#core/sound/level';
import { advanceMeter, type MeterReading, restingMeter } from '#core/sound/meter';
import { planSound } from '#core/sound/plan';
import { type Air } from '#core/desk/air';
import { type Show } from '#core/desk/show';
import { frameToMicros } from '#core/time/rate';
import { SOUND_DELAY_MICROS } from '../time/delays';
import { type ShowSound } from '../client/show-client';
import { type DeskState } from '../client/state';
import { type SharedClock } from '../time/shared-clock';
import { SAMPLE_RATE } from './chunk';
import { DESK_INPUTS, EARS_OUTPUT, type FromDesk, type OutletSource, type ToDesk } from './desk-messages';
import { DeviceBoard } from './device-board';
import { type SoundDeviceDriver } from './device-driver';
import { LoudnessHistory } from './loudness-history';
import workletUrl from './worklets.ts?worker&url';

/** A difference that no pace can make up in time: the sound device slept. */
const JUMP_SECONDS = 0.25;
/** A lasting difference that would be noticed between picture and sound: the device left something out. */
const LASTING_SECONDS = 0.025;
/** Sound devices are off by far less; one that is simulated under load may not be. */
const MOST_STEERING = 0.01;
/** Seconds of buffer asked of the device: steadiness before quickness, all sound is later than this anyway. */
const LATENCY_HINT = 0.05;

/** The operator's ears while somebody of the crew speaks, as a factor. */
const UNDER_TALK = 0.3;

const clampTo = (value: number, most: number) => Math.max(-most, Math.min(most, value));

export interface SoundDeskEvents {
  /** A bus howls, or puts out what sounds like it. */
  howl(howl: Howl): void;
  /** A device has gone or come back. */
  device(deviceId: string, cause: string): void;
  /** The audio thread goes on: told several times a second, whatever the page and the mixer do. */
  beat(): void;
}

export class SoundDesk implements ShowSound {
  readonly listening = null;
  private level = 1;
  private under = 1;
  readonly readings = new Map<string, [MeterReading, MeterReading]>();
  /** Held until it is cleared by hand: a channel or bus has reached full scale. */
  readonly clipped = new Set<string>();
  readonly store: StoreApi<DeskState> = createStore(() => ({ devices: [], loudness: {}, reduction: {}, lateMs: 0 }));
  readonly history = new LoudnessHistory();
  readonly devices: DeviceBoard;
  /** Times that show clock and sound had to be put together anew with a jump. */
  resyncs = 0;
  private events: SoundDeskEvents = { howl: () => undefined, device: () => undefined, beat: () => undefined };
  private readonly node: AudioWorkletNode;
  private readonly ears: GainNode;
  /** How to end what feeds a key. */
  private readonly feeds = new Map<string, () => void>();
  private readonly freeInputs = Array.from({ length: DESK_INPUTS }, (_, i) => DESK_INPUTS - 1 - i);
  /** Output of the node by bus. */
  private outputs: Record<string, number> = {};
  private configured: readonly unknown[] = [];
  private gains = '';
  /** Audio context seconds at which show second 0 plays; null until the context runs. */
  private offset: number | null = null;
  private error = 0;
  /** How much faster the device's clock runs, learnt over time. */
  private pace = 0;
  private readonly timer: ReturnType<typeof setInterval>;

  private constructor(
    readonly context: AudioContext,
    private readonly clock: SharedClock,
    drivers: readonly SoundDeviceDriver[],
  ) {
    this.node = new AudioWorkletNode(context, 'bivoca-desk', {
      numberOfInputs: DESK_INPUTS,
      numberOfOutputs: 1 + MOST_BUSES,
      outputChannelCount: Array.from({ length: 1 + MOST_BUSES }, () => 2),
      channelCount: 2,
      channelCountMode: 'explicit',
    });
    this.node.port.onmessage = ({ data }: MessageEvent<FromDesk>) => this.receive(data);
    this.ears = new GainNode(context, { gain: 1 });
    this.node.connect(this.ears, EARS_OUTPUT).connect(context.destination);
    this.devices = new DeviceBoard(drivers, {
      context,
      feed: (key, node, output) => this.connectNode(key, node, output),
      bus: (busId) => (this.outputs[busId] === undefined ? null : { node: this.node, output: this.outputs[busId] }),
      state: (devices) => this.store.setState({ devices }),
      report: (deviceId, cause) => this.events.device(deviceId, cause),
    });
    this.timer = setInterval(() => this.follow(), 200);
  }

  /** Builds the graph; it is silent until the browser lets sound start (`wake`). */
  static async create(clock: SharedClock, drivers: readonly SoundDeviceDriver[]): Promise<SoundDesk> {
    const context = new AudioContext({ sampleRate: SAMPLE_RATE, latencyHint: LATENCY_HINT });
    await context.audioWorklet.addModule(workletUrl);
    // Where the operator listened last; a device that has gone is no reason to be deaf.
    const ears = localStorage.getItem('bivoca.ears');
    if (ears) await context.setSinkId(ears).catch(() => undefined);
    return new SoundDesk(context, clock, drivers);
  }

  listen(events: SoundDeskEvents): void {
    this.events = events;
  }

  get awake(): boolean {
    return this.context.state === 'running';
  }

  /** Lets sound start; browsers allow it after a press or a key in the window. */
  async wake(): Promise<void> {
    if (this.context.state === 'suspended') await this.context.resume();
  }

  /** How loud the operator hears it on this machine, 0 to 1; no mix is changed. */
  setListening(level: number): void {
    this.level = level;
    this.applyEars();
  }

  /** Turns what the operator hears down while somebody of the crew speaks. */
  setUnder(talk: boolean): void {
    this.under = talk ? UNDER_TALK : 1;
    this.applyEars();
  }

  /** Lets the operator hear a stream beside what is heard; returns how to end it. No mix has it. */
  alsoHear(stream: MediaStream): () => void {
    const node = this.context.createMediaStreamSource(stream);
    node.connect(this.ears);
    return () => node.disconnect();
  }

  private applyEars(): void {
    this.ears.gain.setTargetAtTime(this.level * this.under, this.context.currentTime, 0.02);
  }

  /** The device on which the operator listens; empty for the default one. @throws when the browser cannot. */
  async setEarsDevice(deviceId: string): Promise<void> {
    await this.context.setSinkId(deviceId);
  }

  /** Lets the operator hear a pair of outputs of a simulated device; null for none. */
  listenAt(deviceId: string, pair: number | null): void {
    this.devices.listen(deviceId, pair, this.ears);
  }

  private post(message: ToDesk, transfer: Transferable[] = []): void {
    this.node.port.postMessage(message, transfer);
  }

  private receive(message: FromDesk): void {
    if (message.type === 'howl') return this.events.howl(message);
    if (message.type === 'loudness') {
      this.store.setState({ loudness: message.readings });
      this.history.add(performance.now() / 1000, message.readings);
      return;
    }
    this.events.beat();
    const now = performance.now() / 1000;
    const reduction: Record<string, number> = {};
    for (const [id, [left, right, reductionDb]] of [...Object.entries(message.meters.channels), ...Object.entries(message.meters.buses)]) {
      const old = this.readings.get(id) ?? [restingMeter(), restingMeter()];
      this.readings.set(id, [advanceMeter(old[0], gainToDb(left), now), advanceMeter(old[1], gainToDb(right), now)]);
      if (left >= 1 || right >= 1) this.clipped.add(id);
      if (reductionDb < -0.1) reduction[id] = Math.round(reductionDb * 10) / 10;
    }
    const before = this.store.getState();
    const lateMs = Math.round((message.lateSamples / SAMPLE_RATE) * 1000);
    if (lateMs !== before.lateMs || Object.keys(reduction).length > 0 || Object.keys(before.reduction).length > 0)
      this.store.setState({ reduction, lateMs });
  }

  /** Sound chunks of a source come in through `port`. */
  connectPcm(id: string, port: MessagePort): void {
    this.disconnect(id);
    this.post({ type: 'feed-port', key: id, port }, [port]);
    this.feeds.set(id, () => this.post({ type: 'feed-gone', key: id }));
  }

  /** A device's sound. It waits for its picture in the desk. */
  connectStream(id: string, stream: MediaStream): void {
    const source = this.context.createMediaStreamSource(stream);
    this.feeds.set(id, this.connectNode(id, source, 0));
  }

  /** Connects a node as the feed `key`; returns how to end it. */
  private connectNode(key: string, node: AudioNode, output: number): () => void {
    this.disconnect(key);
    const input = this.freeInputs.pop();
    if (input === undefined) throw new Error(`more than ${DESK_INPUTS} live inputs are in use: remove one`);
    node.connect(this.node, output, input);
    this.post({ type: 'feed-input', key, input });
    return () => {
      this.post({ type: 'feed-gone', key });
      try {
        node.disconnect(this.node, output, input);
      } catch {
        // The node has gone with its device.
      }
      this.freeInputs.push(input);
    };
  }

  disconnect(id: string): void {
    this.feeds.get(id)?.();
    this.feeds.delete(id);
  }

  /**
   * Sends a feed's sound as it comes in, or what a bus puts out, to `port` as chunks with their show time, also after the
   * feed was connected anew. Returns how to end it.
   */
  sendTo(id: string, from: OutletSource, port: MessagePort): () => void {
    this.post({ type: 'outlet', id, from, port }, [port]);
    return () => this.post({ type: 'outlet-gone', id });
  }

  /** Measures the loudness of a channel before its fader too; null for none. */
  watch(id: string | null): void {
    this.post({ type: 'watch', id });
  }

  /** What a source sends, or on the programme, for a replay angle. */
  record(id: string, port: MessagePort): () => void {
    return this.sendTo(`replay ${id}`, id === PROGRAMME_BUS ? { kind: 'bus', busId: PROGRAMME_BUS } : { kind: 'feed', key: id }, port);
  }

  /** Programme sound goes to `port` as chunks. */
  sendProgramme(port: MessagePort): void {
    this.sendTo('encoder', { kind: 'bus', busId: PROGRAMME_BUS }, port);
  }

  /** Takes the show as it stands over: routing and processing now, gains for `frame`. Call it once a frame, as it is mixed. */
  apply(show: Show, air: Air, frame: number): void {
    const parts = [show.sound, show.sources, show.seats, show.framings, air.sound];
    if (parts.some((part, i) => part !== this.configured[i])) {
      this.configured = parts;
      this.assign(show);
      this.post({ type: 'config', config: deskConfig(show, air), outputs: this.outputs });
      this.devices.reconcile(show.sound);
      this.history.follow(air.sound.loudness);
    }
    if (this.offset === null) return;
    const plan = planSound(show, air, frame);
    const gains: DeskGains = { gains: plan.gains, buses: plan.buses, held: Object.keys(air.sound.held) };
    const key = JSON.stringify(gains);
    if (key === this.gains) return;
    this.gains = key;
    const at = frameToMicros(frame, show.rate) / 1e6 + this.offset;
    this.post({ type: 'gains', at: Math.round(at * SAMPLE_RATE), gains });
  }

  /** What a bus puts out, as a stream for a connection. `end` ends it. */
  streamOf(busId: string): { stream: MediaStream; end: () => void } | null {
    const output = this.outputs[busId];
    if (output === undefined) return null;
    const bridge = new MediaStreamAudioDestinationNode(this.context, { channelCount: 2 });
    this.node.connect(bridge, output);
    return {
      stream: bridge.stream,
      end: () => {
        try {
          this.node.disconnect(bridge, output);
        } catch {
          // The desk has closed.
        }
        bridge.stream.getTracks().forEach((t) => t.stop());
      },
    };
  }

  /** Gives every bus an output of the node, for as long as it lives. */
  private assign({ sound }: Show): void {
    const next: Record<string, number> = {};
    for (const { id } of sound.buses) if (this.outputs[id] !== undefined) next[id] = this.outputs[id];
    const used = new Set(Object.values(next));
    let free = EARS_OUTPUT + 1;
    for (const { id } of sound.buses) {
      if (next[id] !== undefined) continue;
      while (used.has(free)) free += 1;
      next[id] = free;
      used.add(free);
    }
    this.outputs = next;
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
      this.gains = '';
      this.post({ type: 'offset', samples: Math.round(this.offset * SAMPLE_RATE) });
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

  async close(): Promise<void> {
    clearInterval(this.timer);
    this.devices.close();
    for (const id of [...this.feeds.keys()]) this.disconnect(id);
    await this.context.close();
  }
}
