/** Commands for entries that come from the rows of a sheet. */
import { CommandError, defineCommand } from '../commands/command';
import { Flag, Id, ListOf, Nested, Ref, Text } from '../schema/fields';
import { createEntry } from './create';
import { EntryValue, MOST_ENTRIES, MOST_FIELDS, SheetLink } from './document';
import { checkValue, entryOf, fieldOf, graphicOf } from './edit';
import { isEmpty, valueOf, wordsOf } from './values';

class GraphicArg {
  @Ref('graphic', 'graphic') graphic!: string;
}
class SheetArgs extends GraphicArg {
  @Nested(() => SheetLink, 'sheet that its entries come from; null for none', { nullable: true }) sheet!: SheetLink | null;
}
class RowField {
  @Text(200, 'what tells the row from others', { min: 1 }) key!: string;
  @ListOf(() => EntryValue, MOST_FIELDS, 'what it fills in') values!: EntryValue[];
}
class RowsArgs extends GraphicArg {
  @ListOf(() => RowField, MOST_ENTRIES, 'rows in order') rows!: RowField[];
  @Flag('entries whose row is gone are removed, unless they are on air', { optional: true }) remove?: boolean;
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

export const sheetCommands = [
  defineCommand({
    type: 'graphic.setSheet',
    title: 'Tie a graphic to a sheet',
    about: 'Says which columns of which sheet fill the fields of a graphic in. The rows come with `entry.takeRows`.',
    args: SheetArgs,
    run: (desk, { graphic: id, sheet }) => {
      const graphic = graphicOf(desk, id);
      sheet?.columns.forEach(({ fieldId }, i) => fieldOf(graphic, fieldId, `sheet.columns[${i}].fieldId`));
      graphic.sheet = sheet;
    },
  }),
  defineCommand({
    type: 'entry.takeRows',
    title: 'Take rows of a sheet',
    about:
      'Fills entries in from rows: each row has one, known again by its key. Only what differs is changed; what is on air waits, unless its lane follows edits. Returns how many were `added`, `changed` and `removed`.',
    args: RowsArgs,
    run: (desk, { graphic: id, rows, remove = false }, { newId }) => {
      const graphic = graphicOf(desk, id);
      const known = new Map(graphic.entries.flatMap((e) => (e.rowKey === null ? [] : [[e.rowKey, e] as const])));
      const fresh = rows.filter((r) => !known.has(r.key)).length;
      if (graphic.entries.length + fresh > MOST_ENTRIES)
        throw new CommandError(
          'too-many',
          `A graphic holds at most ${MOST_ENTRIES} entries; with these rows it would have ${graphic.entries.length + fresh}.`,
          'rows',
        );
      const fields = new Map(graphic.fields.map((f) => [f.id, f]));
      const done = { added: 0, changed: 0, removed: 0 };
      let number = graphic.entries.reduce((most, e) => Math.max(most, e.number ?? 0), 0);
      rows.forEach(({ key, values }, r) => {
        values.forEach(({ fieldId, value }, v) => {
          const field = fields.get(fieldId) ?? fieldOf(graphic, fieldId, `rows[${r}].values[${v}].fieldId`);
          checkValue(desk, graphic, field, value, `rows[${r}].values[${v}].value`);
        });
        const entry = known.get(key);
        if (!entry) {
          number += 1;
          graphic.entries.push({ ...createEntry(newId(), number <= 9999 ? number : null, values), rowKey: key });
          done.added += 1;
          return;
        }
        // What the sheet does not give stays as it was filled in by hand.
        const given = new Set(values.map((v) => v.fieldId));
        const next = [...entry.values.filter((v) => !given.has(v.fieldId)), ...values];
        const before = new Map(entry.values.map((v) => [v.fieldId, JSON.stringify(v.value)]));
        if (next.length === entry.values.length && next.every((v) => before.get(v.fieldId) === JSON.stringify(v.value))) return;
        entry.values = next;
        done.changed += 1;
      });
      if (remove) {
        const keys = new Set(rows.map((r) => r.key));
        const shown = new Set([desk.air.onAirId, ...Object.keys(desk.air.graphics.shown), ...desk.show.lanes.map((l) => l.content?.id)]);
        const kept = graphic.entries.filter((e) => e.rowKey === null || keys.has(e.rowKey) || shown.has(e.id));
        done.removed = graphic.entries.length - kept.length;
        if (done.removed > 0) graphic.entries = kept;
      }
      return done;
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
