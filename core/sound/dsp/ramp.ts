/** A gain that reaches its target in a straight line, so that no change clicks. */
export class Ramp {
  private target: number;
  private left = 0;

  constructor(public value = 0) {
    this.target = value;
  }

  /** Goes to `target` within `samples`; at once with 0. */
  to(target: number, samples: number): void {
    if (target === this.target) return;
    this.target = target;
    this.left = Math.max(0, Math.round(samples));
    if (this.left === 0) this.value = target;
  }

  get moving(): boolean {
    return this.left > 0;
  }

  get silent(): boolean {
    return this.value === 0 && this.left === 0;
  }

  /** The gain after `count` samples, without applying it. */
  advance(count: number): number {
    if (this.left === 0) return this.value;
    const steps = Math.min(count, this.left);
    this.value += ((this.target - this.value) * steps) / this.left;
    this.left -= steps;
    if (this.left === 0) this.value = this.target;
    return this.value;
  }
}

/** `to = from × gain`, the gain going from `start` to `end` over `count` samples. */
export function scale(from: Float32Array, to: Float32Array, count: number, start: number, end: number): void {
  if (start === end) {
    if (start === 0) to.fill(0, 0, count);
    else if (start === 1 && count === from.length) {
      if (from !== to) to.set(from);
    } else for (let i = 0; i < count; i += 1) to[i] = (from[i] as number) * start;
    return;
  }
  const rise = (end - start) / count;
  for (let i = 0; i < count; i += 1) to[i] = (from[i] as number) * (start + rise * (i + 1));
}

/** `to += from × gain`, the gain going from `start` to `end` over `count` samples. */
export function add(from: Float32Array, to: Float32Array, count: number, start: number, end: number): void {
  if (start === end) {
    // Four at a time: this is where a large desk spends most of its time.
    const fours = count - (count % 4);
    for (let i = 0; i < fours; i += 4) {
      to[i] = (to[i] as number) + (from[i] as number) * start;
      to[i + 1] = (to[i + 1] as number) + (from[i + 1] as number) * start;
      to[i + 2] = (to[i + 2] as number) + (from[i + 2] as number) * start;
      to[i + 3] = (to[i + 3] as number) + (from[i + 3] as number) * start;
    }
    for (let i = fours; i < count; i += 1) to[i] = (to[i] as number) + (from[i] as number) * start;
    return;
  }
  const rise = (end - start) / count;
  for (let i = 0; i < count; i += 1) to[i] = (to[i] as number) + (from[i] as number) * (start + rise * (i + 1));
}
