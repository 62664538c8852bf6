/** Where a transition stands, and the state after it. */
import { type Air } from '../desk/air';
import { type RunningTransition } from './air';

/** Position of a transition at `frame`, 0 (all old picture) to 1 (all new). Linear. */
export function transitionPosition(t: RunningTransition, frame: number): number {
  if (t.mode === 'bar') return t.position;
  if (t.frames <= 0) return frame >= t.start ? 1 : t.startPosition;
  const share = Math.min(1, Math.max(0, (frame - t.start) / t.frames));
  return t.startPosition + (1 - t.startPosition) * share;
}

/** The transition that is under way at `frame`, or null when there is none or it has ended. */
export function runningTransition(air: Air, frame: number): RunningTransition | null {
  const t = air.transition;
  return t && transitionPosition(t, frame) < 1 ? t : null;
}

/** Frames left of an automatic transition at `frame`. */
export function transitionFramesLeft(t: RunningTransition, frame: number): number {
  return t.mode === 'bar' ? 0 : Math.max(0, Math.ceil(t.start + t.frames - frame));
}
