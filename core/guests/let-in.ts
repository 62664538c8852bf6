/** Whether a source may be in the show: guests have to be let in. Asked for pictures, for sound, and for what is recorded of a source. Pure. */
import { type Air } from '../desk/air';
import { type Show } from '../desk/show';
import { type Source } from '../show/source';
import { framesPerSecond } from '../time/rate';
import { guestNow } from './air';
import { type Guest } from './document';

/** How long the last good frame of somebody whose line is down stays before their card is shown, seconds. */
export const HOLDS_SECONDS = 4;

/** The guest whose camera or screen a source is; undefined for any other. */
export const guestBehind = ({ guests }: Pick<Show, 'guests'>, { id, settings }: Source): Guest | undefined =>
  settings.kind === 'guest' ? guests.list.find((g) => g.sourceId === id || g.screenId === id) : undefined;

/** True for everything but a guest who is not admitted: that one is neither heard nor recorded. */
export function isLetIn(show: Pick<Show, 'guests'>, air: Pick<Air, 'guests'>, source: Source | undefined): boolean {
  if (source?.settings.kind !== 'guest') return true;
  const guest = guestBehind(show, source);
  return guest !== undefined && guestNow(air, guest.id).state === 'admitted';
}

/** True while a source is seen itself: nobody who waits is, nor somebody whose line has been down for a while. */
export function isSeen(show: Pick<Show, 'guests' | 'rate'>, air: Pick<Air, 'guests'>, source: Source, frame: number): boolean {
  const guest = guestBehind(show, source);
  if (!guest) return source.settings.kind !== 'guest';
  const { lost, since } = guestNow(air, guest.id);
  return isLetIn(show, air, source) && (!lost || frame - since < HOLDS_SECONDS * framesPerSecond(show.rate));
}
