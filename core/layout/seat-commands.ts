/** Commands for seats and for the eyes of those who fill them. */
import { CommandError, defineCommand } from '../commands/command';
import { Colour, Num, Ref, Text } from '../schema/fields';
import { type Desk } from '../desk/air';
import { TILE_COLOURS } from '../desk/create';
import { Anyway, guardLoops } from '../sound/edit';
import { findPicture } from '../desk/pictures';
import { remove } from '../desk/remove';
import { usesOf } from '../desk/uses';
import { seatOf } from './edit';

class AddArgs {
  @Text(60, 'name', { min: 1 }) name!: string;
}
class SeatArg {
  @Ref('seat', 'seat') seat!: string;
}
class EditArgs extends SeatArg {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @Colour('colour of its placeholder card', { optional: true }) colour?: string;
}
class FillArgs extends SeatArg {
  @Ref('occupant', 'source or framing; null empties the seat', { nullable: true }) occupant!: string | null;
  @Anyway() anyway?: boolean;
}
class SwapArgs {
  @Ref('seat', 'one seat') a!: string;
  @Ref('seat', 'the other') b!: string;
  @Anyway() anyway?: boolean;
}
class EyeArgs {
  @Ref('occupant', 'source or framing') picture!: string;
  @Num(0, 1, 'share of the width, from the left', { nullable: true }) x!: number | null;
  @Num(0, 1, 'share of the height, from the top', { nullable: true }) y!: number | null;
}

/** @throws CommandError unless it is a source or a framing. */
function checkOccupant(desk: Desk, id: string | null, field = 'occupant'): void {
  if (id === null) return;
  const kind = findPicture(desk.show, id)?.kind;
  if (kind !== 'source' && kind !== 'framing')
    throw new CommandError('unknown-occupant', `There is no source or framing "${id}" in this show.`, field);
}

export const seatCommands = [
  defineCommand({
    type: 'seat.add',
    title: 'Add a seat',
    about: 'Adds an empty seat. Returns its `id`.',
    args: AddArgs,
    run: ({ show }, { name }, { newId }) => {
      if (show.seats.length >= 100) throw new CommandError('too-many', 'A show has at most 100 seats.');
      const id = newId();
      show.seats.push({ id, name, colour: TILE_COLOURS[show.seats.length % TILE_COLOURS.length] ?? '#5aa9c9', occupantId: null });
      return { id };
    },
  }),
  defineCommand({
    type: 'seat.edit',
    title: 'Edit a seat',
    about: 'Name and colour of a seat.',
    args: EditArgs,
    mergeKey: ({ seat }) => `seat:${seat}`,
    run: (desk, { seat, ...change }) => {
      Object.assign(seatOf(desk, seat), change);
    },
  }),
  defineCommand({
    type: 'seat.fill',
    title: 'Fill a seat',
    says: 'Put {occupant} into the seat {seat}',
    about: 'Puts a source or framing into a seat, everywhere at once, on air too. Refused when its sound would close a loop.',
    args: FillArgs,
    run: (desk, { seat, occupant, anyway }) => {
      checkOccupant(desk, occupant);
      seatOf(desk, seat).occupantId = occupant;
      guardLoops(desk, anyway);
    },
  }),
  defineCommand({
    type: 'seat.swap',
    title: 'Swap two seats',
    about: 'The occupants of two seats change places, everywhere at once.',
    args: SwapArgs,
    run: (desk, { a, b, anyway }) => {
      const [first, second] = [seatOf(desk, a, 'a'), seatOf(desk, b, 'b')];
      [first.occupantId, second.occupantId] = [second.occupantId, first.occupantId];
      guardLoops(desk, anyway);
    },
  }),
  defineCommand({
    type: 'seat.remove',
    title: 'Remove a seat',
    about: 'Refused while it is seen on air. Boxes that show it become empty.',
    args: SeatArg,
    run: (desk, { seat: id }, { frame }) => {
      const seat = seatOf(desk, id);
      const onAir = usesOf(desk.show, desk.air, 'seat', id, frame).filter((u) => u.onAir);
      if (onAir.length > 0)
        throw new CommandError('in-use', `${seat.name} is seen on air: ${onAir.map((u) => u.place).join('; ')}.`, 'seat');
      remove(desk, 'seat', id);
    },
  }),
  defineCommand({
    type: 'source.setEyes',
    title: 'Mark the eyes',
    about:
      'Says where a person’s eyes are in a source or framing, in shares of the source’s whole picture, so that layouts can frame by them. Null takes the mark away.',
    args: EyeArgs,
    mergeKey: ({ picture }) => `eyes:${picture}`,
    run: (desk, { picture, x, y }) => {
      checkOccupant(desk, picture, 'picture');
      const { show } = desk;
      show.eyes = show.eyes.filter((e) => e.pictureId !== picture);
      if (x !== null && y !== null) show.eyes.push({ pictureId: picture, x, y });
    },
  }),
];
