/** What was done, as lines of the log of the day. */
import { asDone } from '../automation/record';
import { type Command } from '../commands/command';
import { type Desk } from '../desk/air';
import { findCommand } from '../desk/registry';
import { type Sent } from '../desk/session';
import { type ActLog } from './act-log';

/** Keeps what was done; what the engine tells itself, and what comes from outside, is left out. `desk` is what it came to. */
export function logActs(
  log: ActLog,
  commands: readonly Command[],
  desk: Desk,
  frame: number,
  { elsewhere, byMacro, gesture, by }: Sent,
): void {
  const kind = byMacro ? 'macro' : elsewhere ? 'elsewhere' : 'here';
  for (const [i, command] of commands.entries()) {
    const { type, args = {} } = asDone(command, desk);
    const spec = findCommand(type);
    if (!spec || spec.fromEngine || spec.outside) continue;
    const merge = gesture === undefined || byMacro ? (spec.mergeKey?.(args as never) ?? null) : gesture;
    log.add(frame, kind, type, JSON.stringify(args), merge === null ? null : `${type} ${merge} ${i} ${by?.id ?? ''}`, by?.name);
  }
}
