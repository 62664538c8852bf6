/** Saves show and air as they change: within a frame or two, one write at a time, always the newest. */
import { type Desk } from '#core/show/air';
import { db } from '../storage/db';

/** Milliseconds between a change and its writing. */
const PAUSE_MS = 20;

export class Journal {
  private waiting: { desk: Desk; frame: number } | null = null;
  private writing = false;
  private idle: (() => void)[] = [];

  constructor(
    private readonly showId: string,
    private readonly onError: (message: string) => void,
  ) {}

  /** Takes the newest state; it is written as soon as the write before is done. */
  save(desk: Desk, frame: number): void {
    this.waiting = { desk, frame };
    if (!this.writing) void this.write();
  }

  private async write(): Promise<void> {
    this.writing = true;
    while (this.waiting) {
      // What was changed is shown first: storing a document with thousands of clips takes its time.
      await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
      const { desk, frame } = this.waiting;
      this.waiting = null;
      try {
        await db.shows.update(this.showId, { show: desk.show, air: desk.air, name: desk.show.name, savedAt: Date.now(), savedFrame: frame });
      } catch (error) {
        this.onError(error instanceof Error ? error.message : String(error));
      }
    }
    this.writing = false;
    for (const done of this.idle.splice(0)) done();
  }

  /** Resolves when everything taken so far is written. */
  async settled(): Promise<void> {
    if (this.writing) await new Promise<void>((resolve) => this.idle.push(resolve));
  }
}
