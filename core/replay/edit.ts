/** Finding and checking angles, clips and reels for the commands that change them. */
import { current, isDraft } from 'immer';
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { type Rate } from '../time/rate';
import { formatTimecode } from '../time/timecode';
import { type Angle, type Clip, MOST_CLIPS, type Reel, type Replay } from './document';

/** @throws CommandError when the source is not recorded as an angle. */
export function angleOf({ show }: Desk, id: string, field = 'angle'): Angle {
  const found = show.replay.angles.find((a) => a.pictureId === id);
  if (!found) throw new CommandError('unknown-angle', `"${id}" is not an angle of this show. Choose the angles in Replay first.`, field);
  return found;
}

/** @throws CommandError when the show has no such reel. */
export function reelOf({ show }: Desk, id: string, field = 'reel'): Reel {
  const found = show.replay.reels.find((r) => r.id === id);
  if (!found) throw new CommandError('unknown-reel', `There is no reel "${id}" in this show.`, field);
  return found;
}

/** The clips as they are stored, for reading: going through thousands by a draft costs a hundred times as much. */
export const stored = (replay: Replay): Clip[] => (isDraft(replay.clips) ? current(replay.clips) : replay.clips);

/** Clips by their identities, in playing order. @throws CommandError for the first that is not there, or when none is named. */
export function clipsByIds({ show }: Desk, ids: readonly string[], field = 'clips'): Clip[] {
  const wanted = new Set(ids);
  const { clips } = show.replay;
  const found = stored(show.replay).flatMap((c, i) => (wanted.has(c.id) ? [clips[i] as Clip] : []));
  if (found.length < wanted.size) {
    const known = new Set(found.map((c) => c.id));
    throw new CommandError('unknown-clip', `There is no clip "${ids.find((id) => !known.has(id))}" in this show.`, field);
  }
  if (found.length === 0) throw new CommandError('no-clips', 'No clip is chosen. Choose one in the list first.', field);
  return found;
}

export const clipOf = (desk: Desk, id: string): Clip => clipsByIds(desk, [id], 'clip')[0] as Clip;

/** @throws CommandError when the span is empty, lies ahead of the present, or is no longer recorded. */
export function checkSpan({ show, air }: Desk, span: { in: number; out: number }, frame: number, field = 'out'): void {
  const say = (at: number) => formatTimecode(at, show.rate);
  if (span.out <= span.in)
    throw new CommandError('empty-span', `The out point (${say(span.out)}) must come after the in point (${say(span.in)}).`, field);
  if (span.out > frame + 1) throw new CommandError('not-yet', `${say(span.out)} has not happened yet.`, field);
  const { kept } = air.replay;
  if (kept && span.out <= kept.from) throw new CommandError('not-kept', `Nothing is kept from before ${say(kept.from)}.`, field);
}

/** @throws CommandError when `more` clips do not fit. */
export function checkRoom({ show }: Desk, more: number): void {
  if (show.replay.clips.length + more > MOST_CLIPS)
    throw new CommandError('too-many', `A show holds at most ${MOST_CLIPS} clips. Remove some first.`);
}

/** The first number above every clip's. */
export const nextNumber = (replay: Replay): number => stored(replay).reduce((top, c) => Math.max(top, c.number), 0) + 1;

/** Puts clips behind the last of their reel: at the end of the list, whose order within a reel is the playing order. */
export function append(replay: Replay, clips: readonly Clip[]): void {
  replay.clips.push(...clips);
}

const DAY_SECONDS = 86_400;

/** The frame that a timecode means: of all days, the newest not after `present`. */
export function frameOfDay(frame: number, present: number, rate: Rate): number {
  const day = Math.round((DAY_SECONDS * rate.num) / rate.den);
  return frame > present ? frame : frame + Math.floor((present - frame) / day) * day;
}
