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
    const mask = this.left.length - 1;
    for (let i = 0; i < count; i += 1) {
      const to = (this.at + i) & mask;
      this.left[to] = left[i] as number;
      this.right[to] = right[i] as number;
    }
    this.at = (this.at + count) & mask;
  }

  /** What was written `samples` before, for the `count` samples written last. */
  read(samples: number, left: Float32Array, right: Float32Array, count: number): void {
    const mask = this.left.length - 1;
    const from = this.at - count - samples;
    for (let i = 0; i < count; i += 1) {
      const at = (from + i) & mask;
      left[i] = this.left[at] as number;
      right[i] = this.right[at] as number;
    }
  }
}
