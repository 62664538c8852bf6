/** Commands for entries: the filled-in sets of values of a graphic. */
import { CommandError, defineCommand } from '../commands/command';
import { remove } from '../desk/remove';
import { Id, ListOf, Num, Ref, Variant, Whole } from '../schema/fields';
import { plainCopy } from '../schema/plain-copy';
import { createEntry } from './create';
import { EntryValue, type Graphic, MOST_ENTRIES, MOST_FIELDS, type Value, valueClass } from './document';
import { entryOf, fieldOf, graphicOf, nextNumber } from './edit';
import { fillIn, stepEntry } from './step';

class EntryArg {
  @Ref('entry', 'entry') entry!: string;
}
class AddArgs {
  @Ref('graphic', 'graphic') graphic!: string;
  @ListOf(() => EntryValue, MOST_FIELDS, 'what is filled in') values!: EntryValue[];
}
class SetArgs extends EntryArg {
  @Id('field') field!: string;
  @Variant(valueClass, 'what is filled in; null for the default', { nullable: true }) value!: Value | null;
}
class NumberArgs extends EntryArg {
  @Whole(1, 9999, 'number; null for none', { nullable: true }) number!: number | null;
}
class MoveArgs extends EntryArg {
  @Whole(0, MOST_ENTRIES, 'place, from 0') index!: number;
}
class StepArgs extends EntryArg {
  @Id('number field; without it, the first', { optional: true }) field?: string;
  @Num(-1e6, 1e6, 'what is added') by!: number;
}

function checkRoom(graphic: Graphic): void {
  if (graphic.entries.length >= MOST_ENTRIES) throw new CommandError('too-many', `A graphic holds at most ${MOST_ENTRIES} entries.`);
}

export const entryCommands = [
  defineCommand({
    type: 'entry.add',
    title: 'Add an entry',
    about: 'Adds an entry to a graphic, at the end. Fields that are not named have their defaults. Returns its `id`.',
    args: AddArgs,
    run: (desk, { graphic: id, values }, { newId }) => {
      const graphic = graphicOf(desk, id);
      checkRoom(graphic);
      const entry = createEntry(newId(), nextNumber(graphic));
      values.forEach(({ fieldId, value }, i) =>
        fillIn(desk, graphic, entry, fieldOf(graphic, fieldId, `values[${i}].fieldId`), value, `values[${i}].value`),
      );
      graphic.entries.push(entry);
      return { id: entry.id };
    },
  }),
  defineCommand({
    type: 'entry.set',
    title: 'Fill in a field',
    says: 'Fill {field} of {entry} with {value}',
    about: 'Fills in a field of an entry. What is on air waits until it is changed, unless its lane follows edits.',
    args: SetArgs,
    mergeKey: ({ entry, field }) => `entry:${entry}:${field}`,
    run: (desk, { entry: id, field: fieldId, value }) => {
      const { graphic, entry } = entryOf(desk, id);
      fillIn(desk, graphic, entry, fieldOf(graphic, fieldId), value, 'value');
    },
  }),
  defineCommand({
    type: 'entry.step',
    title: 'Count a number of an entry',
    about:
      'Adds to a number field of an entry, within its limits. Where the entry is on air it changes there too, by its change move; other edits go on waiting.',
    args: StepArgs,
    run: (desk, { entry, field, by }, { frame }) => stepEntry(desk, entry, field, by, frame),
  }),
  defineCommand({
    type: 'entry.number',
    title: 'Number an entry',
    about: 'The number by which it is found. An entry of the same graphic that had it gets none.',
    args: NumberArgs,
    run: (desk, { entry: id, number }) => {
      const { graphic, entry } = entryOf(desk, id);
      if (number !== null) for (const other of graphic.entries) if (other.number === number) other.number = null;
      entry.number = number;
    },
  }),
  defineCommand({
    type: 'entry.duplicate',
    title: 'Duplicate an entry',
    about: 'Adds a copy of an entry after it. Returns its `id`.',
    args: EntryArg,
    run: (desk, { entry: id }, { newId }) => {
      const { graphic, entry } = entryOf(desk, id);
      checkRoom(graphic);
      const copy = { ...plainCopy(entry), id: newId(), number: nextNumber(graphic), rowKey: null };
      graphic.entries.splice(graphic.entries.findIndex((e) => e.id === id) + 1, 0, copy);
      return { id: copy.id };
    },
  }),
  defineCommand({
    type: 'entry.move',
    title: 'Move an entry',
    about: 'Puts an entry to another place of its table.',
    args: MoveArgs,
    run: (desk, { entry: id, index }) => {
      const { graphic, entry } = entryOf(desk, id);
      graphic.entries.splice(
        graphic.entries.findIndex((e) => e.id === id),
        1,
      );
      graphic.entries.splice(Math.min(index, graphic.entries.length), 0, entry);
    },
  }),
  defineCommand({
    type: 'entry.remove',
    title: 'Remove an entry',
    about:
      'Out of its table and every place that holds it. If it is up in a lane, it stays up until hidden; refused while it is the picture on air.',
    args: EntryArg,
    run: (desk, { entry: id }) => {
      entryOf(desk, id);
      if (desk.air.onAirId === id || desk.air.graphics.shown[id])
        throw new CommandError('on-air', 'This entry is the picture on air. Take another picture first.', 'entry');
      remove(desk, 'entry', id);
    },
  }),
];
