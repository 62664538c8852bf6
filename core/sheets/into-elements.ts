/** What the rows of sheets make of tables and tickers. */
import { columnOf } from '../formula/columns';
import { type Content, MOST_TICKER_ITEMS, type TableContent, type TableRow } from '../graphics/element';
import { type Sheet } from './document';
import { cellOf } from './row';
import { columnAt, rowKeys, rowsOfSheet } from './rows';

const words = new Intl.Collator(undefined, { numeric: true, sensitivity: 'base' });

/** Compares two rows by a column: numbers where both are some; what is empty stands last, whichever way. */
function byColumn(sheet: Sheet, column: number, down: boolean): (a: number, b: number) => number {
  const { numbers } = columnOf(rowsOfSheet(sheet), column);
  const cell = (row: number) => cellOf(sheet.rows[row] ?? '', column).trim();
  return (a, b) => {
    const [x, y] = [numbers[a] ?? null, numbers[b] ?? null];
    const [p, q] = [cell(a), cell(b)];
    if (p === '' || q === '') return p === q ? 0 : p === '' ? 1 : -1;
    return (x !== null && y !== null ? x - y : words.compare(p, q)) * (down ? -1 : 1);
  };
}

/** The first `count` of rows from 0 to `of`, in an order; equal ones as they stand. Just those are kept sorted: there may be tens of thousands. */
function firstOf(count: number, of: number, compare: ((a: number, b: number) => number) | null): number[] {
  if (!compare) return Array.from({ length: Math.min(count, of) }, (_, i) => i);
  const best: number[] = [];
  for (let row = 0; row < of; row += 1) {
    const last = best.at(-1);
    if (best.length >= count && last !== undefined && compare(row, last) >= 0) continue;
    let at = best.length;
    while (at > 0 && compare(row, best[at - 1] as number) < 0) at -= 1;
    best.splice(at, 0, row);
    if (best.length > count) best.pop();
  }
  return best;
}

/** Characters of a cell that a table shows. */
const MOST_SHOWN = 1000;

/** The rows that a table shows of its sheet. The first cell of each is its place, where they are numbered: equal ones share it. */
export function tableRows(content: TableContent, sheet: Sheet): TableRow[] {
  const sort = content.sortBy === null ? -1 : columnAt(sheet.columns, content.sortBy);
  const compare = sort < 0 ? null : byColumn(sheet, sort, content.down);
  const { keys } = rowKeys(sheet);
  const columns = content.columns.map((c) => columnAt(sheet.columns, c.column));
  const rows = firstOf(content.count, sheet.rows.length, compare);
  let place = 0;
  return rows.map((row, i) => {
    const before = rows[i - 1];
    if (before === undefined || !compare || compare(before, row) !== 0) place = i + 1;
    const shown = columns.map((c) => (c < 0 ? '' : cellOf(sheet.rows[row] ?? '', c)).slice(0, MOST_SHOWN));
    return { key: (keys[row] ?? '').slice(0, 200), cells: content.numbered ? [String(place), ...shown] : shown };
  });
}

/** The items that a ticker takes from its sheet: cells of its column that are not empty. */
export function tickerItems(column: string, sheet: Sheet): string[] {
  const at = columnAt(sheet.columns, column);
  const items: string[] = [];
  for (let row = 0; at >= 0 && row < sheet.rows.length && items.length < MOST_TICKER_ITEMS; row += 1) {
    const words = cellOf(sheet.rows[row] ?? '', at)
      .replaceAll('\n', ' ')
      .trim();
    if (words !== '') items.push(words.slice(0, MOST_SHOWN));
  }
  return items;
}

/** Content of an element as its sheet has it; the same where nothing differs, or nothing comes from a sheet. */
export function contentFor(content: Content, find: (id: string) => Sheet | undefined): Content {
  if ((content.kind !== 'table' && content.kind !== 'ticker') || content.sheetId === null) return content;
  const sheet = find(content.sheetId);
  if (!sheet) return content;
  if (content.kind === 'ticker') {
    const items = tickerItems(content.column, sheet);
    return items.length === content.items.length && items.every((item, i) => item === content.items[i]) ? content : { ...content, items };
  }
  const rows = tableRows(content, sheet);
  return JSON.stringify(rows) === JSON.stringify(content.rows) ? content : { ...content, rows };
}
