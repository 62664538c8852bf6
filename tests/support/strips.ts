/** Reads the burned-in time of the simulated cameras off real pixels in the page. */
import { type Page } from 'puppeteer-core';
import { readStrip, STRIP } from '#standins/pictures/frame-strip';

export type Burned = { camera: string; frame: number } | null;

/** Places that are looked at, on a stage of 640×360. */
const PLACES = Array.from({ length: 28 }, (_, i) => ({ x: STRIP.x + (i + 0.5) * STRIP.cell, y: STRIP.y + STRIP.height / 2 }));

const burned = (levels: number[] | null): Burned =>
  levels ? readStrip((x) => levels[Math.round((x - STRIP.x) / STRIP.cell - 0.5)] ?? 120) : null;

/** What a deck's monitor shows in the room Replay. */
export async function deckShows(page: Page, deck: 1 | 2): Promise<Burned> {
  const levels = await page.evaluate(
    (label, places) => {
      const canvas = document.querySelector<HTMLCanvasElement>(`canvas[aria-label="${label}"]`);
      if (!canvas) return null;
      const copy = new OffscreenCanvas(640, 360);
      const context = copy.getContext('2d', { willReadFrequently: true });
      context?.drawImage(canvas, 0, 0, 640, 360);
      return places.map(({ x, y }) => {
        const [r = 0, g = 0, b = 0] = context?.getImageData(Math.round(x), Math.round(y), 1, 1).data ?? [];
        return 0.2126 * r + 0.7152 * g + 0.0722 * b;
      });
    },
    `Picture of deck ${deck}`,
    PLACES,
  );
  return burned(levels);
}

/** The burned-in times of the programme as it leaves the mixer, for some milliseconds. */
export async function programmeShows(page: Page, ms: number): Promise<{ stamp: number; burned: Burned }[]> {
  const frames = await page.evaluate(
    (places, length) =>
      new Promise<{ stamp: number; levels: number[] }[]>((resolve) => {
        const found: { stamp: number; levels: number[] }[] = [];
        const canvas = new OffscreenCanvas(640, 360);
        const context = canvas.getContext('2d', { willReadFrequently: true });
        const end = window.bivocaHost?.outputFrames((frame) => {
          context?.drawImage(frame, 0, 0, 640, 360);
          const stamp = frame.timestamp;
          frame.close();
          const { data } = context?.getImageData(0, 0, 640, 60) ?? { data: new Uint8ClampedArray() };
          found.push({
            stamp,
            levels: places.map(({ x, y }) => {
              const at = (Math.round(y) * 640 + Math.round(x)) * 4;
              return 0.2126 * (data[at] ?? 0) + 0.7152 * (data[at + 1] ?? 0) + 0.0722 * (data[at + 2] ?? 0);
            }),
          });
        });
        setTimeout(() => {
          end?.();
          resolve(found);
        }, length);
      }),
    PLACES,
    ms,
  );
  return frames.map(({ stamp, levels }) => ({ stamp, burned: burned(levels) }));
}
