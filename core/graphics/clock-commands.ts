/** Commands for clocks. */
import { CommandError, defineCommand } from '../commands/command';
import { type Desk } from '../desk/air';
import { remove } from '../desk/remove';
import { Num, OneOf, Ref, Text, Whole } from '../schema/fields';
import { clockFrames } from './clocks';
import { createClock } from './create';
import { type Clock, CLOCK_ENDS, CLOCK_KINDS } from './document';
import { clockOf } from './edit';

class ClockArg {
  @Ref('clock', 'clock') clock!: string;
}
class AddArgs {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @OneOf(CLOCK_KINDS, 'down, up, until a time of day, or the time of day', { optional: true }) kind?: Clock['kind'];
  @Num(0, 359_999, 'length, seconds; for `until` seconds after midnight', { optional: true }) seconds?: number;
}
class SetArgs extends ClockArg {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @Whole(1, 99, 'number on keys; null for none', { optional: true, nullable: true }) number?: number | null;
  @OneOf(CLOCK_KINDS, 'down, up, until a time of day, or the time of day', { optional: true }) kind?: Clock['kind'];
  @Num(0, 359_999, 'length, seconds; for `until` seconds after midnight', { optional: true }) seconds?: number;
  @OneOf(CLOCK_ENDS, 'what happens at the end', { optional: true }) atEnd?: Clock['atEnd'];
  @Text(80, 'words that it shows at its end, where it is to', { optional: true }) endWords?: string;
}
class AdjustArgs extends ClockArg {
  @Num(-359_999, 359_999, 'seconds that are added to what it says; below zero are taken') seconds!: number;
}
class SetToArgs extends ClockArg {
  @Num(0, 359_999, 'what it says from now on, seconds') seconds!: number;
}
class DayArgs {
  @Num(0, 86_400_000, 'time of day now, milliseconds after midnight') millis!: number;
}

const MOST_CLOCKS = 100;

/** A clock that is started and stopped. @throws CommandError for the time of day, which always runs. */
function counted(desk: Desk, id: string): Clock {
  const clock = clockOf(desk, id);
  if (clock.kind === 'day' || clock.kind === 'until')
    throw new CommandError('always-runs', `${clock.name} goes by the time of day: it is neither started nor stopped.`, 'clock');
  return clock;
}

function run(desk: Desk, clock: Clock, frame: number, on: boolean): void {
  const state = desk.air.graphics.clocks[clock.id];
  desk.air.graphics.clocks[clock.id] = { value: clockFrames(state, frame), start: on ? frame : null };
}

/** Frames gone by at which a clock says so many seconds. */
function goneAt({ show: { rate } }: Desk, clock: Clock, seconds: number): number {
  const gone = clock.kind === 'down' ? clock.seconds - seconds : seconds - clock.seconds;
  return Math.round((gone * rate.num) / rate.den);
}

export const clockCommands = [
  defineCommand({
    type: 'clock.add',
    title: 'Add a clock',
    about: 'Adds a clock that stands at its beginning. Returns its `id`.',
    args: AddArgs,
    run: ({ show }, { name, kind = 'down', seconds = kind === 'down' ? 90 : 0 }, { newId }) => {
      const { clocks } = show.graphics;
      if (clocks.length >= MOST_CLOCKS) throw new CommandError('too-many', `A show has at most ${MOST_CLOCKS} clocks.`);
      const taken = new Set(clocks.map((c) => c.number));
      const number = Array.from({ length: 99 }, (_, i) => i + 1).find((n) => !taken.has(n)) ?? null;
      const clock = createClock(newId(), name ?? `Clock ${clocks.length + 1}`, { number, kind, seconds });
      clocks.push(clock);
      return { id: clock.id };
    },
  }),
  defineCommand({
    type: 'clock.set',
    title: 'Set up a clock',
    about: 'Name, number, kind, length and end of a clock. A new length counts at once: what has gone by stays.',
    args: SetArgs,
    mergeKey: ({ clock, ...change }) => `clock:${clock}:${Object.keys(change).join()}`,
    run: (desk, { clock: id, ...change }) => {
      const clock = clockOf(desk, id);
      if (typeof change.number === 'number')
        for (const other of desk.show.graphics.clocks) if (other.number === change.number) other.number = null;
      Object.assign(clock, change);
    },
  }),
  defineCommand({
    type: 'clock.start',
    title: 'Start a clock',
    says: 'Start {clock}',
    about: 'Lets a clock go on from where it stands.',
    args: ClockArg,
    run: (desk, { clock: id }, { frame }) => {
      const clock = counted(desk, id);
      if ((desk.air.graphics.clocks[id]?.start ?? null) === null) run(desk, clock, frame, true);
    },
  }),
  defineCommand({
    type: 'clock.pause',
    title: 'Pause a clock',
    says: 'Pause {clock}',
    about: 'Lets a clock stand where it is.',
    args: ClockArg,
    run: (desk, { clock: id }, { frame }) => run(desk, counted(desk, id), frame, false),
  }),
  defineCommand({
    type: 'clock.toggle',
    title: 'Start or pause a clock',
    about: 'Starts a clock that stands, pauses one that runs.',
    args: ClockArg,
    run: (desk, { clock: id }, { frame }) => {
      const clock = counted(desk, id);
      run(desk, clock, frame, (desk.air.graphics.clocks[id]?.start ?? null) === null);
    },
  }),
  defineCommand({
    type: 'clock.reset',
    title: 'Reset a clock',
    says: 'Reset {clock}',
    about: 'Back to its beginning, where it stands.',
    args: ClockArg,
    run: (desk, { clock: id }) => {
      counted(desk, id);
      desk.air.graphics.clocks[id] = { value: 0, start: null };
    },
  }),
  defineCommand({
    type: 'clock.setTo',
    title: 'Set what a clock says',
    says: 'Set {clock} to {seconds} s',
    about: 'A running clock goes on from there.',
    args: SetToArgs,
    run: (desk, { clock: id, seconds }, { frame }) => {
      const clock = counted(desk, id);
      const running = (desk.air.graphics.clocks[id]?.start ?? null) !== null;
      desk.air.graphics.clocks[id] = { value: goneAt(desk, clock, seconds), start: running ? frame : null };
    },
  }),
  defineCommand({
    type: 'clock.adjust',
    title: 'Add seconds to a clock, or take some',
    says: 'Add {seconds} s to {clock}',
    about: 'Changes what a clock says by so many seconds, also while it runs.',
    args: AdjustArgs,
    run: (desk, { clock: id, seconds }) => {
      const clock = counted(desk, id);
      const { rate } = desk.show;
      const state = desk.air.graphics.clocks[id] ?? { value: 0, start: null };
      const frames = Math.round((seconds * rate.num) / rate.den);
      desk.air.graphics.clocks[id] = { ...state, value: state.value + (clock.kind === 'down' ? -frames : frames) };
    },
  }),
  defineCommand({
    type: 'clock.remove',
    title: 'Remove a clock',
    about: 'What shows it shows nothing then.',
    args: ClockArg,
    run: (desk, { clock: id }) => {
      clockOf(desk, id);
      remove(desk, 'clock', id);
    },
  }),
  defineCommand({
    type: 'clock.day',
    title: 'Tell the time of day',
    about: 'Sent by the engine, so that clocks of the time of day agree everywhere.',
    args: DayArgs,
    fromEngine: true,
    run: ({ air }, { millis }, { frame }) => {
      air.graphics.day = { frame, millis };
    },
  }),
];
