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

type Args = Record<string, unknown>;

const textOf = (value: unknown): string => (typeof value === 'string' ? value : '');

/** Switches, as what they came to: done again, they have to do the same from whatever state. What was said by number is said by name: numbers are given anew. */
const OUTRIGHT: Record<string, (args: Args, desk: Desk) => Command | null> = {
  'picture.setNextByNumber': (_, { air }) => (air.nextId === null ? null : { type: 'picture.setNext', args: { picture: air.nextId } }),
  'picture.cutByNumber': (_, { air }) => (air.onAirId === null ? null : { type: 'picture.cut', args: { picture: air.onAirId } }),
  'picture.fadeToBlack': (args, { air }) => ({ type: 'picture.fadeToBlack', args: { ...args, on: air.black.to === 1 } }),
  'lane.toggle': ({ lane }, { air }) => {
    const state = air.lanes[textOf(lane)];
    return state ? { type: state.fade.to === 1 ? 'lane.show' : 'lane.hide', args: { lane } } : null;
  },
  'clock.toggle': ({ clock }, { air }) => {
    const state = air.graphics.clocks[textOf(clock)];
    return state ? { type: state.start === null ? 'clock.pause' : 'clock.start', args: { clock } } : null;
  },
  'sound.mute': (args, desk) => withSwitch('sound.mute', args, desk, 'muted'),
  'sound.follow': (args, desk) => withSwitch('sound.follow', args, desk, 'follows'),
};

function withSwitch(type: string, args: Args, { show }: Desk, field: 'muted' | 'follows'): Command | null {
  const channel = [...show.sources, ...show.sound.inputs].find((c) => c.id === args.channel);
  return channel ? { type, args: { ...args, on: channel.sound[field] } } : null;
}

/** A command as it is done again: `desk` is what it came to. */
export function asDone({ type, args = {} }: Command, desk: Desk): Command {
  const outright = Object.hasOwn(OUTRIGHT, type) ? OUTRIGHT[type]?.(args, desk) : null;
  return outright ?? { type, args };
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
    const { type, args = {} } = asDone(command, desk);
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
