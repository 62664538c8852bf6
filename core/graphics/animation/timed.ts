/** Hold points that end by themselves after a number of seconds. */
import { type Rate } from '../../time/rate';
import { type Shown } from '../air';
import { goesOnFrames } from './motion';

/** The frame at which the hold that a graphic waits at is over; null where it waits until it is sent on. Of several animations the last counts. */
export function heldUntil({ graphic, start, hold }: Shown, rate: Rate): number | null {
  let until: number | null = null;
  for (const { content } of graphic.elements) {
    if (content.kind !== 'animation') continue;
    const seconds = content.holds[Math.min(hold.index, content.holds.length - 1)]?.seconds ?? null;
    if (seconds === null) continue;
    const since = (hold.index === 0 ? start : hold.start) + goesOnFrames(content, hold.index);
    until = Math.max(until ?? 0, since + Math.round((seconds * rate.num) / rate.den));
  }
  return until;
}

/** How many hold points the animations of a graphic have, at most. */
export const holdCount = ({ graphic }: Pick<Shown, 'graphic'>): number =>
  graphic.elements.reduce((most, { content }) => (content.kind === 'animation' ? Math.max(most, content.holds.length) : most), 0);
