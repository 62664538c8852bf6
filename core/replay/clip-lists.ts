/** Clip lists as CSV (RFC 4180) and JSON, written and read back in. */
import { type Rate } from '../time/rate';
import { formatTimecode, parseTimecode, TimecodeError } from '../time/timecode';
import { type Angle, type Clip } from './document';
import { frameOfDay } from './edit';
import { clipsFrames } from './roll';

/** A clip as a list tells it. */
export interface ListedClip {
  name: string;
  in: number;
  out: number;
  angleIds: string[];
  speed: number;
  rating: number;
  tags: string;
  note: string;
}

/** What a list could not be read for: every line that is wrong. */
export class ClipListError extends Error {}

export const CLIP_COLUMNS = ['number', 'name', 'reel', 'in', 'out', 'frames', 'running time', 'angles', 'speed', 'rating', 'tags', 'note'] as const;

export interface ListContext {
  rate: Rate;
  angles: readonly Angle[];
  angleName: (id: string) => string;
  reelName: (id: string) => string;
}

/** Rows for a CSV, the heads first. Times as timecode, the out as the frame after the last; frames as the exact form of both. */
export function clipRows(clips: readonly Clip[], { rate, angleName, reelName }: ListContext): string[][] {
  const rows = clips.map((c) => [
    String(c.number),
    c.name,
    reelName(c.reelId),
    formatTimecode(c.in, rate),
    formatTimecode(c.out, rate),
    `${c.in}-${c.out}`,
    formatTimecode(clipsFrames([c], 0), rate),
    c.angleIds.map(angleName).join(' + '),
    String(c.speed),
    String(c.rating),
    c.tags,
    c.note,
  ]);
  return [[...CLIP_COLUMNS], ...rows];
}

/** The list as JSON. */
export function clipJson(clips: readonly Clip[], { rate, angleName, reelName }: ListContext): string {
  const list = clips.map(({ number, name, reelId, in: from, out, angleIds, speed, rating, tags, note }) => ({ number, name, reel: reelName(reelId), in: from, out, angles: angleIds.map(angleName), speed, rating, tags, note }));
  return JSON.stringify({ format: 'bivoca-clips', version: 1, rate, clips: list }, null, 1);
}

const whole = (text: unknown, low: number, high: number, fallback: number): number => {
  const value = typeof text === 'number' ? text : Number(String(text ?? '').replace('%', '').trim() || NaN);
  return Number.isFinite(value) ? Math.round(Math.min(high, Math.max(low, value))) : fallback;
};

/** Angles by name, letter case aside; those that the show does not have are left out. */
function angleIdsOf(names: readonly string[], { angles, angleName }: ListContext): string[] {
  const byName = new Map(angles.map((a) => [angleName(a.sourceId).toLowerCase(), a.sourceId]));
  return names.flatMap((n) => byName.get(n.trim().toLowerCase()) ?? []);
}

/**
 * Clips of rows with heads (as `clipRows` writes them; `in`, `out` and `name` are enough, in any order).
 * @throws ClipListError that names every line at fault.
 */
export function clipsOfRows(rows: readonly string[][], context: ListContext, present: number): ListedClip[] {
  const [heads, ...lines] = rows;
  const columns = new Map((heads ?? []).map((h, i) => [h.trim().toLowerCase(), i]));
  if (!columns.has('in') || !columns.has('out')) throw new ClipListError('This list has no columns “in” and “out”. The first line must name the columns.');
  const faults: string[] = [];
  const clips = lines.flatMap((line, i): ListedClip[] => {
    const cell = (name: string) => line[columns.get(name) ?? -1]?.trim() ?? '';
    if (line.every((c) => c.trim() === '')) return [];
    try {
      const exact = /^(\d+)-(\d+)$/.exec(cell('frames'));
      const [from, out] = exact ? [Number(exact[1]), Number(exact[2])] : [cell('in'), cell('out')].map((t) => frameOfDay(parseTimecode(t, context.rate), present, context.rate));
      if (from === undefined || out === undefined || out <= from) throw new TimecodeError('it ends before it begins.');
      return [{ name: cell('name') || `Clip ${i + 1}`, in: from, out, angleIds: angleIdsOf(cell('angles').split('+'), context), speed: whole(cell('speed'), 1, 200, 100), rating: whole(cell('rating'), 0, 5, 0), tags: cell('tags').slice(0, 200), note: cell('note').slice(0, 2000) }];
    } catch (error) {
      faults.push(`line ${i + 2}: ${error instanceof Error ? error.message : String(error)}`);
      return [];
    }
  });
  if (faults.length > 0) throw new ClipListError(`Nothing was read in. ${faults.slice(0, 4).join(' ')}${faults.length > 4 ? ` And ${faults.length - 4} more lines.` : ''}`);
  if (clips.length === 0) throw new ClipListError('This list holds no clips.');
  return clips.map((c) => ({ ...c, name: c.name.slice(0, 120) }));
}

/** Clips of a JSON list. @throws ClipListError when it is none, or names each clip at fault. */
export function clipsOfJson(text: string, context: ListContext): ListedClip[] {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    throw new ClipListError('This file is not JSON: it is damaged, or has the wrong ending.');
  }
  const { format, clips } = (raw ?? {}) as { format?: unknown; clips?: unknown };
  if (format !== 'bivoca-clips' || !Array.isArray(clips)) throw new ClipListError('This is not a list of clips: its format mark is missing.');
  return clips.map((c: Record<string, unknown>, i) => {
    const [from, out] = [c.in, c.out];
    if (!Number.isInteger(from) || !Number.isInteger(out) || (out as number) <= (from as number) || (from as number) < 0) {
      throw new ClipListError(`Clip ${i + 1} of the list has no sound in and out frames. Nothing was read in.`);
    }
    const names = Array.isArray(c.angles) ? c.angles.map(String) : [];
    return { name: String(c.name ?? `Clip ${i + 1}`).slice(0, 120) || `Clip ${i + 1}`, in: from as number, out: out as number, angleIds: angleIdsOf(names, context), speed: whole(c.speed, 1, 200, 100), rating: whole(c.rating, 0, 5, 0), tags: String(c.tags ?? '').slice(0, 200), note: String(c.note ?? '').slice(0, 2000) };
  });
}
