/** Commands for finishes: fill, stroke and effects kept by name. */
import { CommandError, defineCommand } from '../commands/command';
import { type Desk } from '../desk/air';
import { Id, Ids, Ref, Text } from '../schema/fields';
import { plainCopy } from '../schema/plain-copy';
import { checkFree, elementOf, elementsOf, graphicOf } from './edit';
import { MOST_ELEMENTS } from './element';

class FinishArg {
  @Ref('finish', 'finish') finish!: string;
}
class SaveArgs {
  @Ref('graphic', 'graphic') graphic!: string;
  @Id('element whose look is kept') element!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
}
class ApplyArgs extends FinishArg {
  @Ref('graphic', 'graphic') graphic!: string;
  @Ids(MOST_ELEMENTS, 'elements of the graphic') elements!: string[];
}
class RenameArgs extends FinishArg {
  @Text(60, 'name', { min: 1 }) name!: string;
}

const MOST_FINISHES = 200;

function finishOf({ show }: Desk, id: string) {
  const found = show.graphics.finishes.find((f) => f.id === id);
  if (!found) throw new CommandError('unknown-finish', `There is no finish "${id}" in this show.`, 'finish');
  return found;
}

export const finishCommands = [
  defineCommand({
    type: 'finish.save',
    title: 'Keep a finish',
    about: 'Keeps fill, stroke and effects of an element by name. Returns its `id`.',
    args: SaveArgs,
    run: (desk, { graphic, element: id, name }, { newId }) => {
      const { finishes } = desk.show.graphics;
      if (finishes.length >= MOST_FINISHES) throw new CommandError('too-many', `A show keeps at most ${MOST_FINISHES} finishes.`);
      const { fill, stroke, shadow, glow, reflection } = plainCopy(elementOf(graphicOf(desk, graphic), id));
      const kept = { id: newId(), name, finish: { fill, stroke, shadow, glow, reflection } };
      finishes.push(kept);
      return { id: kept.id };
    },
  }),
  defineCommand({
    type: 'finish.apply',
    title: 'Apply a finish',
    about: 'Gives elements the fill, stroke and effects that are kept.',
    args: ApplyArgs,
    run: (desk, { graphic, elements: ids, finish }) => {
      const elements = elementsOf(graphicOf(desk, graphic), ids);
      checkFree(elements);
      for (const e of elements) Object.assign(e, plainCopy(finishOf(desk, finish).finish));
    },
  }),
  defineCommand({
    type: 'finish.rename',
    title: 'Rename a finish',
    about: 'Its name; what wears it stays as it is.',
    args: RenameArgs,
    mergeKey: ({ finish }) => `finish:${finish}`,
    run: (desk, { finish, name }) => {
      finishOf(desk, finish).name = name;
    },
  }),
  defineCommand({
    type: 'finish.remove',
    title: 'Remove a finish',
    about: 'What wears it stays as it is.',
    args: FinishArg,
    run: (desk, { finish }) => {
      const { id } = finishOf(desk, finish);
      desk.show.graphics.finishes = desk.show.graphics.finishes.filter((f) => f.id !== id);
    },
  }),
];
