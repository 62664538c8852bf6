// Nothing is allocated here: the audio thread must not have to collect garbage.

/** Into `store` from `at` on: `first` samples up to its end, the rest of `count` from its start. */
function put(store: Float32Array, at: number, side: Float32Array, first: number, count: number): void {
  for (let i = 0; i < first; i += 1) store[at + i] = side[i] as number;
  for (let i = first; i < count; i += 1) store[i - first] = side[i] as number;
}

/** The same way back. */
function get(store: Float32Array, from: number, side: Float32Array, first: number, count: number): void {
  for (let i = 0; i < first; i += 1) side[i] = store[from + i] as number;
  for (let i = first; i < count; i += 1) side[i] = store[i - first] as number;
}

/** A stereo delay that can be read at several places. Grows with the longest delay asked of it. */
export class DelayLine {
  private left = new Float32Array(0);
  private right = new Float32Array(0);
  private at = 0;

  /** Makes room for a delay of `samples`, keeping what is stored. */
  fit(samples: number): void {
    const need = samples + 256;
    if (need <= this.left.length) return;
    let size = 1024;
    while (size < need) size *= 2;
    const [left, right] = [new Float32Array(size), new Float32Array(size)];
    const old = this.left.length;
    for (let i = 0; i < old; i += 1) {
      const from = (this.at - old + i + old) % old;
      left[i] = this.left[from] as number;
      right[i] = this.right[from] as number;
    }
    [this.left, this.right, this.at] = [left, right, old];
  }

  write(left: Float32Array, right: Float32Array, count: number): void {
    const { at } = this;
    const size = this.left.length;
    // Up to the end of the store, and the rest from its start.
    const first = Math.min(count, size - at);
    put(this.left, at, left, first, count);
    put(this.right, at, right, first, count);
    this.at = (at + count) & (size - 1);
  }

  /** What was written `samples` before, for the `count` samples written last. */
  read(samples: number, left: Float32Array, right: Float32Array, count: number): void {
    const size = this.left.length;
    const from = (this.at - count - samples) & (size - 1);
    const first = Math.min(count, size - from);
    get(this.left, from, left, first, count);
    get(this.right, from, right, first, count);
  }
}
