/** A show as it was left: what can be seen of it while it opens. */
import { type Desk, createAir } from '#core/desk/air';
import { resumedAir, resumeMicros } from '#core/desk/resume';
import { SHOW_VERSION } from '#core/desk/version';
import { microsToFrame } from '#core/time/rate';
import { type AirRow, type ShowRow } from './db';

/**
 * Desk and show frame with which a stored show will go on; null where it has to be brought up to date first.
 * @param last what was on air at the last act
 * @param now wall time, milliseconds since 1970
 */
export function leftDesk({ show, epoch }: ShowRow, last: AirRow | undefined, now: number): { desk: Desk; frame: number } | null {
  if (show.version !== SHOW_VERSION) return null;
  const air = last ? resumedAir(show, last.air) : createAir(show);
  return { desk: { show, air }, frame: microsToFrame(resumeMicros(epoch ?? now, last?.savedFrame ?? 0, now, show.rate), show.rate) };
}
