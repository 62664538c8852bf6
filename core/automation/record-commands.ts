/** Commands for recording a macro. */
import { CommandError, defineCommand, NoArgs } from '../commands/command';
import { Flag, ListOf, OneOf, Text, Variant, Whole } from '../schema/fields';
import { createMacro, createStep, untilAct } from './create';
import { MOST_MACROS, MOST_STEPS, type StepAct, stepActClass } from './document';
import { checkWaits } from './find';
import { stepsOfRecording, type WaitsKept, WAITS_KEPT, withActs } from './record';
import { plainCopy } from '../schema/plain-copy';

class Recorded {
  @Whole(0, Number.MAX_SAFE_INTEGER, 'frame') frame!: number;
  @Variant(stepActClass, 'what was done') act!: StepAct;
  @Flag('it came from the remote') elsewhere!: boolean;
  @Text(2000, 'what makes it one with others', { nullable: true }) merge!: string | null;
}
class RecordedArgs {
  @ListOf(() => Recorded, 256, 'what was done') acts!: Recorded[];
}
class StopArgs {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @OneOf(WAITS_KEPT, 'waits as they were, to half seconds, or none') waits!: WaitsKept;
  @Flag('with what came from the remote') elsewhere!: boolean;
}

const recordingOf = <T>(recording: T | null): T => {
  if (!recording) throw new CommandError('not-recording', 'No macro is being recorded.');
  return recording;
};

export const recordCommands = [
  defineCommand({
    type: 'automation.record',
    unrecorded: true,
    title: 'Record a macro',
    about: 'From now on everything that is done, from any hand, is kept as steps, until the recording is stopped or dropped.',
    args: NoArgs,
    run: ({ air }, _, { frame }) => {
      if (air.automation.recording) throw new CommandError('already-recording', 'A macro is being recorded already.');
      air.automation.recording = { start: frame, acts: [] };
    },
  }),
  defineCommand({
    type: 'automation.recordWait',
    unrecorded: true,
    title: 'Put a wait for a press into the macro that is recorded',
    about: 'When the macro runs, it waits here until it is let go on.',
    args: NoArgs,
    run: ({ air }, _, { frame }) => {
      const recording = recordingOf(air.automation.recording);
      recording.acts.push({ frame, act: untilAct('press'), elsewhere: false, merge: null });
    },
  }),
  defineCommand({
    type: 'automation.recorded',
    title: 'Tell what was done while a macro is recorded',
    about: 'Sent along with what was done.',
    args: RecordedArgs,
    fromEngine: true,
    run: ({ show, air }, { acts }) => {
      const { recording } = air.automation;
      if (recording && recording.acts.length < MOST_STEPS)
        recording.acts = withActs(recording.acts, plainCopy(acts), show.rate).slice(0, MOST_STEPS);
    },
  }),
  defineCommand({
    type: 'automation.stopRecording',
    unrecorded: true,
    title: 'Stop recording: it becomes a macro',
    about: 'What was recorded becomes a macro, at the end of the list. Returns its `id`.',
    args: StopArgs,
    run: ({ show, air }, { name, waits, elsewhere }, { newId }) => {
      const recording = recordingOf(air.automation.recording);
      const { macros } = show.automation;
      if (macros.length >= MOST_MACROS) throw new CommandError('too-many', `A show has at most ${MOST_MACROS} macros.`);
      const acts = stepsOfRecording(plainCopy(recording.acts), waits, elsewhere, show.rate).slice(0, MOST_STEPS);
      checkWaits({ show }, acts);
      const steps = acts.map((act) => createStep(newId(), act));
      if (steps.length === 0)
        throw new CommandError('too-few', 'Nothing has been recorded yet. Drop the recording, or do something first.');
      const macro = createMacro(newId(), name ?? `Macro ${macros.length + 1}`, macros.length, { steps });
      macros.push(macro);
      air.automation.recording = null;
      return { id: macro.id };
    },
  }),
  defineCommand({
    type: 'automation.dropRecording',
    unrecorded: true,
    title: 'Drop the macro that is recorded',
    about: 'Nothing of it is kept; what was done stays done.',
    args: NoArgs,
    run: ({ air }) => {
      recordingOf(air.automation.recording);
      air.automation.recording = null;
    },
  }),
];
