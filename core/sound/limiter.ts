/**
 * Look-ahead limiter: no sample of the output is ever above the ceiling.
 *
 * Signal path: the gain each sample needs (ceiling / peak) → minimum over the look-ahead → slow release → mean over the
 * look-ahead → applied to the input delayed by it. Every value in the mean already allows for the delayed sample, so
 * their mean does too.
 */
export class Limiter {
  /** Gain of the last sample, 0 to 1: for a gain reduction meter. */
  gain = 1;
  private readonly needed: Float32Array;
  private readonly held: Float32Array;
  private readonly delay: Float32Array[];
  private at = 0;
  private release = 1;
  private sum: number;
  /** Samples since the last one above the ceiling. */
  private quiet = Infinity;
  private readonly releaseStep: number;

  /**
   * @param ceiling highest amplitude let out, above 0.
   * @param lookahead delay in samples, at least 1.
   * @param sampleRate Hz; the release time is 120 ms.
   */
  constructor(
    public ceiling: number,
    readonly lookahead: number,
    channels: number,
    sampleRate: number,
  ) {
    // One more than the look-ahead: the window runs from the delayed sample to the newest, both included.
    this.needed = new Float32Array(lookahead + 1).fill(1);
    this.held = new Float32Array(lookahead + 1).fill(1);
    this.delay = Array.from({ length: channels }, () => new Float32Array(lookahead + 1));
    this.sum = lookahead + 1;
    this.releaseStep = 1 - Math.exp(-1 / (0.12 * sampleRate));
  }

  /** Limits `count` samples from `input` into `output`; both hold one array a channel. NaN and infinities become 0. */
  process(input: readonly Float32Array[], output: readonly Float32Array[], count: number): void {
    const { needed, held, delay } = this;
    const size = needed.length;
    for (let i = 0; i < count; i += 1) {
      let peak = 0;
      for (let c = 0; c < delay.length; c += 1) {
        const raw = input[c]?.[i] ?? 0;
        const value = Number.isFinite(raw) ? raw : 0;
        (delay[c] as Float32Array)[this.at] = value;
        peak = Math.max(peak, Math.abs(value));
      }
      needed[this.at] = peak > this.ceiling ? this.ceiling / peak : 1;
      // Nearly always nothing in the window is above the ceiling, and then there is nothing to look for.
      this.quiet = needed[this.at] === 1 ? this.quiet + 1 : 0;
      let least = 1;
      if (this.quiet < size) for (let k = 0; k < size; k += 1) least = Math.min(least, needed[k] as number);
      this.release = least < this.release ? least : this.release + (least - this.release) * this.releaseStep;
      this.sum += this.release - (held[this.at] as number);
      held[this.at] = this.release;
      const oldest = (this.at + 1) % size;
      this.gain = Math.min(1, Math.max(0, this.sum / size));
      for (let c = 0; c < delay.length; c += 1) {
        const limited = ((delay[c] as Float32Array)[oldest] as number) * this.gain;
        // Rounding in the running sum may leave a last hair above the ceiling.
        const out = output[c];
        if (out) out[i] = Math.max(-this.ceiling, Math.min(this.ceiling, limited));
      }
      this.at = oldest;
    }
    // The running sum is made afresh now and then, so that rounding never adds up.
    if (this.at < count) this.sum = held.reduce((a, b) => a + b, 0);
  }
}
