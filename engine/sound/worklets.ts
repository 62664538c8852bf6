/** Everything that runs on the audio thread. */
import { Limiter } from '#core/sound/limiter';
import { type SoundChunk, type SoundFlush, type ToPcmWorklet } from './chunk';

declare const currentFrame: number;
declare const sampleRate: number;
declare function registerProcessor(name: string, of: new (options: AudioWorkletNodeOptions) => AudioWorkletProcessor): void;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}

type Block = Float32Array[];

/** What is left of a chunk when everything from `sample` on is thrown away. */
function cutAt(chunk: SoundChunk, sample: number): SoundChunk[] {
  const keep = sample - chunk.sample;
  if (keep <= 0) return [];
  return [{ sample: chunk.sample, channels: chunk.channels.map((c) => c.slice(0, keep)) }];
}

/** Plays chunks of sound at their show time. */
class PcmProcessor extends AudioWorkletProcessor {
  private chunks: SoundChunk[] = [];
  private offset: number | null = null;
  private source: MessagePort | null = null;
  private open = true;

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<ToPcmWorklet | { type: 'end' }>) => {
      if (data.type === 'offset') this.offset = data.samples;
      else if (data.type === 'port') this.listen(data.port);
      else this.close();
    };
  }

  private listen(port: MessagePort): void {
    this.source?.close();
    this.source = port;
    port.onmessage = ({ data }: MessageEvent<SoundChunk | SoundFlush>) => {
      if ('flush' in data) this.chunks = this.chunks.flatMap((chunk) => cutAt(chunk, data.flush));
      else this.chunks.push(data);
      if (this.chunks.length > 400) this.chunks.splice(0, 200);
    };
  }

  private close(): void {
    this.open = false;
    this.source?.close();
  }

  process(_: Block[], outputs: Block[]): boolean {
    const out = outputs[0] ?? [];
    const length = out[0]?.length ?? 128;
    if (this.offset === null) return this.open;
    const start = currentFrame - this.offset;
    while (this.chunks[0] && this.chunks[0].sample + (this.chunks[0].channels[0]?.length ?? 0) <= start) this.chunks.shift();
    for (const chunk of this.chunks) {
      const from = Math.max(start, chunk.sample);
      const to = Math.min(start + length, chunk.sample + (chunk.channels[0]?.length ?? 0));
      if (from >= to) {
        if (chunk.sample >= start + length) break;
        continue;
      }
      out.forEach((channel, c) => {
        const data = chunk.channels[Math.min(c, chunk.channels.length - 1)];
        if (data) channel.set(data.subarray(from - chunk.sample, to - chunk.sample), from - start);
      });
    }
    return this.open;
  }
}

/** Says the highest sample of each channel, 25 times a second. */
class MeterProcessor extends AudioWorkletProcessor {
  private peaks = [0, 0];
  private blocks = 0;
  private open = true;

  constructor() {
    super();
    this.port.onmessage = () => {
      this.open = false;
    };
  }

  process(inputs: Block[]): boolean {
    const input = inputs[0] ?? [];
    for (let c = 0; c < 2; c += 1) {
      const channel = input[c] ?? input[0];
      if (!channel) continue;
      for (let i = 0; i < channel.length; i += 1) this.peaks[c] = Math.max(this.peaks[c] as number, Math.abs(channel[i] as number));
    }
    this.blocks += 1;
    if (this.blocks * 128 >= sampleRate / 25) {
      this.port.postMessage(this.peaks);
      this.peaks = [0, 0];
      this.blocks = 0;
    }
    return this.open;
  }
}

/** Holds the programme under its ceiling. */
class LimiterProcessor extends AudioWorkletProcessor {
  private readonly limiter: Limiter;

  constructor(options: AudioWorkletNodeOptions) {
    super();
    const { ceiling, lookahead } = options.processorOptions as { ceiling: number; lookahead: number };
    this.limiter = new Limiter(ceiling, lookahead, 2, sampleRate);
    this.port.onmessage = ({ data }: MessageEvent<{ ceiling: number }>) => {
      this.limiter.ceiling = data.ceiling;
    };
  }

  process(inputs: Block[], outputs: Block[]): boolean {
    const input = inputs[0] ?? [];
    const stereo = input.length === 1 ? [input[0] as Float32Array, input[0] as Float32Array] : input;
    this.limiter.process(stereo, outputs[0] ?? [], outputs[0]?.[0]?.length ?? 0);
    return true;
  }
}

/** Hands the programme, or a channel, on to an encoder, with the show sample of each block. */
class TapProcessor extends AudioWorkletProcessor {
  private target: MessagePort | null = null;
  private open = true;
  private offset: number | null = null;
  private readonly block = 1920;
  private left = new Float32Array(this.block);
  private right = new Float32Array(this.block);
  private filled = 0;

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<ToPcmWorklet | { type: 'end' }>) => {
      if (data.type === 'port') this.target = data.port;
      else if (data.type === 'end') this.open = false;
      else if (this.offset !== data.samples) {
        this.offset = data.samples;
        this.filled = 0;
      }
    };
  }

  process(inputs: Block[]): boolean {
    const input = inputs[0] ?? [];
    const length = 128;
    if (!this.open || !this.target || this.offset === null) return this.open;
    const left = input[0];
    const right = input[1] ?? left;
    if (left && right) {
      this.left.set(left, this.filled);
      this.right.set(right, this.filled);
    } else {
      this.left.fill(0, this.filled, this.filled + length);
      this.right.fill(0, this.filled, this.filled + length);
    }
    this.filled += length;
    if (this.filled >= this.block) {
      const chunk: SoundChunk = { sample: currentFrame + length - this.block - this.offset, channels: [this.left, this.right] };
      this.target.postMessage(chunk, [this.left.buffer, this.right.buffer]);
      this.left = new Float32Array(this.block);
      this.right = new Float32Array(this.block);
      this.filled = 0;
    }
    return true;
  }
}

registerProcessor('bivoca-pcm', PcmProcessor);
registerProcessor('bivoca-meter', MeterProcessor);
registerProcessor('bivoca-limiter', LimiterProcessor);
registerProcessor('bivoca-tap', TapProcessor);
