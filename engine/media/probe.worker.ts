/** Finds out what a foreign media file or picture holds. In a thread of its own, so that it can be ended whatever the file does to it. */
import { workerScope } from '../worker-scope';
import { openMedia } from './media-file';
import { MediaTrouble, mediaTrouble } from './media-trouble';
import { checkPictureSize } from './picture-size';

export interface MediaFacts {
  /** Seconds. */
  duration: number;
  hasPictures: boolean;
  hasSound: boolean;
  hasAlpha: boolean;
}

export type ToProbe = { type: 'media'; file: Blob } | { type: 'still'; file: Blob };
export type FromProbe =
  { type: 'media'; facts: MediaFacts } | { type: 'still'; image: ImageBitmap; hasAlpha: boolean } | { type: 'trouble'; why: string };

/** Side of the small copy in which transparent parts are looked for. */
const ALPHA_SIDE = 256;

async function probeMedia(file: Blob): Promise<MediaFacts> {
  const input = openMedia(file);
  try {
    const video = await input.getPrimaryVideoTrack();
    const audio = await input.getPrimaryAudioTrack();
    const hasSound = audio !== null && (await audio.canDecode());
    if (!video && !hasSound)
      throw new MediaTrouble('it holds neither pictures nor sound that can be read. Add an MP4, WebM, MOV, WAV or MP3 file');
    if (video && !(await video.canDecode()))
      throw new MediaTrouble(`this browser cannot decode its pictures (${(await video.getCodec()) ?? 'unknown codec'})`);
    const duration = await input.computeDuration();
    if (!(duration > 0) || !Number.isFinite(duration))
      throw new MediaTrouble('it ends before its first picture: it was cut off, or is damaged');
    return { duration, hasPictures: video !== null, hasSound, hasAlpha: (await video?.canBeTransparent()) ?? false };
  } finally {
    input.dispose();
  }
}

/** True when a picture has parts that are not opaque. */
function isTransparent(image: ImageBitmap): boolean {
  const context = new OffscreenCanvas(ALPHA_SIDE, ALPHA_SIDE).getContext('2d', { willReadFrequently: true });
  if (!context) return true;
  context.drawImage(image, 0, 0, ALPHA_SIDE, ALPHA_SIDE);
  const { data } = context.getImageData(0, 0, ALPHA_SIDE, ALPHA_SIDE);
  for (let i = 3; i < data.length; i += 4) if ((data[i] as number) < 250) return true;
  return false;
}

async function probeStill(file: Blob): Promise<{ image: ImageBitmap; hasAlpha: boolean }> {
  await checkPictureSize(file);
  const image = await createImageBitmap(file);
  return { image, hasAlpha: isTransparent(image) };
}

const say = (message: FromProbe, transfer: Transferable[] = []) => workerScope.postMessage(message, transfer);

workerScope.onmessage = ({ data }: MessageEvent<ToProbe>) => {
  const work =
    data.type === 'media'
      ? probeMedia(data.file).then((facts) => say({ type: 'media', facts }))
      : probeStill(data.file).then(({ image, hasAlpha }) => say({ type: 'still', image, hasAlpha }, [image]));
  work.catch((error: unknown) =>
    say({
      type: 'trouble',
      why:
        data.type === 'still' && !(error instanceof MediaTrouble)
          ? 'it cannot be decoded: it is damaged, or not the picture its name says'
          : mediaTrouble(error),
    }),
  );
};
