/** Commands for triggers. Those of the engine say what a trigger has done, or why it has not. */
import { CommandError, defineCommand } from '../commands/command';
import { type Desk } from '../desk/air';
import { remove } from '../desk/remove';
import { Flag, ListOf, Nested, Num, Ref, Text, Whole } from '../schema/fields';
import { plainCopy } from '../schema/plain-copy';
import { createTrigger } from './create';
import { CommandAct, Condition, MOST_TRIGGERS, type Trigger, When } from './document';

class TriggerArg {
  @Ref('trigger', 'trigger') trigger!: string;
}
class AddArgs {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @Nested(() => When, 'what happens') when!: When;
  @Nested(() => CommandAct, 'what is done then') then!: CommandAct;
}
class SetArgs extends TriggerArg {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @Flag('armed', { optional: true }) armed?: boolean;
  @Nested(() => When, 'what happens', { optional: true }) when?: When;
  @Nested(() => CommandAct, 'what is done then', { optional: true }) then?: CommandAct;
  @Flag('once only, until it is armed anew', { optional: true }) once?: boolean;
  @Num(0, 86_400, 'not more often than every so many seconds', { optional: true }) every?: number;
}
class ConditionsArgs extends TriggerArg {
  @ListOf(() => Condition, 8, 'only if all of these are so') conditions!: Condition[];
}
class ArmAllArgs {
  @Flag('armed or disarmed') armed!: boolean;
}
class ToldArgs {
  @Text(200, 'what is told of', { min: 1 }) key!: string;
  @Flag('it is so; without it, nothing is known any more', { optional: true }) so?: boolean;
}
class ActedArgs extends TriggerArg {
  @Whole(0, Number.MAX_SAFE_INTEGER, 'frame') at!: number;
  @Text(400, 'why nothing was done; null when it was', { nullable: true }) why!: string | null;
}

/** Lines of the log of triggers that are kept. */
const MOST_LINES = 200;
const MOST_RECENT = 10;

/** @throws CommandError when the show has no such trigger. */
function triggerOf({ show }: Desk, id: string): Trigger {
  const found = show.automation.triggers.find((t) => t.id === id);
  if (!found) throw new CommandError('unknown-trigger', `There is no trigger "${id}" in this show.`, 'trigger');
  return found;
}

/** Armed anew, a trigger has done nothing yet. */
const forget = ({ air }: Desk, id: string): void => void delete air.automation.triggers[id];

export const triggerCommands = [
  defineCommand({
    type: 'trigger.add',
    unrecorded: true,
    title: 'Add a trigger',
    about: 'When something happens, something is done. It is armed at once. Returns its `id`.',
    args: AddArgs,
    run: (desk, { name, when, then }, { newId }) => {
      const { triggers } = desk.show.automation;
      if (triggers.length >= MOST_TRIGGERS) throw new CommandError('too-many', `A show has at most ${MOST_TRIGGERS} triggers.`);
      const trigger = createTrigger(newId(), name ?? `Trigger ${triggers.length + 1}`, plainCopy(when), plainCopy(then));
      triggers.push(trigger);
      return { id: trigger.id };
    },
  }),
  defineCommand({
    type: 'trigger.set',
    unrecorded: true,
    title: 'Set up a trigger',
    about: 'Its name, what happens, what is done then, how often, and whether it is armed.',
    args: SetArgs,
    mergeKey: ({ trigger, ...change }) => `trigger:${trigger}:${Object.keys(change).join()}`,
    run: (desk, { trigger: id, ...change }) => {
      const trigger = triggerOf(desk, id);
      Object.assign(trigger, plainCopy(change));
      if (change.armed || change.when) forget(desk, id);
    },
  }),
  defineCommand({
    type: 'trigger.setConditions',
    unrecorded: true,
    title: 'Set the conditions of a trigger',
    about: 'It acts only if all of them are so.',
    args: ConditionsArgs,
    mergeKey: ({ trigger }) => `trigger-conditions:${trigger}`,
    run: (desk, { trigger: id, conditions }) => {
      triggerOf(desk, id).conditions = plainCopy(conditions);
    },
  }),
  defineCommand({
    type: 'trigger.armAll',
    unrecorded: true,
    title: 'Arm or disarm all triggers',
    about: 'All triggers of the show at once.',
    args: ArmAllArgs,
    run: (desk, { armed }) => {
      for (const trigger of desk.show.automation.triggers) {
        if (armed && !trigger.armed) forget(desk, trigger.id);
        trigger.armed = armed;
      }
    },
  }),
  defineCommand({
    type: 'trigger.remove',
    unrecorded: true,
    title: 'Remove a trigger',
    about: 'What it has done stays.',
    args: TriggerArg,
    run: (desk, { trigger: id }) => {
      remove(desk, 'trigger', triggerOf(desk, id).id);
      forget(desk, id);
    },
  }),
  defineCommand({
    type: 'trigger.told',
    title: 'Tell what triggers look at',
    about: 'Sent by the engine: a level is over or under, an output fails or is well.',
    args: ToldArgs,
    fromEngine: true,
    run: ({ air }, { key, so }) => {
      const rest = Object.fromEntries(Object.entries(air.automation.told).filter(([other]) => other !== key));
      air.automation.told = so === undefined ? rest : { ...rest, [key]: so };
    },
  }),
  defineCommand({
    type: 'trigger.acted',
    title: 'Tell what a trigger has done',
    about: 'Sent by the engine: it has acted, or why it has not.',
    args: ActedArgs,
    fromEngine: true,
    run: (desk, { trigger: id, at, why }) => {
      const { automation } = desk.air;
      const name = desk.show.automation.triggers.find((t) => t.id === id)?.name ?? id;
      automation.log = [...automation.log.slice(1 - MOST_LINES), { frame: at, triggerId: id, name, why }];
      if (why !== null) return;
      const state = automation.triggers[id] ?? { acted: 0, recent: [] };
      automation.triggers[id] = { acted: state.acted + 1, recent: [...state.recent.slice(1 - MOST_RECENT), at] };
    },
  }),
];
