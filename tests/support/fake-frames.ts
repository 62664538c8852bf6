/** Pictures for tests outside a browser: as much of a VideoFrame as the engine handles, and a count of those left open. */
import { vi } from 'vitest';

export class FakeFrame {
  /** Frames made and not closed yet. */
  static open = 0;
  readonly displayWidth: number;
  readonly displayHeight: number;
  readonly codedWidth: number;
  readonly codedHeight: number;
  readonly format = 'I420';
  readonly timestamp: number;
  readonly duration: number;
  /** What it shows: frames made of it show the same. */
  readonly shows: string;
  closed = false;

  constructor(of: FakeFrame | string, { timestamp, duration }: { timestamp?: number; duration?: number } = {}) {
    const from = typeof of === 'string' ? null : of;
    if (from?.closed) throw new Error('a closed frame was copied');
    this.shows = typeof of === 'string' ? of : of.shows;
    this.timestamp = timestamp ?? from?.timestamp ?? 0;
    this.duration = duration ?? from?.duration ?? 0;
    [this.displayWidth, this.displayHeight, this.codedWidth, this.codedHeight] = [64, 36, 64, 36];
    FakeFrame.open += 1;
  }

  clone(): FakeFrame {
    return new FakeFrame(this);
  }

  allocationSize(): number {
    return (this.codedWidth * this.codedHeight * 3) / 2;
  }

  close(): void {
    if (!this.closed) FakeFrame.open -= 1;
    this.closed = true;
  }
}

/** Puts them in the place of the browser's until `vi.unstubAllGlobals`. */
export function useFakeFrames(): void {
  FakeFrame.open = 0;
  vi.stubGlobal('VideoFrame', FakeFrame);
}

/** A picture for what takes the browser's. */
export const fakeFrame = (shows: string, timestamp = 0, duration = 40_000): VideoFrame =>
  new FakeFrame(shows, { timestamp, duration }) as unknown as VideoFrame;

/** What a frame shows. */
export const shown = (frame: VideoFrame | null): string | null => (frame ? (frame as unknown as FakeFrame).shows : null);
