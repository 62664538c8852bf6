/** What is done with macros and their steps by button and by key alike. */
import { type Macro, type StepAct } from '#core/automation/document';
import { type ShowClient } from '#engine/client/show-client';
import { say } from '../client/say';
import { openMacroById, setAutomationRoom, useAutomationRoom } from './room-state';

/** Sends a command; its result, or null after saying why not. */
function done(client: ShowClient, type: string, args: Record<string, unknown>): Record<string, unknown> | null {
  const outcome = client.dispatch({ type, args });
  if (outcome.ok) return outcome.result;
  say.caution(outcome.error.message);
  return null;
}

/** Runs a macro; one that asks for something that it has to be given asks first. */
export function runMacro(client: ShowClient, macro: Macro): void {
  if (macro.asks.some((a) => a.otherwise === '' && a.kind !== 'text')) return setAutomationRoom({ asking: macro.id });
  done(client, 'macro.run', { macro: macro.id });
  return undefined;
}

/** Adds an empty macro and opens it where it is named. */
export function addMacro(client: ShowClient): void {
  const made = done(client, 'macro.add', { steps: [] });
  if (!made) return;
  openMacroById(String(made.id));
  setAutomationRoom({ side: 'macro' });
}

/** Puts steps behind the last chosen one, or at the end; they are chosen then. */
export function addSteps(client: ShowClient, macro: Macro, acts: readonly StepAct[]): void {
  const { chosen } = useAutomationRoom.getState();
  const last = macro.steps.findLastIndex((s) => chosen.includes(s.id));
  const made = done(client, 'step.add', { macro: macro.id, steps: acts.map((act) => ({ act })), ...(last >= 0 && { index: last + 1 }) });
  if (made) setAutomationRoom({ open: null, chosen: made.ids as string[], side: 'step' });
}

/** Duplicates steps; the copies are chosen then. */
export function duplicateSteps(client: ShowClient, macro: Macro, steps: readonly string[]): void {
  const made = done(client, 'step.duplicate', { macro: macro.id, steps });
  if (made) setAutomationRoom({ chosen: made.ids as string[] });
}

/** Removes steps; the one after them is chosen then, or the one before. */
export function removeSteps(client: ShowClient, macro: Macro, steps: readonly string[]): void {
  const last = macro.steps.findIndex((s) => s.id === steps.at(-1));
  const others = (list: Macro['steps']) => list.filter((s) => !steps.includes(s.id));
  const next = others(macro.steps.slice(last + 1))[0] ?? others(macro.steps.slice(0, last)).at(-1);
  if (done(client, 'step.remove', { macro: macro.id, steps })) setAutomationRoom({ chosen: next ? [next.id] : [] });
}
