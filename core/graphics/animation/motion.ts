/** Where an animation is on its way: its own frames from those of the show. */
import { type AnimationContent } from './document';
import { settledFrame } from './stills';

type Timing = Pick<AnimationContent, 'first' | 'last' | 'pace' | 'holds' | 'stills'>;

/** The frame at which an animation waits. */
export const holdFrame = ({ holds, first }: Timing, index = 0): number => holds[Math.min(index, holds.length - 1)]?.frame ?? first;

/** The last frame that looks like `frame`: what stands still around it is skipped by who leaves it. */
const leaving = ({ stills }: Timing, frame: number): number => stills.find((s) => frame >= s.from && frame <= s.to)?.to ?? frame;

/** The frame that it begins at: what stands still before anything moves is skipped, as far as it does not wait there. */
const beginning = (a: Timing): number => Math.min(leaving(a, a.first), holdFrame(a));

/** Frames of the show until it waits. */
export const comesFrames = (a: Timing): number => Math.max(0, Math.ceil((holdFrame(a) - beginning(a)) / a.pace - 1e-6));
/** Frames of the show until it waits at a hold point: from when it came to the first, from when it was sent on to the others. */
export const goesOnFrames = (a: Timing, index: number): number =>
  index === 0 ? comesFrames(a) : Math.max(0, Math.ceil((holdFrame(a, index) - leaving(a, holdFrame(a, index - 1))) / a.pace - 1e-6));
/** Frames of the show from where it waits, after all that stands still there, to its end. */
export const goesFrames = (a: Timing): number => Math.max(0, Math.ceil((a.last - leaving(a, holdFrame(a, Infinity))) / a.pace - 1e-6));

/** A frame of an animation rounded to hundredths, and to the first of a stretch in which nothing moves: what looks alike is drawn once. */
const shown = ({ stills }: Timing, frame: number): number => settledFrame(stills, Math.round(frame * 100) / 100);

/** Which hold point it waits at, and for how many frames of the show it has been on its way there. */
export interface AtHold {
  index: number;
  frames: number;
}
export const FIRST_HOLD: AtHold = { index: 0, frames: Infinity };

/** Where it is while nobody has sent it off. */
function cameTo(a: Timing, comes: number, { index, frames }: AtHold): number {
  if (index === 0 || comes < comesFrames(a)) return Math.min(beginning(a) + comes * a.pace, holdFrame(a));
  return Math.min(leaving(a, holdFrame(a, index - 1)) + frames * a.pace, holdFrame(a, index));
}

/** True when it stands at its hold point. */
export const isWaiting = (a: Timing, comes: number, hold: AtHold): boolean =>
  cameTo(a, comes, hold) >= holdFrame(a, comes < comesFrames(a) ? 0 : hold.index);

/**
 * The frame that is shown so many frames of the show after it came (`comes`) and, where it is sent off, after that (`out`); null when it is over.
 * One that is sent off before it waits plays on from where it is to its end, in the time that its going takes.
 */
export function frameAt(a: Timing, comes: number, out: number | null, hold = FIRST_HOLD): number | null {
  const came = cameTo(a, comes, hold);
  if (out === null) return shown(a, came);
  const length = goesFrames(a);
  const share = length === 0 ? 1 : out / length;
  const from = leaving(a, came);
  return share >= 1 ? null : shown(a, from + (a.last - from) * share);
}

/** Frames of the show that a change of values takes: the changed layers go, and come anew. */
export const changeFrames = (a: Timing): number => goesFrames(a) + comesFrames(a);

/** The frame of changed layers so long after a change, and whether they still are the ones of before. */
export function changingFrame(a: Timing, frames: number): { which: 'old' | 'new'; frame: number | null } {
  const goes = goesFrames(a);
  if (frames < goes) return { which: 'old', frame: frameAt(a, Infinity, frames) };
  return { which: 'new', frame: frameAt(a, frames - goes, null) };
}
