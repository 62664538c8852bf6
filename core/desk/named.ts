/** Everything that an object of the show names of it, in its own fields and in the commands that it holds: steps, triggers, buttons. */
import { CommandAct } from '../automation/document';
import { type FoundRef, type Holder, walkRefs } from './refs';
import { findCommand } from './registry';
import { type Constructor } from '../schema/fields';

/** A reference, and the act in whose arguments it stands, if it does. */
export interface Named extends FoundRef {
  act: Record<string, unknown> | null;
}

/** Calls `visit` for every reference in `root`, those in the arguments of commands too. `holders` of these begin at the arguments. */
export function walkNamed(of: Constructor, root: object, visit: (found: Named) => void): void {
  const enter = (holder: Holder): boolean => {
    const { type, args } = holder.value;
    const spec = holder.of === CommandAct && typeof type === 'string' ? findCommand(type) : undefined;
    if (spec && typeof args === 'object' && args !== null) walkRefs(spec.args, args, (found) => visit({ ...found, act: holder.value }));
    return true;
  };
  walkRefs(of, root, (found) => visit({ ...found, act: null }), null, enter);
}

/** Writes another identity in the place of a reference. The object that it stands in must be one that may be changed. */
export function rename({ holders, field, index }: FoundRef, id: string): void {
  const holder = holders.at(-1)?.value;
  if (!holder) return;
  if (index === null) holder[field.name] = id;
  else (holder[field.name] as string[])[index] = id;
}
