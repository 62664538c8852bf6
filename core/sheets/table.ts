/** A table of words: what every kind of sheet is read into. Rows and columns are counted from 1 where people read of them. */
import Papa from 'papaparse';
import { decodeText } from './decode';

export const MOST_COLUMNS = 500;
export const MOST_ROWS = 100_000;
const MOST_CELL = 10_000;
/** Bytes of a sheet. */
export const MOST_SHEET_BYTES = 50e6;

export interface Table {
  /** Names, each once, none empty. */
  columns: string[];
  /** Cells of each row, as many as there are columns. Empty rows are left out. */
  rows: string[][];
  /** Number of each row, as spreadsheets count them: the names stand in row 1. */
  numbers: number[];
}

/** Why a sheet cannot be read; the message says place, cause and remedy. */
export class SheetError extends Error {}

/** What a cell of a data file is as words: dates by day and time, whole numbers without a fraction. */
export function cellText(value: unknown): string {
  if (value === null || value === undefined) return '';
  if (value instanceof Date)
    return Number.isNaN(value.getTime())
      ? ''
      : value
          .toISOString()
          .replace(/T00:00:00\.000Z$/, '')
          .replace('T', ' ')
          .replace(/\.000Z$/, '');
  if (typeof value === 'object') return JSON.stringify(value);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return String(value);
}

/** Names of columns that are each once: empty ones get their letter, a second one a number. */
function namesOf(head: readonly string[]): string[] {
  const taken = new Set<string>();
  return head.map((raw, i) => {
    const name = raw.trim().slice(0, 80) || `Column ${i + 1}`;
    let free = name;
    for (let n = 2; taken.has(free.toLowerCase()); n += 1) free = `${name} ${n}`;
    taken.add(free.toLowerCase());
    return free;
  });
}

/**
 * A table from rows of cells, the first with the names of the columns.
 * @throws SheetError when it is empty, or larger than can be held.
 */
export function tableOf(cells: readonly (readonly unknown[])[]): Table {
  const at = cells.findIndex((row) => row.some((c) => cellText(c).trim() !== ''));
  if (at === -1) throw new SheetError('It is empty: there is no row with names of columns.');
  const head = (cells[at] as readonly unknown[]).map(cellText);
  while (head.at(-1)?.trim() === '') head.pop();
  if (head.length > MOST_COLUMNS)
    throw new SheetError(`It has ${head.length} columns, and at most ${MOST_COLUMNS} can be read. Leave out those that are not shown.`);
  if (cells.length - at - 1 > MOST_ROWS)
    throw new SheetError(`It has ${cells.length - at - 1} rows, and at most ${MOST_ROWS} can be read.`);
  const table: Table = { columns: namesOf(head), rows: [], numbers: [] };
  cells.slice(at + 1).forEach((row, i) => {
    const words = table.columns.map((_, c) => cellText(row[c]).slice(0, MOST_CELL));
    if (words.every((w) => w.trim() === '')) return;
    table.rows.push(words);
    table.numbers.push(at + 2 + i);
  });
  return table;
}

const DELIMITERS = ['\t', ';', ',', '|'] as const;

/** What stands between cells: the sign that the first line with words has most of, outside of quotes. */
function delimiterOf(text: string): string {
  const counts = new Map<string, number>(DELIMITERS.map((d) => [d, 0]));
  let quoted = false;
  for (const sign of text.trimStart().slice(0, 20_000)) {
    if (sign === '"') quoted = !quoted;
    else if (!quoted && sign === '\n') break;
    else if (!quoted && counts.has(sign)) counts.set(sign, (counts.get(sign) ?? 0) + 1);
  }
  return DELIMITERS.reduce<string>((most, d) => ((counts.get(d) ?? 0) > (counts.get(most) ?? 0) ? d : most), ',');
}

/** A table from text with commas, semicolons, tabs or bars between its cells (RFC 4180). @throws SheetError. */
export function readDelimited(text: string): Table {
  const { data } = Papa.parse<string[]>(text, { delimiter: delimiterOf(text), skipEmptyLines: false });
  return tableOf(data);
}

/** A table from JSON: a list of objects (by name) or of lists (the first with names), or an object that holds one such list. @throws SheetError. */
export function readJson(text: string): Table {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    throw new SheetError(`It is no JSON: ${error instanceof Error ? error.message : 'damaged'}.`);
  }
  const list = Array.isArray(data) ? data : typeof data === 'object' && data !== null ? Object.values(data).find(Array.isArray) : undefined;
  if (!Array.isArray(list) || list.length === 0) throw new SheetError('It holds no list of rows.');
  if (list.length > MOST_ROWS) throw new SheetError(`It has ${list.length} rows, and at most ${MOST_ROWS} can be read.`);
  if (list.every(Array.isArray)) return tableOf(list as unknown[][]);
  const wrong = list.findIndex((row) => typeof row !== 'object' || row === null || Array.isArray(row));
  if (wrong !== -1) throw new SheetError(`Row ${wrong + 1} is no object: ${JSON.stringify(list[wrong])?.slice(0, 40) ?? 'nothing'}.`);
  const names = new Set<string>();
  for (const row of list as object[]) {
    for (const key of Object.keys(row)) names.add(key);
    if (names.size > MOST_COLUMNS) throw new SheetError(`It has more than ${MOST_COLUMNS} columns. Leave out those that are not shown.`);
  }
  const keys = [...names];
  return tableOf([keys, ...(list as Record<string, unknown>[]).map((row) => keys.map((k) => (Object.hasOwn(row, k) ? row[k] : '')))]);
}

/** A table from the bytes of a text file, by what stands in it. @throws SheetError. */
export function readText(bytes: Uint8Array): Table {
  const { text } = decodeText(bytes);
  const begin = text.trimStart();
  if (begin.startsWith('<')) throw new SheetError('It is a page (HTML) and no table. Save the table itself, as CSV, JSON or XLSX.');
  return begin.startsWith('[') || begin.startsWith('{') ? readJson(text) : readDelimited(text);
}
