/** Durations as people read and type them. */
import { framesPerSecond, type Rate } from './rate';

/** Seconds as `m:ss` or `h:mm:ss`; a negative value counts as zero. Rounds down, as a running clock does. */
export function formatDuration(seconds: number): string {
  const whole = Math.max(0, Math.floor(Number.isFinite(seconds) ? seconds : 0));
  const h = Math.floor(whole / 3600);
  const m = Math.floor(whole / 60) % 60;
  const s = String(whole % 60).padStart(2, '0');
  return h > 0 ? `${h}:${String(m).padStart(2, '0')}:${s}` : `${m}:${s}`;
}

/** Seconds left as `m:ss`, rounded up, so that 0:00 appears only at the very end. */
export function formatTimeLeft(seconds: number): string {
  return formatDuration(Math.ceil(Math.max(0, seconds) - 1e-6));
}

/**
 * A typed length as frames: `25f` is frames, `1.5s` or `1.5` seconds, `1:30` minutes and seconds.
 * @returns null when the text is none of these or is negative.
 */
export function parseLength(text: string, rate: Rate): number | null {
  const clean = text.trim().toLowerCase().replace(',', '.');
  const frames = /^(\d+)\s*f$/.exec(clean);
  if (frames) return Number(frames[1]);
  const seconds = /^(\d+(?:\.\d+)?)\s*s?$/.exec(clean);
  if (seconds) return Math.round(Number(seconds[1]) * framesPerSecond(rate));
  const clock = /^(?:(\d+):)?(\d+):(\d{1,2}(?:\.\d+)?)$/.exec(clean);
  if (!clock || Number(clock[3]) >= 60) return null;
  const total = Number(clock[1] ?? 0) * 3600 + Number(clock[2]) * 60 + Number(clock[3]);
  return Math.round(total * framesPerSecond(rate));
}

/** How long ago something was, roughly, in words: "4 s ago". */
export function formatAgo(seconds: number): string {
  const s = Math.max(0, Math.round(seconds));
  if (s < 2) return 'just now';
  if (s < 120) return `${s} s ago`;
  if (s < 7200) return `${Math.round(s / 60)} min ago`;
  return s < 172_800 ? `${Math.round(s / 3600)} h ago` : `${Math.round(s / 86_400)} days ago`;
}

/** Bytes as people read them: 812 kB, 1.4 GB (decimal units, as file managers show). */
export function formatBytes(bytes: number): string {
  if (!Number.isFinite(bytes) || bytes < 0) return '–';
  if (bytes < 1e6) return `${Math.round(bytes / 1e3)} kB`;
  if (bytes < 1e9) return `${(bytes / 1e6).toFixed(1)} MB`;
  return `${(bytes / 1e9).toFixed(bytes < 1e11 ? 1 : 0)} GB`;
}
