/** Where a guest stands, as they are told: on air, next, admitted, or in the green room; with note, clock and what is recorded. Pure. */
import { type Desk } from '../desk/air';
import { formatClock, readClock } from '../graphics/clocks';
import { itemOn, itemsToCome } from '../order/find';
import { orderTimes } from '../order/times';
import { formatDay } from '../time/day';
import { NO_TALLY, type Tally } from '../picture/tally';
import { guestNow } from './air';
import { type Guest } from './document';
import { type OrderLine, type Sign, type Standing } from './line';

/** What somebody's own pictures are at a frame; the tally of all pictures is worked out once for all guests. */
function signOf(guest: Guest, state: string, tally: Readonly<Record<string, Tally>>): Sign {
  if (state !== 'admitted') return 'green-room';
  const own = [guest.sourceId, guest.screenId].map((id) => (id === null ? NO_TALLY : (tally[id] ?? NO_TALLY)));
  if (own.some((t) => t.onAir || t.inUse)) return 'air';
  return own.some((t) => t.next || t.nextInUse) ? 'next' : 'ready';
}

/** What a clock shows, in whole seconds. */
function clockWords({ show, air }: Desk, clockId: string | null, frame: number): Standing['clock'] {
  const clock = show.graphics.clocks.find((c) => c.id === clockId);
  if (!clock) return null;
  const { seconds, down } = readClock(clock, air.graphics, frame, show.rate);
  return { name: clock.name, text: seconds === null ? '–' : formatClock(seconds, 'm:ss', down, show.rate) };
}

/** Items of the running order that guests are told of. */
const MOST_LINES = 8;

/** What is on and what comes, to the minute: a time that moves by seconds would be told all the time. */
export function orderLines(desk: Desk, frame: number): OrderLine[] {
  const times = orderTimes(desk, frame);
  const on = itemOn(desk);
  const { items } = desk.show.order;
  return [...(on ? [on] : []), ...itemsToCome(desk)].slice(0, MOST_LINES).map((item) => {
    const starts = times.items[items.indexOf(item)]?.starts ?? null;
    return { name: item.name, at: starts === null ? '' : formatDay(starts).slice(0, 5), on: item === on };
  });
}

/** `order` gives the running order, which is the same for all guests; it is asked for only where somebody sees it. */
export function standingOf(
  desk: Desk,
  guest: Guest,
  frame: number,
  tally: Readonly<Record<string, Tally>>,
  order = () => orderLines(desk, frame),
): Standing {
  const { air } = desk;
  const { state, note, clockId, seesOrder } = guestNow(air, guest.id);
  return {
    sign: signOf(guest, state, tally),
    name: guest.name,
    note,
    clock: clockWords(desk, clockId, frame),
    order: seesOrder ? order() : null,
    recorded: air.recording !== null,
    streamed: air.stream !== null,
    height: guest.height,
    frameRate: guest.frameRate,
    spokenTo: guest.listenerId !== null && air.sound.talkback?.listenerIds.includes(guest.listenerId) === true,
  };
}
