/** Openings of frame artwork, and areas of a picture made for a venue, found in a worker. */
import { askWorker } from '../ask-worker';
import { openAsset } from '../storage/assets';
import { type AreasAnswer, type ShapesQuestion, type WindowsAnswer } from './find-shapes.worker';

/** Longest that a picture may take, milliseconds; the worker is ended then. */
const LIMIT_MS = 20_000;

type Found<A> = Exclude<A, { failed: string }>;
export type FoundWindows = Found<WindowsAnswer>;
export type FoundAreas = Found<AreasAnswer>;

async function ask<A extends object>(question: ShapesQuestion, what: string): Promise<Found<A>> {
  const worker = new Worker(new URL('./find-shapes.worker.ts', import.meta.url), { type: 'module' });
  const answer = await askWorker<A | { failed: string }>(worker, question, {
    limitMs: LIMIT_MS,
    late: () => new Error(`no ${what} were found in ${LIMIT_MS / 1000} s`),
    failed: (message) => new Error(message),
  });
  if ('failed' in answer) throw new Error(String(answer.failed));
  return answer as Found<A>;
}

/** The openings of a picture file, in its own pixels. @throws Error when it cannot be decoded. */
export const findWindowsIn = (file: Blob): Promise<FoundWindows> => ask<WindowsAnswer>({ find: 'windows', file }, 'openings');

/** The areas of a picture file, in its own pixels. @throws Error when it cannot be decoded. */
export const findAreasIn = (file: Blob): Promise<FoundAreas> => ask<AreasAnswer>({ find: 'areas', file }, 'areas');

/** The openings of a still that the show holds. @throws Error when its file is missing or cannot be decoded. */
export const findWindowsInAsset = async (assetId: string): Promise<FoundWindows> => findWindowsIn(await openAsset(assetId));

/** The areas of a still that the show holds. @throws Error when its file is missing or cannot be decoded. */
export const findAreasInAsset = async (assetId: string): Promise<FoundAreas> => findAreasIn(await openAsset(assetId));
