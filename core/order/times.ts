/** Planned, real and expected times of the running order. Pure: of the desk and a frame. Times are seconds after midnight of the day on which the show began; past midnight they go on above 86,400. */
import { type Desk } from '../desk/air';
import { timeOfDay } from '../graphics/clocks';
import { framesPerSecond } from '../time/rate';
import { DAY_SECONDS } from '../time/day';
import { type OrderItem } from './document';
import { itemOn, itemsToCome } from './find';

export type ItemState = 'past' | 'on' | 'next' | 'to-come' | 'passed' | 'skipped' | 'floats';

export interface ItemTimes {
  state: ItemState;
  /** Planned beginning; null for what floats. */
  planned: number | null;
  /** Beginning, real or expected; null for what is not in turn. */
  starts: number | null;
  /** Seconds that it took, or has taken so far; null when it was not on yet. */
  took: number | null;
  /** Before a hard time: seconds to be filled by then; below zero those that are too many. */
  gap: number | null;
}

export interface OrderTimes {
  /** Now. */
  now: number;
  /** In the order of the list. */
  items: ItemTimes[];
  /** Seconds left of the item that is on; below zero it is over. Null when none is on, or it has no length. */
  left: number | null;
  /** End as it was planned, or has to be; null without items in turn. */
  plannedEnd: number | null;
  /** End as it is to be expected now. */
  expectedEnd: number | null;
  /** Seconds by which the show will be over its time; below zero it is under. */
  over: number | null;
}

/** `seconds` on the day of `near`: what is more than half a day before it is meant for the day after. */
function onDayOf(seconds: number, near: number): number {
  return seconds + Math.round((near - seconds) / DAY_SECONDS) * DAY_SECONDS;
}

/** Planned beginnings: one after another from the planned beginning on, hard times where they are. */
function plan(items: readonly OrderItem[], from: number): { at: (number | null)[]; end: number } {
  let time = from;
  const at = items.map((item) => {
    if (item.floats) return null;
    if (item.hard !== null) time = onDayOf(item.hard, time);
    const planned = time;
    time += item.seconds;
    return planned;
  });
  return { at, end: time };
}

export function orderTimes(desk: Desk, frame: number): OrderTimes {
  const { show, air } = desk;
  const { items, startsAt, endsAt } = show.order;
  const fps = framesPerSecond(show.rate);
  const clock = timeOfDay(air.graphics.day, frame, show.rate) ?? frame / fps;
  const { past, since } = air.order;
  const on = itemOn(desk);
  const began = past[0]?.from ?? (on ? since : null);
  // A show that began yesterday has gone past midnight.
  const beganAt = began === null ? null : clock - (frame - began) / fps;
  const days = beganAt !== null && beganAt < 0 ? DAY_SECONDS : 0;
  const now = clock + days;
  const timeOf = (at: number) => now - (frame - at) / fps;
  const reference = began === null ? now : timeOf(began);
  const planned = plan(items, startsAt === null ? reference : onDayOf(startsAt, reference));

  const left = on && on.seconds > 0 ? on.seconds - (frame - since) / fps : null;
  const starts = new Map<string, number>();
  const gaps = new Map<string, number>();
  const coming = itemsToCome(desk);
  const first = startsAt === null ? now : Math.max(now, onDayOf(startsAt, now));
  let time = on ? Math.max(now, timeOf(since) + on.seconds) : began === null ? first : now;
  for (const item of coming) {
    if (item.hard !== null) {
      const hard = onDayOf(item.hard, time);
      gaps.set(item.id, hard - time);
      time = Math.max(time, hard);
    }
    starts.set(item.id, time);
    time += item.seconds;
  }
  const last = past.at(-1);
  // Over when nothing is on and nothing comes.
  const end = last && !on && coming.length === 0 ? timeOf(last.to) : time;
  const any = items.some((i) => !i.floats);
  const plannedEnd = !any ? null : endsAt === null ? planned.end : onDayOf(endsAt, planned.end);

  const timesOf = (item: OrderItem, i: number): ItemTimes => {
    const was = past.findLast((p) => p.itemId === item.id);
    const comes = starts.get(item.id);
    const begins = item === on ? since : comes === undefined ? was?.from : undefined;
    const until = item === on ? frame : was?.to;
    return {
      state: stateOf(desk, item, item === on, item === coming[0], comes !== undefined, was !== undefined),
      planned: planned.at[i] ?? null,
      starts: comes ?? (begins === undefined ? null : timeOf(begins)),
      took: begins === undefined || until === undefined ? null : (until - begins) / fps,
      gap: gaps.get(item.id) ?? null,
    };
  };
  return {
    now,
    left,
    plannedEnd,
    expectedEnd: any ? end : null,
    over: plannedEnd === null || (began === null && startsAt === null) ? null : end - plannedEnd,
    items: items.map(timesOf),
  };
}

function stateOf({ air }: Desk, item: OrderItem, isOn: boolean, isNext: boolean, comes: boolean, was: boolean): ItemState {
  if (isOn) return 'on';
  if (comes) return isNext ? 'next' : 'to-come';
  if (was) return 'past';
  if (item.floats) return 'floats';
  return air.order.skipped.includes(item.id) ? 'skipped' : 'passed';
}
