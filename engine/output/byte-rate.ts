/** Bits a second over the last few seconds. */
const WINDOW_SECONDS = 5;

export class ByteRate {
  private readonly marks: { at: number; bytes: number }[] = [];

  /** Adds `bytes` at `at` seconds. */
  add(bytes: number, at: number): void {
    this.marks.push({ at, bytes });
    while (this.marks[0] && at - this.marks[0].at > WINDOW_SECONDS) this.marks.shift();
  }

  /** Bits a second. */
  get bitrate(): number {
    const first = this.marks[0];
    const last = this.marks.at(-1);
    if (!first || !last || last.at - first.at < 0.5) return 0;
    const bytes = this.marks.slice(1).reduce((sum, mark) => sum + mark.bytes, 0);
    return (bytes * 8) / (last.at - first.at);
  }
}
