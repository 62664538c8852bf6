/** Openings of frame artwork, found in a worker. */
import { askWorker } from '../ask-worker';
import { openAsset } from '../storage/assets';
import { type WindowsAnswer } from './find-windows.worker';

/** Longest that a picture may take, milliseconds; the worker is ended then. */
const LIMIT_MS = 20_000;

export type FoundWindows = Exclude<WindowsAnswer, { failed: string }>;

/** The openings of a picture file, in its own pixels. @throws Error when it cannot be decoded. */
export async function findWindowsIn(file: Blob): Promise<FoundWindows> {
  const worker = new Worker(new URL('./find-windows.worker.ts', import.meta.url), { type: 'module' });
  const answer = await askWorker<WindowsAnswer>(worker, file, {
    limitMs: LIMIT_MS,
    late: () => new Error(`no openings were found in ${LIMIT_MS / 1000} s`),
    failed: (message) => new Error(message),
  });
  if ('failed' in answer) throw new Error(answer.failed);
  return answer;
}

/** The openings of a still that the show holds. @throws Error when its file is missing or cannot be decoded. */
export const findWindowsInAsset = async (assetId: string): Promise<FoundWindows> => findWindowsIn(await openAsset(assetId));
