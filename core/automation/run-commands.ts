/** Commands for macros that run. Those of the engine say what a run has done: it asks `nextDue` at every frame. */
import { CommandError, defineCommand, NoArgs } from '../commands/command';
import { type Desk } from '../desk/air';
import { AnyObject, Id, Ref, Text, Whole } from '../schema/fields';
import { type Run } from './air';
import { begin, START_FRAMES } from './begin';
import { macroOf } from './find';

class RunArgs {
  @Ref('macro', 'macro') macro!: string;
  @AnyObject('what it asks for, by name', { optional: true }) given?: Record<string, unknown>;
  @Id('run that starts it, when a macro does', { optional: true }) by?: string;
}
class NumberArgs {
  @Whole(1, 99, 'number of the macro') number!: number;
  @AnyObject('what it asks for, by name', { optional: true }) given?: Record<string, unknown>;
}
class SomeArgs {
  @Id('which run; without it, all of them', { optional: true }) run?: string;
}
class DidArgs {
  @Id('which run') run!: string;
  @Whole(0, 1_000_000, 'step that comes next, from 0') to!: number;
  @Whole(0, Number.MAX_SAFE_INTEGER, 'frame at which it was due') at!: number;
}
class RefusedArgs extends DidArgs {
  @Whole(0, 1_000_000, 'step that was refused, from 0') step!: number;
  @Text(400, 'why') message!: string;
}

/** Refusals that a run keeps. */
const MOST_REFUSED = 20;

/** @throws CommandError when nothing of that name runs. */
function runOf({ air }: Desk, id: string): Run {
  const run = air.automation.runs[id];
  if (!run) throw new CommandError('unknown-run', 'This macro does not run any more.', 'run');
  return run;
}

/** The run that is meant, or all. @throws CommandError when none runs. */
function some(desk: Desk, id: string | undefined): Run[] {
  if (id !== undefined) return [runOf(desk, id)];
  const all = Object.values(desk.air.automation.runs);
  if (all.length === 0) throw new CommandError('unknown-run', 'No macro runs.');
  return all;
}

/** Puts a run before a step, since a frame; one that is at its end goes. */
function comeTo(desk: Desk, run: Run, index: number, since: number): void {
  if (index >= run.steps.length) delete desk.air.automation.runs[run.id];
  else Object.assign(run, { index, since, pressed: null });
}

/** A paused run goes on: what it waits for is waited for as long as was left. */
function resume(run: Run, frame: number): void {
  if (run.pausedAt === null) return;
  run.since += Math.max(0, frame - run.pausedAt);
  run.pausedAt = null;
}

const waitsForPress = (run: Run): boolean => {
  const act = run.steps[run.index]?.act;
  return act?.kind === 'until' && act.event === 'press' && run.pressed === null;
};

export const runCommands = [
  defineCommand({
    type: 'macro.run',
    title: 'Run a macro',
    says: 'Run {macro}',
    about:
      'Starts a macro two frames after the next, so that its first steps fall on their frame too. It may run several times at once. Returns the `id` of the run.',
    args: RunArgs,
    run: (desk, { macro, by, given }, { frame, newId }) => {
      const found = macroOf(desk, macro);
      return {
        id: begin(
          desk,
          found,
          by === undefined ? undefined : desk.air.automation.runs[by],
          by === undefined ? frame + START_FRAMES : frame,
          newId(),
          given,
        ),
      };
    },
  }),
  defineCommand({
    type: 'macro.runByNumber',
    title: 'Run the macro of a number',
    about: 'As *Run a macro*, by the number that it has.',
    args: NumberArgs,
    run: (desk, { number, given }, { frame, newId }) => {
      const found = desk.show.automation.macros.find((m) => m.number === number);
      if (!found) throw new CommandError('unknown-macro', `No macro has the number ${number}.`, 'number');
      return { id: begin(desk, found, undefined, frame + START_FRAMES, newId(), given) };
    },
  }),
  defineCommand({
    type: 'run.go',
    unrecorded: true,
    title: 'Let a macro go on',
    about: 'A macro that waits for a press goes on; without a run, the one that has waited longest.',
    args: SomeArgs,
    run: (desk, { run: id }, { frame }) => {
      const waiting = some(desk, id)
        .filter(waitsForPress)
        .sort((a, b) => a.since - b.since)[0];
      if (!waiting) throw new CommandError('not-waiting', 'No macro waits for a press.');
      waiting.pressed = frame;
    },
  }),
  defineCommand({
    type: 'run.pause',
    unrecorded: true,
    title: 'Pause macros',
    about: 'What they have done stays; what they wait for is waited for anew for as long as was left.',
    args: SomeArgs,
    run: (desk, { run: id }, { frame }) => {
      for (const run of some(desk, id)) run.pausedAt ??= frame;
    },
  }),
  defineCommand({
    type: 'run.resume',
    unrecorded: true,
    title: 'Let paused macros run again',
    about: 'They go on where they were paused.',
    args: SomeArgs,
    run: (desk, { run: id }, { frame }) => {
      for (const run of some(desk, id)) resume(run, frame);
    },
  }),
  defineCommand({
    type: 'run.step',
    unrecorded: true,
    title: 'Do the next step of a paused macro',
    about: 'Does one step, or ends the wait that it is in, and stays paused.',
    args: SomeArgs,
    run: (desk, { run: id }, { frame }) => {
      const run = some(desk, id).find((r) => r.pausedAt !== null);
      if (!run) throw new CommandError('not-waiting', 'Pause the macro first: then it goes step by step.', 'run');
      if (run.steps[run.index]?.act.kind === 'command') {
        Object.assign(run, { pausedAt: null, stepping: true, since: frame });
        return;
      }
      comeTo(desk, run, run.index + 1, frame);
      if (desk.air.automation.runs[run.id]) run.pausedAt = frame;
    },
  }),
  defineCommand({
    type: 'run.stop',
    unrecorded: true,
    title: 'Stop macros',
    about: 'Everything stays as it is; what they have not done is not done.',
    args: SomeArgs,
    run: (desk, { run: id }) => {
      for (const run of some(desk, id)) delete desk.air.automation.runs[run.id];
    },
  }),
  defineCommand({
    type: 'run.did',
    title: 'Tell what a macro has done',
    about: 'Sent by the engine with the steps of a macro.',
    args: DidArgs,
    fromEngine: true,
    run: (desk, { run: id, to, at }, { frame }) => {
      const run = desk.air.automation.runs[id];
      // One of its own steps may have stopped it.
      if (!run) return;
      run.late = Math.max(run.late, frame - at);
      comeTo(desk, run, to, at);
      if (run.stepping) Object.assign(run, { stepping: false, pausedAt: frame });
    },
  }),
  defineCommand({
    type: 'run.refused',
    title: 'Tell that a step of a macro was refused',
    about: 'Sent by the engine. The macro stops, goes on, or another runs instead, as it says.',
    args: RefusedArgs,
    fromEngine: true,
    run: (desk, { run: id, to, at, step, message }, { newId }) => {
      const run = desk.air.automation.runs[id];
      if (!run) return;
      if (run.onFailure === 'go-on') {
        run.refused = [...run.refused.slice(1 - MOST_REFUSED), { step, message }];
        return comeTo(desk, run, to, at);
      }
      delete desk.air.automation.runs[id];
      const fallback = run.onFailure === 'fallback' ? desk.show.automation.macros.find((m) => m.id === run.fallbackId) : undefined;
      if (fallback?.steps.some((x) => x.on)) begin(desk, fallback, run, at, newId());
    },
  }),
  defineCommand({
    type: 'automation.holdAll',
    unrecorded: true,
    title: 'Hold everything automatic',
    about: 'Pauses every macro that runs, and no trigger acts; sent again, all goes on.',
    args: NoArgs,
    run: ({ air }, _, { frame }) => {
      const { automation } = air;
      automation.held = !automation.held;
      for (const run of Object.values(automation.runs)) {
        if (automation.held) run.pausedAt ??= frame;
        else resume(run, frame);
      }
    },
  }),
];
