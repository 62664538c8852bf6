/** The sheet worker: reads files of any size that is let in, without holding the page up. */
import { causeOf } from '#core/schema/cause';
import { lineOf } from '#core/sheets/row';
import { MOST_SHEET_BYTES, readText, SheetError, type Table } from '#core/sheets/table';
import { workerScope } from '../worker-scope';
import { type SheetAnswer, type SheetAsked } from './messages';
import { readXlsx } from './xlsx';

async function read(file: Blob): Promise<Table> {
  if (file.size > MOST_SHEET_BYTES) throw new SheetError(`It has ${Math.round(file.size / 1e6)} MB, more than ${MOST_SHEET_BYTES / 1e6}.`);
  if (file.size === 0) throw new SheetError('It is empty.');
  const head = new Uint8Array(await file.slice(0, 2).arrayBuffer());
  if (head[0] === 0x50 && head[1] === 0x4b) return readXlsx(file);
  return readText(new Uint8Array(await file.arrayBuffer()));
}

workerScope.onmessage = ({ data: { id, file, name } }: MessageEvent<SheetAsked>) => {
  const say = (answer: SheetAnswer) => workerScope.postMessage(answer);
  read(file).then(
    ({ columns, rows }) => say({ id, rows: { columns, rows: rows.map(lineOf) }, message: '' }),
    (error: unknown) => say({ id, rows: null, message: `${name} cannot be read. ${causeOf(error)}` }),
  );
};
