/** What is known of this machine's controllers now: how each driver fares, and what was moved last. */
import { create } from 'zustand';
import { type ControlEvent } from '#core/control/control';

interface Controllers {
  /** What each driver says of itself. */
  states: Record<string, string>;
  /** The control that was moved last, for binding it. */
  last: { device: string; control: string; kind: ControlEvent['kind'] } | null;
}

export const useControls = create<Controllers>(() => ({ states: {}, last: null }));
