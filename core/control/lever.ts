/** What a lever's travel means: dead zone, curve, pick-up, and the steps of a shuttle. */
import { Flag, Num } from '../schema/fields';

/** How the travel of a lever is read. */
export class Travel {
  @Num(0, 0.5, 'share of the travel at rest that does nothing: about the middle, or at the lower end') deadZone!: number;
  @Num(1, 4, '1 is even; above, finer near its rest: the level is the place to this power') curve!: number;
  @Flag('the other way round') turned!: boolean;
}

export const PLAIN_TRAVEL: Travel = { deadZone: 0, curve: 1, turned: false };

/** A stick or sprung lever trembles about its middle. */
export const STICK_TRAVEL: Travel = { deadZone: 0.06, curve: 1, turned: false };

const clamp = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value));

/** The level of a place, both 0 to 1 or both −1 to 1 with the rest in the middle. Both ends are always reached. */
export function levelOf(place: number, span: 'one' | 'both', { deadZone, curve, turned }: Travel): number {
  const low = span === 'both' ? -1 : 0;
  const way = clamp(Number.isFinite(place) ? place : 0, low, 1);
  const straight = turned ? (span === 'both' ? -way : 1 - way) : way;
  const size = Math.abs(straight);
  if (size <= deadZone) return 0;
  return Math.sign(straight) * ((size - deadZone) / (1 - deadZone)) ** curve;
}

/** Shuttle speeds from a lever's rest to its end, times play speed. */
const DETENTS = [0, 0.25, 0.5, 1, 2, 4, 8, 16];

/** Rate of the shuttle at a level, −1 to 1. */
export function shuttleRate(level: number): number {
  const way = Math.min(1, Math.abs(level));
  if (way === 0) return 0;
  const step = Math.max(1, Math.min(DETENTS.length - 1, Math.ceil(way * (DETENTS.length - 1))));
  return Math.sign(level) * (DETENTS[step] as number);
}

/** A lever this near to the thing takes hold of it; share of its travel. */
const NEAR = 0.02;
/** The thing has been moved by another hand when it is further from where the lever left it. */
const MOVED = 0.03;

/**
 * Keeps a lever from making what it moves jump: it takes hold only where the thing stands, by coming near to it or passing it,
 * and lets go when something else has moved the thing away.
 */
export class PickUp {
  private place: number | null = null;
  /** Where this lever put the thing. */
  private left: number | null = null;

  /** True when the lever may move the thing, which stands at `present`, to `level`; both in the lever's span. */
  takes(level: number, present: number | null): boolean {
    if (present === null) return true;
    const before = this.place;
    this.place = level;
    const holds = this.left !== null && Math.abs(present - this.left) <= MOVED;
    const passes = before !== null && (before - present) * (level - present) <= 0;
    if (!holds && !passes && Math.abs(level - present) > NEAR) {
      this.left = null;
      return false;
    }
    this.left = level;
    return true;
  }
}
