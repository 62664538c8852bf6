/** Commands for sheets: where their rows come from, and what stands in those that are typed. */
import { CommandError, defineCommand, NoArgs } from '../commands/command';
import { type Desk } from '../desk/air';
import { remove } from '../desk/remove';
import { ListOf, Ref, Text, TextList, Variant, Whole } from '../schema/fields';
import { createSheet } from './create';
import {
  MOST_IMAGES,
  MOST_LINE,
  MOST_SHEET_COLUMNS,
  MOST_SHEET_ROWS,
  MOST_SHEETS,
  SheetImage,
  type Sheet,
  type SheetSource,
  sheetSourceClass,
} from './document';
import { checkTable, columnOfSheet, putColumns, putRows, rowOfSheet, sheetOf, typedSheetOf } from './edit';
import { cellsOf, lineOf } from './row';

/** Latest moment that a clock on the wall can say here. */
const MOST_MILLIS = 8_640_000_000_000;

class SheetArg {
  @Ref('sheet', 'sheet') sheet!: string;
}
class AddArgs {
  @Text(80, 'name', { min: 1, optional: true }) name?: string;
  @Variant(sheetSourceClass, 'where its rows come from; without it they are typed', { optional: true }) source?: SheetSource;
}
class SetArgs extends SheetArg {
  @Text(80, 'name', { min: 1, optional: true }) name?: string;
  @Variant(sheetSourceClass, 'where its rows come from', { optional: true }) source?: SheetSource;
  @Text(80, 'column that tells rows apart; null for their order', { optional: true, nullable: true }) key?: string | null;
}
class TakeArgs extends SheetArg {
  @TextList(MOST_SHEET_COLUMNS, 80, 'names of the columns') columns!: string[];
  @TextList(MOST_SHEET_ROWS, MOST_LINE, 'rows, cells parted by tabs') rows!: string[];
  @Whole(0, MOST_MILLIS, 'when they were read, milliseconds since 1970', { optional: true }) at?: number;
}
class CellArgs extends SheetArg {
  @Whole(1, MOST_SHEET_ROWS, 'row, from 1') row!: number;
  @Text(80, 'column') column!: string;
  @Text(10_000, 'what stands there') text!: string;
}
class RowArgs extends SheetArg {
  @Whole(1, MOST_SHEET_ROWS, 'row, from 1') row!: number;
}
class AddRowArgs extends SheetArg {
  @Whole(1, MOST_SHEET_ROWS, 'row that it becomes, from 1; without it, the last', { optional: true }) row?: number;
  @TextList(MOST_SHEET_COLUMNS, 10_000, 'its cells', { optional: true }) cells?: string[];
}
class ColumnArgs extends SheetArg {
  @Text(80, 'column') column!: string;
}
class AddColumnArgs extends SheetArg {
  @Text(80, 'name', { min: 1, optional: true }) name?: string;
}
class RenameArgs extends ColumnArgs {
  @Text(80, 'new name', { min: 1 }) name!: string;
}
class ImagesArgs extends SheetArg {
  @ListOf(() => SheetImage, MOST_IMAGES, 'images by the names that cells call them') images!: SheetImage[];
}
class AllowArgs extends SheetArg {
  @Text(300, 'host that the address may send on to, or that is in this network', { min: 1 }) host!: string;
}

/** Rows put in place of those before, in a sheet that is there. */
function take(sheet: Sheet, { columns, rows, at }: TakeArgs): { changed: number } {
  checkTable(columns, rows);
  const before = sheet.columns;
  putColumns(sheet, columns);
  const changed = putRows(sheet, rows);
  if (at !== undefined && (changed > 0 || sheet.columns !== before || sheet.readAt === null)) sheet.readAt = at;
  return { changed };
}

/** Cells of a row of a draft, as many as there are columns. */
const rowCells = ({ columns, rows }: Sheet, row: number): string[] => {
  const cells = cellsOf(rows[row] ?? '');
  return columns.map((_, i) => cells[i] ?? '');
};

/** @throws CommandError when an address is none that could be asked. */
function checkSource(source: SheetSource | undefined): void {
  if (source?.kind !== 'address') return;
  let url: URL;
  try {
    url = new URL(source.address, 'http://here.invalid/');
  } catch {
    throw new CommandError('bad-argument', `“${source.address.slice(0, 80)}” is no address.`, 'source.address');
  }
  if (url.protocol !== 'http:' && url.protocol !== 'https:')
    throw new CommandError('bad-argument', 'An address begins with http://, https://, or / on this server.', 'source.address');
  if (url.username !== '' || url.password !== '')
    throw new CommandError(
      'bad-argument',
      'Names and passwords do not belong in an address: they would be saved with the show.',
      'source.address',
    );
}

function freeName(columns: readonly string[], wanted: string): string {
  let name = wanted;
  for (let n = 2; columns.some((c) => c.toLowerCase() === name.toLowerCase()); n += 1) name = `${wanted} ${n}`;
  return name;
}

/** Images by their names; those that were there get the new ones. */
function addImages(desk: Desk, { sheet: id, images }: ImagesArgs): void {
  const sheet = sheetOf(desk, id);
  const names = new Set(images.map((i) => i.name));
  const next = [...sheet.images.filter((i) => !names.has(i.name)), ...images];
  if (next.length > MOST_IMAGES) throw new CommandError('too-many', `A sheet holds at most ${MOST_IMAGES} images.`, 'images');
  sheet.images = next;
}

export const sheetCommands = [
  defineCommand({
    type: 'sheet.add',
    title: 'Add a sheet',
    about: 'Adds an empty sheet: rows are typed, come from a file, or from an address that is asked again and again. Returns its `id`.',
    args: AddArgs,
    run: ({ show }, { name, source }, { newId }) => {
      if (show.sheets.length >= MOST_SHEETS) throw new CommandError('too-many', `A show holds at most ${MOST_SHEETS} sheets.`);
      checkSource(source);
      const sheet = createSheet(newId(), name ?? `Sheet ${show.sheets.length + 1}`, source ?? { kind: 'typed' });
      if (sheet.source.kind === 'typed') sheet.columns = ['Name'];
      show.sheets.push(sheet);
      return { id: sheet.id };
    },
  }),
  defineCommand({
    type: 'sheet.set',
    title: 'Set up a sheet',
    about: 'Name, where its rows come from, and the column that tells them apart. Its rows stay until others come.',
    args: SetArgs,
    mergeKey: ({ sheet, ...change }) => `sheet:${sheet}:${Object.keys(change).join()}`,
    run: (desk, { sheet: id, ...change }) => {
      const sheet = sheetOf(desk, id);
      checkSource(change.source);
      if (change.key !== undefined && change.key !== null) columnOfSheet(sheet, change.key, 'key');
      Object.assign(sheet, change);
    },
  }),
  defineCommand({
    type: 'sheet.take',
    title: 'Put rows into a sheet',
    about: 'All rows of a sheet, in place of those before. Entries, tables and tickers that show them change; only what differs moves.',
    args: TakeArgs,
    run: (desk, args) => take(sheetOf(desk, args.sheet), args),
  }),
  defineCommand({
    type: 'sheet.refresh',
    title: 'Read a sheet again',
    about: 'Sent by the engine when a followed file or an address has other rows. It is no step of undo.',
    args: TakeArgs,
    fromEngine: true,
    outside: true,
    run: (desk, args) => {
      const sheet = sheetOf(desk, args.sheet);
      if (sheet.source.kind !== 'file' && sheet.source.kind !== 'address')
        throw new CommandError('not-typed', `${sheet.name} comes from elsewhere by now.`, 'sheet');
      return take(sheet, args);
    },
  }),
  defineCommand({
    type: 'sheet.setCell',
    title: 'Fill in a cell',
    about: 'A cell of a sheet that is typed here.',
    args: CellArgs,
    mergeKey: ({ sheet, row, column }) => `cell:${sheet}:${row}:${column}`,
    run: (desk, { sheet: id, row, column, text }) => {
      const sheet = typedSheetOf(desk, id);
      const [r, c] = [rowOfSheet(sheet, row), columnOfSheet(sheet, column)];
      const cells = rowCells(sheet, r);
      cells[c] = text;
      const line = lineOf(cells);
      if (line.length > MOST_LINE) throw new CommandError('too-much', `A row holds ${MOST_LINE} characters.`, 'text');
      sheet.rows[r] = line;
    },
  }),
  defineCommand({
    type: 'sheet.addRow',
    title: 'Add a row',
    about: 'To a sheet that is typed here, at its end or in a place.',
    args: AddRowArgs,
    run: (desk, { sheet: id, row, cells = [] }) => {
      const sheet = typedSheetOf(desk, id);
      if (sheet.rows.length >= MOST_SHEET_ROWS) throw new CommandError('too-many', `A sheet holds ${MOST_SHEET_ROWS} rows.`);
      const line = lineOf(sheet.columns.map((_, i) => cells[i] ?? ''));
      if (line.length > MOST_LINE) throw new CommandError('too-much', `A row holds ${MOST_LINE} characters.`, 'cells');
      const at = Math.min(row === undefined ? sheet.rows.length : row - 1, sheet.rows.length);
      sheet.rows.splice(at, 0, line);
      return { row: at + 1 };
    },
  }),
  defineCommand({
    type: 'sheet.removeRow',
    title: 'Remove a row',
    about: 'Out of a sheet that is typed here.',
    args: RowArgs,
    run: (desk, { sheet: id, row }) => {
      const sheet = typedSheetOf(desk, id);
      sheet.rows.splice(rowOfSheet(sheet, row), 1);
    },
  }),
  defineCommand({
    type: 'sheet.addColumn',
    title: 'Add a column',
    about: 'To a sheet that is typed here, at its right. Returns its `name`.',
    args: AddColumnArgs,
    run: (desk, { sheet: id, name }) => {
      const sheet = typedSheetOf(desk, id);
      if (sheet.columns.length >= MOST_SHEET_COLUMNS)
        throw new CommandError('too-many', `A sheet has at most ${MOST_SHEET_COLUMNS} columns.`);
      const free = freeName(sheet.columns, name?.trim() || `Column ${sheet.columns.length + 1}`);
      sheet.columns.push(free);
      return { name: free };
    },
  }),
  defineCommand({
    type: 'sheet.renameColumn',
    title: 'Rename a column',
    about: 'In a sheet that is typed here. Fields, tables and tickers that take it go on doing so; formulas name it as they are written.',
    args: RenameArgs,
    run: (desk, { sheet: id, column, name }) => {
      const sheet = typedSheetOf(desk, id);
      const at = columnOfSheet(sheet, column);
      const before = sheet.columns[at] as string;
      checkTable(
        sheet.columns.map((c, i) => (i === at ? name : c)),
        [],
      );
      sheet.columns[at] = name;
      if (sheet.key === before) sheet.key = name;
      for (const graphic of desk.show.graphics.list) {
        if (graphic.sheet?.sheetId === id) for (const c of graphic.sheet.columns) if (c.column === before) c.column = name;
        for (const { content } of graphic.elements) {
          if (content.kind === 'ticker' && content.sheetId === id && content.column === before) content.column = name;
          if (content.kind !== 'table' || content.sheetId !== id) continue;
          if (content.sortBy === before) content.sortBy = name;
          for (const c of content.columns) if (c.column === before) c.column = name;
        }
      }
    },
  }),
  defineCommand({
    type: 'sheet.removeColumn',
    title: 'Remove a column',
    about: 'Out of a sheet that is typed here, with its cells. What it filled in stays as it was.',
    args: ColumnArgs,
    run: (desk, { sheet: id, column }) => {
      const sheet = typedSheetOf(desk, id);
      const at = columnOfSheet(sheet, column);
      if (sheet.columns.length === 1) throw new CommandError('too-few', `${sheet.name} has just this column.`, 'column');
      const rows = sheet.rows.map((_, r) => lineOf(rowCells(sheet, r).filter((_c, i) => i !== at)));
      if (sheet.key === sheet.columns[at]) sheet.key = null;
      sheet.columns.splice(at, 1);
      sheet.rows = rows;
    },
  }),
  defineCommand({
    type: 'sheet.addImages',
    title: 'Give a sheet images',
    about:
      'Images that its cells name: by the name of the file, with or without folders and ending, or by an address. A name that was there gets the new one.',
    args: ImagesArgs,
    run: addImages,
  }),
  defineCommand({
    type: 'sheet.keepImages',
    title: 'Keep images of a sheet',
    about: 'Sent by the engine when images have come from addresses that cells name. It is no step of undo.',
    args: ImagesArgs,
    fromEngine: true,
    outside: true,
    run: addImages,
  }),
  defineCommand({
    type: 'sheet.allow',
    title: 'Allow a host to a sheet',
    about: 'Lets the address of a sheet, or images that it names, be in this network or be sent on to a host. The cause is shown before.',
    args: AllowArgs,
    run: (desk, { sheet: id, host }) => {
      const sheet = sheetOf(desk, id);
      if (sheet.source.kind !== 'address') throw new CommandError('bad-argument', `${sheet.name} comes from no address.`, 'sheet');
      if (!sheet.source.allowed.includes(host)) sheet.source.allowed = [...sheet.source.allowed, host].slice(-20);
    },
  }),
  defineCommand({
    type: 'sheet.remove',
    title: 'Remove a sheet',
    about: 'Entries, tables and tickers keep what they have of it.',
    args: SheetArg,
    run: (desk, { sheet: id }) => {
      sheetOf(desk, id);
      remove(desk, 'sheet', id);
    },
  }),
  defineCommand({
    type: 'formula.seconds',
    title: 'Work formulas out again',
    about: 'Sent by the engine when a clock that a formula reads shows another second.',
    args: NoArgs,
    fromEngine: true,
    outside: true,
    // What follows from sheets, fields and clocks is put in order after every act.
    run: () => undefined,
  }),
];
