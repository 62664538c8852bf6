/** Timecode to SMPTE ST 12-1, with drop-frame counting for the 29.97 and 59.94 families. */
import { type Rate } from './rate';

/** A timecode that cannot be read; `message` says why. */
export class TimecodeError extends Error {}

/** Frames counted in one timecode second: 30 for 29.97, 60 for 59.94. */
function nominal(rate: Rate): number {
  return Math.round(rate.num / rate.den);
}

/** True when `rate` has a drop-frame count in ST 12-1 (multiples of 30000/1001). */
export function canDropFrames(rate: Rate): boolean {
  return rate.den === 1001 && rate.num % 30000 === 0;
}

/** Numbers skipped at each minute not divisible by ten: 2 at 29.97, 4 at 59.94. */
function droppedPerMinute(rate: Rate): number {
  return nominal(rate) / 15;
}

/**
 * `frame` (any integer ≥ 0; wraps at 24 h) as `hh:mm:ss:ff`, or `hh:mm:ss;ff` when `drop` and the rate allows it.
 * Source: ST 12-1, 2 (or 4) frame numbers are left out at each minute except every tenth.
 */
export function formatTimecode(frame: number, rate: Rate, drop = canDropFrames(rate)): string {
  const fps = nominal(rate);
  const dropping = drop && canDropFrames(rate);
  let count = Math.max(0, Math.floor(frame));
  if (dropping) {
    const skip = droppedPerMinute(rate);
    const perMinute = fps * 60 - skip;
    const perTen = perMinute * 10 + skip;
    const tens = Math.floor(count / perTen);
    const rest = count % perTen;
    count += tens * skip * 9 + (rest >= skip ? skip * Math.floor((rest - skip) / perMinute) : 0);
  }
  const ff = count % fps;
  const seconds = Math.floor(count / fps) % 86400;
  const two = (n: number) => String(n).padStart(2, '0');
  const clock = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60].map(two).join(':');
  return `${clock}${dropping ? ';' : ':'}${two(ff)}`;
}

/**
 * Frame number of a timecode `hh:mm:ss:ff`; a `;` before the frames means drop-frame.
 * @throws TimecodeError naming the part that is wrong, or a number that drop-frame leaves out.
 */
export function parseTimecode(text: string, rate: Rate): number {
  const match = /^\s*(\d{1,2}):(\d{1,2}):(\d{1,2})([:;])(\d{1,3})\s*$/.exec(text);
  if (!match) throw new TimecodeError(`"${text.slice(0, 40)}" is not a timecode: write hours:minutes:seconds:frames, as 00:01:30:12.`);
  const [h, m, s, f] = [match[1], match[2], match[3], match[5]].map(Number) as [number, number, number, number];
  const fps = nominal(rate);
  if (h > 23) throw new TimecodeError(`Hours go to 23, not ${h}.`);
  if (m > 59) throw new TimecodeError(`Minutes go to 59, not ${m}.`);
  if (s > 59) throw new TimecodeError(`Seconds go to 59, not ${s}.`);
  if (f >= fps) throw new TimecodeError(`Frames go to ${fps - 1} at this rate, not ${f}.`);
  const frame = ((h * 60 + m) * 60 + s) * fps + f;
  if (match[4] !== ';') return frame;
  if (!canDropFrames(rate)) throw new TimecodeError('Drop-frame (;) belongs to 29.97 and 59.94 frames a second only.');
  const skip = droppedPerMinute(rate);
  const minutes = h * 60 + m;
  if (s === 0 && f < skip && minutes % 10 !== 0) {
    throw new TimecodeError(`Drop-frame leaves out ${text.trim()}: the minute begins at frame ${skip}.`);
  }
  return frame - skip * (minutes - Math.floor(minutes / 10));
}
