/** The rows of a stored sheet: their cells, what tells them apart, and which have the words of a search. */
import { type Rows } from '../formula/world';
import { type Sheet } from './document';
import { cellOf } from './row';

/** Place of a column by its name, without regard to capitals; −1 where there is none. */
export const columnAt = (columns: readonly string[], name: string): number => {
  const exact = columns.indexOf(name);
  return exact >= 0 ? exact : columns.findIndex((c) => c.toLowerCase() === name.trim().toLowerCase());
};

const forFormulas = new WeakMap<readonly string[], { columns: readonly string[]; rows: Rows }>();

/** The rows of a sheet as formulas see them. */
export function rowsOfSheet({ columns, rows }: Pick<Sheet, 'columns' | 'rows'>): Rows {
  const known = forFormulas.get(rows);
  if (known?.columns === columns) return known.rows;
  const places = new Map<string, number>();
  const made: Rows = {
    count: rows.length,
    columnAt: (name) => {
      const at = places.get(name) ?? columnAt(columns, name);
      places.set(name, at);
      return at;
    },
    cell: (row, column) => cellOf(rows[row] ?? '', column),
  };
  if (Object.isFrozen(rows)) forFormulas.set(rows, { columns, rows: made });
  return made;
}

interface Keys {
  key: string | null;
  columns: readonly string[];
  keys: readonly string[];
  doubles: readonly { row: number; key: string }[];
  places: ReadonlyMap<string, number>;
}
const keysOf = new WeakMap<readonly string[], Keys>();

/** The rows that keys were last found for, by their columns, which stay the same object while rows come and go. */
const latest = new WeakMap<readonly string[], { rows: readonly string[]; keys: Keys }>();

/** True when rows that have changed say the same in the key column as before: their keys are known then. */
const sameKeys = (before: readonly string[], rows: readonly string[], at: number): boolean =>
  before.length === rows.length &&
  rows.every((line, i) => line === before[i] || at < 0 || cellOf(line, at).trim() === cellOf(before[i] ?? '', at).trim());

/** Characters of a key. */
const LONGEST_KEY = 150;

/**
 * What tells each row from the others: the words of the key column, or its number. Where words stand twice, the second time has its count
 * behind it, and is named in `doubles`. Rows from 0.
 */
export function rowKeys({ rows, columns, key }: Pick<Sheet, 'rows' | 'columns' | 'key'>): Pick<Keys, 'keys' | 'doubles' | 'places'> {
  const known = keysOf.get(rows);
  if (known?.key === key && known.columns === columns) return known;
  const at = key === null ? -1 : columnAt(columns, key);
  const before = latest.get(columns);
  if (before?.keys.key === key && sameKeys(before.rows, rows, at)) {
    if (Object.isFrozen(rows)) {
      keysOf.set(rows, before.keys);
      latest.set(columns, { rows, keys: before.keys });
    }
    return before.keys;
  }
  const used = new Map<string, number>();
  const doubles: { row: number; key: string }[] = [];
  const keys = rows.map((line, row) => {
    const words = at < 0 ? '' : cellOf(line, at).trim().slice(0, LONGEST_KEY);
    const wanted = words || `row ${row + 1}`;
    const times = (used.get(wanted) ?? 0) + 1;
    used.set(wanted, times);
    if (times > 1 && words !== '') doubles.push({ row, key: wanted });
    return times === 1 ? wanted : `${wanted} (${times})`;
  });
  const made = { key, columns, keys, doubles, places: new Map(keys.map((k, i) => [k, i])) };
  if (Object.isFrozen(rows)) {
    keysOf.set(rows, made);
    latest.set(columns, { rows, keys: made });
  }
  return made;
}

const folded = new WeakMap<readonly string[], readonly string[]>();

/** Numbers of the rows, from 0, that have all words of a search in them; null for all of them. Capitals do not matter. */
export function foundRows(rows: readonly string[], search: string): readonly number[] | null {
  const words = search.toLocaleLowerCase().split(/\s+/u).filter(Boolean);
  if (words.length === 0) return null;
  let lines = folded.get(rows);
  if (!lines) {
    lines = rows.map((line) => line.toLocaleLowerCase());
    folded.set(rows, lines);
  }
  const found: number[] = [];
  lines.forEach((line, i) => words.every((w) => line.includes(w)) && found.push(i));
  return found;
}
