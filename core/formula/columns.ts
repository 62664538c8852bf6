/** What formulas ask of whole columns: numbers, order, and where a value stands; worked out once for the same rows. */
import { numberOfWords } from '../sheets/numbers';
import { type Rows } from './world';

interface Column {
  numbers: readonly (number | null)[];
  /** Numbers there are, the smallest first. */
  sorted: readonly number[];
  sum: number;
  /** First row of each value, without capitals. */
  places: ReadonlyMap<string, number>;
}

const known = new WeakMap<Rows, Map<number, Column>>();

/** How words are compared: without capitals and outer spaces. */
export const folded = (words: string): string => words.trim().toLocaleLowerCase();

/** A column of rows; `at` from 0. */
export function columnOf(rows: Rows, at: number): Column {
  const columns = known.get(rows) ?? new Map<number, Column>();
  known.set(rows, columns);
  let column = columns.get(at);
  if (!column) {
    const cells = Array.from({ length: rows.count }, (_, i) => rows.cell(i, at));
    const numbers = cells.map((c) => (c.trim() === '' ? null : numberOfWords(c)));
    const sorted = numbers.filter((n) => n !== null).sort((a, b) => a - b);
    const places = new Map<string, number>();
    cells.forEach((c, i) => places.has(folded(c)) || places.set(folded(c), i));
    columns.set(at, (column = { numbers, sorted, sum: sorted.reduce((sum, n) => sum + n, 0), places }));
  }
  return column;
}

/** How many of the numbers, the smallest first, are below `n`. */
export function below(sorted: readonly number[], n: number): number {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((sorted[middle] as number) < n) low = middle + 1;
    else high = middle;
  }
  return low;
}
