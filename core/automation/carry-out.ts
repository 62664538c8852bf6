/** Does what is due of a macro: as few acts as possible, and each unit by itself where one is refused. */
import { type Command } from '../commands/command';
import { type Due, type Unit } from './runs';

/** Sends commands as one step, which takes effect at a frame: all or none. */
export type SendAt = (
  commands: readonly Command[],
  frame: number,
) => { ok: true } | { ok: false; error: { message: string; index?: number } };

/** A step that was refused, for the crew. */
export interface RefusedStep {
  macro: string;
  /** From 0, among the steps that are on. */
  step: number;
  message: string;
}

/** Commands that are one act at most. */
const MOST_AT_ONCE = 200;

/** Units in acts: of several units as long as they are few enough. */
function actsOf(units: readonly Unit[]): Unit[][] {
  const acts: Unit[][] = [];
  let size = Infinity;
  for (const unit of units) {
    size += unit.commands.length;
    if (size > MOST_AT_ONCE) {
      acts.push([]);
      size = unit.commands.length;
    }
    acts.at(-1)?.push(unit);
  }
  return acts;
}

/** Carries out what is due. The step that was refused is returned; what follows it is due again as the macro says. */
export function carryOut({ run, frame, units }: Due, send: SendAt): RefusedStep | null {
  const did = (to: number): Command => ({ type: 'run.did', args: { run: run.id, to, at: frame } });
  if (units.length === 0) {
    send([did(run.steps.length)], frame);
    return null;
  }
  let from = run.index;
  for (const act of actsOf(units)) {
    const last = act.at(-1) as Unit;
    if (send([...act.flatMap((u) => u.commands), did(last.to)], frame).ok) {
      from = last.to;
      continue;
    }
    // Something in it was refused: one by one it is seen what, and what comes before it is done.
    for (const unit of act) {
      const done = send([...unit.commands, did(unit.to)], frame);
      if (done.ok) {
        from = unit.to;
        continue;
      }
      const step = from + Math.min(done.error.index ?? 0, unit.to - from - 1);
      const { message } = done.error;
      send([{ type: 'run.refused', args: { run: run.id, to: unit.to, at: frame, step, message: message.slice(0, 400) } }], frame);
      return { macro: run.name, step, message };
    }
  }
  return null;
}
