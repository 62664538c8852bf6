/** One recorded track: takes packets from an encoder and puts them into segments. Shared by pictures and sound. */
import { nanoid } from 'nanoid';
import { ByteRate } from '../output/byte-rate';
import { type StoredSegment, type TrackStatus } from './messages';
import { type Packet, type TrackConfig } from './segment-format';
import { SegmentWriter } from './segment-writer';

/** Length of a segment: what retention drops at a time. */
const SEGMENT_MICROS = 10e6;
/** A pause longer than this is a gap. */
export const GAP_MICROS = 500_000;
/** A track that failed tries again after so many milliseconds. */
export const RETRY_MS = 2000;

export interface TrackEvents {
  opened: (segment: StoredSegment) => void;
  packet: (segmentId: string, packet: Packet) => void;
  /** Its file is complete; resolves when it is listed so. */
  closed: (segment: StoredSegment) => Promise<void>;
  trouble: (message: string) => void;
}

export class Track {
  readonly status: TrackStatus;
  private writer: SegmentWriter | null = null;
  private lastEnd = NaN;
  /** Until then the disk is left alone: it has just refused. */
  private retryAt = 0;
  private readonly rate = new ByteRate();
  private closing: Promise<unknown> = Promise.resolve();

  constructor(
    id: string,
    name: string,
    private readonly showId: string,
    private readonly events: TrackEvents,
  ) {
    this.status = { id, name, state: 'waiting', trouble: 'waiting for its first picture', frames: 0, missed: 0, bytesPerSecond: 0 };
  }

  /** The segment that grows; null between segments. */
  get open(): StoredSegment | null {
    return this.writer?.segment ?? null;
  }

  /** True when a packet at `stamp` cannot go on where the last one ended. */
  isGap(stamp: number): boolean {
    return stamp - this.lastEnd > GAP_MICROS || stamp < this.lastEnd - GAP_MICROS;
  }

  put(packet: Packet, config: TrackConfig): void {
    if (performance.now() < this.retryAt) return;
    const { writer } = this;
    const full = writer && packet.key && packet.stamp - writer.segment.from >= SEGMENT_MICROS;
    const changed = writer && packet.key && writer.segment.config !== config;
    if (full || changed || this.isGap(packet.stamp)) this.endSegment();
    if (!this.writer) {
      // A segment can only begin with a picture that needs no other.
      if (!packet.key) return;
      this.writer = this.begin(packet.stamp, config);
      this.events.opened(this.writer.segment);
    }
    const current = this.writer;
    current.add(packet);
    // The disk has refused it: the segment is ended already.
    if (this.writer !== current) return;
    this.lastEnd = packet.stamp + packet.duration;
    this.rate.add(packet.data.length, packet.stamp / 1e6);
    // Only what is on disk is recorded: a disk that refuses at once must not look well in between.
    if (current.segment.groups.length > 0) Object.assign(this.status, { state: 'recording', trouble: '' });
    this.events.packet(current.segment.id, packet);
  }

  private begin(from: number, config: TrackConfig): SegmentWriter {
    return new SegmentWriter(nanoid(16), this.status.id, config, from, this.showId, (message) => {
      this.retryAt = performance.now() + RETRY_MS;
      this.fail(`cannot be written: ${message}; it is tried again`);
      this.endSegment();
    });
  }

  /** Its state now, with the measured bitrate. */
  report(): TrackStatus {
    this.status.bytesPerSecond = this.status.state === 'recording' ? this.rate.bitrate / 8 : 0;
    return this.status;
  }

  /** Says what is wrong, once for each trouble; the other tracks go on. */
  fail(trouble: string): void {
    if (this.status.state === 'failed' && this.status.trouble === trouble) return;
    Object.assign(this.status, { state: 'failed', trouble });
    this.events.trouble(`${this.status.name}: ${trouble}. The other angles go on.`);
  }

  /** Ends the segment that grows; the next packet begins another. */
  endSegment(): void {
    const { writer } = this;
    this.writer = null;
    if (!writer) return;
    this.closing = this.closing.then(() => writer.close()).then(() => this.events.closed(writer.segment));
  }

  /** Resolves when everything that was ended is on disk. */
  async settled(): Promise<void> {
    await this.closing;
  }
}
