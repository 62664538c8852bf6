/** What a formula is given to work on: rows of words by column, and clocks. */

/** Rows of a sheet as formulas see them. The same object for the same rows: what is worked out over all of them is kept by it. */
export interface Rows {
  count: number;
  /** Place of a column, whatever its capitals; −1 where there is none. */
  columnAt: (name: string) => number;
  /** Words of a cell; rows from 0. Empty where there is none. */
  cell: (row: number, column: number) => string;
}

export interface World {
  /** Words of a field of the entry by its name, whatever its capitals; undefined where there is none. */
  field: (name: string) => string | undefined;
  /** Rows of the entry’s own sheet; null for an entry that is tied to none. */
  own: Rows | null;
  /** Which of them is the entry’s own, from 0; −1 for none. */
  row: number;
  /** Rows of a sheet by its name; null where there is none. */
  sheet: (name: string) => Rows | null;
  /** Whole seconds that a clock shows; undefined where there is none, null while it is not known. */
  clock: (name: string) => number | null | undefined;
  /** Who sits in a seat, with what is said of them; null while it is empty, undefined where there is none of this name. */
  seat: (name: string) => { name: string; title: string } | null | undefined;
}
