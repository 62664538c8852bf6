/** Writes the as-run log as things come on air and leave. */
import { onAirItems, type OnAirItem } from '#core/output/as-run';
import { type Desk } from '#core/desk/air';
import { type Person } from '#core/desk/history';
import { type Follower } from './follower';
import { db } from '../storage/db';

export class AsRunLog implements Follower {
  private readonly open = new Map<string, Promise<number>>();

  /** Whose act was the last since a frame was mixed: what comes on air with the next is theirs. */
  private by: Person | undefined;

  constructor(private readonly showId: string) {}

  follow(_desk: Desk, by?: Person): void {
    this.by = by;
  }

  /** Ends what an earlier window left open, then listens. */
  async closeStale(frame: number, at: number): Promise<void> {
    await db.asRun
      .where('showId')
      .equals(this.showId)
      .filter((row) => row.endedAt === null)
      .modify({ endedAt: at, endFrame: frame });
  }

  /** Compares what is on air at `frame` with what was. */
  tick({ show, air }: Desk, frame: number): void {
    const items = new Map(onAirItems(show, air, frame).map((item) => [`${item.place}\n${item.what}`, item]));
    const now = Date.now();
    for (const [key, row] of this.open) {
      if (items.has(key)) continue;
      this.open.delete(key);
      void row.then((id) => db.asRun.update(id, { endedAt: now, endFrame: frame }));
    }
    const who = this.by && { who: this.by.name };
    for (const [key, item] of items) if (!this.open.has(key)) this.open.set(key, this.begin({ ...item, ...who }, frame, now));
    this.by = undefined;
  }

  private async begin(item: OnAirItem, frame: number, now: number): Promise<number> {
    const id = await db.asRun.add({ ...item, showId: this.showId, startedAt: now, startFrame: frame, endedAt: null, endFrame: null });
    return id as number;
  }
}
