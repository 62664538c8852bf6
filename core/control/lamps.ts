/** Lamps of bound keys: which are lit on devices that have lamps. */
import { type Hands } from './action';
import { findAction } from './actions';
import { bindingFor, bindingsOf, type KeyLayout } from './key-layout';

/** True when anything is bound on a device: otherwise there is nothing to ask 10 times a second. */
export const hasLamps = (layout: KeyLayout, device: string): boolean => bindingsOf(layout).some((b) => b.device === device);

/** Controls of a device that do something with a lamp, and whether it is lit: recording, live, in reverse, chosen, up. */
export function lampsOf(layout: KeyLayout, device: string, hands: Hands): Map<string, boolean> {
  const lamps = new Map<string, boolean>();
  for (const { device: of, control } of bindingsOf(layout)) {
    if (of !== device || lamps.has(control)) continue;
    const binding = bindingFor(layout, hands.chosen.room, device, control);
    const lit = binding && findAction(binding.action)?.lit;
    if (binding && lit) lamps.set(control, lit(hands, binding.args));
  }
  return lamps;
}
