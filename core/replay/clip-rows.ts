/** Clips on the timeline, in rows. */
import { type Clip } from './document';

/** Rows there are. */
export const CLIP_ROWS = 3;

export interface PlacedClip {
  clip: Clip;
  /** From 0. */
  row: number;
}

/** Clips put into rows so that none lies over another, as far as the rows go. Sorted by in point. */
export function placeClips(clips: readonly Clip[]): PlacedClip[] {
  const ends = Array.from({ length: CLIP_ROWS }, () => -Infinity);
  return [...clips]
    .sort((a, b) => a.in - b.in || a.number - b.number)
    .map((clip) => {
      const free = ends.findIndex((end) => end <= clip.in);
      const row = free >= 0 ? free : ends.indexOf(Math.min(...ends));
      ends[row] = Math.max(ends[row] as number, clip.out);
      return { clip, row };
    });
}
