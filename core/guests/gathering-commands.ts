/** Commands for the gathered views of guests. */
import { CommandError, defineCommand } from '../commands/command';
import { type Desk } from '../desk/air';
import { circleThrough } from '../desk/pictures';
import { remove } from '../desk/remove';
import { checkNumber } from '../layout/edit';
import { usesOf } from '../desk/uses';
import { Flag, OneOf, Ref, Text, Whole } from '../schema/fields';
import { createGathering, type Gathering, GATHERING_KINDS, GATHERING_ORDERS, MOST_GATHERINGS } from './document';

class AddArgs {
  @OneOf(GATHERING_KINDS, 'everyone, who speaks, or the shared screen') kind!: Gathering['kind'];
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
}
class GatheringArg {
  @Ref('gathering', 'gathered view') gathering!: string;
}
class SetArgs extends GatheringArg {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @Whole(1, 99, 'number on keys; null for none', { nullable: true, optional: true }) number?: number | null;
  @Flag('names stand in the pictures', { optional: true }) names?: boolean;
  @OneOf(GATHERING_ORDERS, 'in the order of the guests, or of their seats', { optional: true }) order?: Gathering['order'];
  @Whole(0, 250, 'frames that a move from one arrangement to the next takes; 0 is at once', { optional: true }) frames?: number;
  @Ref('picture', 'shown while there is nobody; null for none', { nullable: true, optional: true }) rest?: string | null;
}

const gatheringOf = ({ show }: Desk, id: string): Gathering => {
  const found = show.guests.gatherings.find((g) => g.id === id);
  if (!found) throw new CommandError('unknown-gathering', `There is no gathered view "${id}" in this show.`, 'gathering');
  return found;
};

export const gatheringCommands = [
  defineCommand({
    type: 'gathering.add',
    title: 'Add a gathered view',
    about: 'A picture of all admitted guests, of who speaks, or of the screen that is shared. Returns its `id`.',
    args: AddArgs,
    run: ({ show }, { kind, name }, { newId }) => {
      const { gatherings } = show.guests;
      if (gatherings.length >= MOST_GATHERINGS) throw new CommandError('too-many', `A show has at most ${MOST_GATHERINGS} gathered views.`);
      const made = createGathering(newId(), kind);
      gatherings.push(name === undefined ? made : { ...made, name });
      return { id: made.id };
    },
  }),
  defineCommand({
    type: 'gathering.set',
    title: 'Set a gathered view',
    about: 'Name, number, names in the pictures, order, how fast it moves, and what is shown while there is nobody.',
    args: SetArgs,
    mergeKey: ({ gathering, ...change }) => `gathering:${gathering}:${Object.keys(change).join()}`,
    run: (desk, { gathering, rest, ...change }) => {
      const target = gatheringOf(desk, gathering);
      checkNumber(desk, change.number, gathering);
      if (rest) {
        const circle = circleThrough(desk.show, gathering, rest);
        if (circle) throw new CommandError('circle', `It would show itself: ${circle.join(' → ')}.`, 'rest');
      }
      Object.assign(target, change, rest !== undefined && { restId: rest });
    },
  }),
  defineCommand({
    type: 'gathering.remove',
    title: 'Remove a gathered view',
    about: 'Refused while it is seen on air.',
    args: GatheringArg,
    run: (desk, { gathering }, { frame }) => {
      const { name } = gatheringOf(desk, gathering);
      const places = usesOf(desk.show, desk.air, 'gathering', gathering, frame).filter((u) => u.onAir);
      if (places.length > 0)
        throw new CommandError('in-use', `${name} is seen on air: ${places.map((u) => u.place).join('; ')}.`, 'gathering');
      remove(desk, 'gathering', gathering);
    },
  }),
];
