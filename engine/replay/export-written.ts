/** What a file needs of the recording, and whether that much of it is on disk yet. */
import { missingOf, type Run, runsOf } from '#core/replay/timeline';
import { frameToMicros, type Rate } from '#core/time/rate';
import { storedSegments } from '../storage/replay-segments';
import { type ExportJob } from './export-messages';
import { type StoredSegment } from './messages';

/** A recorder of a busy machine may be so far behind, milliseconds. */
const LATE_MS = 45_000;
const LOOK_MS = 250;

/** A stretch of a track, show microseconds. */
export interface Span extends Run {
  trackId: string;
}

/** The stretches of tracks that a file is made of. */
export function spansOf(job: ExportJob, sounds: Record<string, string>, rate: Rate): Span[] {
  const items = job.kind === 'angle' ? [{ angleId: job.angleId, in: job.from, out: job.to }] : job.items;
  return items.flatMap((item) => {
    const sound = sounds[item.angleId];
    const run = { from: frameToMicros(item.in, rate), to: frameToMicros(item.out, rate) };
    return [item.angleId, ...(sound === undefined ? [] : [sound])].map((trackId) => ({ trackId, ...run }));
  });
}

/**
 * The stored segments of a show, once they hold of `spans` what is `recorded`. @throws Error in words when the recorder does not write it
 * in time: a file with holes where there are pictures would be found out too late.
 */
export async function writtenSegments(showId: string, spans: readonly Span[], recorded: Record<string, Run[]>): Promise<StoredSegment[]> {
  for (const began = performance.now(); ;) {
    const segments = await storedSegments(showId);
    const held = (trackId: string) => runsOf(segments.filter((s) => s.trackId === trackId));
    if (spans.every((span) => missingOf(recorded[span.trackId] ?? [], held(span.trackId), span).length === 0)) return segments;
    if (performance.now() - began > LATE_MS)
      throw new Error('some of it has not been written to disk yet, as this machine is busy: wait a moment, and make the file again');
    await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
  }
}
