/** Programme frames kept in the page, to be compared pixel by pixel. Places are those of 640 × 360. */
import { type Page } from 'puppeteer-core';

export interface Area {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Keeps the next programme frame in the page, as `window.kept[name]`. */
export const keepFrame = (page: Page, name: string): Promise<void> =>
  page.evaluate(
    (key) =>
      new Promise<void>((resolve) => {
        const stop = window.bivocaHost?.outputFrames((frame) => {
          const context = new OffscreenCanvas(640, 360).getContext('2d', { willReadFrequently: true });
          context?.drawImage(frame, 0, 0, 640, 360);
          frame.close();
          stop?.();
          const kept = ((window as unknown as { kept?: Record<string, Uint8ClampedArray> }).kept ??= {});
          kept[key] = context?.getImageData(0, 0, 640, 360).data ?? new Uint8ClampedArray();
          resolve();
        });
      }),
    name,
  );

/** Pixels that differ between two kept frames: inside and outside of a rectangle. */
export const differingPixels = (page: Page, a: string, b: string, rect: Area): Promise<{ inside: number; outside: number }> =>
  page.evaluate(
    (first, second, r) => {
      const kept = (window as unknown as { kept: Record<string, Uint8ClampedArray> }).kept;
      const [p, q] = [kept[first] as Uint8ClampedArray, kept[second] as Uint8ClampedArray];
      const count = { inside: 0, outside: 0 };
      for (let i = 0; i < p.length; i += 4) {
        if (p[i] === q[i] && p[i + 1] === q[i + 1] && p[i + 2] === q[i + 2]) continue;
        const [x, y] = [(i / 4) % 640, Math.floor(i / 4 / 640)];
        if (x >= r.x && x < r.x + r.width && y >= r.y && y < r.y + r.height) count.inside += 1;
        else count.outside += 1;
      }
      return count;
    },
    a,
    b,
    rect,
  );

/** Red, green and blue of the next programme frame at a place of 640 × 360. */
export async function pixelOf(page: Page, x: number, y: number): Promise<number[]> {
  await keepFrame(page, 'now');
  return page.evaluate(
    (at) => [...(window as unknown as { kept: Record<string, Uint8ClampedArray> }).kept.now!.slice(at, at + 3)],
    (y * 640 + x) * 4,
  );
}
