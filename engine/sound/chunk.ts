/** Sound on its way from a worker to the audio thread. */

/** Hz. All sound inside runs at this rate. */
export const SAMPLE_RATE = 48_000;

/** Consecutive samples of show time, one array a channel (left, right). */
export interface SoundChunk {
  /** Number of the first sample: show time in units of 1/SAMPLE_RATE. */
  sample: number;
  channels: Float32Array<ArrayBuffer>[];
}

/** Takes back what was sent for `flush` (a sample of show time) and later: the player was moved. */
export interface SoundFlush {
  flush: number;
}
