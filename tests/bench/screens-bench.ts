/** Outputs in windows beside the demo: frames that the programme loses for them, and how alike in time they are. */
import { type Page } from 'puppeteer-core';
import { pick, send, until, wait } from '../support/desk';

export interface ScreensFigures {
  /** Frames mixed and dropped while so many windows show outputs of 640×360, by their number. */
  windows: { count: number; mixed: number; dropped: number }[];
}

const SECONDS = 30;

async function lost(page: Page): Promise<{ mixed: number; dropped: number }> {
  const now = () => pick(page, (s) => ({ mixed: s.mixer.frames, dropped: s.mixer.dropped }));
  const before = await now();
  await wait(SECONDS * 1000);
  const after = await now();
  return { mixed: after.mixed - before.mixed, dropped: after.dropped - before.dropped };
}

/** Two windows, then all three of the demo and a test picture that moves. */
export async function benchScreens(page: Page, url: string): Promise<ScreensFigures> {
  const showId = await pick(page, (s) => s.desk.show.id);
  await send(page, 'screen.set', { output: 'judges', shows: { kind: 'picture', pictureId: 'line' } });
  await send(page, 'screen.add', { name: 'Moving line', shows: { kind: 'test', pattern: 'sweep' }, raster: { width: 640, height: 360 } });
  await send(page, 'screen.set', { output: 'sail-screen', raster: { width: 448, height: 768 } });
  const ids = await pick(page, (s) => s.desk.show.screens.outputs.map((o) => o.id));
  const windows: Page[] = [];
  // What a page does at first takes longer than anything later.
  await wait(10_000);
  const figures: ScreensFigures['windows'] = [{ count: 0, ...(await lost(page)) }];
  for (const [i, id] of ids.entries()) {
    const one = await page.browser().newPage();
    await one.setViewport({ width: 640, height: 360 });
    await one.goto(`${url}/programme?${new URLSearchParams({ show: showId, output: id }).toString()}`);
    await until(() => one.evaluate(() => (document.querySelector('canvas')?.width ?? 0) > 300), 'its picture');
    windows.push(one);
    if (i === 1 || i === ids.length - 1) {
      await wait(2000);
      figures.push({ count: i + 1, ...(await lost(page)) });
    }
  }
  for (const one of windows) await one.close();
  return { windows: figures };
}

export const screensLines = ({ windows }: ScreensFigures): string[] => [
  '## Screens',
  '',
  `Windows with outputs (clean programme, a camera, an upright output of 448×768, a moving line), beside the demo at 640×360 for ${SECONDS} s each: ${windows
    .map(
      ({ count, mixed, dropped }) =>
        `${count} windows: ${dropped} of ${mixed + dropped} frames dropped, ${((100 * dropped) / (mixed + dropped)).toFixed(2)} %`,
    )
    .join('; ')}.`,
  '',
];
