/** Trying a graphic beside air: it comes, stays a while, and goes. */
import { type Graphic } from './document';
import { inLength, outLength } from './lengths';
import { AT_REST, type Phase } from './motion';

/** Frames that a graphic stands between coming and going when it is tried, at least: what moves while it stands does so twice. */
const HOLD = 40;
/** And at most. */
const MOST_HOLD = 500;

/** The frames of a trial: coming, standing, going, and all of it. */
export function trialOf(graphic: Graphic): { comes: number; hold: number; goes: number; all: number } {
  const [comes, goes] = [inLength(graphic), outLength(graphic)];
  const held = graphic.elements.map(({ hold: h }) => (h ? h.start + 2 * (h.frames + h.rest) : 0));
  const hold = Math.min(MOST_HOLD, Math.max(HOLD, ...held));
  return { comes, hold, goes, all: comes + hold + goes };
}

/** Where a graphic is at a frame of its trial; at rest while it is not tried. */
export function trialPhase(graphic: Graphic, trial: number | null): Phase {
  if (trial === null) return AT_REST;
  const { comes, hold } = trialOf(graphic);
  return trial < comes + hold ? { in: trial, out: null } : { in: comes + hold, out: trial - comes - hold };
}
