/** What devices have said, for those who wait for it. */
import { type Desk } from '../desk/air';
import { type Heard } from './air';
import { matches } from './match';

/**
 * What was found in a list of what was heard, by device and pattern: triggers ask at every frame, and it changes with what is heard alone.
 */
const found = new WeakMap<readonly Heard[], Map<string, number>>();

/** The number of the last thing that a device has said after a pattern, 0 for none; an empty pattern is anything. */
export function lastHeard(heard: readonly Heard[], deviceId: string, pattern: string): number {
  const key = `${deviceId} ${pattern}`;
  const known = found.get(heard)?.get(key);
  if (known !== undefined) return known;
  const last = heard.findLast((h) => h.deviceId === deviceId && matches(pattern || '*', h.text))?.number ?? 0;
  // What is still being changed may not be remembered.
  if (Object.isFrozen(heard)) {
    const all = found.get(heard) ?? new Map<string, number>();
    found.set(heard, all.set(key, last));
  }
  return last;
}

/** True when something waits for what a device says: what nobody waits for need not be told. */
export const isListenedTo = ({ automation }: Desk['show'], deviceId: string): boolean =>
  automation.triggers.some((t) => t.armed && t.when.event === 'device-says' && t.when.deviceId === deviceId);
