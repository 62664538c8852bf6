/** How loud a sound has been, in blocks of the same length without a gap, however unevenly it is looked at. */

/** Length of a block, seconds, and how many are kept: eight seconds. */
export const BLOCK_SECONDS = 0.04;
const KEPT = 200;
/** Level of what is silent, dBFS. */
const SILENT_DB = -60;

/** What of an `AnalyserNode` is used: the newest `fftSize` samples. */
export interface Newest {
  readonly fftSize: number;
  getFloatTimeDomainData(into: Float32Array<ArrayBuffer>): void;
}

export class LevelRow {
  /** Levels of the blocks, dBFS (root of the mean square), the oldest first. */
  readonly levels: number[] = [];
  /** Block that comes next, counted from the beginning of the clock of the sound. */
  private next = NaN;
  private samples = new Float32Array(0);

  /**
   * Takes the blocks that have ended since the last look. `now` is the time of the newest sample, seconds; `rate` samples a second. What is older than the
   * samples reach is taken to have been as loud as before.
   */
  hear(from: Newest | null, now: number, rate: number): void {
    const block = Math.round(BLOCK_SECONDS * rate);
    const end = Math.floor((now * rate) / block);
    if (!(end - this.next < KEPT)) this.next = end - 1;
    if (this.next >= end) return;
    if (from) {
      if (this.samples.length !== from.fftSize) this.samples = new Float32Array(from.fftSize);
      from.getFloatTimeDomainData(this.samples);
    }
    for (; this.next < end; this.next += 1) {
      // Where the block begins in the samples, which end at `now`.
      const at = Math.round(this.samples.length - (now * rate - this.next * block));
      this.levels.push(!from ? SILENT_DB : at < 0 ? (this.levels.at(-1) ?? SILENT_DB) : this.level(at, block));
    }
    this.levels.splice(0, this.levels.length - KEPT);
  }

  private level(at: number, length: number): number {
    let power = 0;
    for (let i = at; i < at + length; i += 1) power += (this.samples[i] ?? 0) ** 2;
    return Math.max(SILENT_DB, 10 * Math.log10(power / length || 1e-12));
  }

  clear(): void {
    this.levels.length = 0;
    this.next = NaN;
  }
}
