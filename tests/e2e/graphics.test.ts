/** The same show through the graphics path: what a machine with a graphics card runs. */
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { openDemo, passes, pick, post, send, showRuns, until } from '../support/desk';
import { finishRecording, records, startRecording } from '../support/recording';
import { openHarness } from '../support/harness';

let app: App;
let browser: TestBrowser;
beforeAll(async () => {
  app = await startApp();
  browser = await startBrowser();
  await browser.page.evaluateOnNewDocument(() => localStorage.setItem('bivoca.mixer', 'gl'));
  await openDemo(browser.page, app);
});
afterAll(async () => {
  await browser.close();
  await app.close();
});

it('records a dissolve between two colours, a card over it, and shows it on the monitors', async () => {
  const { page } = browser;
  expect(await until(() => pick(page, (s) => s.renderer?.mixer), 'the mixer to say what it is')).toMatch(/WebGL2/);
  const ids: string[] = [];
  for (const colour of ['#c02020', '#2020c0'])
    ids.push(String((await post(app, 'source.add', { name: colour, settings: { kind: 'colour', colour } })).body.id));
  await send(page, 'picture.cut', { picture: ids[0] });
  await send(page, 'picture.setNext', { picture: ids[1] });
  await passes(page, 12);
  const recording = await startRecording(page);
  await records(page, 700);
  await send(page, 'picture.take');
  await send(page, 'lane.show', { lane: 'lane-1' });
  await records(page, 2300);
  const file = await finishRecording(page, recording);
  const harness = await openHarness(browser);
  const { pictures } = await harness.page.evaluate((data) => window.harness.analyseFile(data), file);
  await harness.close();
  await page.bringToFront();
  const reds = pictures.map((p) => p.grid[1]?.[0] ?? 0);
  const middle = reds.findIndex((r) => r < 120);
  expect(reds[5]).toBeGreaterThan(160);
  expect(reds.at(-2)).toBeLessThan(70);
  expect(reds[middle]).toBeGreaterThan(50);
  for (let i = 1; i < reds.length; i += 1) expect(reds[i] as number).toBeLessThan((reds[i - 1] as number) + 8);
  const lower = pictures.at(-2)?.grid[6] ?? [0, 0, 0];
  expect((lower[2] as number) < 140).toBe(true);
  const tile = await page.evaluate(() => {
    const canvas = document.createElement('canvas');
    const shown = [...document.querySelectorAll('canvas')].find((c) => c.getAttribute('aria-label') === 'Next');
    const context = canvas.getContext('2d');
    if (!shown || !context) return null;
    context.drawImage(shown, 0, 0, 8, 8);
    return [...context.getImageData(2, 5, 1, 1).data];
  });
  expect(tile?.[0]).toBeGreaterThan(150);
});

it('takes up again after a reload', async () => {
  await browser.page.reload();
  await showRuns(browser.page);
  expect(browser.troubles).toEqual([]);
});
