/** Every channel of the desk: those of the sources, and those of their own. */
import { LIVE_WAIT_MS } from './timing';
import { isDraft } from 'immer';
import { KeepLast } from '../desk/keep-last';
import { sourceBehind } from '../desk/pictures';
import { type Show } from '../desk/show';
import { hasSound, traitsOf } from '../show/source-kinds';
import { type Feed } from './document';
import { type ChannelStrip } from './strip';

export interface Channel {
  id: string;
  name: string;
  colour: string;
  sound: ChannelStrip;
  /** Null for a source's own sound. */
  feed: Feed | null;
}

/** All channels, sources first, in the order of the show. Made once for each show, as it is asked for many times a second. */
export function channelsOf(show: Show): Channel[] {
  const { sources, sound } = show;
  const make = (): Channel[] => [
    ...sources.filter(hasSound).map((s) => ({ id: s.id, name: s.name, colour: s.colour, sound: s.sound, feed: null })),
    ...sound.inputs,
  ];
  // A draft may change under the same identity.
  return isDraft(show) ? make() : kept.get([sources, sound.inputs], make);
}

const kept = new KeepLast<Channel[]>();

/** The source whose sound a seat has now; null when nobody sits there. */
export const seatSource = (show: Show, seatId: string): string | null =>
  sourceBehind(show, show.seats.find((s) => s.id === seatId)?.occupantId ?? null);

/** How long a channel whose sound comes straight from a microphone, a line or a connection waits for its picture, milliseconds; 0 for others. */
export function waitMsOf(show: Show, { id, feed }: Pick<Channel, 'id' | 'feed'>): number {
  if (feed?.kind === 'device') return LIVE_WAIT_MS;
  if (feed?.kind === 'tone') return 0;
  const sourceId = feed?.kind === 'seat' ? seatSource(show, feed.seatId) : id;
  const source = show.sources.find((s) => s.id === sourceId);
  return source === undefined ? 0 : traitsOf(source).soundWaitMs;
}

/** Sources whose sound runs through the channel of the seat they fill, with that channel: the first one where there are two. */
export function takenBySeats(show: Show): Map<string, string> {
  const taken = new Map<string, string>();
  for (const { id, feed } of show.sound.inputs) {
    const source = feed.kind === 'seat' ? seatSource(show, feed.seatId) : null;
    if (source !== null && !taken.has(source)) taken.set(source, id);
  }
  return taken;
}
