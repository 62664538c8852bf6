/**
 * What the crew says to each other, at the window that runs the show and at panels alike. A microphone of this machine is open while it is used;
 * it is sent while a key is held. What is heard goes straight to the loudspeaker: never into the desk of the show, and never back.
 */
import { createStore, type StoreApi } from 'zustand/vanilla';
import { packSound, unpackSound } from '#core/panels/sound-line';
import { causeOf } from '#core/schema/cause';
import { type CrewState, type ShowCrew } from '../client/show-client';
import { OpusPlayer } from './opus-player';

export interface CrewLine {
  /** False while the line is down. */
  talk: (to: string | null) => boolean;
  bytes: (bytes: Uint8Array) => void;
}

/** An open microphone that nobody has spoken into for so long is closed, milliseconds. */
const IDLE_MS = 60_000;
/** Bits a second of a voice. */
const BITRATE = 32_000;
/** A speaker who has not been heard for so long is silent, milliseconds. */
const HEARD_MS = 400;

interface Microphone {
  stream: MediaStream;
  reader: ReadableStreamDefaultReader<AudioData>;
  encoder: AudioEncoder;
}

export class CrewTalk implements ShowCrew {
  readonly store: StoreApi<CrewState> = createStore<CrewState>(() => ({
    members: [],
    you: null,
    to: null,
    microphone: 'off',
    message: '',
    hearing: true,
    speaking: [],
  }));
  private context: AudioContext | null = null;
  private out: GainNode | null = null;
  private readonly players = new Map<number, OpusPlayer>();
  private microphone: Microphone | null = null;
  private opening: Promise<void> | null = null;
  private idle: ReturnType<typeof setTimeout> | null = null;
  private readonly timer: ReturnType<typeof setInterval>;

  /** `spoken` is told whether somebody is heard: what else is listened to is turned down under it. */
  constructor(
    private readonly line: CrewLine,
    private readonly spoken: (heard: boolean) => void = () => undefined,
  ) {
    this.timer = setInterval(() => this.look(), 150);
  }

  private set(change: Partial<CrewState>): void {
    this.store.setState(change);
  }

  /** The context in which the crew is heard. Where nobody has pressed anything yet, it waits for that. */
  private sound(): AudioContext {
    this.context ??= new AudioContext({ sampleRate: 48_000, latencyHint: 'interactive' });
    this.out ??= new GainNode(this.context, { gain: 1 });
    this.out.connect(this.context.destination);
    if (this.context.state === 'suspended') void this.context.resume();
    return this.context;
  }

  members(members: CrewState['members'], you: number): void {
    const numbers = new Set(members.map((m) => m.number));
    for (const [number, player] of this.players) {
      if (numbers.has(number)) continue;
      player.close();
      this.players.delete(number);
    }
    this.set({ members, you });
  }

  /** The line is down: nobody is there, and nobody hears. */
  away(): void {
    this.members([], -1);
    this.set({ you: null, to: null });
  }

  /** A packet that somebody has said. */
  hear(bytes: Uint8Array): void {
    const packet = unpackSound('talk', bytes);
    if (!packet || !this.store.getState().hearing) return;
    const context = this.sound();
    let player = this.players.get(packet.number);
    if (!player) {
      if (this.players.size >= 32 || !this.out) return;
      player = new OpusPlayer(context, this.out, 1);
      this.players.set(packet.number, player);
    }
    player.packet(packet.data);
    if (!this.store.getState().speaking.includes(packet.number)) this.look();
  }

  private look(): void {
    const now = performance.now();
    const speaking = [...this.players].flatMap(([number, { heardAt }]) => (now - heardAt < HEARD_MS ? [number] : []));
    const before = this.store.getState().speaking;
    if (speaking.join() === before.join()) return;
    this.set({ speaking });
    this.spoken(speaking.length > 0);
  }

  talk(to: string): void {
    if (this.idle !== null) clearTimeout(this.idle);
    if (!this.line.talk(to)) return this.set({ message: 'The server does not answer: nobody hears you.' });
    this.set({ to, message: '' });
    return void this.open();
  }

  end(): void {
    if (this.store.getState().to === null) return;
    this.set({ to: null });
    this.line.talk(null);
    this.idle = setTimeout(() => this.shut(), IDLE_MS);
  }

  setHearing(hearing: boolean): void {
    this.set({ hearing });
    if (hearing) this.sound();
  }

  setLevel(level: number): void {
    this.sound();
    this.out?.gain.setTargetAtTime(level, 0, 0.02);
  }

  /** Opens the microphone, once. */
  private open(): Promise<void> {
    if (this.microphone) return Promise.resolve();
    this.opening ??= this.begin().finally(() => {
      this.opening = null;
    });
    return this.opening;
  }

  private async begin(): Promise<void> {
    this.set({ microphone: 'opening' });
    try {
      if (typeof MediaStreamTrackProcessor === 'undefined' || typeof AudioEncoder === 'undefined')
        throw new Error('this browser cannot send sound. Use a current Chromium browser');
      if (!navigator.mediaDevices) throw new Error('the browser opens microphones over HTTPS only. Open the link that begins with https');
      const stream = await navigator.mediaDevices.getUserMedia({ audio: { echoCancellation: true, noiseSuppression: true } });
      const context = this.sound();
      // At the rate and number of channels of the encoder, whatever the microphone has.
      const bridge = new MediaStreamAudioDestinationNode(context, { channelCount: 1, channelCountMode: 'explicit' });
      context.createMediaStreamSource(stream).connect(bridge);
      const [track] = bridge.stream.getAudioTracks();
      if (!track) throw new Error('it gives no sound');
      const encoder = new AudioEncoder({ output: (chunk) => this.send(chunk), error: () => this.shut() });
      encoder.configure({
        codec: 'opus',
        sampleRate: context.sampleRate,
        numberOfChannels: 1,
        bitrate: BITRATE,
        opus: { frameDuration: 20_000 },
      });
      const sounds = new MediaStreamTrackProcessor({ track }).readable as unknown as ReadableStream<AudioData>;
      this.microphone = { stream, reader: sounds.getReader(), encoder };
      stream.getAudioTracks()[0]?.addEventListener('ended', () => this.fail('it was unplugged, or its permission was withdrawn'));
      this.set({ microphone: 'open' });
      void this.read(this.microphone);
    } catch (error) {
      this.fail(causeOf(error));
    }
  }

  private fail(cause: string): void {
    this.end();
    this.shut();
    this.set({ microphone: 'refused', message: `The microphone cannot be used: ${cause.replace(/\.$/, '')}. Nobody hears you.` });
  }

  private async read({ reader, encoder }: Microphone): Promise<void> {
    for (;;) {
      const { value, done } = await reader.read().catch(() => ({ value: undefined, done: true }));
      if (done || !value) return;
      if (this.store.getState().to !== null && encoder.state === 'configured') encoder.encode(value);
      value.close();
    }
  }

  private send(chunk: EncodedAudioChunk): void {
    if (this.store.getState().to === null) return;
    const data = new Uint8Array(chunk.byteLength);
    chunk.copyTo(data);
    // Whose it is, the server knows.
    this.line.bytes(packSound('talk', 0, data));
  }

  private shut(): void {
    const { microphone } = this;
    this.microphone = null;
    if (!microphone) return;
    void microphone.reader.cancel().catch(() => undefined);
    if (microphone.encoder.state !== 'closed') microphone.encoder.close();
    microphone.stream.getTracks().forEach((t) => t.stop());
    this.set({ microphone: 'off' });
  }

  close(): void {
    clearInterval(this.timer);
    if (this.idle !== null) clearTimeout(this.idle);
    this.end();
    this.shut();
    for (const player of this.players.values()) player.close();
    void this.context?.close();
  }
}
