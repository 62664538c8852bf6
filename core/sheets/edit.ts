/** Finding sheets, rows and columns for the commands that change them. */
import { isDraft, original } from 'immer';
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { MOST_SHEET_CHARACTERS, type Sheet, type SheetSource } from './document';
import { columnAt } from './rows';

/** @throws CommandError when the show has no such sheet. */
export function sheetOf({ show }: Pick<Desk, 'show'>, id: string, field = 'sheet'): Sheet {
  const found = show.sheets.find((s) => s.id === id);
  if (!found) throw new CommandError('unknown-sheet', `There is no sheet "${id}" in this show.`, field);
  return found;
}

const SOURCE_WORDS: Readonly<Record<SheetSource['kind'], string>> = {
  typed: 'here',
  file: 'a file',
  address: 'an address',
  comments: 'the comments of the audience',
  poll: 'a poll',
};

/** A sheet whose rows are kept here. @throws CommandError for one that comes from outside. */
export function typedSheetOf(desk: Pick<Desk, 'show'>, id: string): Sheet {
  const sheet = sheetOf(desk, id);
  if (sheet.source.kind !== 'typed')
    throw new CommandError(
      'not-typed',
      `${sheet.name} comes from ${SOURCE_WORDS[sheet.source.kind]}: change it there, or make it a sheet that is typed here.`,
      'sheet',
    );
  return sheet;
}

/** Place of a column. @throws CommandError when the sheet has none of this name. */
export function columnOfSheet({ name, columns }: Sheet, column: string, field = 'column'): number {
  const at = columnAt(columns, column);
  if (at < 0) throw new CommandError('unknown-column', `${name} has no column “${column.slice(0, 80)}”.`, field);
  return at;
}

/** Place of a row, from 0; `row` counts from 1. @throws CommandError when it is not there. */
export function rowOfSheet({ name, rows }: Sheet, row: number): number {
  if (row < 1 || row > rows.length) throw new CommandError('unknown-row', `${name} has ${rows.length} rows, and no row ${row}.`, 'row');
  return row - 1;
}

/** @throws CommandError when two columns have one name, or there is more than a sheet can hold. */
export function checkTable(columns: readonly string[], rows: readonly string[]): void {
  const names = new Set<string>();
  for (const column of columns) {
    const name = column.trim().toLowerCase();
    if (name === '') throw new CommandError('bad-argument', 'A column has no name.', 'columns');
    if (names.has(name)) throw new CommandError('bad-argument', `Two columns are called “${column}”.`, 'columns');
    names.add(name);
  }
  const characters = rows.reduce((sum, r) => sum + r.length, 0);
  if (characters > MOST_SHEET_CHARACTERS)
    throw new CommandError(
      'too-much',
      `A sheet holds ${MOST_SHEET_CHARACTERS / 1e6} million characters; these are ${Math.ceil(characters / 1e6)} million.`,
      'rows',
    );
}

/** Rows that may differ before the list of them is put in place as a whole. */
const FEW = 500;
/** Rows of a sheet that is put in place as a whole whatever differs: looking for what has changed in a draft takes longer. */
const MANY = 5000;

/** Rows of a draft made those that are wanted: only what differs is touched, so that undo and panels have little to do. */
export function putRows(sheet: Sheet, rows: readonly string[]): number {
  const before = sheet.rows;
  // A draft of tens of thousands is slow to read: what it began with is compared.
  const began = isDraft(sheet) ? (original(sheet) as Sheet).rows : before;
  const differing: number[] = [];
  for (let i = 0; i < rows.length; i += 1) if (began[i] !== rows[i]) differing.push(i);
  const changed = Math.max(differing.length, Math.abs(began.length - rows.length));
  if (changed === 0) return 0;
  if (differing.length > FEW || began.length === 0 || began.length > MANY) sheet.rows = [...rows];
  else {
    for (const i of differing) before[i] = rows[i] as string;
    if (began.length > rows.length) before.length = rows.length;
  }
  return changed;
}

/** Puts columns in place where they differ. */
export function putColumns(sheet: Sheet, columns: readonly string[]): void {
  if (columns.length !== sheet.columns.length || columns.some((c, i) => c !== sheet.columns[i])) sheet.columns = [...columns];
}
