/** What the programme shows, as it leaves the mixer. */
import { type Page } from 'puppeteer-core';
import { until } from './desk';
import { near } from './windows';

/** A pixel of the programme, at shares of its sides. */
export const programmeAt = (page: Page, x: number, y: number): Promise<number[]> =>
  page.evaluate(
    (px, py) =>
      new Promise<number[]>((resolve) => {
        const end = window.bivocaHost!.outputFrames((frame) => {
          end();
          const canvas = new OffscreenCanvas(frame.displayWidth, frame.displayHeight);
          const context = canvas.getContext('2d')!;
          context.drawImage(frame, 0, 0);
          frame.close();
          resolve([...context.getImageData(Math.floor(px * canvas.width), Math.floor(py * canvas.height), 1, 1).data].slice(0, 3));
        });
      }),
    x,
    y,
  );

/** Waits until the programme has a colour at a place, within `off` of each part. */
export const programmeShows = (page: Page, colour: readonly number[], what: string, x: number, y: number, off = 22): Promise<boolean> =>
  until(async () => near(await programmeAt(page, x, y), [...colour], off), what, 10_000);
