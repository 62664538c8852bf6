/** Edit lists of a play-out: CMX 3600, and what both list forms share. */
import { type Rate } from '../time/rate';
import { canDropFrames, formatTimecode, parseTimecode } from '../time/timecode';
import { type RollItem } from './air';
import { itemFrames, overlap } from './roll';

/** A cut or dissolve to a span of an angle's recording. */
export interface EditEvent {
  angleId: string;
  /** Name of the angle. */
  angle: string;
  /** Name of the clip. */
  clip: string;
  /** First timeline frame, and the frame after the last. */
  sourceIn: number;
  sourceOut: number;
  /** Per cent. */
  speed: number;
  /** Show frames on the record side, from 0; with a dissolve, from its beginning. */
  recordIn: number;
  recordOut: number;
  /** Frames of the dissolve it begins with; 0 is a cut. */
  dissolve: number;
}

/** A play-out as events. `nameOf` gives an angle's name. */
export function eventsOf(items: readonly RollItem[], joinFrames: number, nameOf: (angleId: string) => string): EditEvent[] {
  let at = 0;
  return items.map((item, i) => {
    const before = items[i - 1];
    const dissolve = before ? overlap(before, item, joinFrames) : 0;
    at -= dissolve;
    const recordIn = at;
    at += itemFrames(item);
    return {
      angleId: item.angleId,
      angle: nameOf(item.angleId),
      clip: item.name,
      sourceIn: item.in,
      sourceOut: item.out,
      speed: item.speed,
      recordIn,
      recordOut: at,
      dissolve,
    };
  });
}

/** Names of reels in CMX 3600: eight characters, letters and digits, told apart by a number where they clash. */
export function reelNames(events: readonly EditEvent[]): Map<string, string> {
  const names = new Map<string, string>();
  const taken = new Set<string>();
  for (const { angleId, angle } of events) {
    if (names.has(angleId)) continue;
    const plain =
      angle
        .normalize('NFKD')
        .toUpperCase()
        .replace(/[^A-Z0-9]/g, '')
        .slice(0, 8) || 'ANGLE';
    let name = plain;
    for (let n = 2; taken.has(name); n += 1) name = `${plain.slice(0, 8 - String(n).length)}${n}`;
    taken.add(name);
    names.set(angleId, name);
  }
  return names;
}

/** Text for one line of a list: control characters and every kind of line break become a blank. */
// eslint-disable-next-line no-control-regex
const oneLine = (text: string) => text.replace(/[\u0000-\u001f\u007f-\u009f\u2028\u2029]+/g, ' ');

/** Record end of an event on its own: what the next one dissolves over belongs to the next. */
const ownEnd = (events: readonly EditEvent[], i: number): number => {
  const next = events[i + 1];
  return next && next.dissolve > 0 ? next.recordIn : (events[i] as EditEvent).recordOut;
};

/** Timeline frame of an event at a record frame. */
const sourceAt = (event: EditEvent, record: number): number => event.sourceIn + Math.round(((record - event.recordIn) * event.speed) / 100);

/**
 * The events as a CMX 3600 edit list: source times in timecode of the recording, record times from one hour on. Slow motion
 * as M2 lines, in frames a second. A dissolve is a cut of no length from the outgoing piece, and the dissolve to the new one.
 */
export function cmx3600(title: string, events: readonly EditEvent[], rate: Rate): string {
  const names = reelNames(events);
  const drop = canDropFrames(rate);
  const start = parseTimecode(drop ? '01:00:00;00' : '01:00:00:00', rate);
  const code = (frame: number) => formatTimecode(frame, rate);
  const lines = [`TITLE: ${oneLine(title)}`, `FCM: ${drop ? 'DROP FRAME' : 'NON-DROP FRAME'}`];
  const put = (number: string, reel: string, how: string, source: [number, number], record: [number, number]) =>
    lines.push(
      `${number}  ${reel.padEnd(8)} V     ${how.padEnd(8)} ${[...source, record[0] + start, record[1] + start].map(code).join(' ')}`,
    );
  events.forEach((event, i) => {
    const number = String(i + 1).padStart(3, '0');
    const reel = names.get(event.angleId) ?? 'AX';
    const before = events[i - 1];
    const end = ownEnd(events, i);
    const sourceEnd = end === event.recordOut ? event.sourceOut : sourceAt(event, end);
    if (event.dissolve > 0 && before) {
      const out = sourceAt(before, event.recordIn);
      put(number, names.get(before.angleId) ?? 'AX', 'C', [out, out], [event.recordIn, event.recordIn]);
    }
    put(
      number,
      reel,
      event.dissolve > 0 ? `D    ${String(event.dissolve).padStart(3, '0')}` : 'C',
      [event.sourceIn, sourceEnd],
      [event.recordIn, end],
    );
    if (event.speed !== 100)
      lines.push(
        `M2   ${reel.padEnd(8)}       ${((rate.num / rate.den) * (event.speed / 100)).toFixed(1).padStart(5, '0')}                ${code(event.sourceIn)}`,
      );
    lines.push(`* FROM CLIP NAME: ${oneLine(event.clip)}`, `* SOURCE FILE: ${oneLine(event.angle)}`);
  });
  return `${lines.join('\r\n')}\r\n`;
}

/** Cuts of the programme, as the as-run log holds them, against the recordings of the angles. */
export function eventsOfLog(
  lines: readonly { place: string; sourceId: string | null; what: string; startFrame: number; endFrame: number | null }[],
  angles: ReadonlyMap<string, string>,
  present: number,
): EditEvent[] {
  const cuts = lines.filter((l) => l.place === 'picture').sort((a, b) => a.startFrame - b.startFrame);
  const first = cuts[0]?.startFrame ?? 0;
  return cuts.flatMap((line, i) => {
    const end = Math.min(line.endFrame ?? present, cuts[i + 1]?.startFrame ?? Infinity);
    const name = line.sourceId === null ? undefined : angles.get(line.sourceId);
    if (end <= line.startFrame) return [];
    // AX is the form's own word for a source that is none of the reels.
    return [
      {
        angleId: name === undefined ? 'other' : (line.sourceId ?? 'other'),
        angle: name ?? 'AX',
        clip: line.what,
        sourceIn: line.startFrame,
        sourceOut: end,
        speed: 100,
        recordIn: line.startFrame - first,
        recordOut: end - first,
        dissolve: 0,
      },
    ];
  });
}
