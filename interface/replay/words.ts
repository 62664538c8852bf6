/** Times of Replay as operators read them. */
import { type Rate } from '#core/time/rate';

/** "−0:12.4": how far behind the present, to a tenth of a second. */
export function behindText(frames: number, rate: Rate): string {
  const tenths = Math.max(0, Math.floor((frames * rate.den * 10) / rate.num + 1e-6));
  const seconds = Math.floor(tenths / 10);
  const h = Math.floor(seconds / 3600);
  const m = Math.floor(seconds / 60) % 60;
  const tail = `${String(seconds % 60).padStart(2, '0')}.${tenths % 10}`;
  return h > 0 ? `−${h}:${String(m).padStart(2, '0')}:${tail}` : `−${m}:${tail}`;
}

/** "▶ 50 %", "◀◀ 4×": how a deck moves. */
export function motionText(rate: number, kind: string): string {
  if (rate === 0) return '❙❙';
  if (kind === 'shuttle') return `${rate < 0 ? '◀◀' : '▶▶'} ${Math.abs(rate)}×`;
  return `${rate < 0 ? '◀' : '▶'} ${Math.round(Math.abs(rate) * 100)} %`;
}
