/** Small pictures of the timeline: asked for as they come into view, kept while there is room. */
import { type ShowClient } from '#engine/client/show-client';
import { TILE } from './timeline-draw';

/** Pictures kept; at 72×40 about 12 kB each. */
const LIMIT = 400;
/** Asked for at a time: the decks' thread has better things to do. */
const AT_ONCE = 2;

export class Thumbnails {
  private readonly known = new Map<string, ImageBitmap | null>();
  private wanted: { key: string; row: string; frame: number }[] = [];
  private asking = 0;
  private closed = false;

  constructor(
    private readonly host: ShowClient,
    private readonly came: () => void,
  ) {}

  /** The picture of a row around a frame, if it is there; otherwise it is asked for. */
  get(row: string, frame: number, step: number): ImageBitmap | null {
    const key = `${row} ${frame} ${step}`;
    const found = this.known.get(key);
    if (found !== undefined) {
      this.known.delete(key);
      this.known.set(key, found);
      return found;
    }
    if (!this.wanted.some((w) => w.key === key)) {
      this.wanted.push({ key, row, frame });
      if (this.wanted.length > 48) this.wanted.shift();
      void this.ask();
    }
    return null;
  }

  private async ask(): Promise<void> {
    if (this.asking >= AT_ONCE || this.closed) return;
    const next = this.wanted.pop();
    if (!next) return;
    this.asking += 1;
    const image = await this.host.replay.thumbnail(next.row, next.frame, TILE).catch(() => null);
    this.asking -= 1;
    if (this.closed) {
      image?.close();
      return;
    }
    // What is not on disk yet is asked for again when it is seen again.
    if (image || this.host.state.frame - next.frame > 200) this.known.set(next.key, image);
    if (this.known.size > LIMIT) {
      const [oldest] = this.known.keys();
      if (oldest !== undefined) {
        this.known.get(oldest)?.close();
        this.known.delete(oldest);
      }
    }
    if (image) this.came();
    void this.ask();
  }

  close(): void {
    this.closed = true;
    for (const image of this.known.values()) image?.close();
    this.known.clear();
  }
}
