/** Openings of frame artwork, found in a worker. */
import { openAsset } from '../storage/assets';
import { type WindowsAnswer } from './find-windows.worker';

/** Longest that a picture may take, milliseconds; the worker is ended then. */
const LIMIT_MS = 20_000;

type Found = Exclude<WindowsAnswer, { failed: string }>;

/** The openings of a picture file, in its own pixels. @throws Error when it cannot be decoded. */
export function findWindowsIn(file: Blob): Promise<Found> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const worker = new Worker(new URL('./find-windows.worker.ts', import.meta.url), { type: 'module' });
  return new Promise<Found>((resolve, reject) => {
    timer = setTimeout(() => reject(new Error(`no openings were found in ${LIMIT_MS / 1000} s`)), LIMIT_MS);
    worker.onmessage = ({ data }: MessageEvent<WindowsAnswer>) => ('failed' in data ? reject(new Error(data.failed)) : resolve(data));
    worker.onerror = (event) => reject(new Error(event.message));
    worker.postMessage(file);
  }).finally(() => {
    clearTimeout(timer);
    worker.terminate();
  });
}

/** The openings of a still that the show holds. @throws Error when its file is missing or cannot be decoded. */
export const findWindowsInAsset = async (assetId: string): Promise<Found> => findWindowsIn(await openAsset(assetId));
