/** Asks a thread of its own what a foreign file holds, and ends it when it takes too long. */
import { MediaTrouble } from './media-trouble';
import { type FromProbe, type MediaFacts, type ToProbe } from './probe.worker';

/** Longest that a file may take to say what it holds, milliseconds. */
const MEDIA_MS = 20_000;
const STILL_MS = 15_000;

function ask(message: ToProbe, limitMs: number): Promise<FromProbe> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL('./probe.worker.ts', import.meta.url), { type: 'module' });
    const end = (finish: () => void) => {
      clearTimeout(timer);
      worker.terminate();
      finish();
    };
    const timer = setTimeout(() => end(() => reject(new MediaTrouble(`it could not be read in ${limitMs / 1000} s: it is damaged, or this machine is too busy`))), limitMs);
    worker.onmessage = ({ data }: MessageEvent<FromProbe>) => end(() => (data.type === 'trouble' ? reject(new MediaTrouble(data.why)) : resolve(data)));
    worker.onerror = () => end(() => reject(new MediaTrouble('it is damaged: reading it failed')));
    worker.postMessage(message);
  });
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
