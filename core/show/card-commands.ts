/** Commands for name cards. A card that is up keeps its words until it is shown anew. */
import { CommandError, defineCommand } from '../commands/command';
import { Ref, Text } from '../schema/fields';
import { remove } from '../desk/remove';
import { type Desk } from '../desk/air';

class AddCardArgs {
  @Text(60, 'first line: the name') name!: string;
  @Text(90, 'second line: who that is') role!: string;
}
class CardArg {
  @Ref('card', 'card') card!: string;
}
class EditCardArgs extends CardArg {
  @Text(60, 'first line', { optional: true }) name?: string;
  @Text(90, 'second line', { optional: true }) role?: string;
}

function requireCard(desk: Desk, id: string) {
  const card = desk.show.cards.find((c) => c.id === id);
  if (!card) throw new CommandError('unknown-card', `There is no card "${id}" in this show.`, 'card');
  return card;
}

export const cardCommands = [
  defineCommand({
    type: 'card.add',
    title: 'Add a name card',
    about: 'Adds a card to the shelf. Returns its `id`.',
    args: AddCardArgs,
    run: (desk, { name, role }, { newId }) => {
      const id = newId();
      desk.show.cards.push({ id, name, role });
      return { id };
    },
  }),
  defineCommand({
    type: 'card.edit',
    title: 'Edit a name card',
    about: 'Changes the words of a card. On air they change when the lane is shown anew.',
    args: EditCardArgs,
    mergeKey: ({ card }) => `card:${card}`,
    run: (desk, { card, ...words }) => {
      Object.assign(requireCard(desk, card), words);
    },
  }),
  defineCommand({
    type: 'card.remove',
    title: 'Remove a name card',
    about: 'Takes a card off the shelf and out of the lanes that hold it ready. If it is up, it stays up until hidden.',
    args: CardArg,
    run: (desk, { card }) => {
      const { id } = requireCard(desk, card);
      remove(desk, 'card', id);
    },
  }),
];
