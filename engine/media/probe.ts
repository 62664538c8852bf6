/** Asks a thread of its own what a foreign file holds, and ends it when it takes too long. */
import { askWorker } from '../ask-worker';
import { MediaTrouble } from './media-trouble';
import { type FromProbe, type MediaFacts, type ToProbe } from './probe.worker';

/** Longest that a file may take to say what it holds, milliseconds. */
const MEDIA_MS = 20_000;
const STILL_MS = 15_000;

async function ask(message: ToProbe, limitMs: number): Promise<FromProbe> {
  const worker = new Worker(new URL('./probe.worker.ts', import.meta.url), { type: 'module' });
  const answer = await askWorker<FromProbe>(worker, message, {
    limitMs,
    late: () => new MediaTrouble(`it could not be read in ${limitMs / 1000} s: it is damaged, or this machine is too busy`),
    failed: () => new MediaTrouble('it is damaged: reading it failed'),
  });
  if (answer.type === 'trouble') throw new MediaTrouble(answer.why);
  return answer;
}

/** What a media file holds. @throws MediaTrouble */
export async function probeMedia(file: Blob, limitMs = MEDIA_MS): Promise<MediaFacts> {
  const answer = await ask({ type: 'media', file }, limitMs);
  if (answer.type !== 'media') throw new MediaTrouble('it cannot be read');
  return answer.facts;
}

/** A PNG, JPEG or WebP picture, decoded; the image is the caller's. @throws MediaTrouble */
export async function decodePicture(file: Blob, limitMs = STILL_MS): Promise<{ image: ImageBitmap; hasAlpha: boolean }> {
  const answer = await ask({ type: 'still', file }, limitMs);
  if (answer.type !== 'still') throw new MediaTrouble('it cannot be read');
  return answer;
}
