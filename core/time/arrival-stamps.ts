/**
 * When pictures that arrive unevenly were taken. A device numbers its frames by a clock of its own; on the way to us each is
 * held up for a while. The quickest of the last seconds was held up least: it ties the two clocks together.
 */

/** Length of a window in which the quickest is looked for, microseconds of show time. */
const WINDOW = 2e6;

export class ArrivalStamps {
  private windowEnd = -Infinity;
  /** Smallest difference of show time and device time, in the window before and in this one. */
  private before = Infinity;
  private smallest = Infinity;
  private last = -Infinity;

  /**
   * Show time of a frame that the device took at `captured` (its clock) and that arrived at `now` (show time); both in
   * microseconds. Never later than `now`, and later than the one before, unless time itself has gone back.
   */
  stamp(captured: number, now: number): number {
    if (now >= this.windowEnd) {
      // Only what is recent counts: clocks drift apart, and a device that was opened anew begins at another time.
      this.before = now - this.windowEnd < WINDOW ? this.smallest : Infinity;
      this.smallest = Infinity;
      this.windowEnd = now + WINDOW;
    }
    this.smallest = Math.min(this.smallest, now - captured);
    const stamp = Math.min(now, captured + Math.min(this.before, this.smallest));
    this.last = Math.min(now, Math.max(stamp, this.last + 1));
    return this.last;
  }
}
