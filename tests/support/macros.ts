/** Macros in tests: made of acts, and carried out as a host does between two frames. */
import { type Desk } from '#core/desk/air';
import { carryOut, type RefusedStep } from '#core/automation/carry-out';
import { type Macro, type StepAct } from '#core/automation/document';
import { nextDue } from '#core/automation/runs';
import { type CommandContext } from '#core/commands/command';
import { execute } from '#core/desk/execute';
import { EMPTY_HISTORY } from '#core/desk/history';
import { perform, type Session } from '#core/desk/session';
import { must } from './sample-show';

let ids = 0;
export const context = (frame: number): CommandContext => ({ frame, newId: () => `id-${(ids += 1)}` });

/** A host as it is between two frames: everything that is due up to one is carried out. */
export function upTo(desk: Desk, frame: number, told: RefusedStep[] = []): Desk {
  let session: Session = { desk, history: EMPTY_HISTORY };
  for (let i = 0; i < 5000; i += 1) {
    const due = nextDue(session.desk, frame);
    if (!due) break;
    const refused = carryOut(due, (commands, at) => {
      const done = perform(session, commands, context(at), { at, byMacro: true });
      if (done.ok) session = done.session;
      return done;
    });
    if (refused) told.push(refused);
  }
  return session.desk;
}

/** A desk with a macro of these acts, and its identity. */
export const withMacro = (desk: Desk, acts: readonly StepAct[], change: Record<string, unknown> = {}): { desk: Desk; macro: string } => {
  const done = execute(desk, { type: 'macro.add', args: { steps: acts.map((act) => ({ act })) } }, context(0));
  if (!done.ok) throw new Error(done.error.message);
  const macro = String(done.result.id);
  return { macro, desk: Object.keys(change).length > 0 ? must(done.desk, 'macro.set', { macro, ...change }) : done.desk };
};

/** The macro of this identity; it has to be there. */
export const macroIn = (desk: Desk, id: string): Macro => desk.show.automation.macros.find((m) => m.id === id)!;
