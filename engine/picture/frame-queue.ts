/** Frames of one source that wait to be shown. Owns every frame it is given and closes it exactly once. */

export interface QueuedFrame {
  frame: VideoFrame;
  /** Show time in microseconds at which it becomes the picture. */
  stamp: number;
  /** Counts up with every frame taken in: tells whether a texture is current. */
  serial: number;
}

/** At most this many frames wait; a source that runs ahead loses its oldest. */
const CAPACITY = 8;

export class FrameQueue {
  private waiting: QueuedFrame[] = [];
  private current: QueuedFrame | null = null;
  private serial = 0;

  /** Takes a frame over. With `flush`, what waits for its moment or later goes: the source was moved. */
  push(frame: VideoFrame, stamp: number, flush = false): void {
    this.serial += 1;
    if (flush) {
      for (const later of this.waiting.filter((w) => w.stamp >= stamp)) later.frame.close();
      this.waiting = this.waiting.filter((w) => w.stamp < stamp);
    }
    this.waiting.push({ frame, stamp, serial: this.serial });
    if (this.waiting.length > CAPACITY) this.waiting.shift()?.frame.close();
  }

  /** The picture of the moment `stamp`: the newest frame at or before it; null before the first. */
  at(stamp: number): QueuedFrame | null {
    let newest = this.current;
    while (this.waiting[0] && this.waiting[0].stamp <= stamp) {
      newest?.frame.close();
      newest = this.waiting.shift() ?? null;
    }
    this.current = newest;
    return newest;
  }

  /** Closes everything; the source then has no picture. */
  clear(): void {
    this.current?.frame.close();
    for (const { frame } of this.waiting) frame.close();
    this.waiting = [];
    this.current = null;
  }
}
