/** What is asked of the sheet worker, and what it answers. */
import { type Table } from '#core/sheets/table';

export interface SheetAsked {
  id: number;
  file: Blob;
  name: string;
}

export type SheetAnswer = { id: number; table: Table; message: '' } | { id: number; table: null; message: string };
