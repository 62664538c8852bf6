/** States that are known before the frame from which they count. What follows a show shows each from its very frame on. */
export class Ahead<T> {
  private readonly waiting: { state: T; from: number }[] = [];

  /** A state that counts from a frame on; it has everything in it that the ones before have. Without a frame it counts at once, and so do those. */
  push(state: T, from: number | null): T | null {
    if (from === null) {
      this.waiting.length = 0;
      return state;
    }
    this.waiting.push({ state, from });
    return null;
  }

  /** The frame from which the last of those that still wait counts; null when none waits. */
  get until(): number | null {
    return this.waiting.at(-1)?.from ?? null;
  }

  /** The newest state that counts at a frame and has not been given yet; null when there is none. */
  at(frame: number): T | null {
    let due: T | null = null;
    for (let next = this.waiting[0]; next && next.from <= frame; next = this.waiting[0]) {
      due = next.state;
      this.waiting.shift();
    }
    return due;
  }
}
