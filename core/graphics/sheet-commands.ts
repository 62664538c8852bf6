/** Commands for entries that come from the rows of a sheet. */
import { current } from 'immer';
import { CommandError, defineCommand } from '../commands/command';
import { Flag, Id, Nested, Ref, Text } from '../schema/fields';
import { rowEntry } from '../sheets/into-entries';
import { sheetOf } from '../sheets/edit';
import { rowKeys } from '../sheets/rows';
import { MOST_ENTRIES, SheetLink } from './document';
import { entryOf, fieldOf, graphicOf, nextNumber } from './edit';
import { isEmpty, valueOf, wordsOf } from './values';

class GraphicArg {
  @Ref('graphic', 'graphic') graphic!: string;
}
class SheetArgs extends GraphicArg {
  @Nested(() => SheetLink, 'sheet that its entries come from; null for none', { nullable: true }) sheet!: SheetLink | null;
}
class FromRowArgs extends GraphicArg {
  @Text(200, 'what tells the row from others: its key', { min: 1 }) key!: string;
}
class MarkArgs {
  @Ref('entry', 'entry') entry!: string;
  @Flag('it is done') done!: boolean;
}
class SortArgs extends GraphicArg {
  @Id('field to sort by; without it, the number', { optional: true }) field?: string;
  @Flag('the largest first', { optional: true }) down?: boolean;
}

const words = new Intl.Collator(undefined, { numeric: true, sensitivity: 'base' });

export const sheetEntryCommands = [
  defineCommand({
    type: 'graphic.setSheet',
    title: 'Tie a graphic to a sheet',
    about:
      'Says which columns of which sheet fill the fields of a graphic in: of every row, or of those that are picked. Entries go on with the sheet.',
    args: SheetArgs,
    run: (desk, { graphic: id, sheet }) => {
      const graphic = graphicOf(desk, id);
      const from = sheet && sheetOf(desk, sheet.sheetId, 'sheet.sheetId');
      if (from && sheet.all && from.rows.length > MOST_ENTRIES)
        throw new CommandError(
          'too-many',
          `A graphic holds at most ${MOST_ENTRIES} entries; ${from.name} has ${from.rows.length} rows. Pick rows instead.`,
          'sheet.all',
        );
      sheet?.columns.forEach(({ fieldId }, i) => fieldOf(graphic, fieldId, `sheet.columns[${i}].fieldId`));
      graphic.sheet = sheet;
    },
  }),
  defineCommand({
    type: 'entry.fromRow',
    title: 'Make an entry of a row',
    about: 'The entry of a row of the sheet that a graphic is tied to; it is made when there is none yet. Returns its `id`.',
    args: FromRowArgs,
    run: (desk, { graphic: id, key }) => {
      const graphic = graphicOf(desk, id);
      if (!graphic.sheet) throw new CommandError('unknown-sheet', `${graphic.name} is tied to no sheet.`, 'graphic');
      const sheet = sheetOf(desk, graphic.sheet.sheetId);
      const known = graphic.entries.find((e) => e.rowKey === key);
      if (known) return { id: known.id };
      if (!rowKeys(current(sheet)).places.has(key)) throw new CommandError('unknown-row', `${sheet.name} has no row “${key}”.`, 'key');
      if (graphic.entries.length >= MOST_ENTRIES)
        throw new CommandError('too-many', `A graphic holds at most ${MOST_ENTRIES} entries. Remove some that are done.`, 'graphic');
      const entry = rowEntry(graphic, key, nextNumber(graphic));
      graphic.entries.push(entry);
      return { id: entry.id };
    },
  }),
  defineCommand({
    type: 'entry.mark',
    title: 'Mark an entry as done',
    about: 'One that is done is passed over when a lane goes to the next entry.',
    args: MarkArgs,
    run: (desk, { entry, done }) => {
      entryOf(desk, entry).entry.done = done;
    },
  }),
  defineCommand({
    type: 'entry.sort',
    title: 'Sort entries',
    about: 'Puts the entries of a graphic in order by a field, or by their numbers; empty ones stand last.',
    args: SortArgs,
    run: (desk, { graphic: id, field: fieldId, down = false }) => {
      const graphic = graphicOf(desk, id);
      const field = fieldId === undefined ? null : fieldOf(graphic, fieldId);
      const keys = new Map(
        graphic.entries.map((e): [string, string] => {
          if (!field) return [e.id, e.number === null ? '' : String(e.number)];
          const value = valueOf(field, e.values);
          return [e.id, isEmpty(value) ? '' : wordsOf(value)];
        }),
      );
      const key = (e: { id: string }) => keys.get(e.id) ?? '';
      graphic.entries = [...graphic.entries].sort((a, b) => {
        if (key(a) === '' || key(b) === '') return key(a) === key(b) ? 0 : key(a) === '' ? 1 : -1;
        return words.compare(key(a), key(b)) * (down ? -1 : 1);
      });
    },
  }),
];
