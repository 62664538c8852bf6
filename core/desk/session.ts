/** A desk with its history: what a host runs. Commands come in one by one or several as one step; undo and redo are commands too. */
import { type Patch } from 'immer';
import { type Command, type CommandContext, CommandError, type CommandSpec } from '../commands/command';
import { findCommand } from './registry';
import { type Desk } from './air';
import { recordedActs } from '../automation/record';
import { execute, executeAll, type OutcomeOfAll, prepare, type Refusal, refusalOf } from './execute';
import { type History, MERGE_MS, type Person, redo, remember, undo } from './history';
import { keepAll } from './keep-all';

export interface Session {
  desk: Desk;
  history: History;
}

export type Performed =
  { ok: true; session: Session; patches: Patch[]; results: Record<string, unknown>[] } | { ok: false; error: Refusal };

/** Who sends the commands, as far as the history cares. */
export interface Sent {
  /** Milliseconds of any clock that only goes forward: it tells which edits belong together. */
  at: number;
  /** One movement of a hand, from its beginning to its end: all edits of the same one are one step of undo, however long it takes. */
  gesture?: string | undefined;
  /** It comes from the remote, or from a panel. */
  elsewhere?: boolean;
  /** Whoever sends it with a pass. */
  by?: Person | undefined;
  /** A macro does it: it is not recorded for another. */
  byMacro?: boolean;
}

/** Commands of the same merge key within a second make one step of undo; of several, all must have one. */
function mergeKeyOf(specs: readonly CommandSpec[], commands: readonly Command[]): string | null {
  const keys = specs.map((spec, i) => spec.mergeKey?.((commands[i]?.args ?? {}) as never) ?? null);
  return keys.length === 0 || keys.includes(null) ? null : specs.map((spec, i) => `${spec.type} ${keys[i]}`).join('\n');
}

function titleOf(specs: readonly CommandSpec[]): string {
  const [first] = specs;
  const alike = specs.every((s) => s === first);
  return specs.length < 2 ? (first?.title ?? '') : `${first?.title}${alike ? '' : ' and more'} (${specs.length})`;
}

type Done = Extract<OutcomeOfAll, { ok: true }>;

/** With what was done kept, where a macro is being recorded. It is told in a step of its own: whatever that comes to, what was done stands. */
function recorded(done: Done, commands: readonly Command[], context: CommandContext, { gesture, elsewhere = false }: Sent): Done {
  if (!done.desk.air.automation.recording) return done;
  const merge = gesture === undefined ? mergeKeyOf(done.specs, commands) : gesture;
  const acts = recordedActs(commands, done.specs, done.desk, {
    frame: context.frame,
    elsewhere,
    merge: merge === null ? null : merge.slice(0, 1000),
  });
  const told = acts.length > 0 ? execute(done.desk, { type: 'automation.recorded', args: { acts } }, context) : null;
  return told?.ok ? { ...done, desk: told.desk, patches: done.patches.concat(told.patches) } : done;
}

/** Performs commands as one step. Pure: a refusal has changed nothing. */
export function perform(session: Session, commands: readonly Command[], context: CommandContext, sent: Sent): Performed {
  const { desk, history } = session;
  if (sent.elsewhere || sent.byMacro) {
    // A show from elsewhere, or whoever has the remote, must not send this machine anywhere.
    const kept = commands.findIndex((c) => typeof c?.type === 'string' && findCommand(c.type)?.atHost);
    if (kept !== -1)
      return {
        ok: false,
        error: { code: 'only-here', message: 'Where devices are is said at the window that runs the show, by hand.', index: kept },
      };
  }
  try {
    const [only] = commands;
    const step = commands.length === 1 && only ? prepare(only) : null;
    if (step?.spec.step) {
      const walked = (step.spec.step === 'undo' ? undo : redo)(history, desk, step.args.anyway === true, sent.by ?? null);
      // A lane that follows edits follows their undoing too.
      const [kept, more] = keepAll(walked.desk, context.frame);
      return {
        ok: true,
        session: { desk: kept, history: walked.history },
        patches: walked.patches.concat(more),
        results: [{ title: walked.title }],
      };
    }
  } catch (error) {
    if (error instanceof CommandError) return { ok: false, error: refusalOf(error) };
    throw error;
  }
  const done = executeAll(desk, commands, context);
  if (!done.ok) return done;
  const outcome = sent.byMacro ? done : recorded(done, commands, context, sent);
  const { specs, patches, inverse, results } = outcome;
  // What comes from outside, and what follows from that alone, is no step of undo.
  if (!outcome.edits || specs.every((s) => s.outside)) return { ok: true, session: { desk: outcome.desk, history }, patches, results };
  const mergeKey = sent.gesture === undefined ? mergeKeyOf(specs, commands) : `gesture ${sent.gesture}`;
  const mergeMs = sent.gesture === undefined ? MERGE_MS : Infinity;
  const next = remember(history, titleOf(specs), patches, inverse, mergeKey, sent.at, mergeMs, sent.by ?? null);
  return { ok: true, session: { desk: outcome.desk, history: next }, patches, results };
}
