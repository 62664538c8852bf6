/** Finds macros and their steps, and the way of a macro that would run itself. */
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { checkThere } from '../desk/missing';
import { type Macro, type Step, type StepAct, UntilAct } from './document';

/** @throws CommandError when the show has no such macro. */
export function macroOf({ show }: Pick<Desk, 'show'>, id: string, field = 'macro'): Macro {
  const found = show.automation.macros.find((m) => m.id === id);
  if (!found) throw new CommandError('unknown-macro', `There is no macro "${id}" in this show.`, field);
  return found;
}

/** The steps with these identities, in the order of the macro. @throws CommandError when one of them is not there. */
export function stepsOf(macro: Macro, ids: readonly string[], field = 'steps'): Step[] {
  const wanted = new Set(ids);
  const found = macro.steps.filter((s) => wanted.delete(s.id));
  const [missing] = wanted;
  if (missing !== undefined) throw new CommandError('unknown-step', `${macro.name} has no step "${missing}".`, field);
  return found;
}

/** Macros that a macro starts, by its own steps, and the one that runs when a step is refused. */
const startedBy = ({ steps, fallbackId }: Macro): string[] => [
  ...steps.flatMap(({ on, act }) =>
    on && act.kind === 'command' && act.type === 'macro.run' && typeof act.args.macro === 'string' ? [act.args.macro] : [],
  ),
  ...(fallbackId === null ? [] : [fallbackId]),
];

/** The names on the way from a macro back to itself; null when it never starts itself. */
export function circleOf(macros: readonly Macro[], id: string): string[] | null {
  const byId = new Map(macros.map((m) => [m.id, m]));
  const seen = new Set<string>();
  const look = (at: Macro, way: readonly string[]): string[] | null => {
    for (const next of startedBy(at)) {
      const macro = byId.get(next);
      if (!macro) continue;
      if (next === id) return [...way, macro.name];
      if (seen.has(next)) continue;
      seen.add(next);
      const found = look(macro, [...way, macro.name]);
      if (found) return found;
    }
    return null;
  };
  const first = byId.get(id);
  return first ? look(first, [first.name]) : null;
}

/** @throws CommandError when a macro starts itself, with the way. */
export function checkCircle({ show }: Desk, macro: Macro): void {
  const way = circleOf(show.automation.macros, macro.id);
  if (way)
    throw new CommandError('macro-circle', `${macro.name} would run itself: ${way.join(', which runs ')}. Take one of these steps out.`);
}

/** @throws CommandError when one of these acts waits for what the show does not have. Commands may: their steps say so. */
export function checkWaits(desk: Pick<Desk, 'show'>, acts: readonly StepAct[]): void {
  acts.forEach((act, i) => act.kind === 'until' && checkThere(desk, UntilAct, act, `steps[${i}].act`));
}
