/** The audio thread: the desk, fed by chunks from workers and by streams, tapped by encoders and recorders. */
import { LOOKAHEAD } from '#core/sound/dsp/bus-processor';
import { type DeskGains, DeskProcessor } from '#core/sound/dsp/desk-processor';
import { BLOCK, stereo, type Stereo } from '#core/sound/dsp/stereo';
import { LIVE_WAIT_MS } from '#core/sound/timing';
import { type FromDesk, type OutletSource, type ToDesk } from './desk-messages';
import { PcmFeed } from './pcm-feed';
import { OutletWriter } from './outlet-writer';

declare const currentFrame: number;
declare const sampleRate: number;
declare function registerProcessor(name: string, of: new () => AudioWorkletProcessor): void;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}

interface Outlet {
  from: OutletSource;
  writer: OutletWriter;
}

/** Samples that live inputs wait for their pictures; chunks from workers come with their show time instead. */
const LIVE_WAIT = Math.round((LIVE_WAIT_MS * sampleRate) / 1000);
/** Blocks between two reports of meters: 25 a second. */
const METER_BLOCKS = Math.round(sampleRate / 25 / BLOCK);
/** Reports of loudness: five a second. */
const LOUDNESS_BLOCKS = METER_BLOCKS * 5;

class DeskNode extends AudioWorkletProcessor {
  private readonly desk = new DeskProcessor(sampleRate);
  private readonly chunked = new Map<string, PcmFeed>();
  private readonly streamed = new Map<string, number>();
  private readonly feeds = new Map<string, Stereo>();
  private readonly outlets = new Map<string, Outlet>();
  private pending: { at: number; gains: DeskGains }[] = [];
  private outputs: Record<string, number> = {};
  private offset: number | null = null;
  private blocks = 0;
  private readonly others = stereo();

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<ToDesk>) => this.receive(data);
  }

  private say(message: FromDesk): void {
    this.port.postMessage(message);
  }

  private receive(message: ToDesk): void {
    switch (message.type) {
      case 'config':
        this.outputs = message.outputs;
        return this.desk.configure(message.config);
      case 'gains':
        this.pending.push(message);
        return;
      case 'offset':
        this.offset = message.samples;
        for (const { writer } of this.outlets.values()) writer.restart();
        return;
      case 'feed-port':
        this.chunked.get(message.key)?.close();
        this.streamed.delete(message.key);
        this.chunked.set(message.key, new PcmFeed(message.port));
        return;
      case 'feed-input':
        this.drop(message.key);
        this.streamed.set(message.key, message.input);
        return;
      case 'feed-gone':
        return this.drop(message.key);
      case 'outlet':
        this.outlets.set(message.id, { from: message.from, writer: new OutletWriter(message.port) });
        return this.tellEars();
      case 'outlet-gone':
        this.outlets.delete(message.id);
        return this.tellEars();
      case 'watch':
        return this.desk.watch(message.id);
    }
  }

  private tellEars(): void {
    this.desk.alsoHear([...this.outlets.values()].flatMap(({ from }) => (from.kind === 'ears' ? [from.ears] : [])));
  }

  private drop(key: string): void {
    this.chunked.get(key)?.close();
    this.chunked.delete(key);
    this.streamed.delete(key);
    this.feeds.delete(key);
  }

  process(inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    while (this.pending[0] && this.pending[0].at < currentFrame + BLOCK)
      this.desk.setGains((this.pending.shift() as { gains: DeskGains }).gains);
    this.gather(inputs);
    for (const howl of this.desk.process(this.feeds, BLOCK)) this.say({ type: 'howl', ...howl });
    this.put(outputs[0], this.desk.ears);
    for (const [busId, output] of Object.entries(this.outputs)) {
      const out = this.desk.outOf(busId);
      if (out) this.put(outputs[output], out);
    }
    if (this.offset !== null) this.hand(this.offset);
    this.blocks += 1;
    if (this.blocks % METER_BLOCKS === 0) {
      let lateSamples = 0;
      // The feed that fared worst: feeds are late together, and their sum would say nothing.
      for (const feed of this.chunked.values()) lateSamples = Math.max(lateSamples, feed.late);
      this.say({ type: 'meters', meters: this.desk.meters(), lateSamples });
    }
    if (this.blocks % LOUDNESS_BLOCKS === 0) this.say({ type: 'loudness', readings: this.desk.loudness() });
    return true;
  }

  private gather(inputs: Float32Array[][]): void {
    for (const [key, feed] of this.chunked) {
      const heard = this.offset !== null && feed.read(currentFrame - this.offset);
      if (heard) this.feeds.set(key, feed.block);
      else this.feeds.delete(key);
    }
    for (const [key, input] of this.streamed) {
      const left = inputs[input]?.[0];
      if (left) this.feeds.set(key, { left, right: inputs[input]?.[1] ?? left });
      else this.feeds.delete(key);
    }
  }

  private put(output: Float32Array[] | undefined, { left, right }: Stereo): void {
    output?.[0]?.set(left);
    output?.[1]?.set(right);
  }

  /** Outlets carry show time: of what was captured, whatever it waited for on the way. */
  private hand(offset: number): void {
    const now = currentFrame - offset;
    for (const { from, writer } of this.outlets.values()) {
      // A bus leaves one look-ahead later than its channels came in; a live input has not waited for its picture yet.
      if (from.kind === 'ears') {
        this.desk.hear(from.ears, this.others);
        writer.write(this.others, now - LOOKAHEAD);
      } else if (from.kind === 'bus') writer.write(this.desk.outOf(from.busId), now - LOOKAHEAD);
      else writer.write(this.feeds.get(from.key) ?? null, now + (this.streamed.has(from.key) ? LIVE_WAIT : 0));
    }
  }
}

registerProcessor('bivoca-desk', DeskNode);
