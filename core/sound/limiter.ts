/** From here on a gain counts as 1: a step of less than −120 dB is not heard. */
const ALMOST_ONE = 1 - 1e-6;

/**
 * Look-ahead limiter: no sample of the output is ever above the ceiling.
 *
 * Signal path: the gain each sample needs (ceiling / peak) → minimum over the look-ahead → slow release → mean over the
 * look-ahead → applied to the input delayed by it. Every value in the mean already allows for the delayed sample, so
 * their mean does too. The minimum is kept by a queue of candidates that only rise (Lemire 2006), so that a loud bus costs no
 * more than a quiet one.
 */
export class Limiter {
  /** Gain of the last sample, 0 to 1: for a gain reduction meter. */
  gain = 1;
  private readonly held: Float32Array;
  private readonly delay: Float32Array[];
  private at = 0;
  private release = 1;
  private sum: number;
  private readonly releaseStep: number;
  /** Candidates for the minimum: needed gains that rise from the first to the last, with the samples they belong to. */
  private readonly needed: Float64Array;
  private readonly places: Float64Array;
  private first = 0;
  private candidates = 0;
  private sample = 0;

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
    const size = lookahead + 1;
    this.held = new Float32Array(size).fill(1);
    this.delay = Array.from({ length: channels }, () => new Float32Array(size));
    this.sum = size;
    this.releaseStep = 1 - Math.exp(-1 / (0.12 * sampleRate));
    this.needed = new Float64Array(size);
    this.places = new Float64Array(size);
  }

  /** Takes in what a sample needs, and gives the least that any sample of the window needs. */
  private leastOf(need: number): number {
    const { needed, places } = this;
    const size = needed.length;
    this.sample += 1;
    if (this.candidates > 0 && (places[this.first] as number) <= this.sample - size) {
      this.first = this.first + 1 === size ? 0 : this.first + 1;
      this.candidates -= 1;
    }
    // A sample that needs nothing is no candidate: without one the least is 1.
    if (need < 1) {
      while (this.candidates > 0 && (needed[(this.first + this.candidates - 1) % size] as number) >= need) this.candidates -= 1;
      const last = (this.first + this.candidates) % size;
      needed[last] = need;
      places[last] = this.sample;
      this.candidates += 1;
    }
    return this.candidates > 0 ? (needed[this.first] as number) : 1;
  }

  /** Limits `count` samples from `input` into `output`; both hold one array a channel. NaN and infinities become 0. */
  process(input: readonly Float32Array[], output: readonly Float32Array[], count: number): void {
    if (this.idles(input, count)) this.pass(input, output, count);
    else this.limit(input, output, count);
  }

  /** True when nothing needs to be turned down, here and in the look-ahead, and nothing is on its way back up. */
  private idles(input: readonly Float32Array[], count: number): boolean {
    const { held, ceiling } = this;
    if (this.candidates > 0 || this.release < ALMOST_ONE || this.sum < held.length * ALMOST_ONE) return false;
    for (let c = 0; c < input.length; c += 1) {
      const side = input[c] as Float32Array;
      // NaN compares as false, and is no rest.
      for (let i = 0; i < count; i += 1) if (!(Math.abs(side[i] as number) <= ceiling)) return false;
    }
    if (this.release !== 1 || this.sum !== held.length) {
      this.release = this.gain = 1;
      this.sum = held.length;
      held.fill(1);
    }
    return true;
  }

  /** The delay alone. */
  private pass(input: readonly Float32Array[], output: readonly Float32Array[], count: number): void {
    const size = this.held.length;
    let at = this.at;
    for (let c = 0; c < this.delay.length; c += 1) {
      const store = this.delay[c] as Float32Array;
      const from = input[c];
      const to = output[c];
      at = this.at;
      for (let i = 0; i < count; i += 1) {
        const oldest = at + 1 === size ? 0 : at + 1;
        const value = store[oldest] as number;
        store[at] = from?.[i] ?? 0;
        if (to) to[i] = value;
        at = oldest;
      }
    }
    this.at = at;
  }

  private limit(input: readonly Float32Array[], output: readonly Float32Array[], count: number): void {
    const { held, delay, ceiling } = this;
    const size = held.length;
    const channels = delay.length;
    for (let i = 0; i < count; i += 1) {
      let peak = 0;
      for (let c = 0; c < channels; c += 1) {
        const raw = input[c]?.[i] ?? 0;
        const value = Number.isFinite(raw) ? raw : 0;
        (delay[c] as Float32Array)[this.at] = value;
        if (value > peak) peak = value;
        else if (-value > peak) peak = -value;
      }
      const need = peak > ceiling ? ceiling / peak : 1;
      const least = need < 1 || this.candidates > 0 ? this.leastOf(need) : 1;
      this.release = least < this.release ? least : this.release + (least - this.release) * this.releaseStep;
      this.sum += this.release - (held[this.at] as number);
      held[this.at] = this.release;
      const oldest = this.at + 1 === size ? 0 : this.at + 1;
      this.gain = Math.min(1, Math.max(0, this.sum / size));
      for (let c = 0; c < channels; c += 1) {
        const out = output[c];
        if (!out) continue;
        const limited = ((delay[c] as Float32Array)[oldest] as number) * this.gain;
        // Rounding in the running sum may leave a last hair above the ceiling.
        out[i] = limited > ceiling ? ceiling : limited < -ceiling ? -ceiling : limited;
      }
      this.at = oldest;
    }
    // The running sum is made afresh now and then, so that rounding never adds up.
    if (this.at < count) {
      this.sum = 0;
      for (let i = 0; i < size; i += 1) this.sum += held[i] as number;
    }
  }
}
