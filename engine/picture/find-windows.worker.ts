/** Finds the openings of frame artwork off the page's thread. */
import { findWindows, type FoundWindow } from '#core/layout/find-windows';
import { workerScope } from '../worker-scope';

export type WindowsAnswer = { windows: FoundWindow[]; width: number; height: number } | { failed: string };

async function find(file: Blob): Promise<WindowsAnswer> {
  const image = await createImageBitmap(file);
  const { width, height } = image;
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('This browser gives no 2D canvas in a worker.');
  context.drawImage(image, 0, 0);
  image.close();
  const { data } = context.getImageData(0, 0, width, height);
  return { windows: findWindows(data, width, height, { step: 4 }), width, height };
}

workerScope.onmessage = ({ data }: MessageEvent<Blob>) => {
  find(data).then(
    (answer) => workerScope.postMessage(answer),
    (error: unknown) => workerScope.postMessage({ failed: error instanceof Error ? error.message : String(error) } satisfies WindowsAnswer),
  );
};
