/** Runs a command against show and air: checked, atomic, with patches for undo, panels and the journal. */
import { enablePatches, type Patch, produceWithPatches } from 'immer';
import { guardWeight } from '../layout/weight';
import { check } from '../schema/check';
import { isTooDeep } from '../schema/depth';
import { type Desk } from './air';
import { type Command, type CommandContext, CommandError, type CommandSpec } from '../commands/command';
import { findCommand } from './registry';

enablePatches();

export interface Refusal {
  code: string;
  message: string;
  field?: string;
}

export type Outcome =
  | { ok: true; desk: Desk; patches: Patch[]; inverse: Patch[]; spec: CommandSpec; result: Record<string, unknown> }
  | { ok: false; error: Refusal };

const refuse = (code: string, message: string, field?: string): Outcome => ({
  ok: false,
  error: field === undefined ? { code, message } : { code, message, field },
});

/** The outcome of `command`. Pure: `desk` is never changed; a refusal changes nothing. */
export function execute(desk: Desk, command: Command, context: CommandContext): Outcome {
  const spec = typeof command?.type === 'string' ? findCommand(command.type) : undefined;
  if (!spec)
    return refuse(
      'unknown-command',
      typeof command?.type === 'string'
        ? `There is no command "${command.type.slice(0, 60)}".`
        : 'A command says in `type` which one it is.',
      'type',
    );
  const args = command.args ?? {};
  if (isTooDeep(args)) return refuse('bad-argument', `${spec.title}: the arguments are nested deeper than any argument is.`, 'args');
  const problem = check(spec.args, args)[0];
  if (problem) return refuse('bad-argument', `${spec.title}: ${problem.path} ${problem.message}.`, problem.path);
  let result: Record<string, unknown> = {};
  try {
    const [next, patches, inverse] = produceWithPatches(desk, (draft: Desk) => {
      result = spec.run(draft, args, context) ?? {};
    });
    guardWeight(desk.show, next.show);
    return { ok: true, desk: next, patches, inverse, spec, result };
  } catch (error) {
    if (error instanceof CommandError) return refuse(error.code, error.message, error.field);
    throw error;
  }
}
