/** Tally of one picture, for tiles and monitors. */
import { NO_TALLY, type Tally, tallyOf } from '#core/picture/tally';
import { type Desk } from '#core/desk/air';
import { useLive } from './show-client';

/** Worked out once for each frame, however many tiles ask. */
let known: { desk: Desk; frame: number; tally: Record<string, Tally> } | null = null;

function tallyNow(desk: Desk, frame: number): Record<string, Tally> {
  if (known?.desk !== desk || known.frame !== frame) known = { desk, frame, tally: tallyOf(desk.show, desk.air, frame) };
  return known.tally;
}

/** Tally of one picture. */
export const useTally = (id: string): Tally => useLive(({ desk, frame }) => tallyNow(desk, frame)[id] ?? NO_TALLY);
