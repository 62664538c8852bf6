/** What is recorded, as the decks find it: groups of packets by track and time, from disk or from the segment that grows. */
import { lastAtOrBefore, segmentAt } from '#core/replay/timeline';
import { openSegment, type SegmentReader } from '../storage/replay-segments';
import { type IndexMessage, type StoredSegment } from './messages';
import { type Packet, readPackets } from './segment-format';
import { SOUND_GROUP_MICROS } from './segment-writer';

/** Packets that begin with a key: what a decoder starts from. */
export interface PacketGroup {
  key: string;
  segment: StoredSegment;
  index: number;
  /** Grows while `complete()` is false. */
  packets: readonly Packet[];
  complete: () => boolean;
}

/** A segment that grows, with its packets in memory. */
interface Growing {
  groups: Packet[][];
  done: boolean;
}

/** Files kept open for reading. */
const FILE_LIMIT = 24;

export class Material {
  private readonly tracks = new Map<string, StoredSegment[]>();
  private readonly byId = new Map<string, StoredSegment>();
  private readonly growing = new Map<string, Growing>();
  private readonly files = new Map<string, Promise<SegmentReader>>();

  take(message: IndexMessage): void {
    switch (message.type) {
      case 'segments':
        return message.segments.forEach((s) => this.put(s));
      case 'opened':
        this.growing.set(message.segment.id, { groups: [], done: false });
        return this.put(message.segment);
      case 'packet':
        return this.grow(message.segmentId, message.packet);
      case 'closed': {
        const growing = this.growing.get(message.segment.id);
        if (growing) growing.done = true;
        this.growing.delete(message.segment.id);
        this.drop(message.segment.id);
        if (message.segment.groups.length > 0) this.put(message.segment);
        return;
      }
      case 'dropped':
        return message.ids.forEach((id) => this.drop(id));
    }
  }

  private put(segment: StoredSegment): void {
    this.byId.set(segment.id, segment);
    const list = this.tracks.get(segment.trackId) ?? [];
    this.tracks.set(segment.trackId, list);
    list.splice(lastAtOrBefore(list, segment.from, (s) => s.from) + 1, 0, segment);
  }

  private drop(id: string): void {
    const segment = this.byId.get(id);
    if (!segment) return;
    this.byId.delete(id);
    this.closeFile(id);
    const list = this.tracks.get(segment.trackId);
    list?.splice(
      list.findIndex((s) => s.id === id),
      1,
    );
  }

  private grow(id: string, packet: Packet): void {
    const segment = this.byId.get(id);
    const growing = this.growing.get(id);
    if (!segment || !growing) return;
    const last = segment.groups.at(-1);
    if (packet.key && (!last || segment.config.kind === 'picture' || packet.stamp - last.stamp >= SOUND_GROUP_MICROS)) {
      segment.groups.push({ stamp: packet.stamp, offset: 0 });
      growing.groups.push([]);
    }
    growing.groups.at(-1)?.push(packet);
    segment.to = Math.max(segment.to, packet.stamp + packet.duration);
  }

  /** All segments of a track, in order. */
  segmentsOf(trackId: string): readonly StoredSegment[] {
    return this.tracks.get(trackId) ?? [];
  }

  /** The group that holds `micros` of a track, and those beside it; null in a gap. */
  place(trackId: string, micros: number): { segment: StoredSegment; index: number } | null {
    const segment = segmentAt(this.segmentsOf(trackId), micros);
    if (!segment || segment.groups.length === 0) return null;
    return {
      segment,
      index: Math.max(
        0,
        lastAtOrBefore(segment.groups, micros, (g) => g.stamp),
      ),
    };
  }

  /** The group `by` groups after another, over segments; null where nothing follows without a gap. */
  beside(place: { segment: StoredSegment; index: number }, by: 1 | -1): { segment: StoredSegment; index: number } | null {
    const index = place.index + by;
    if (index >= 0 && index < place.segment.groups.length) return { segment: place.segment, index };
    const at = by > 0 ? place.segment.to + 1000 : place.segment.from - 1000;
    const next = segmentAt(this.segmentsOf(place.segment.trackId), at);
    return next && next !== place.segment && next.groups.length > 0 ? { segment: next, index: by > 0 ? 0 : next.groups.length - 1 } : null;
  }

  /** Reads a group: from memory while its segment grows, else from disk. */
  async read({ segment, index }: { segment: StoredSegment; index: number }): Promise<PacketGroup> {
    const key = `${segment.id}/${index}`;
    const growing = this.growing.get(segment.id);
    const live = growing?.groups[index];
    if (growing && live) return { key, segment, index, packets: live, complete: () => growing.done || growing.groups.length > index + 1 };
    const from = segment.groups[index]?.offset ?? 0;
    const to = segment.groups[index + 1]?.offset ?? segment.bytes;
    const packets = readPackets(await (await this.file(segment.id)).read(from, to));
    return { key, segment, index, packets, complete: () => true };
  }

  private file(id: string): Promise<SegmentReader> {
    const known = this.files.get(id);
    if (known) {
      this.files.delete(id);
      this.files.set(id, known);
      return known;
    }
    const opened = openSegment(id);
    this.files.set(id, opened);
    opened.catch(() => this.files.delete(id));
    const oldest = this.files.keys().next().value;
    if (this.files.size > FILE_LIMIT && oldest !== undefined) this.closeFile(oldest);
    return opened;
  }

  private closeFile(id: string): void {
    const file = this.files.get(id);
    this.files.delete(id);
    void file?.then((f) => f.close()).catch(() => undefined);
  }
}
