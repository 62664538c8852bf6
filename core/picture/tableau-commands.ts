/** Commands for tableaux: stored wholes of picture, lanes and transition. */
import { CommandError, defineCommand } from '../commands/command';
import { type Air, type Desk } from '../desk/air';
import { findPicture } from '../desk/pictures';
import { remove } from '../desk/remove';
import { ListOf, Nested, OneOf, Ref, Text, Whole } from '../schema/fields';
import { plainCopy } from '../schema/plain-copy';
import { laneIsUp } from './air';
import { MOST_LANES, type Tableau, TableauLane, Transition } from './document';
import { requirePicture } from './edit';
import { take } from './mixer';
import { putInNext } from './tableau';

class TableauArg {
  @Ref('tableau', 'tableau') tableau!: string;
}
class AddArgs {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @OneOf(['air', 'next'], 'made from what is on air, or from Next with what the lanes hold ready') from!: 'air' | 'next';
}
class SetArgs extends TableauArg {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @Whole(1, 99, 'number; null for none', { optional: true, nullable: true }) number?: number | null;
  @Ref('picture', 'picture on air; null leaves it alone', { optional: true, nullable: true }) pictureId?: string | null;
  @Nested(() => Transition, 'the transition it wants; null for the armed one', { optional: true, nullable: true })
  transition?: Transition | null;
}
class LanesArgs extends TableauArg {
  @ListOf(() => TableauLane, MOST_LANES, 'lanes that it sets; others it leaves alone') lanes!: TableauLane[];
}

const MOST_TABLEAUX = 200;

/** @throws CommandError when the show has no such tableau. */
function tableauOf({ show }: Desk, id: string): Tableau {
  const found = show.tableaux.find((t) => t.id === id);
  if (!found) throw new CommandError('unknown-tableau', `There is no tableau "${id}" in this show.`, 'tableau');
  return found;
}

function lanesOnAir({ show, air }: Desk, frame: number): TableauLane[] {
  return show.lanes.map(({ id }) => {
    const state = air.lanes[id];
    return { laneId: id, contentId: state && laneIsUp(state, frame) ? (state.picture?.id ?? null) : null };
  });
}

/** What stands in Next: its picture, and lanes as the take would leave them. */
function lanesOfNext({ show, air }: Desk, frame: number): TableauLane[] {
  return show.lanes.map(({ id, content }) => {
    const state = air.lanes[id];
    const up = state !== undefined && laneIsUp(state, frame);
    const after = state?.armed ? !up : up;
    return { laneId: id, contentId: after ? (up ? (state?.picture?.id ?? null) : (content?.id ?? null)) : null };
  });
}

const pictureOf = (air: Air, from: 'air' | 'next'): string | null => (from === 'air' ? air.onAirId : (air.nextId ?? air.onAirId));

export const tableauCommands = [
  defineCommand({
    type: 'tableau.add',
    title: 'Keep a tableau',
    about: 'Keeps the picture and what is up in the lanes, of air or of Next. Returns its `id`.',
    args: AddArgs,
    run: (desk, { name, from }, { frame, newId }) => {
      const { tableaux } = desk.show;
      if (tableaux.length >= MOST_TABLEAUX) throw new CommandError('too-many', `A show keeps at most ${MOST_TABLEAUX} tableaux.`);
      const tableau: Tableau = {
        id: newId(),
        name: name ?? `Tableau ${tableaux.length + 1}`,
        number: null,
        pictureId: pictureOf(desk.air, from),
        // A lane may show what the show no longer has: it is left alone.
        lanes: (from === 'air' ? lanesOnAir(desk, frame) : lanesOfNext(desk, frame)).filter(
          (l) => l.contentId === null || findPicture(desk.show, l.contentId) !== null,
        ),
        transition: null,
      };
      tableaux.push(tableau);
      return { id: tableau.id };
    },
  }),
  defineCommand({
    type: 'tableau.set',
    title: 'Set up a tableau',
    about: 'Name, number, picture and transition of a tableau.',
    args: SetArgs,
    mergeKey: ({ tableau, ...change }) => `tableau:${tableau}:${Object.keys(change).join()}`,
    run: (desk, { tableau: id, ...change }) => {
      const tableau = tableauOf(desk, id);
      if (change.pictureId) requirePicture(desk, change.pictureId, 'pictureId');
      if (typeof change.number === 'number')
        for (const other of desk.show.tableaux) if (other.number === change.number) other.number = null;
      Object.assign(tableau, plainCopy(change));
    },
  }),
  defineCommand({
    type: 'tableau.setLanes',
    title: 'Set the lanes of a tableau',
    about: 'What is up in each lane that it sets. Lanes that are not named it leaves alone.',
    args: LanesArgs,
    mergeKey: ({ tableau }) => `tableau-lanes:${tableau}`,
    run: (desk, { tableau: id, lanes }) => {
      lanes.forEach((lane, i) => {
        if (!desk.show.lanes.some((l) => l.id === lane.laneId))
          throw new CommandError('unknown-lane', `There is no lane "${lane.laneId}".`, `lanes[${i}].laneId`);
        if (lane.contentId !== null) requirePicture(desk, lane.contentId, `lanes[${i}].contentId`);
      });
      tableauOf(desk, id).lanes = lanes;
    },
  }),
  defineCommand({
    type: 'tableau.next',
    title: 'Put a tableau into Next',
    says: 'Put the tableau {tableau} into Next',
    about: 'Its picture goes to Next, its transition is armed, and the lanes that differ from what is on air change with the take.',
    args: TableauArg,
    run: (desk, { tableau }, { frame }) => putInNext(desk, tableauOf(desk, tableau), frame),
  }),
  defineCommand({
    type: 'tableau.take',
    title: 'Take a tableau straight to air',
    says: 'Take the tableau {tableau} to air',
    about: 'Only what differs from what is on air moves.',
    args: TableauArg,
    run: (desk, { tableau }, { frame }) => {
      putInNext(desk, tableauOf(desk, tableau), frame);
      if (desk.air.nextId !== desk.air.onAirId || Object.values(desk.air.lanes).some((l) => l.armed)) take(desk, frame);
    },
  }),
  defineCommand({
    type: 'tableau.remove',
    title: 'Remove a tableau',
    about: 'What is on air stays.',
    args: TableauArg,
    run: (desk, { tableau }) => remove(desk, 'tableau', tableauOf(desk, tableau).id),
  }),
];
