/** Two sides of sound in blocks of the audio thread. */

/** Samples in a block of Web Audio. */
export const BLOCK = 128;

export interface Stereo {
  left: Float32Array;
  right: Float32Array;
}

export const stereo = (): Stereo => ({ left: new Float32Array(BLOCK), right: new Float32Array(BLOCK) });

export function silence({ left, right }: Stereo): void {
  left.fill(0);
  right.fill(0);
}

/** Highest sample of a side. */
export function peakOf(x: Float32Array, count: number): number {
  let peak = 0;
  for (let i = 0; i < count; i += 1) {
    const value = Math.abs(x[i] as number);
    if (value > peak) peak = value;
  }
  return peak;
}
