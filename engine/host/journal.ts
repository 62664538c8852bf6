/** Saves show and air as they change: one write at a time, always the newest, and only what has changed. */
import { causeOf } from '#core/schema/cause';
import { type Desk } from '#core/desk/air';
import { changeShowRow, db } from '../storage/db';
import { type Follower } from './follower';

/** Longest that the writing of a changed document waits for the screen, milliseconds: a window that nobody sees is never painted. */
const PAUSE_MS = 60;

/** Resolves when what has changed has been shown, or will not be: storing a document of thousands of clips takes the page's thread a while. */
const shown = (): Promise<void> =>
  new Promise((resolve) => {
    const timer = setTimeout(resolve, PAUSE_MS);
    if (typeof requestAnimationFrame === 'undefined') return;
    requestAnimationFrame(() => {
      // After this frame has been painted.
      setTimeout(() => {
        clearTimeout(timer);
        resolve();
      });
    });
  });
/** Longest that anybody waits for the disk, milliseconds. */
const PATIENCE_MS = 3000;

export class Journal implements Follower {
  private waiting: { desk: Desk; frame: number } | null = null;
  private written: Desk | null = null;
  private writing = false;
  private idle: (() => void)[] = [];

  constructor(
    private readonly showId: string,
    private readonly onError: (message: string) => void,
  ) {}

  /** Takes the newest state; it is written as soon as the write before is done. An act on air is small, and written at once. */
  save(desk: Desk, frame: number): void {
    this.waiting = { desk, frame };
    if (!this.writing) void this.write();
  }

  private async write(): Promise<void> {
    this.writing = true;
    while (this.waiting) {
      // A document of thousands of clips takes its time to be stored; air alone does not.
      if (this.waiting.desk.show !== this.written?.show) await shown();
      const { desk, frame } = this.waiting;
      this.waiting = null;
      try {
        await this.store(desk, frame);
        this.written = desk;
      } catch (error) {
        this.onError(causeOf(error));
      }
    }
    this.writing = false;
    for (const done of this.idle.splice(0)) done();
  }

  /** Document and air of one moment are one transaction: neither is ever read without the other. */
  private async store({ show, air }: Desk, frame: number): Promise<void> {
    const showId = this.showId;
    const savedAt = Date.now();
    if (show === this.written?.show) {
      await db.airs.put({ showId, air, savedFrame: frame });
      return;
    }
    await db.transaction('rw', db.shows, db.airs, () =>
      Promise.all([changeShowRow(showId, { show, name: show.name, savedAt }), db.airs.put({ showId, air, savedFrame: frame })]),
    );
  }

  close(): Promise<void> {
    return this.settled();
  }

  /** Resolves when everything taken so far is written, or when the disk has not answered for three seconds. */
  async settled(): Promise<void> {
    if (!this.writing) return;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const done = new Promise<void>((resolve) => this.idle.push(resolve));
    const patience = new Promise<void>((resolve) => {
      timer = setTimeout(resolve, PATIENCE_MS);
    });
    await Promise.race([done, patience]).finally(() => clearTimeout(timer));
  }
}
