/** Decoded sound of the recorded tracks, read at any place and speed. */
import { SAMPLE_RATE } from '../sound/chunk';
import { soundDecoder } from './codec';
import { type Material } from './material';
import { type Packet, type TrackConfig } from './segment-format';

interface Block {
  /** Sample of show time. */
  from: number;
  left: Float32Array;
  right: Float32Array;
}

/** Opus needs 80 ms before the wanted place to settle (RFC 7845, section 4.6). */
const PREROLL_PACKETS = 4;
const BLOCK_LIMIT = 24;

export class SoundCache {
  private readonly blocks = new Map<string, Promise<Block | null>>();

  constructor(private readonly material: Material) {}

  /**
   * `count` stereo samples from show sample `from`, `step` recorded samples a sample (1 is normal speed); silence where
   * nothing is recorded. Linear interpolation at other speeds.
   */
  async read(trackId: string, from: number, count: number, step: number): Promise<[Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>]> {
    const left = new Float32Array(count);
    const right = new Float32Array(count);
    let block: Block | null = null;
    let missingUntil = -Infinity;
    for (let i = 0; i < count; i += 1) {
      const at = from + i * step;
      const index = Math.floor(at);
      if (!block || index < block.from || index >= block.from + block.left.length) {
        if (at < missingUntil) continue;
        block = await this.blockAt(trackId, (at / SAMPLE_RATE) * 1e6);
        if (!block || index < block.from || index >= block.from + block.left.length) {
          missingUntil = at + SAMPLE_RATE / 100;
          block = null;
          continue;
        }
      }
      const k = index - block.from;
      const share = at - index;
      const [l, r] = [block.left[k] as number, block.right[k] as number];
      left[i] = share === 0 ? l : l + ((block.left[k + 1] ?? l) - l) * share;
      right[i] = share === 0 ? r : r + ((block.right[k + 1] ?? r) - r) * share;
    }
    return [left, right];
  }

  private async blockAt(trackId: string, micros: number): Promise<Block | null> {
    const place = this.material.place(trackId, micros);
    if (!place) return null;
    const group = await this.material.read(place).catch(() => null);
    if (!group || group.segment.config.kind !== 'sound') return null;
    // A group that grows is decoded again when it has grown.
    const key = `${group.key}#${group.packets.length}`;
    const known = this.blocks.get(key);
    if (known) return known;
    const before = this.material.beside(place, -1);
    const lead = before ? (await this.material.read(before).catch(() => null))?.packets.slice(-PREROLL_PACKETS) : undefined;
    const decoding = decode(group.segment.config, lead ?? [], [...group.packets]);
    this.blocks.set(key, decoding);
    const oldest = this.blocks.keys().next().value;
    if (this.blocks.size > BLOCK_LIMIT && oldest !== undefined) this.blocks.delete(oldest);
    return decoding;
  }
}

/** Decodes a group with some packets before it, which only let the decoder settle. */
async function decode(config: Extract<TrackConfig, { kind: 'sound' }>, lead: Packet[], packets: Packet[]): Promise<Block | null> {
  const first = packets[0];
  const last = packets.at(-1);
  if (!first || !last) return null;
  const from = Math.round((first.stamp / 1e6) * SAMPLE_RATE);
  const length = Math.round(((last.stamp + last.duration) / 1e6) * SAMPLE_RATE) - from;
  const block: Block = { from, left: new Float32Array(length), right: new Float32Array(length) };
  const decoder = new AudioDecoder({
    output: (data) => {
      const at = Math.round((data.timestamp / 1e6) * SAMPLE_RATE) - from;
      const planes = [block.left, block.right].map((target, c) => {
        const plane = new Float32Array(data.numberOfFrames);
        data.copyTo(plane, { planeIndex: Math.min(c, data.numberOfChannels - 1), format: 'f32-planar' });
        return { target, plane };
      });
      for (const { target, plane } of planes) {
        const skip = Math.max(0, -at);
        const room = Math.min(plane.length, length - at);
        if (room > skip) target.set(plane.subarray(skip, room), Math.max(0, at));
      }
      data.close();
    },
    error: () => undefined,
  });
  try {
    decoder.configure(soundDecoder(config));
    for (const p of [...lead, ...packets])
      decoder.decode(new EncodedAudioChunk({ type: 'key', timestamp: p.stamp, duration: p.duration, data: p.data }));
    await decoder.flush();
  } catch {
    return null;
  } finally {
    if (decoder.state !== 'closed') decoder.close();
  }
  return block;
}
