/** Recorded material on the timeline: segments of tracks, the runs they make, and what lies at a time. Times are show microseconds. */

/** A piece of one track on disk, without a gap inside. */
export interface Segment {
  id: string;
  /** Source identity for pictures; `sound-` and a source identity for sound. */
  trackId: string;
  /** First instant. */
  from: number;
  /** Instant after the last. */
  to: number;
  bytes: number;
  /** Frames in it; 0 for sound. */
  frames: number;
}

/** An unbroken stretch of recording. */
export interface Run {
  from: number;
  to: number;
}

/** Stretches closer than this are one: the seam between two segments is not a gap. */
const SEAM_MICROS = 120_000;

/** Segments of a track, in order, put together to unbroken runs. */
export function runsOf(segments: readonly Pick<Segment, 'from' | 'to'>[]): Run[] {
  const runs: Run[] = [];
  for (const { from, to } of [...segments].sort((a, b) => a.from - b.from)) {
    const last = runs.at(-1);
    if (last && from - last.to <= SEAM_MICROS) last.to = Math.max(last.to, to);
    else runs.push({ from, to });
  }
  return runs;
}

/** Index of the last item whose `at` is at or before `time` in a list sorted by it; −1 before the first. Binary search. */
export function lastAtOrBefore<T>(sorted: readonly T[], time: number, at: (item: T) => number): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (at(sorted[middle] as T) <= time) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/** The segment that holds `time`; null in a gap. `sorted` is one track's, by `from`. */
export function segmentAt<T extends Pick<Segment, 'from' | 'to'>>(sorted: readonly T[], time: number): T | null {
  const found = sorted[lastAtOrBefore(sorted, time, (s) => s.from)];
  if (!found) return null;
  // A frame stands until the next begins: a short seam still belongs to the segment before it.
  return time < found.to + SEAM_MICROS ? found : null;
}

/** Gaps between the runs of a track within a window. */
export function gapsOf(runs: readonly Run[], window: Run): Run[] {
  const gaps: Run[] = [];
  let at = window.from;
  for (const run of runs) {
    if (run.to <= window.from || run.from >= window.to) continue;
    if (run.from > at) gaps.push({ from: at, to: run.from });
    at = Math.max(at, run.to);
  }
  if (at < window.to) gaps.push({ from: at, to: window.to });
  return gaps;
}

/** What of `told` within a window is not in `held`, both runs of one track; seams are not counted. */
export function missingOf(told: readonly Run[], held: readonly Run[], window: Run): Run[] {
  return told.flatMap((run) => {
    const wanted = { from: Math.max(run.from, window.from), to: Math.min(run.to, window.to) };
    return wanted.to <= wanted.from ? [] : gapsOf(held, wanted).filter((gap) => gap.to - gap.from > SEAM_MICROS);
  });
}
