/** Plays chunks of sound at their show time, block by block. */
import { BLOCK, silence, stereo } from '#core/sound/dsp/stereo';
import { type SoundChunk, type SoundFlush } from './chunk';

/** Chunks kept at most: eight seconds and more. */
const MOST_CHUNKS = 400;
/** Samples at the beginning that are not counted as late: a source that starts catches up with the clock. */
const SETTLING = 96_000;

/** What is left of a chunk when everything from `sample` on is thrown away. */
function cutAt(chunk: SoundChunk, sample: number): SoundChunk[] {
  const keep = sample - chunk.sample;
  if (keep <= 0) return [];
  return [{ sample: chunk.sample, channels: chunk.channels.map((c) => c.slice(0, keep)) }];
}

const lengthOf = (chunk: SoundChunk) => chunk.channels[0]?.length ?? 0;

export class PcmFeed {
  readonly block = stereo();
  /** Samples that came after their time: they were heard as silence. */
  late = 0;
  private chunks: SoundChunk[] = [];
  private played = -Infinity;
  private first: number | null = null;

  constructor(private readonly port: MessagePort) {
    port.onmessage = ({ data }: MessageEvent<SoundChunk | SoundFlush>) => this.receive(data);
  }

  private receive(data: SoundChunk | SoundFlush): void {
    if ('flush' in data) {
      this.chunks = this.chunks.flatMap((chunk) => cutAt(chunk, data.flush));
      return;
    }
    this.first ??= data.sample;
    if (data.sample - this.first > SETTLING) this.late += Math.max(0, Math.min(lengthOf(data), this.played - data.sample));
    this.chunks.push(data);
    if (this.chunks.length > MOST_CHUNKS) this.chunks.splice(0, MOST_CHUNKS / 2);
  }

  /** Fills `block` with what sounds from show sample `start` on; false when that is nothing. */
  read(start: number): boolean {
    const end = start + BLOCK;
    this.played = end;
    while (this.chunks[0] && this.chunks[0].sample + lengthOf(this.chunks[0]) <= start) this.chunks.shift();
    let any = false;
    for (const chunk of this.chunks) {
      const from = Math.max(start, chunk.sample);
      const to = Math.min(end, chunk.sample + lengthOf(chunk));
      if (from >= to) {
        if (chunk.sample >= end) break;
        continue;
      }
      if (!any) silence(this.block);
      any = true;
      const [left, right] = [chunk.channels[0], chunk.channels[1] ?? chunk.channels[0]];
      if (left) this.block.left.set(left.subarray(from - chunk.sample, to - chunk.sample), from - start);
      if (right) this.block.right.set(right.subarray(from - chunk.sample, to - chunk.sample), from - start);
    }
    return any;
  }

  close(): void {
    this.port.close();
    this.chunks = [];
  }
}
