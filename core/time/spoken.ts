/** Timecodes typed as they are spoken: digits without colons, parts left out, steps. */
import { framesPerSecond, type Rate } from './rate';
import { canDropFrames, formatTimecode, parseTimecode, TimecodeError } from './timecode';

/** Numbers that drop-frame leaves out go to the next one there is. */
function frameAt(h: number, m: number, s: number, f: number, rate: Rate): number {
  const two = (n: number) => String(n).padStart(2, '0');
  const text = (frames: number) => `${two(h)}:${two(m)}:${two(s)}${canDropFrames(rate) ? ';' : ':'}${two(frames)}`;
  try {
    return parseTimecode(text(f), rate);
  } catch (fault) {
    if (!canDropFrames(rate) || s !== 0 || f >= 4 || m % 10 === 0) throw fault;
    return parseTimecode(text(Math.round(rate.num / rate.den) / 15), rate);
  }
}

/** "+10" frames, "-2s" seconds, "+1:30" minutes and seconds. */
function step(text: string, rate: Rate): number | null {
  const match = /^([+−-])(?:(\d{1,3}):(\d{1,2})|(\d{1,6})(s|f)?)$/.exec(text);
  if (!match) return null;
  const [, sign, minutes, seconds, count, unit] = match;
  const amount =
    count !== undefined
      ? Number(count) * (unit === 's' ? framesPerSecond(rate) : 1)
      : (Number(minutes) * 60 + Number(seconds)) * framesPerSecond(rate);
  return Math.round(amount) * (sign === '+' ? 1 : -1);
}

/**
 * Frame of a timecode as it is spoken. `115410` and `11.54.10` are 11:54:10, `54:00` and `5400` the 54th minute of the hour of `from`,
 * `10` its tenth second; eight digits or four parts end with frames. `+10`, `-10` go by frames from `from`, `+2s` by seconds, `+1:30`
 * by minutes and seconds. Dots, commas and spaces are colons.
 * @throws TimecodeError that says what can be written.
 */
export function parseSpoken(text: string, from: number, rate: Rate): number {
  const clean = text.trim().toLowerCase();
  const by = step(clean, rate);
  if (by !== null) return Math.max(0, from + by);
  const parts = /^\d+$/.test(clean) ? (clean.length % 2 === 0 ? clean : `0${clean}`).match(/../g) : clean.split(/[:;., ]+/);
  if (!parts || parts.length > 4 || parts.some((p) => !/^\d{1,3}$/.test(p)))
    throw new TimecodeError(`"${text.slice(0, 40)}" is no timecode: write 115410, 54:00, 11:54:10:12, or +10 for frames.`);
  const numbers = parts.map(Number);
  const frames = numbers.length === 4 ? numbers.pop() : 0;
  const [h, m] = formatTimecode(from, rate).split(/[:;]/).map(Number) as [number, number];
  const [hours = 0, minutes = 0, seconds = 0] = [h, m, 0].slice(0, 3 - numbers.length).concat(numbers);
  return frameAt(hours, minutes, seconds, frames ?? 0, rate);
}

/** "0:04 12f", "1:01:03 02f": a length with its frames, which look unlike seconds. Rounds part frames up. */
export function formatLength(frames: number, rate: Rate): string {
  const fps = Math.round(rate.num / rate.den);
  const whole = Math.max(0, Math.ceil(frames - 1e-6));
  const seconds = Math.floor(whole / fps);
  const h = Math.floor(seconds / 3600);
  const two = (n: number) => String(n).padStart(2, '0');
  const head = h > 0 ? `${h}:${two(Math.floor(seconds / 60) % 60)}` : String(Math.floor(seconds / 60));
  return `${head}:${two(seconds % 60)} ${two(whole % fps)}f`;
}
