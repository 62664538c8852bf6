/** What a page wants of the mixer by hand, for finding faults. */

import { STEPS } from '#core/picture/capability';

/** For finding faults: `localStorage['bivoca.mixer']` set to `gl` or `soft` overrides the choice. */
export function preferredMixer(): 'gl' | 'soft' | null {
  const chosen = localStorage.getItem('bivoca.mixer');
  return chosen === 'gl' || chosen === 'soft' ? chosen : null;
}

/** `localStorage['bivoca.step']` set to a number holds the engine at that step of what it can reduce (0: nothing), whatever is measured. */
export function heldStep(): number | null {
  const held = Number.parseInt(localStorage.getItem('bivoca.step') ?? '', 10);
  return held >= 0 && held < STEPS.length ? held : null;
}
