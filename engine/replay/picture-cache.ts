/** Decoded groups of pictures, bounded in bytes: the ones used last stay. */
import { DecoderPool } from './decoder-pool';
import { GroupDecode } from './group-decode';
import { type Material } from './material';

/** Groups that may hold a decoder in the middle of their work. */
const MOST_BUSY = 6;
/** Two places within this are steps, not seeks, microseconds. */
const NEAR_MICROS = 1e6;
/** A decoder that waits so long for the next wish goes back to the others, milliseconds. */
const REST_MS = 5;
/** Groups decoded ahead of a deck that plays, where the cache has room: about a second, for on a busy machine decoders are held up for half of that. */
const GROUPS_AHEAD = 3;
/** Times that a group is read anew when it was pushed out before its frame was taken. */
const MOST_AGAIN = 3;

export class PictureCache {
  bytes = 0;
  /** Bytes of the largest group so far. */
  private largest = 1;
  private readonly groups = new Map<string, GroupDecode>();
  private readonly loading = new Map<string, Promise<GroupDecode | null>>();
  private readonly pool = new DecoderPool();
  private idle: ReturnType<typeof setTimeout> | undefined;
  private closed = false;
  private stood: NonNullable<ReturnType<Material['place']>> | null = null;

  constructor(
    private readonly material: Material,
    public limit: number,
  ) {}

  /**
   * The recorded frame of a time, for the caller to close; null in a gap. `rate` says which way the deck moves, so that the
   * neighbour is ready in time; Infinity wants this one frame only.
   */
  async frameAt(trackId: string, micros: number, rate: number): Promise<VideoFrame | null> {
    const place = this.material.place(trackId, micros);
    if (!place) return null;
    let group = await this.group(place, micros);
    let frame = (await group?.at(micros)) ?? null;
    // Between its reading and the wish others may have pushed it out again.
    for (let again = 0; again < MOST_AGAIN && frame === null && group?.closed && !this.closed; again += 1) {
      group = await this.group(place, micros);
      frame = (await group?.at(micros)) ?? null;
    }
    if (group && rate === 0) this.whenStanding(place, group);
    else if (group && Math.abs(rate) <= 2) {
      group.complete();
      void this.prefetch(place, rate > 0 ? 1 : -1, this.ahead());
    }
    return frame;
  }

  /** Groups ahead for which there is room beside the one that is shown, for two decks. */
  private ahead(): number {
    return Math.max(1, Math.min(GROUPS_AHEAD, Math.floor(this.limit / (2 * this.largest)) - 1));
  }

  /** After a step, what further steps will want is decoded ahead; after a seek to somewhere else nothing more than was asked. */
  private whenStanding(place: NonNullable<ReturnType<Material['place']>>, group: GroupDecode): void {
    const before = this.stood;
    this.stood = place;
    const near =
      before &&
      before.segment.trackId === place.segment.trackId &&
      Math.abs((before.segment.groups[before.index]?.stamp ?? 0) - (place.segment.groups[place.index]?.stamp ?? 0)) < NEAR_MICROS;
    clearTimeout(this.idle);
    this.idle = setTimeout(
      () => {
        if (!near) return group.rest();
        group.complete();
        void this.prefetch(place, -1);
        void this.prefetch(place, 1);
      },
      near ? 0 : REST_MS,
    );
  }

  /** Decodes `count` groups beside `place`, one after another. */
  private async prefetch(place: NonNullable<ReturnType<Material['place']>>, by: 1 | -1, count = 1): Promise<void> {
    const next = count > 0 ? this.material.beside(place, by) : null;
    if (!next) return;
    if (!this.groups.has(`${next.segment.id}/${next.index}`)) (await this.group(next, Infinity))?.complete();
    return this.prefetch(next, by, count - 1);
  }

  private async group(place: NonNullable<ReturnType<Material['place']>>, micros: number): Promise<GroupDecode | null> {
    const key = `${place.segment.id}/${place.index}`;
    const known = this.groups.get(key);
    if (known && !known.covers(micros)) this.forget(key, known);
    else if (known) {
      this.groups.delete(key);
      this.groups.set(key, known);
      return known;
    }
    const coming = this.loading.get(key);
    if (coming) return coming;
    const loading = this.load(place, key).finally(() => this.loading.delete(key));
    this.loading.set(key, loading);
    return loading;
  }

  private async load(place: NonNullable<ReturnType<Material['place']>>, key: string): Promise<GroupDecode | null> {
    // The file can have gone by the budget in this very moment: a gap then.
    const packets = await this.material.read(place).catch(() => null);
    if (!packets || this.closed) return null;
    const made = new GroupDecode(packets, this.pool, (bytes) => {
      this.bytes += bytes;
      this.largest = Math.max(this.largest, made.bytes);
      this.trim(key);
    });
    this.groups.set(key, made);
    this.trim(key);
    return made;
  }

  /** Throws the oldest groups away until the rest fits; those that somebody waits for stay. */
  private trim(keep: string): void {
    let busy = [...this.groups.values()].filter((g) => g.busy).length;
    for (const [key, group] of this.groups) {
      const tooMany = busy > MOST_BUSY && group.busy;
      if (this.bytes <= this.limit && !tooMany) {
        if (busy <= MOST_BUSY) break;
        continue;
      }
      if (key === keep || group.wanted) continue;
      if (group.busy) busy -= 1;
      this.forget(key, group);
    }
  }

  private forget(key: string, group: GroupDecode): void {
    this.bytes -= group.bytes;
    this.groups.delete(key);
    group.close();
  }

  close(): void {
    this.closed = true;
    clearTimeout(this.idle);
    for (const group of this.groups.values()) group.close();
    this.groups.clear();
    this.bytes = 0;
  }
}
