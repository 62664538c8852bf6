/** Commands for casts: who sits where, stored and recalled. */
import { CommandError, defineCommand } from '../commands/command';
import { type Desk } from '../desk/air';
import { remove } from '../desk/remove';
import { Ref, Text } from '../schema/fields';
import { Anyway, guardLoops } from '../sound/edit';
import { type Cast, MOST_CASTS } from './document';

class StoreArgs {
  @Text(60, 'name', { min: 1 }) name!: string;
}
class CastArg {
  @Ref('cast', 'cast') cast!: string;
}
class RenameArgs extends CastArg {
  @Text(60, 'name', { min: 1 }) name!: string;
}
class RecallArgs extends CastArg {
  @Anyway() anyway?: boolean;
}

function castOf({ show }: Desk, id: string): Cast {
  const cast = show.guests.casts.find((c) => c.id === id);
  if (!cast) throw new CommandError('unknown-cast', `There is no cast "${id}" in this show.`, 'cast');
  return cast;
}

/** Who sits where now. */
const seatsNow = ({ show }: Desk) => show.seats.map(({ id, occupantId }) => ({ seatId: id, occupantId }));

export const castCommands = [
  defineCommand({
    type: 'cast.store',
    title: 'Store a cast',
    about: 'Keeps who sits in which seat now under a name. Returns its `id`.',
    args: StoreArgs,
    run: (desk, { name }, { newId }) => {
      const { casts } = desk.show.guests;
      if (casts.length >= MOST_CASTS) throw new CommandError('too-many', `A show has at most ${MOST_CASTS} casts.`);
      if (desk.show.seats.length === 0) throw new CommandError('no-seats', 'There are no seats yet: add them in Guests or Layouts first.');
      const id = newId();
      casts.push({ id, name, seats: seatsNow(desk) });
      return { id };
    },
  }),
  defineCommand({
    type: 'cast.overwrite',
    title: 'Store a cast anew',
    about: 'A stored cast becomes who sits where now.',
    args: CastArg,
    run: (desk, { cast }) => {
      castOf(desk, cast).seats = seatsNow(desk);
    },
  }),
  defineCommand({
    type: 'cast.recall',
    title: 'Recall a cast',
    says: 'Recall the cast {cast}',
    about: 'Puts everybody where the cast has them, everywhere at once, on air too. Seats that it does not know stay as they are.',
    args: RecallArgs,
    run: (desk, { cast, anyway }) => {
      for (const { seatId, occupantId } of castOf(desk, cast).seats) {
        const seat = desk.show.seats.find((s) => s.id === seatId);
        // Only what differs is written: what stays the same does not move.
        if (seat && seat.occupantId !== occupantId) seat.occupantId = occupantId;
      }
      guardLoops(desk, anyway);
    },
  }),
  defineCommand({
    type: 'cast.rename',
    title: 'Rename a cast',
    about: 'Names a cast.',
    args: RenameArgs,
    mergeKey: ({ cast }) => `cast:${cast}`,
    run: (desk, { cast, name }) => {
      castOf(desk, cast).name = name;
    },
  }),
  defineCommand({
    type: 'cast.remove',
    title: 'Remove a cast',
    about: 'Nobody leaves their seat.',
    args: CastArg,
    run: (desk, { cast }) => {
      castOf(desk, cast);
      remove(desk, 'cast', cast);
    },
  }),
];
