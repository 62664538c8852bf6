/** Clocks as functions of the show frame: exact whatever the load, the same after a reload. */
import { DAY_SECONDS } from '../time/day';
import { type Rate } from '../time/rate';
import { type ClockState, type GraphicsAir } from './air';
import { type Clock } from './document';
import { type ClockFormat } from './element';

/** Frames that have gone by on a clock at `frame`. */
export const clockFrames = (state: ClockState | undefined, frame: number): number =>
  state ? state.value + (state.start === null ? 0 : Math.max(0, frame - state.start)) : 0;

/** Seconds after midnight at `frame`, 0 to 86 400; null until the engine has said the time of day. */
export function timeOfDay(day: GraphicsAir['day'], frame: number, rate: Rate): number | null {
  if (!day) return null;
  const seconds = day.millis / 1000 + ((frame - day.frame) * rate.den) / rate.num;
  return ((seconds % DAY_SECONDS) + DAY_SECONDS) % DAY_SECONDS;
}

/** What a clock says at `frame`: seconds, below zero when it has run over; null when it cannot know. */
export interface ClockReading {
  seconds: number | null;
  /** It has reached its end. */
  over: boolean;
  /** It counts towards its end. */
  down: boolean;
}

/** The reading of a clock at `frame`. */
export function readClock(clock: Clock, air: GraphicsAir, frame: number, rate: Rate): ClockReading {
  if (clock.kind === 'day') return { seconds: timeOfDay(air.day, frame, rate), over: false, down: false };
  if (clock.kind === 'until') {
    const now = timeOfDay(air.day, frame, rate);
    if (now === null) return { seconds: null, over: false, down: true };
    // Up to twelve hours ahead it comes; behind that it has been. So a target after midnight is met.
    const ahead = (((clock.seconds - now) % DAY_SECONDS) + DAY_SECONDS) % DAY_SECONDS;
    return ended(clock, ahead > DAY_SECONDS / 2 ? ahead - DAY_SECONDS : ahead);
  }
  const gone = (clockFrames(air.clocks[clock.id], frame) * rate.den) / rate.num;
  if (clock.kind === 'up') return { seconds: clock.seconds + gone, over: false, down: false };
  return ended(clock, clock.seconds - gone);
}

function ended({ atEnd }: Clock, left: number): ClockReading {
  const over = left <= 0;
  return { seconds: over && (atEnd === 'stop' || atEnd === 'show') ? 0 : left, over, down: true };
}

const two = (n: number) => String(n).padStart(2, '0');

/**
 * Seconds in words. What counts down is rounded up, so that it says 0:00 at its end and not a second before; what counts up is rounded down.
 * `frames` is minutes, seconds and frames of the show's rate.
 */
export function formatClock(seconds: number, format: ClockFormat, down: boolean, rate: Rate): string {
  const parts = format === 'm:ss.t' ? 10 : format === 'frames' ? rate.num / rate.den : 1;
  // A hair off, so that a whole count of frames is not taken for the one beside it.
  const counted = Math.abs(seconds) * parts;
  const up = down !== seconds < 0;
  const whole = up ? Math.ceil(counted - 1e-6) : Math.floor(counted + 1e-6);
  const sign = seconds < 0 && whole > 0 ? '−' : '';
  const all = Math.floor(whole / parts + 1e-9);
  const rest = Math.round(whole - all * parts);
  const [h, m, s] = [Math.floor(all / 3600), Math.floor(all / 60) % 60, all % 60];
  switch (format) {
    case 'hh:mm':
      return `${sign}${two(h)}:${two(m)}`;
    case 'h:mm:ss':
      return `${sign}${h}:${two(m)}:${two(s)}`;
    case 'm:ss.t':
      return `${sign}${Math.floor(all / 60)}:${two(s)}.${rest}`;
    case 'frames':
      return `${sign}${Math.floor(all / 60)}:${two(s)}:${two(rest)}`;
    default:
      return `${sign}${Math.floor(all / 60)}:${two(s)}`;
  }
}

/** Whole seconds that a clock shows at `frame`, rounded as `formatClock` does; null when it cannot know. */
export function wholeSeconds(clock: Clock, air: GraphicsAir, frame: number, rate: Rate): number | null {
  const { seconds, down } = readClock(clock, air, frame, rate);
  if (seconds === null) return null;
  return (down ? Math.ceil(seconds - 1e-6) : Math.floor(seconds + 1e-6)) || 0;
}

/** What an element that shows a clock says at `frame`: null hides it. `last` is true in the last seconds of a clock that counts down. */
export function clockText(
  clock: Clock | undefined,
  air: GraphicsAir,
  format: ClockFormat,
  lastSeconds: number,
  frame: number,
  rate: Rate,
): { text: string; last: boolean } | null {
  if (!clock) return null;
  const { seconds, over, down } = readClock(clock, air, frame, rate);
  if (seconds === null || (over && clock.atEnd === 'hide')) return null;
  if (over && clock.atEnd === 'show') return clock.endWords === '' ? null : { text: clock.endWords, last: false };
  return { text: formatClock(seconds, format, down, rate), last: down && seconds <= lastSeconds && lastSeconds > 0 };
}
