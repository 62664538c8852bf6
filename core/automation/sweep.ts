/** Steps made of a step: with one value after another, or with one thing in the place of another. */
import { createStep, waitAct } from './create';
import { type Step, type StepAct } from './document';

/** A value with every text that is `from` changed to `to`, however deep it stands. */
function changed(value: unknown, from: string, to: string): unknown {
  if (value === from) return to;
  if (Array.isArray(value)) return (value as unknown[]).map((item) => changed(item, from, to));
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, changed(inner, from, to)]));
}

/** An act in which one thing stands for another, by their identities. */
export function replaced(act: StepAct, from: string, to: string): StepAct {
  if (act.kind === 'command') return { ...act, args: changed(act.args, from, to) as Record<string, unknown> };
  return act.kind === 'until' ? (changed(act, from, to) as StepAct) : act;
}

/** What is typed as the value that an argument has: a number where the value before is one. */
const valueLike = (before: unknown, text: string): unknown =>
  (typeof before === 'number' || before === undefined) && text.trim() !== '' && Number.isFinite(Number(text)) ? Number(text) : text;

/** The step with the first value, and copies with the others; `wait` seconds between them. */
export function sweep(step: Step, argument: string, values: readonly string[], wait: number, newId: () => string): Step[] {
  const { act } = step;
  if (act.kind !== 'command') return [step];
  return values.flatMap((text, i): Step[] => {
    const args = { ...act.args, [argument]: valueLike(act.args[argument], text) };
    const copy: Step = { ...step, id: i === 0 ? step.id : newId(), act: { ...act, args } };
    return i > 0 && wait > 0 ? [createStep(newId(), waitAct(wait)), copy] : [copy];
  });
}
