/** What a machine that is late gives up: pictures get smaller and come back, the bar says so, and a file has the size it began with. */
import { type Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { keepOnly, openDemo, pick, showRuns, until } from '../support/desk';

let app: App;
let browser: TestBrowser;
beforeAll(async () => {
  app = await startApp();
  browser = await startBrowser();
  await openDemo(browser.page, app);
  await keepOnly(browser.page, 'shore');
});
afterAll(async () => {
  await browser.close();
  await app.close();
});

/** Size and mean brightness of the next programme frame. */
const nextFrame = (page: Page): Promise<{ width: number; height: number; luma: number }> =>
  page.evaluate(
    () =>
      new Promise<{ width: number; height: number; luma: number }>((resolve) => {
        let asked = false;
        const end = window.bivocaHost?.outputFrames((frame) => {
          if (asked) return frame.close();
          asked = true;
          const bytes = new Uint8Array(frame.allocationSize());
          const { displayWidth: width, displayHeight: height } = frame;
          return void frame.copyTo(bytes).then(() => {
            frame.close();
            end?.();
            resolve({ width, height, luma: bytes.subarray(0, width * height).reduce((a, b) => a + b, 0) / (width * height) });
          });
        });
      }),
  );

async function hold(step: number): Promise<void> {
  const { page } = browser;
  await page.evaluate((s) => localStorage.setItem('bivoca.step', String(s)), step);
  await page.reload();
  await showRuns(page);
  await until(() => pick(page, (s) => s.health.shore?.state === 'live'), 'the camera');
}

it('works in the show’s own size, and smaller when it must, with the same picture', async () => {
  const { page } = browser;
  const full = await nextFrame(page);
  expect(full).toMatchObject({ width: 640, height: 360 });
  await hold(5);
  const half = await until(async () => {
    const frame = await nextFrame(page);
    return Math.abs(frame.luma - full.luma) < 6 ? frame : null;
  }, 'the camera’s picture');
  expect(half).toMatchObject({ width: 320, height: 180 });
  const bar = await page.$eval('header a[aria-label^="Engine"]', (e) => [e.textContent, e.getAttribute('title')]);
  expect(bar[0]).toContain('320×180');
  expect(bar[1]).toContain('Held by hand: working with pictures of 320×180');
  await hold(0);
  expect(await nextFrame(page)).toMatchObject({ width: 640, height: 360 });
  expect(await page.$eval('header a[aria-label^="Engine"]', (e) => e.textContent)).not.toContain('×');
});

it('has made no error', () => {
  expect(browser.troubles).toEqual([]);
});
