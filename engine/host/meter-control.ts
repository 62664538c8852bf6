/** Levels for panels: told 20 times a second while somebody is there, and not otherwise. */
import { MOST_METERS, type MeterOrder, packMeters } from '#core/panels/meters';
import { type ShowSound } from '../client/show-client';
import { type Follower } from './follower';

const TELL_MS = 50;

export class MeterControl implements Follower {
  private order: MeterOrder = { version: 0, ids: [] };
  private timer: ReturnType<typeof setInterval> | null = null;

  constructor(
    private readonly readings: ShowSound['readings'],
    private readonly out: { order: (order: MeterOrder) => void; bytes: (bytes: Uint8Array) => void },
  ) {}

  /** Somebody is there, or nobody is. The server tells the order to whoever comes later. */
  people(count: number): void {
    if (count > 0 === (this.timer !== null)) return;
    if (this.timer !== null) clearInterval(this.timer);
    this.timer = null;
    if (count === 0) return;
    this.out.order(this.order);
    this.timer = setInterval(() => this.tell(), TELL_MS);
  }

  private tell(): void {
    const ids = [...this.readings.keys()].slice(0, MOST_METERS);
    if (ids.join() !== this.order.ids.join()) {
      this.order = { version: (this.order.version + 1) % 0x10000, ids };
      this.out.order(this.order);
    }
    const sides = ids.flatMap((id) => {
      const pair = this.readings.get(id);
      return pair ? [pair] : [];
    });
    if (sides.length === ids.length && ids.length > 0) this.out.bytes(packMeters(this.order.version, sides));
  }

  close(): void {
    if (this.timer !== null) clearInterval(this.timer);
  }
}
