/** Frame rates as exact rationals, and the conversions between frame counts and seconds. */

/** Frames per second as `num / den`; 29.97 is 30000/1001. Both are positive integers. */
export interface Rate {
  num: number;
  den: number;
}

/** The rates a new show offers, by their usual names. */
export const COMMON_RATES: readonly { label: string; rate: Rate }[] = [
  { label: '24', rate: { num: 24, den: 1 } },
  { label: '25', rate: { num: 25, den: 1 } },
  { label: '29.97', rate: { num: 30000, den: 1001 } },
  { label: '30', rate: { num: 30, den: 1 } },
  { label: '50', rate: { num: 50, den: 1 } },
  { label: '59.94', rate: { num: 60000, den: 1001 } },
  { label: '60', rate: { num: 60, den: 1 } },
];

/** Frames per second as a float, for display and for budgets; never accumulate it. */
export function framesPerSecond(rate: Rate): number {
  return rate.num / rate.den;
}

/** Start of `frame` in microseconds since frame 0, rounded to the nearest; exact for |frame| < 2^33. */
export function frameToMicros(frame: number, rate: Rate): number {
  return Math.round((frame * rate.den * 1e6) / rate.num);
}

/** Start of `frame` in seconds since frame 0. */
export function frameToSeconds(frame: number, rate: Rate): number {
  return (frame * rate.den) / rate.num;
}

/** The frame being shown at `micros`: the last one that begins at or before it. */
export function microsToFrame(micros: number, rate: Rate): number {
  const guess = Math.floor((micros * rate.num) / (rate.den * 1e6));
  // frameToMicros rounds, so the guess can be one off either way at a boundary.
  if (frameToMicros(guess + 1, rate) <= micros) return guess + 1;
  if (frameToMicros(guess, rate) > micros) return guess - 1;
  return guess;
}

/** A duration in seconds as whole frames, nearest, never below zero. */
export function secondsToFrames(seconds: number, rate: Rate): number {
  return Math.max(0, Math.round((seconds * rate.num) / rate.den));
}

/** Length of one frame in microseconds, as a float. */
export function frameMicros(rate: Rate): number {
  return (rate.den * 1e6) / rate.num;
}

/** "25", "29.97": the usual name of a rate. */
export function rateLabel(rate: Rate): string {
  const known = COMMON_RATES.find((c) => c.rate.num === rate.num && c.rate.den === rate.den);
  return known ? known.label : String(Math.round(framesPerSecond(rate) * 1000) / 1000);
}
