/** What is done while a macro is recorded, as steps. */
import { type Command, type CommandSpec } from '../commands/command';
import { type Desk } from '../desk/air';
import { MERGE_MS } from '../desk/history';
import { type Rate, secondsToFrames } from '../time/rate';
import { type RecordedAct } from './air';
import { waitAct } from './create';
import { type StepAct } from './document';

/** How waits are kept: as they were, to half seconds, or not at all. */
export const WAITS_KEPT = ['kept', 'rounded', 'none'] as const;
export type WaitsKept = (typeof WAITS_KEPT)[number];

/** True for what a macro or a trigger can do: nothing of the engine's, no step of undo, and nothing that stands for what came from outside. */
export const canBeStep = ({ fromEngine, outside, step, atHost }: CommandSpec): boolean => !fromEngine && !outside && !step && !atHost;

/** What was said by number is kept by name: numbers are given anew. */
export function byName({ type, args = {} }: Command, { air }: Desk): Command {
  if (type === 'picture.setNextByNumber' && air.nextId !== null) return { type: 'picture.setNext', args: { picture: air.nextId } };
  if (type === 'picture.cutByNumber' && air.onAirId !== null) return { type: 'picture.cut', args: { picture: air.onAirId } };
  return { type, args };
}

/** Commands that were just done, as they are recorded; `desk` is what they came to. */
export const recordedActs = (
  commands: readonly Command[],
  specs: readonly CommandSpec[],
  desk: Desk,
  { frame, elsewhere, merge }: { frame: number; elsewhere: boolean; merge: string | null },
): RecordedAct[] =>
  commands.flatMap((command, i): RecordedAct[] => {
    const spec = specs[i];
    const { type, args = {} } = byName(command, desk);
    if (!spec || !canBeStep(spec) || spec.unrecorded) return [];
    return [{ frame, act: { kind: 'command', type, args }, elsewhere, merge: merge === null ? null : `${type} ${merge} ${i}` }];
  });

/** Recorded acts with more after them; the same thing moved on and on is one act, at the place of its last. */
export function withActs(acts: readonly RecordedAct[], more: readonly RecordedAct[], rate: Rate): RecordedAct[] {
  // As edits are one step of undo.
  const near = secondsToFrames(MERGE_MS / 1000, rate);
  const all = [...acts];
  for (const act of more) {
    const same =
      act.merge === null
        ? -1
        : all.findIndex((a, i) => a.merge === act.merge && i >= all.length - more.length && act.frame - a.frame <= near);
    if (same !== -1) all.splice(same, 1);
    all.push(act);
  }
  return all;
}

/** What was recorded as acts of a macro, with the waits between them. */
export function stepsOfRecording(acts: readonly RecordedAct[], waits: WaitsKept, withElsewhere: boolean, rate: Rate): StepAct[] {
  const kept = acts.filter((a) => withElsewhere || !a.elsewhere);
  return kept.flatMap((recorded, i): StepAct[] => {
    const before = kept[i - 1];
    const gap = before ? recorded.frame - before.frame : 0;
    if (waits === 'none' || gap <= 0) return [recorded.act];
    if (waits === 'kept') return [waitAct(gap, 'frames'), recorded.act];
    const seconds = Math.round(((gap * rate.den) / rate.num) * 2) / 2;
    return seconds > 0 ? [waitAct(seconds), recorded.act] : [recorded.act];
  });
}
