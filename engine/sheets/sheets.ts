/** Sheets for the page: read by a worker, which is stopped when a file holds it up. */
import { AssetError } from '../storage/assets';
import { type SheetAnswer, type SheetAsked, type SheetRows } from './messages';

/** A file that takes longer is given up, milliseconds. */
const PATIENCE_MS = 30_000;

interface Waiting {
  done: (rows: SheetRows) => void;
  failed: (error: Error) => void;
}

let worker: Worker | null = null;
let next = 0;
const waiting = new Map<number, Waiting>();

function stop(why: string): void {
  worker?.terminate();
  worker = null;
  for (const { failed } of waiting.values()) failed(new AssetError(why));
  waiting.clear();
}

function started(): Worker {
  if (worker) return worker;
  worker = new Worker(new URL('./sheet.worker.ts', import.meta.url), { type: 'module' });
  worker.onmessage = ({ data }: MessageEvent<SheetAnswer>) => {
    const found = waiting.get(data.id);
    waiting.delete(data.id);
    if (data.rows) found?.done(data.rows);
    else found?.failed(new AssetError(data.message));
  };
  worker.onerror = () => stop('The sheet was more than could be read. Nothing was changed.');
  return worker;
}

/** The rows of a sheet: CSV, TSV, JSON or XLSX, by what stands in it. @throws AssetError with place, cause and remedy. */
export function readSheet(file: Blob, name: string): Promise<SheetRows> {
  return new Promise<SheetRows>((done, failed) => {
    next += 1;
    const id = next;
    waiting.set(id, { done, failed });
    started().postMessage({ id, file, name } satisfies SheetAsked);
    setTimeout(
      () => waiting.has(id) && stop(`${name} took longer than ${PATIENCE_MS / 1000} s to read, and was given up. Nothing was changed.`),
      PATIENCE_MS,
    );
  });
}
