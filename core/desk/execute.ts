/** Runs commands against show and air: checked, atomic, with patches for undo, panels and the journal. */
import { enablePatches, type Patch, produceWithPatches } from 'immer';
import { type ErrorCode } from '../commands/codes';
import { type Command, type CommandContext, CommandError, type CommandSpec } from '../commands/command';
import { guardWeight } from '../layout/weight';
import { keepAll } from './keep-all';
import { guardAngles } from '../replay/guard';
import { check } from '../schema/check';
import { isTooDeep } from '../schema/depth';
import { type Desk } from './air';
import { checkThere } from './missing';
import { findCommand } from './registry';

enablePatches();

/** Commands that may be one step together. */
export const MOST_TOGETHER = 256;

export interface Refusal {
  code: ErrorCode;
  message: string;
  field?: string;
  /** Which of several commands is at fault, from 0. */
  index?: number;
}

export type Outcome =
  | { ok: true; desk: Desk; patches: Patch[]; inverse: Patch[]; spec: CommandSpec; result: Record<string, unknown> }
  | { ok: false; error: Refusal };

/** Several commands as one: `specs` and `results` are in their order. */
export type OutcomeOfAll =
  | {
      ok: true;
      desk: Desk;
      patches: Patch[];
      inverse: Patch[];
      specs: CommandSpec[];
      results: Record<string, unknown>[];
      /** The commands themselves have changed the document; what follows from sheets and clocks does not count. */
      edits: boolean;
    }
  | { ok: false; error: Refusal };

/** A refusal as it is told. */
export const refusalOf = ({ code, message, field }: CommandError): Refusal =>
  field === undefined ? { code, message } : { code, message, field };

/** The command that is meant, with its arguments checked. @throws CommandError when there is none, or they are not as described. */
export function prepare(command: Command): { spec: CommandSpec; args: Record<string, unknown> } {
  const type: unknown = command?.type;
  const spec = typeof type === 'string' ? findCommand(type) : undefined;
  if (!spec)
    throw new CommandError(
      'unknown-command',
      typeof type === 'string' ? `There is no command "${type.slice(0, 60)}".` : 'A command says in `type` which one it is.',
      'type',
    );
  const args = command.args ?? {};
  if (isTooDeep(args))
    throw new CommandError('bad-argument', `${spec.title}: the arguments are nested deeper than any argument is.`, 'args');
  const problem = check(spec.args, args)[0];
  if (problem) throw new CommandError('bad-argument', `${spec.title}: ${problem.path} ${problem.message}.`, problem.path);
  return { spec, args };
}

/**
 * The outcome of several commands as one: one change with one set of patches, all or nothing. Each sees what those before it have done. Pure:
 * `desk` is never changed; a refusal of one refuses all, and says which it was.
 */
export function executeAll(desk: Desk, commands: readonly Command[], context: CommandContext): OutcomeOfAll {
  if (commands.length > MOST_TOGETHER)
    return { ok: false, error: { code: 'too-many', message: `At most ${MOST_TOGETHER} commands can be one step.` } };
  const specs: CommandSpec[] = [];
  const results: Record<string, unknown>[] = [];
  let next = desk;
  let patches: Patch[] = [];
  let inverse: Patch[] = [];
  let index = 0;
  try {
    for (const command of commands) {
      const { spec, args } = prepare(command);
      let result: Record<string, unknown> = {};
      // A draft for each: handlers read lists of thousands as they are stored, which a command before in the same draft would have made stale.
      const [after, forward, back] = produceWithPatches(next, (draft: Desk) => {
        result = spec.run(draft, args, context) ?? {};
      });
      // Handlers refuse in words of their own; what none of them has looked for must be there too, or the show would name what it does not have.
      checkThere(next, spec.args, args);
      next = after;
      patches = index === 0 ? forward : patches.concat(forward);
      inverse = index === 0 ? back : back.concat(inverse);
      specs.push(spec);
      results.push(result);
      index += 1;
    }
    const edits = next.show !== desk.show;
    const [kept, forward, back] = keepAll(next, context.frame);
    if (kept !== next) {
      next = kept;
      patches = patches.concat(forward);
      inverse = back.concat(inverse);
    }
    guardWeight(desk.show, next.show);
    guardAngles(desk.show, next.show);
    return { ok: true, desk: next, patches, inverse, specs, results, edits };
  } catch (error) {
    if (!(error instanceof CommandError)) throw error;
    // A fault of the whole is nobody's in particular.
    const which = commands.length > 1 && index < commands.length ? { index } : {};
    return { ok: false, error: { ...refusalOf(error), ...which } };
  }
}

/** The outcome of one command; see `executeAll`. */
export function execute(desk: Desk, command: Command, context: CommandContext): Outcome {
  const outcome = executeAll(desk, [command], context);
  if (!outcome.ok) return outcome;
  const { desk: after, patches, inverse, specs, results } = outcome;
  return { ok: true, desk: after, patches, inverse, spec: specs[0] as CommandSpec, result: results[0] ?? {} };
}
