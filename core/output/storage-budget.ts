/** Whether there is room to go on recording. */

export interface Room {
  /** Seconds that still fit at the present rate; Infinity when nothing is written. */
  secondsLeft: number;
  /** Less than five minutes left: say so. */
  warn: boolean;
  /** So little left that the recording must be ended while it still can be, cleanly. */
  stop: boolean;
}

/** Kept free so that a recording can be finished and the show saved, bytes. */
export const RESERVE_BYTES = 48e6;
const WARN_SECONDS = 300;

/** Room for a recording that writes `bytesPerSecond` with `free` bytes granted. */
export function recordingRoom(free: number, bytesPerSecond: number): Room {
  const usable = Math.max(0, free - RESERVE_BYTES);
  const secondsLeft = bytesPerSecond > 0 ? usable / bytesPerSecond : Infinity;
  return { secondsLeft, warn: secondsLeft < WARN_SECONDS, stop: usable <= 0 };
}
