/** Times of day, and lengths of hours and minutes, as people write and read them. */
import { formatDuration } from './duration';

export const DAY_SECONDS = 86_400;

const two = (n: number) => String(n).padStart(2, '0');

/** Seconds as `m:ss`, or `h:mm:ss` from an hour on; below zero with a minus sign. Rounded to whole seconds. */
export function formatSigned(seconds: number): string {
  const whole = Math.round(Math.abs(seconds));
  return `${seconds < 0 && whole > 0 ? '−' : ''}${formatDuration(whole)}`;
}

/** Seconds after midnight as `hh:mm:ss`; what is past midnight begins anew. Whole seconds, rounded down. */
export function formatDay(seconds: number): string {
  const whole = ((Math.floor(seconds + 1e-6) % DAY_SECONDS) + DAY_SECONDS) % DAY_SECONDS;
  return `${two(Math.floor(whole / 3600))}:${two(Math.floor(whole / 60) % 60)}:${two(whole % 60)}`;
}

/** Numbers between colons, at most three; null for anything else. */
function parts(words: string): number[] | null {
  if (!/^\d{1,5}(:\d{1,2}){0,2}$/.test(words)) return null;
  const list = words.split(':').map(Number);
  return list.slice(1).some((n) => n > 59) ? null : list;
}

/** A length as it is written: `90`, `1:30`, `1:04:30`, `90 s`; seconds, at most a day. Null when it is none. */
export function readLength(words: string): number | null {
  const list = parts(words.trim().replace(/\s*s$/i, ''));
  const seconds = list?.reduce((sum, n) => sum * 60 + n, 0) ?? null;
  return seconds === null || seconds > DAY_SECONDS ? null : seconds;
}

/** A time of day: `14:30` or `14:30:05`; seconds after midnight. Null when it is none. */
export function readDay(words: string): number | null {
  const list = parts(words.trim());
  if (!list || list.length < 2) return null;
  const [h = 0, m = 0, s = 0] = list;
  return h > 23 ? null : h * 3600 + m * 60 + s;
}
