/** Reads a file's sound at any place as stereo samples at the inner rate. */
import { type AudioSample, AudioSampleSink, type InputAudioTrack } from 'mediabunny';
import { SAMPLE_RATE } from '../sound/chunk';

interface Decoded {
  /** Seconds in the file. */
  from: number;
  rate: number;
  channels: [Float32Array, Float32Array];
}

export class SoundReader {
  private readonly sink: AudioSampleSink;
  private samples: AsyncGenerator<AudioSample, void, unknown> | null = null;
  private decoded: Decoded[] = [];
  private next = NaN;

  constructor(track: InputAudioTrack) {
    this.sink = new AudioSampleSink(track);
  }

  /** `count` samples from `position` seconds; silence where the file has none. Linear interpolation between rates. */
  async read(position: number, count: number): Promise<[Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>]> {
    if (!this.samples || Math.abs(position - this.next) > 0.5 / SAMPLE_RATE) await this.restart(position);
    const until = position + count / SAMPLE_RATE;
    await this.fillUntil(until);
    const out: [Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>] = [new Float32Array(count), new Float32Array(count)];
    for (const block of this.decoded) {
      const length = block.channels[0].length;
      const first = Math.max(0, Math.ceil((block.from - position) * SAMPLE_RATE));
      const last = Math.min(count, Math.ceil((block.from + length / block.rate - position) * SAMPLE_RATE));
      for (let i = first; i < last; i += 1) {
        const place = (position + i / SAMPLE_RATE - block.from) * block.rate;
        const index = Math.max(0, Math.min(length - 1, Math.floor(place)));
        const share = Math.min(1, Math.max(0, place - index));
        for (const c of [0, 1] as const) {
          const data = block.channels[c];
          const a = data[index] ?? 0;
          out[c][i] = a + ((data[index + 1] ?? a) - a) * share;
        }
      }
    }
    this.decoded = this.decoded.filter((b) => b.from + b.channels[0].length / b.rate > until - 0.01);
    this.next = until;
    return out;
  }

  private async restart(position: number): Promise<void> {
    await this.samples?.return();
    this.decoded = [];
    this.samples = this.sink.samples(Math.max(0, position));
  }

  private async fillUntil(until: number): Promise<void> {
    for (;;) {
      const last = this.decoded.at(-1);
      if (last && last.from + last.channels[0].length / last.rate >= until) return;
      const { value, done } = (await this.samples?.next()) ?? { done: true, value: undefined };
      if (done || !value) return;
      this.decoded.push(decode(value));
      value.close();
    }
  }

  async close(): Promise<void> {
    await this.samples?.return();
    this.samples = null;
    this.decoded = [];
  }
}

function decode(sample: AudioSample): Decoded {
  const plane = (index: number) => {
    const data = new Float32Array(sample.numberOfFrames);
    sample.copyTo(data, { planeIndex: index, format: 'f32-planar' });
    return data;
  };
  const left = plane(0);
  const right = sample.numberOfChannels > 1 ? plane(1) : left;
  return { from: sample.timestamp, rate: sample.sampleRate, channels: [left, right] };
}
