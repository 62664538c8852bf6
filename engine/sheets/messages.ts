/** What is asked of the sheet worker, and what it answers. */

/** A sheet as shows keep it: names of columns, and rows as lines (core/sheets/row.ts). */
export interface SheetRows {
  columns: string[];
  rows: string[];
}

export interface SheetAsked {
  id: number;
  file: Blob;
  name: string;
}

export type SheetAnswer = { id: number; rows: SheetRows; message: '' } | { id: number; rows: null; message: string };
