/** Finds openings and areas of pictures off the page's thread. */
import { findWindows, type FoundWindow } from '#core/layout/find-windows';
import { findAreas } from '#core/screens/find-areas';
import { causeOf } from '#core/schema/cause';
import { type Rect } from '#core/show/geometry';
import { checkPictureSize } from '../media/picture-size';
import { workerScope } from '../worker-scope';

export interface ShapesQuestion {
  find: 'windows' | 'areas';
  file: Blob;
}

interface Sized {
  width: number;
  height: number;
  /** Milliseconds to the rectangles: of openings from the decoded picture, of areas from its pixels. */
  findMs: number;
}

export type WindowsAnswer = (Sized & { windows: FoundWindow[] }) | { failed: string };
export type AreasAnswer = (Sized & { areas: Rect[] }) | { failed: string };

async function answer({ find, file }: ShapesQuestion): Promise<WindowsAnswer | AreasAnswer> {
  if (file.type !== 'image/svg+xml') await checkPictureSize(file);
  const image = await createImageBitmap(file);
  const { width, height } = image;
  const started = performance.now();
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('This browser gives no 2D canvas in a worker.');
  context.drawImage(image, 0, 0);
  image.close();
  const { data } = context.getImageData(0, 0, width, height);
  if (find === 'windows')
    return { windows: findWindows(data, width, height, { step: 4 }), width, height, findMs: performance.now() - started };
  const read = performance.now();
  return { areas: findAreas(data, width, height), width, height, findMs: performance.now() - read };
}

workerScope.onmessage = ({ data }: MessageEvent<ShapesQuestion>) => {
  answer(data).then(
    (found) => workerScope.postMessage(found),
    (error: unknown) => workerScope.postMessage({ failed: causeOf(error) } satisfies WindowsAnswer),
  );
};
