/** Clip lists as CSV (RFC 4180) and JSON, written and read back in. */
import { guardCell, unguardCell } from '../output/csv';
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

export const CLIP_COLUMNS = [
  'number',
  'name',
  'reel',
  'in',
  'out',
  'frames',
  'running time',
  'angles',
  'speed',
  'rating',
  'tags',
  'note',
  'rate',
] as const;

export interface ListContext {
  rate: Rate;
  angles: readonly Angle[];
  angleName: (id: string) => string;
  reelName: (id: string) => string;
}

/** A rate as a list says it: `25`, or `30000/1001`. */
const rateText = ({ num, den }: Rate): string => (den === 1 ? String(num) : `${num}/${den}`);

/** The rate that `text` says. @throws ClipListError */
function rateOf(text: string): Rate {
  const [, num, den = '1'] = /^(\d{1,6})(?:\/(\d{1,4}))?$/.exec(text) ?? [];
  const rate = { num: Number(num), den: Number(den) };
  if (!(rate.num / rate.den >= 1 && rate.num / rate.den <= 240))
    throw new ClipListError(`“${text.slice(0, 20)}” is not a rate: it must be 1 to 240 frames a second, such as 25 or 30000/1001.`);
  return rate;
}

/** A frame of one rate at another: the same moment, to the nearest frame. */
const atRate = (frame: number, from: Rate, to: Rate): number =>
  from.num * to.den === to.num * from.den ? frame : Math.round((frame * from.den * to.num) / (from.num * to.den));

/** A span at another rate; it keeps a frame at least. */
function spanAtRate(span: [number, number], from: Rate, to: Rate): { in: number; out: number } {
  const [first, end] = [atRate(span[0], from, to), atRate(span[1], from, to)];
  return { in: first, out: Math.max(first + 1, end) };
}

/** Names in one cell, joined by +; a + or \ in a name is written with a \ before it. */
const joinNames = (names: readonly string[]): string => names.map((n) => n.replace(/[\\+]/g, '\\$&')).join(' + ');

/** The names of such a cell. */
const splitNames = (cell: string): string[] => (cell.match(/(?:\\.|[^\\+])+/gs) ?? []).map((n) => n.trim().replace(/\\(.)/gs, '$1'));

/** Rows for a CSV, the heads first. Times as timecode, the out as the frame after the last; frames as the exact form of both. */
export function clipRows(clips: readonly Clip[], { rate, angleName, reelName }: ListContext): string[][] {
  const rows = clips.map((c) => [
    String(c.number),
    guardCell(c.name),
    guardCell(reelName(c.reelId)),
    formatTimecode(c.in, rate),
    formatTimecode(c.out, rate),
    `${c.in}-${c.out}`,
    formatTimecode(clipsFrames([c], 0), rate),
    guardCell(joinNames(c.angleIds.map(angleName))),
    String(c.speed),
    String(c.rating),
    guardCell(c.tags),
    guardCell(c.note),
    rateText(rate),
  ]);
  return [[...CLIP_COLUMNS], ...rows];
}

/** The list as JSON. */
export function clipJson(clips: readonly Clip[], { rate, angleName, reelName }: ListContext): string {
  const list = clips.map(({ number, name, reelId, in: from, out, angleIds, speed, rating, tags, note }) => ({
    number,
    name,
    reel: reelName(reelId),
    in: from,
    out,
    angles: angleIds.map(angleName),
    speed,
    rating,
    tags,
    note,
  }));
  return JSON.stringify({ format: 'bivoca-clips', version: 1, rate, clips: list }, null, 1);
}

const whole = (text: unknown, low: number, high: number, fallback: number): number => {
  const value = typeof text === 'number' ? text : typeof text === 'string' ? Number(text.replace('%', '').trim() || NaN) : NaN;
  return Number.isFinite(value) ? Math.round(Math.min(high, Math.max(low, value))) : fallback;
};

/** Angles by name, letter case aside; those that the show does not have are left out. */
function angleIdsOf(names: string | readonly string[], { angles, angleName }: ListContext): string[] {
  const plain = (name: string) => name.trim().toLowerCase();
  const byName = new Map(angles.map((a) => [plain(angleName(a.pictureId)), a.pictureId]));
  // A list made by hand may name one angle with a + in it as it is.
  const whole = typeof names === 'string' ? byName.get(plain(names)) : undefined;
  if (whole !== undefined) return [whole];
  const found = (typeof names === 'string' ? splitNames(names) : names).flatMap((n) => byName.get(plain(n)) ?? []);
  return [...new Set(found)];
}

/**
 * Clips of rows with heads (as `clipRows` writes them; `in`, `out` and `name` are enough, in any order).
 * @throws ClipListError that names every line at fault.
 */
export function clipsOfRows(rows: readonly string[][], context: ListContext, present: number): ListedClip[] {
  const [heads, ...lines] = rows;
  const columns = new Map((heads ?? []).map((h, i) => [h.trim().toLowerCase(), i]));
  if (!columns.has('in') || !columns.has('out'))
    throw new ClipListError('This list has no columns “in” and “out”. The first line must name the columns.');
  const faults: string[] = [];
  const clips = lines.flatMap((line, i): ListedClip[] => {
    const text = (name: string) => unguardCell(line[columns.get(name) ?? -1] ?? '');
    const cell = (name: string) => text(name).trim();
    if (line.every((c) => c.trim() === '')) return [];
    try {
      const rate = cell('rate') === '' ? context.rate : rateOf(cell('rate'));
      const exact = /^(\d+)-(\d+)$/.exec(cell('frames'));
      const [from, out] = exact
        ? [Number(exact[1]), Number(exact[2])]
        : [cell('in'), cell('out')].map((t) => frameOfDay(parseTimecode(t, rate), atRate(present, context.rate, rate), rate));
      if (from === undefined || out === undefined || out <= from) throw new TimecodeError('it ends before it begins.');
      return [
        {
          name: text('name') || `Clip ${i + 1}`,
          ...spanAtRate([from, out], rate, context.rate),
          angleIds: angleIdsOf(cell('angles'), context),
          speed: whole(cell('speed'), 1, 200, 100),
          rating: whole(cell('rating'), 0, 5, 0),
          tags: text('tags').slice(0, 200),
          note: text('note').slice(0, 2000),
        },
      ];
    } catch (error) {
      faults.push(`line ${i + 2}: ${error instanceof Error ? error.message : String(error)}`);
      return [];
    }
  });
  if (faults.length > 0)
    throw new ClipListError(
      `Nothing was read in. ${faults.slice(0, 4).join(' ')}${faults.length > 4 ? ` And ${faults.length - 4} more lines.` : ''}`,
    );
  if (clips.length === 0) throw new ClipListError('This list holds no clips.');
  return clips.map((c) => ({ ...c, name: c.name.slice(0, 120) }));
}

const textOf = (value: unknown, longest: number): string => (typeof value === 'string' ? value.slice(0, longest) : '');

/** Clips of a JSON list, at the show's rate. @throws ClipListError when it is none, or names each clip at fault. */
export function clipsOfJson(text: string, context: ListContext): ListedClip[] {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    throw new ClipListError('This file is not JSON: it is damaged, or has the wrong ending.');
  }
  const { format, version, rate, clips } = (raw ?? {}) as {
    format?: unknown;
    version?: unknown;
    rate?: { num?: unknown; den?: unknown } | null;
    clips?: unknown;
  };
  if (format !== 'bivoca-clips' || !Array.isArray(clips))
    throw new ClipListError('This is not a list of clips: its format mark is missing.');
  if (version !== 1)
    throw new ClipListError('This list is of a form that is not known here. Nothing was read in; update Bivoca to read it.');
  if (typeof rate?.num !== 'number' || typeof rate.den !== 'number')
    throw new ClipListError('This list does not say its rate. Nothing was read in.');
  const listed = rateOf(`${rate.num}/${rate.den}`);
  return (clips as unknown[]).map((item, i) => {
    const clip = (typeof item === 'object' && item !== null ? item : {}) as Record<string, unknown>;
    const [from, out] = [clip.in, clip.out];
    if (!Number.isSafeInteger(from) || !Number.isSafeInteger(out) || (out as number) <= (from as number) || (from as number) < 0) {
      throw new ClipListError(`Clip ${i + 1} of the list has no sound in and out frames. Nothing was read in.`);
    }
    const names = Array.isArray(clip.angles) ? (clip.angles as unknown[]).filter((n) => typeof n === 'string') : [];
    return {
      name: textOf(clip.name, 120) || `Clip ${i + 1}`,
      ...spanAtRate([from as number, out as number], listed, context.rate),
      angleIds: angleIdsOf(names, context),
      speed: whole(clip.speed, 1, 200, 100),
      rating: whole(clip.rating, 0, 5, 0),
      tags: textOf(clip.tags, 200),
      note: textOf(clip.note, 2000),
    };
  });
}
