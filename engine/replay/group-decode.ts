/** One group of pictures as decoded frames; decodes as far as somebody asks, also while the group still grows. */
import { lastAtOrBefore } from '#core/replay/timeline';
import { pictureDecoder } from './codec';
import { type DecoderPool, type PooledDecoder } from './decoder-pool';
import { type PacketGroup } from './material';

export class GroupDecode {
  bytes = 0;
  private readonly frames: VideoFrame[] = [];
  private decoder: PooledDecoder | null = null;
  private fed = 0;
  /** Everything is fed; the decoder is putting out the rest. */
  private flushing = false;
  /** Nothing more will come. */
  private ended = false;
  /** Thrown away: it has no frames any more. */
  closed = false;
  private waiting: { stamp: number; done: () => void }[] = [];

  constructor(
    private readonly group: PacketGroup,
    private readonly pool: DecoderPool,
    private readonly grew: (bytes: number) => void,
  ) {}

  /** True while a decoder is held for it. */
  get busy(): boolean {
    return this.decoder !== null;
  }

  /** True while somebody waits for a frame of it. */
  get wanted(): boolean {
    return this.waiting.length > 0;
  }

  /** A frame of the caller's: the last at or before `micros`; null when the group has been thrown away or cannot be decoded. */
  async at(micros: number): Promise<VideoFrame | null> {
    const { packets } = this.group;
    const index = Math.max(
      0,
      lastAtOrBefore(packets, micros, (p) => p.stamp),
    );
    const wanted = packets[index];
    if (!wanted || this.closed) return null;
    this.feed(index + 1);
    if (!this.has(wanted.stamp) && !this.ended) await new Promise<void>((done) => this.waiting.push({ stamp: wanted.stamp, done }));
    const found = this.frames[lastAtOrBefore(this.frames, micros, (f) => f.timestamp)];
    return found ? found.clone() : null;
  }

  /** Decodes the rest of what there is, for steps and playing. */
  complete(): void {
    if (!this.closed) this.feed(this.group.packets.length);
  }

  /** False when it was cut short before `micros`: it must be decoded anew for that. */
  covers(micros: number): boolean {
    if (!this.flushing || this.fed === this.group.packets.length) return true;
    const next = this.group.packets[this.fed];
    return next !== undefined && micros < next.stamp;
  }

  /** Gives its decoder back when no more than what is decoded has been wanted of it. */
  rest(): void {
    if (!this.closed && this.decoder) this.finish();
  }

  private has(stamp: number): boolean {
    const last = this.frames.at(-1);
    return last !== undefined && last.timestamp >= stamp;
  }

  private feed(count: number): void {
    const { packets, segment } = this.group;
    if (this.closed || this.flushing || segment.config.kind !== 'picture') return;
    if (this.fed < count) {
      this.decoder ??= this.borrow();
      for (; this.fed < count; this.fed += 1) {
        const packet = packets[this.fed];
        if (!packet) break;
        this.decoder.decoder.decode(
          new EncodedVideoChunk({
            type: packet.key ? 'key' : 'delta',
            timestamp: packet.stamp,
            duration: packet.duration,
            data: packet.data,
          }),
        );
      }
    }
    if (this.fed === packets.length && this.group.complete()) this.finish();
  }

  private borrow(): PooledDecoder {
    const { config } = this.group.segment;
    if (config.kind !== 'picture') throw new Error('Sound has no pictures.');
    // Frames are kept for a while: those of a graphics card come from a small pool, and would stop its decoder.
    const lent = this.pool.take(
      { ...pictureDecoder(config), hardwareAcceleration: 'prefer-software', optimizeForLatency: true },
      JSON.stringify(config),
    );
    lent.output = (frame) => this.took(frame);
    lent.failed = () => this.finished();
    return lent;
  }

  private took(frame: VideoFrame): void {
    if (this.closed) {
      frame.close();
      return;
    }
    this.frames.push(frame);
    const bytes = frame.format ? frame.allocationSize() : frame.codedWidth * frame.codedHeight * 4;
    this.bytes += bytes;
    this.grew(bytes);
    this.waiting = this.waiting.filter(({ stamp, done }) => {
      if (frame.timestamp < stamp) return true;
      done();
      return false;
    });
  }

  /** All is fed: the decoder puts the rest out and goes back to the pool. */
  private finish(): void {
    const lent = this.decoder;
    if (!lent || this.flushing) return;
    this.flushing = true;
    lent.decoder
      .flush()
      .catch(() => undefined)
      .finally(() => {
        if (this.decoder === lent) {
          this.decoder = null;
          this.pool.give(lent);
        }
        this.finished();
      });
  }

  private finished(): void {
    this.flushing = true;
    this.ended = true;
    for (const { done } of this.waiting.splice(0)) done();
  }

  /** Closes every frame. */
  close(): void {
    this.closed = true;
    if (this.decoder) this.pool.discard(this.decoder);
    this.decoder = null;
    for (const frame of this.frames.splice(0)) frame.close();
    this.finished();
  }
}
