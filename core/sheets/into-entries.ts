/** What the rows of sheets, and formulas, make of the entries of a graphic. */
import { evaluate, formulaOf } from '../formula/evaluate';
import { FormulaError } from '../formula/parse';
import { type World } from '../formula/world';
import { createEntry } from '../graphics/create';
import { type Entry, type EntryValue, type Field, type Graphic, MOST_ENTRIES, type SheetLink, type Value } from '../graphics/document';
import { hashOf } from '../graphics/hash';
import { valueOf, wordsOf } from '../graphics/values';
import { type Around } from './around';
import { type Sheet, type SheetImage } from './document';
import { type SheetFault, valueOfCell } from './match';
import { cellsOf } from './row';
import { columnAt, rowKeys, rowsOfSheet } from './rows';

/** What a field is given: a value, null for its default, undefined where it stays as it is. */
type Given = ReadonlyMap<string, Value | null>;

/** The name of a file without its folders and, where it has one, its ending. */
const bareName = (name: string): string => {
  const file = name.trim().toLowerCase().split(/[/\\]/u).at(-1) ?? '';
  return file.replace(/\.[a-z0-9]{2,5}$/u, '');
};

const imageIndexes = new WeakMap<readonly SheetImage[], ReadonlyMap<string, string>>();

/** The image that a cell names: an address as it stands, a file with or without its folders and ending. */
export function imageOf(images: readonly SheetImage[], cell: string): string | undefined {
  let index = imageIndexes.get(images);
  if (!index) {
    index = new Map(images.flatMap(({ name, assetId }) => [[bareName(name), assetId] as const, [name, assetId] as const]));
    if (Object.isFrozen(images)) imageIndexes.set(images, index);
  }
  return index.get(cell.trim()) ?? (/^https?:/u.test(cell.trim()) ? undefined : index.get(bareName(cell)));
}

interface Meeting {
  field: Field;
  column: string;
  at: number;
}

/** Where the columns of a sheet meet fields; columns that are gone, and fields with formulas, meet none. */
const meetingsOf = (fields: readonly Field[], link: SheetLink, sheet: Sheet): Meeting[] =>
  link.columns.flatMap(({ fieldId, column }) => {
    const field = fields.find((f) => f.id === fieldId);
    const at = columnAt(sheet.columns, column);
    return field && field.formula === null && at >= 0 ? [{ field, column, at }] : [];
  });

/** What one row gives, and its cells that cannot be taken. An empty cell is the field’s default; a faulty one leaves what there was. */
function givenBy(
  meetings: readonly Meeting[],
  images: readonly SheetImage[],
  cells: readonly string[],
): { given: Given; faults: Omit<SheetFault, 'row'>[] } {
  const given = new Map<string, Value | null>();
  const faults: Omit<SheetFault, 'row'>[] = [];
  for (const { field, column, at } of meetings) {
    const cell = cells[at] ?? '';
    const { kind } = field.default;
    if (cell.trim() === '' && kind !== 'flag') {
      given.set(field.id, kind === 'text' ? { kind, text: '' } : null);
      continue;
    }
    const assetId = kind === 'image' ? imageOf(images, cell) : undefined;
    const value: Value | string =
      kind !== 'image'
        ? valueOfCell(field, cell)
        : assetId === undefined
          ? `no image “${cell.slice(0, 60)}” has been brought in for this sheet`
          : { kind: 'image', assetId };
    if (typeof value === 'string') faults.push({ column, why: value });
    else given.set(field.id, value);
  }
  return { given, faults };
}

const same = (a: Value, b: Value): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/** Values with what is given in their places; the same list where nothing differs. */
function withGiven(values: EntryValue[], given: Given): EntryValue[] {
  if (given.size === 0) return values;
  const left = new Map(given);
  let changed = false;
  const next = values.flatMap((v): EntryValue[] => {
    const value = left.get(v.fieldId);
    if (value === undefined) return [v];
    left.delete(v.fieldId);
    if (value !== null && same(v.value, value)) return [v];
    changed = true;
    return value === null ? [] : [{ fieldId: v.fieldId, value }];
  });
  for (const [fieldId, value] of left) if (value !== null) next.push({ fieldId, value });
  return changed || next.length !== values.length ? next : values;
}

/** What a formula comes to for an entry, as a value of its field; a string says why it comes to none, `at` where in the formula. */
export function formulaValue(field: Field, world: World): Value | { why: string; at: number } {
  const formula = formulaOf(field.formula ?? '');
  if (formula instanceof FormulaError) return { why: formula.message, at: formula.at };
  try {
    const value = valueOfCell(field, evaluate(formula, world));
    return typeof value === 'string' ? { why: value, at: 0 } : value;
  } catch (error) {
    if (error instanceof FormulaError) return { why: error.message, at: error.at };
    throw error;
  }
}

/** What the formula of a field sees: of other formulas just those before it, so that none goes round. */
export function worldOf(
  { fields }: Pick<Graphic, 'fields'>,
  own: Field,
  values: readonly EntryValue[],
  sheet: Sheet | null,
  row: number,
  around: Around,
): World {
  return {
    field: (name) => {
      const at = fields.findIndex((f) => f.id === own.id);
      const field = fields.find((f, i) => f.name.toLowerCase() === name.trim().toLowerCase() && (f.formula === null || i < at));
      return field && wordsOf(valueOf(field, values));
    },
    own: sheet && rowsOfSheet(sheet),
    row,
    sheet: (name) => {
      const found = around.sheets.find((s) => s.name.toLowerCase() === name.trim().toLowerCase());
      return found ? rowsOfSheet(found) : null;
    },
    clock: around.clock,
    seat: around.seat,
  };
}

/** Values with those of formulas worked out; one that comes to nothing leaves what there was. */
function withFormulas(graphic: Graphic, values: EntryValue[], sheet: Sheet | null, row: number, around: Around): EntryValue[] {
  let now = values;
  for (const field of graphic.fields) {
    if (field.formula === null) continue;
    const value = formulaValue(field, worldOf(graphic, field, now, sheet, row, around));
    if ('kind' in value) now = withGiven(now, new Map([[field.id, value]]));
  }
  return now;
}

/** Identity of the entry of a row: the same whenever the row is there. */
export const rowEntryId = (graphicId: string, key: string): string => `row-${hashOf(`${graphicId}\n${key}`)}`;

/** What is given by each line, for the same fields, columns and images: rows that have not changed are not read again. */
const givens = new WeakMap<
  Graphic['fields'],
  { link: SheetLink; columns: readonly string[]; images: readonly SheetImage[]; lines: Map<string, Given> }
>();

function givenReader(graphic: Graphic, link: SheetLink, sheet: Sheet): (row: number) => Given {
  const { fields } = graphic;
  const { columns, images, rows } = sheet;
  let known = givens.get(fields);
  if (known?.link !== link || known.columns !== columns || known.images !== images) {
    known = { link, columns, images, lines: new Map() };
    if (Object.isFrozen(fields)) givens.set(fields, known);
  }
  const { lines } = known;
  if (lines.size > 2 * MOST_ENTRIES) lines.clear();
  const meetings = meetingsOf(fields, link, sheet);
  return (row) => {
    const line = rows[row] ?? '';
    let given = lines.get(line);
    if (!given) {
      ({ given } = givenBy(meetings, images, cellsOf(line)));
      lines.set(line, given);
    }
    return given;
  };
}

/** A new entry of a row, still empty. */
export const rowEntry = (graphic: Graphic, key: string, number: number | null): Entry => ({
  ...createEntry(rowEntryId(graphic.id, key), number),
  rowKey: key,
});

/**
 * The entries of a graphic as its sheet and its formulas have them: new rows at the end where every row has an entry, values brought up to
 * date, and, of entries whose row is gone, just those that `used` says are needed. The same list where nothing differs.
 */
export function entriesFor(graphic: Graphic, sheet: Sheet | null, around: Around, used: () => ReadonlySet<string>): readonly Entry[] {
  const link = sheet ? graphic.sheet : null;
  const keys = sheet && link ? rowKeys(sheet) : null;
  const read = sheet && link ? givenReader(graphic, link, sheet) : null;
  const formulas = graphic.fields.some((f) => f.formula !== null);
  let entries: readonly Entry[] = graphic.entries;
  if (keys && link?.all) {
    const gone = entries.filter((e) => e.rowKey !== null && !keys.places.has(e.rowKey));
    // A sheet without any rows is one that is not there yet.
    if (gone.length > 0 && keys.keys.length > 0) entries = entries.filter((e) => !gone.includes(e) || used().has(e.id));
    const known = new Set(entries.flatMap((e) => e.rowKey ?? []));
    let number = entries.reduce((most, e) => Math.max(most, e.number ?? 0), 0);
    const fresh = keys.keys
      .filter((k) => !known.has(k))
      .slice(0, Math.max(0, MOST_ENTRIES - entries.length))
      .map((k) => {
        number += 1;
        return rowEntry(graphic, k, number <= 9999 ? number : null);
      });
    if (fresh.length > 0) entries = [...entries, ...fresh];
  }
  let changed = entries !== graphic.entries;
  const next = entries.map((entry) => {
    const row = keys && entry.rowKey !== null ? (keys.places.get(entry.rowKey) ?? -1) : -1;
    let values = read && row >= 0 ? withGiven(entry.values, read(row)) : entry.values;
    if (formulas) values = withFormulas(graphic, values, sheet, row, around);
    if (values === entry.values) return entry;
    changed = true;
    return { ...entry, values };
  });
  return changed ? next : graphic.entries;
}

/** Every cell of a sheet that cannot be taken into a graphic, rows from 1; at most `most`. */
export function sheetFaults(fields: readonly Field[], link: SheetLink, sheet: Sheet, most = 200): SheetFault[] {
  const meetings = meetingsOf(fields, link, sheet);
  const faults: SheetFault[] = rowKeys(sheet).doubles.map(({ row, key }) => ({
    row: row + 1,
    column: sheet.key ?? '',
    why: `“${key}” stands there twice: rows are told apart by their order then`,
  }));
  for (let row = 0; row < sheet.rows.length && faults.length < most; row += 1)
    faults.push(...givenBy(meetings, sheet.images, cellsOf(sheet.rows[row] ?? '')).faults.map((f) => ({ row: row + 1, ...f })));
  return faults.slice(0, most);
}

/** Fields of an entry that are not filled in by hand: with why. */
export function filledElsewhere(graphic: Graphic, entry: Entry, field: Field): 'formula' | 'sheet' | null {
  if (field.formula !== null) return 'formula';
  return entry.rowKey !== null && graphic.sheet?.columns.some((c) => c.fieldId === field.id) ? 'sheet' : null;
}
