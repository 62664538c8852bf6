/** How long to wait before trying a destination again. */

const FIRST_MS = 500;
const LONGEST_MS = 8000;

/** Milliseconds before attempt `attempt` (1 for the first retry): doubling from 0.5 s, at most 8 s. */
export function backoffMillis(attempt: number): number {
  return Math.min(LONGEST_MS, FIRST_MS * 2 ** Math.max(0, Math.min(20, attempt - 1)));
}
