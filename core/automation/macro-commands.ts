/** Commands for macros and their steps. */
import { CommandError, defineCommand } from '../commands/command';
import { type Desk } from '../desk/air';
import { ENTITIES } from '../desk/entities';
import { remove } from '../desk/remove';
import { Colour, Flag, Id, Ids, ListOf, Num, OneOf, Ref, Text, TextList, Variant, Whole } from '../schema/fields';
import { ENTITY_KINDS } from '../schema/kinds';
import { plainCopy } from '../schema/plain-copy';
import { filledSteps } from './asked';
import { createMacro, createStep } from './create';
import { Asked, type Macro, MOST_ASKED, MOST_MACROS, MOST_STEPS, ON_FAILURE, Step, type StepAct, stepActClass } from './document';
import { checkCircle, checkWaits, macroOf, stepsOf } from './find';
import { replaced, sweep } from './sweep';

class MacroArg {
  @Ref('macro', 'macro') macro!: string;
}
class NewStep {
  @Variant(stepActClass, 'what it does') act!: StepAct;
  @Flag('done; false passes it over', { optional: true }) on?: boolean;
  @Flag('together with the step before', { optional: true }) joined?: boolean;
  @Text(200, 'note', { optional: true }) note?: string;
  @Text(40, 'group that it stands in', { optional: true }) group?: string;
}
class AddArgs {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @ListOf(() => NewStep, MOST_STEPS, 'its steps') steps!: NewStep[];
}
class SetArgs extends MacroArg {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @Whole(1, 99, 'number; null for none', { optional: true, nullable: true }) number?: number | null;
  @Colour('colour', { optional: true }) colour?: string;
  @Text(400, 'note', { optional: true }) note?: string;
  @OneOf(ON_FAILURE, 'what happens when a step is refused', { optional: true }) onFailure?: Macro['onFailure'];
  @Ref('macro', 'macro that runs when a step is refused', { optional: true, nullable: true }) fallbackId?: string | null;
}
class AsksArgs extends MacroArg {
  @ListOf(() => Asked, MOST_ASKED, 'all that it asks for') asks!: Asked[];
}
class MoveArgs extends MacroArg {
  @Whole(0, MOST_MACROS, 'place, from 0') index!: number;
}
class AddStepsArgs extends MacroArg {
  @ListOf(() => NewStep, MOST_STEPS, 'steps') steps!: NewStep[];
  @Whole(0, MOST_STEPS, 'place of the first, from 0; without it, at the end', { optional: true }) index?: number;
}
class SetStepsArgs extends MacroArg {
  @ListOf(() => Step, MOST_STEPS, 'all its steps, in order') steps!: Step[];
}
class StepsArgs extends MacroArg {
  @Ids(MOST_STEPS, 'steps') steps!: string[];
}
class EditStepsArgs extends StepsArgs {
  @Flag('done; false passes them over', { optional: true }) on?: boolean;
  @Flag('together with the step before', { optional: true }) joined?: boolean;
  @Text(200, 'note', { optional: true }) note?: string;
  @Text(40, 'group that they stand in; empty for none', { optional: true }) group?: string;
  @Variant(stepActClass, 'what it does, for one step', { optional: true }) act?: StepAct;
}
class MoveStepsArgs extends StepsArgs {
  @Whole(0, MOST_STEPS, 'place of the first among the others, from 0') index!: number;
}
class ReplaceArgs extends StepsArgs {
  @Id('identity that is replaced') from!: string;
  @Id('identity that takes its place') to!: string;
}
class SweepArgs extends MacroArg {
  @Id('step') step!: string;
  @Text(60, 'argument that is swept', { min: 1 }) argument!: string;
  @TextList(MOST_STEPS, 64, 'its values, one for each copy') values!: string[];
  @Num(0, 86_400, 'wait between them, seconds', { optional: true }) wait?: number;
}

/** @throws CommandError when there would be too many. */
function checkRoom(macro: Macro, more: number): void {
  if (macro.steps.length + more > MOST_STEPS)
    throw new CommandError(
      'too-many',
      `A macro has at most ${MOST_STEPS} steps; ${macro.name} has ${macro.steps.length}. Let it run another.`,
    );
}

const made = (steps: readonly NewStep[], newId: () => string): Step[] =>
  steps.map(({ act, on, joined, note, group }) =>
    createStep(newId(), plainCopy(act), { on: on ?? true, joined: joined ?? false, note: note ?? '', group: group ?? '' }),
  );

function addMacro(desk: Desk, macro: Macro): Macro {
  const { macros } = desk.show.automation;
  if (macros.length >= MOST_MACROS) throw new CommandError('too-many', `A show has at most ${MOST_MACROS} macros.`);
  macros.push(macro);
  checkCircle(desk, macro);
  return macro;
}

const nameFor = ({ show }: Desk, wanted: string | undefined): string => wanted ?? `Macro ${show.automation.macros.length + 1}`;

/** The name of whatever has this identity; the words themselves where nothing has. */
const nameOfAny = (show: Desk['show'], id: string): string =>
  ENTITY_KINDS.map((kind) => ENTITIES[kind].list(show).find((e) => e.id === id)?.name).find((name) => name) ?? id;

export const macroCommands = [
  defineCommand({
    type: 'macro.add',
    unrecorded: true,
    title: 'Add a macro',
    about: 'Adds a macro with these steps. Returns its `id`.',
    args: AddArgs,
    run: (desk, { name, steps }, { newId }) => {
      const place = desk.show.automation.macros.length;
      checkWaits(
        desk,
        steps.map((x) => x.act),
      );
      return { id: addMacro(desk, createMacro(newId(), nameFor(desk, name), place, { steps: made(steps, newId) })).id };
    },
  }),
  defineCommand({
    type: 'macro.set',
    unrecorded: true,
    title: 'Set up a macro',
    about: 'Name, number, colour, note, and what happens when a step is refused.',
    args: SetArgs,
    mergeKey: ({ macro, ...change }) => `macro:${macro}:${Object.keys(change).join()}`,
    run: (desk, { macro: id, ...change }) => {
      const macro = macroOf(desk, id);
      if (change.fallbackId) macroOf(desk, change.fallbackId, 'fallbackId');
      if (typeof change.number === 'number')
        for (const other of desk.show.automation.macros) if (other.number === change.number) other.number = null;
      Object.assign(macro, change);
      checkCircle(desk, macro);
    },
  }),
  defineCommand({
    type: 'macro.setAsks',
    unrecorded: true,
    title: 'Set what a macro asks for',
    about: 'All that it asks for when it is run. Where one has another name, its steps name it so too.',
    args: AsksArgs,
    mergeKey: ({ macro }) => `asks:${macro}`,
    run: (desk, { macro: id, asks }) => {
      const macro = macroOf(desk, id);
      if (new Set(asks.map((a) => a.name)).size !== asks.length || new Set(asks.map((a) => a.id)).size !== asks.length)
        throw new CommandError('bad-value', 'Two of them have the same name.', 'asks');
      const renamed = new Map(
        macro.asks.flatMap((before) => {
          const after = asks.find((a) => a.id === before.id);
          return after && after.name !== before.name ? [[before.name, { asked: after.name }] as const] : [];
        }),
      );
      macro.steps = filledSteps(plainCopy(macro.steps), renamed);
      macro.asks = plainCopy(asks);
    },
  }),
  defineCommand({
    type: 'macro.sweep',
    unrecorded: true,
    title: 'Duplicate a macro with one value swept',
    about: 'A macro for each value, in which the step has that value: as *Duplicate a step with one value swept*. Returns their `ids`.',
    args: SweepArgs,
    run: (desk, { macro: id, step: stepId, argument, values }, { newId }) => {
      const macro = macroOf(desk, id);
      const [step] = stepsOf(macro, [stepId], 'step');
      if (step?.act.kind !== 'command') throw new CommandError('bad-value', 'Only a command has values that can be swept.', 'step');
      if (values.length === 0) throw new CommandError('too-few', 'Choose at least one value.', 'values');
      const at = macro.steps.indexOf(step);
      const ids = sweep(plainCopy(step), argument, values, 0, newId).map((swept, i) => {
        const value = values[i] ?? '';
        const copy = plainCopy(macro);
        copy.steps[at] = { ...swept, id: stepId };
        const name = `${macro.name.slice(0, 30)}: ${nameOfAny(desk.show, value)}`.slice(0, 60);
        return addMacro(desk, { ...copy, id: newId(), name, number: null, steps: copy.steps.map((s) => ({ ...s, id: newId() })) }).id;
      });
      return { ids };
    },
  }),
  defineCommand({
    type: 'macro.move',
    unrecorded: true,
    title: 'Move a macro',
    about: 'Puts a macro to another place in the list.',
    args: MoveArgs,
    run: (desk, { macro: id, index }) => {
      const { macros } = desk.show.automation;
      const macro = macroOf(desk, id);
      macros.splice(macros.indexOf(macro), 1);
      macros.splice(Math.min(index, macros.length), 0, macro);
    },
  }),
  defineCommand({
    type: 'macro.duplicate',
    unrecorded: true,
    title: 'Duplicate a macro',
    about: 'A copy with steps of its own, at the end of the list. Returns its `id`.',
    args: MacroArg,
    run: (desk, { macro: id }, { newId }) => {
      const copy = plainCopy(macroOf(desk, id));
      const steps = copy.steps.map((s) => ({ ...s, id: newId() }));
      return { id: addMacro(desk, { ...copy, id: newId(), name: `${copy.name.slice(0, 55)} copy`, number: null, steps }).id };
    },
  }),
  defineCommand({
    type: 'macro.remove',
    unrecorded: true,
    title: 'Remove a macro',
    about: 'One that runs goes on to its end.',
    args: MacroArg,
    run: (desk, { macro }) => remove(desk, 'macro', macroOf(desk, macro).id),
  }),
  defineCommand({
    type: 'step.add',
    unrecorded: true,
    title: 'Add steps to a macro',
    about: 'Puts steps into a macro. Returns the `ids` of them.',
    args: AddStepsArgs,
    run: (desk, { macro: id, steps, index }, { newId }) => {
      const macro = macroOf(desk, id);
      checkRoom(macro, steps.length);
      checkWaits(
        desk,
        steps.map((x) => x.act),
      );
      const added = made(steps, newId);
      macro.steps.splice(index ?? macro.steps.length, 0, ...added);
      checkCircle(desk, macro);
      return { ids: added.map((s) => s.id) };
    },
  }),
  defineCommand({
    type: 'step.set',
    unrecorded: true,
    title: 'Change steps',
    about: 'Switches steps on or off, joins them, notes; of one step also what it does.',
    args: EditStepsArgs,
    mergeKey: ({ macro, steps, ...change }) => `steps:${macro}:${steps.join()}:${Object.keys(change).join()}`,
    run: (desk, { macro: id, steps: ids, ...change }) => {
      const macro = macroOf(desk, id);
      const steps = stepsOf(macro, ids);
      if (change.act && steps.length !== 1)
        throw new CommandError('bad-value', 'What a step does is changed for one step at a time.', 'act');
      if (change.act) checkWaits(desk, [change.act]);
      for (const step of steps) Object.assign(step, plainCopy(change));
      checkCircle(desk, macro);
    },
  }),
  defineCommand({
    type: 'step.move',
    unrecorded: true,
    title: 'Move steps',
    about: 'Puts steps to another place of their macro, together, in their order.',
    args: MoveStepsArgs,
    run: (desk, { macro: id, steps: ids, index }) => {
      const macro = macroOf(desk, id);
      const moving = stepsOf(macro, ids);
      const others = macro.steps.filter((s) => !moving.includes(s));
      macro.steps = [...others.slice(0, index), ...moving, ...others.slice(index)];
    },
  }),
  defineCommand({
    type: 'step.duplicate',
    unrecorded: true,
    title: 'Duplicate steps',
    about: 'Copies stand right after the last of them. Returns the `ids` of the copies.',
    args: StepsArgs,
    run: (desk, { macro: id, steps: ids }, { newId }) => {
      const macro = macroOf(desk, id);
      const steps = stepsOf(macro, ids);
      checkRoom(macro, steps.length);
      const copies = plainCopy(steps).map((s) => ({ ...s, id: newId() }));
      const last = steps.at(-1);
      macro.steps.splice(last ? macro.steps.indexOf(last) + 1 : macro.steps.length, 0, ...copies);
      return { ids: copies.map((s) => s.id) };
    },
  }),
  defineCommand({
    type: 'step.remove',
    unrecorded: true,
    title: 'Remove steps',
    about: 'Takes steps out of their macro.',
    args: StepsArgs,
    run: (desk, { macro: id, steps: ids }) => {
      const macro = macroOf(desk, id);
      const gone = stepsOf(macro, ids);
      macro.steps = macro.steps.filter((s) => !gone.includes(s));
    },
  }),
  defineCommand({
    type: 'step.setAll',
    unrecorded: true,
    title: 'Write all steps of a macro',
    about: 'The whole list, as its text has it.',
    args: SetStepsArgs,
    mergeKey: ({ macro }) => `all-steps:${macro}`,
    run: (desk, { macro: id, steps }) => {
      const macro = macroOf(desk, id);
      const ids = new Set(steps.map((s) => s.id));
      if (ids.size !== steps.length) throw new CommandError('bad-value', 'Two of these steps have the same identity.', 'steps');
      checkWaits(
        desk,
        steps.map((x) => x.act),
      );
      macro.steps = plainCopy(steps);
      checkCircle(desk, macro);
    },
  }),
  defineCommand({
    type: 'step.replace',
    unrecorded: true,
    title: 'Find and replace a thing in steps',
    about: 'Everywhere in these steps where one thing is named, another is. Returns how many steps have `changed`.',
    args: ReplaceArgs,
    run: (desk, { macro: id, steps: ids, from, to }) => {
      const macro = macroOf(desk, id);
      let changed = 0;
      for (const step of stepsOf(macro, ids)) {
        const act = replaced(plainCopy(step.act), from, to);
        checkWaits(desk, [act]);
        if (JSON.stringify(act) === JSON.stringify(step.act)) continue;
        step.act = act;
        changed += 1;
      }
      if (changed === 0) throw new CommandError('nothing-there', 'None of these steps names that.', 'from');
      checkCircle(desk, macro);
      return { changed };
    },
  }),
  defineCommand({
    type: 'step.sweep',
    unrecorded: true,
    title: 'Duplicate a step with one value swept',
    about:
      'The step takes the first value, a copy after it each of the others, with a wait between them if wanted. Returns the `ids` of the copies.',
    args: SweepArgs,
    run: (desk, { macro: id, step: stepId, argument, values, wait }, { newId }) => {
      const macro = macroOf(desk, id);
      const [step] = stepsOf(macro, [stepId], 'step');
      if (step?.act.kind !== 'command') throw new CommandError('bad-value', 'Only a command has values that can be swept.', 'step');
      if (values.length === 0) throw new CommandError('too-few', 'Choose at least one value.', 'values');
      const swept = sweep(plainCopy(step), argument, values, wait ?? 0, newId);
      checkRoom(macro, swept.length - 1);
      macro.steps.splice(macro.steps.indexOf(step), 1, ...swept);
      checkCircle(desk, macro);
      return { ids: swept.slice(1).map((s) => s.id) };
    },
  }),
];
