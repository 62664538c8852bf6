/** Which triggers act at a frame, and why others do not. Pure: whoever runs a show asks at every frame, with what was so before; null the first time. */
import { type Desk } from '../desk/air';
import { framesPerSecond } from '../time/rate';
import { EVENTS, isSo } from './events';
import { type Trigger } from './document';

/** So many times within so many seconds is a circle of triggers. */
const MOST_OFTEN = 10;
const OFTEN_SECONDS = 2;

/** What was so when it was last looked, by trigger; none for those that are new. */
export type Facts = ReadonlyMap<string, boolean | number | null>;

export interface Happened {
  trigger: Trigger;
  /** Frame at which it happens. */
  frame: number;
  /** Why nothing is done; null when it acts. */
  why: string | null;
  /** It acts so often that it has to be disarmed. */
  circle: boolean;
}

/** Why a trigger does not act; null when it does. */
function hindrance(desk: Desk, trigger: Trigger, frame: number): string | null {
  const state = desk.air.automation.triggers[trigger.id];
  if (trigger.once && (state?.acted ?? 0) > 0) return 'it acts once only, and has';
  const last = state?.recent.at(-1);
  const seconds = last === undefined ? Infinity : (frame - last) / framesPerSecond(desk.show.rate);
  if (seconds < trigger.every) return `it acts every ${trigger.every} s at most, and has ${Math.round(seconds * 10) / 10} s ago`;
  const not = trigger.conditions.findIndex(({ is, so }) => (isSo(desk, is, frame) ?? false) !== so);
  return not === -1 ? null : `its condition ${not + 1} is not so`;
}

/**
 * What happens at a frame: events that were not so before and are now. What is so from the beginning is no event, but for the opening of the show.
 * `ahead` is how many frames before theirs events that come by time are told.
 */
export function happened(before: Facts | null, desk: Desk, frame: number, ahead: number): { facts: Facts; list: Happened[] } {
  const { triggers } = desk.show.automation;
  const facts = new Map<string, boolean | number | null>();
  const list: Happened[] = [];
  for (const trigger of triggers) {
    if (!trigger.armed) continue;
    const at = EVENTS[trigger.when.event].timed ? frame + ahead : frame + 1;
    const so = isSo(desk, trigger.when, at);
    facts.set(trigger.id, so);
    const opens = trigger.when.event === 'opens' && before === null;
    const was = before?.get(trigger.id);
    // One after another of the same kind is an event each: their numbers tell them apart.
    const again = typeof so === 'number' && typeof was === 'number' && so > was;
    if (!so || (was !== false && !again && !opens)) continue;
    const recent = desk.air.automation.triggers[trigger.id]?.recent ?? [];
    const tenth = recent.at(-MOST_OFTEN);
    const circle = tenth !== undefined && at - tenth < OFTEN_SECONDS * framesPerSecond(desk.show.rate);
    list.push({
      trigger,
      frame: at,
      circle,
      why: circle ? `it has acted ${MOST_OFTEN} times within ${OFTEN_SECONDS} s` : hindrance(desk, trigger, at),
    });
  }
  return { facts, list };
}
