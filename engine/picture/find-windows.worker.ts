/** Finds the openings of frame artwork off the page's thread. */
import { findWindows, type FoundWindow } from '#core/layout/find-windows';
import { causeOf } from '#core/schema/cause';
import { checkPictureSize } from '../media/picture-size';
import { workerScope } from '../worker-scope';

export type WindowsAnswer =
  | {
      windows: FoundWindow[];
      width: number;
      height: number;
      /** Milliseconds from the decoded picture to the rectangles. */
      findMs: number;
    }
  | { failed: string };

async function find(file: Blob): Promise<WindowsAnswer> {
  if (file.type !== 'image/svg+xml') await checkPictureSize(file);
  const image = await createImageBitmap(file);
  const { width, height } = image;
  const started = performance.now();
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('This browser gives no 2D canvas in a worker.');
  context.drawImage(image, 0, 0);
  image.close();
  const { data } = context.getImageData(0, 0, width, height);
  const windows = findWindows(data, width, height, { step: 4 });
  return { windows, width, height, findMs: performance.now() - started };
}

workerScope.onmessage = ({ data }: MessageEvent<Blob>) => {
  find(data).then(
    (answer) => workerScope.postMessage(answer),
    (error: unknown) => workerScope.postMessage({ failed: causeOf(error) } satisfies WindowsAnswer),
  );
};
