/** Writes one segment of a track to OPFS as packets come, and keeps its index. */
import { causeOf } from '#core/schema/cause';
import { openForWriting, type SyncHandle } from '../storage/opfs';
import { type StoredSegment } from './messages';
import { headerBytes, type Packet, packetBytes, type TrackConfig } from './segment-format';

/** Sound is found in groups of this length, microseconds. */
export const SOUND_GROUP_MICROS = 500_000;

export class SegmentWriter {
  readonly segment: StoredSegment;
  private handle: SyncHandle | null = null;
  /** Packets that came before the file was open. */
  private early: Packet[] = [];
  private ended = false;
  private readonly opening: Promise<void>;

  constructor(
    id: string,
    trackId: string,
    config: TrackConfig,
    from: number,
    private readonly showId: string,
    /** The disk refused; called once. */
    private readonly failed: (message: string) => void,
  ) {
    this.segment = { id, trackId, config, from, to: from, bytes: 0, frames: 0, groups: [] };
    this.opening = this.open();
  }

  private async open(): Promise<void> {
    try {
      this.handle = await openForWriting('replay', this.segment.id);
      const header = headerBytes(this.segment.config, { showId: this.showId, trackId: this.segment.trackId });
      this.handle.write(header, { at: 0 });
      this.segment.bytes = header.length;
      for (const packet of this.early.splice(0)) this.write(packet);
    } catch (error) {
      this.refuse(error);
    }
  }

  /** Adds a packet behind the others. */
  add(packet: Packet): void {
    if (this.ended) return;
    if (this.handle) this.write(packet);
    else this.early.push(packet);
  }

  private write(packet: Packet): void {
    const { segment, handle } = this;
    if (!handle || this.ended) return;
    const bytes = packetBytes(packet);
    try {
      if (handle.write(bytes, { at: segment.bytes }) < bytes.length) throw new DOMException('short write', 'QuotaExceededError');
    } catch (error) {
      this.refuse(error);
      return;
    }
    const last = segment.groups.at(-1);
    const picture = segment.config.kind === 'picture';
    if (packet.key && (!last || picture || packet.stamp - last.stamp >= SOUND_GROUP_MICROS))
      segment.groups.push({ stamp: packet.stamp, offset: segment.bytes });
    segment.bytes += bytes.length;
    if (picture) segment.frames += 1;
    segment.to = Math.max(segment.to, packet.stamp + packet.duration);
  }

  private refuse(error: unknown): void {
    if (this.ended) return;
    this.ended = true;
    const full = error instanceof DOMException && error.name === 'QuotaExceededError';
    this.failed(full ? 'the disk is full' : `the disk refused it (${causeOf(error)})`);
  }

  /** Ends the file; it then holds all its whole packets. */
  async close(): Promise<void> {
    await this.opening;
    this.ended = true;
    try {
      // A write that was cut short leaves half a packet.
      this.handle?.truncate(this.segment.bytes);
      this.handle?.flush();
      this.handle?.close();
    } catch {
      // What is written stays readable up to its last whole packet.
    }
    this.handle = null;
  }
}
