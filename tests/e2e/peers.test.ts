/** Encoders and viewers over HTTP in the real interface: pictures and sound come in by WHIP and go out by WHEP, until the link is withdrawn. */
import { type Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { clickButton, must, openSmall, pick, until } from '../support/desk';
import { programmeShows } from '../support/programme';
import { near } from '../support/windows';

let app: App;
let browser: TestBrowser;
let page: Page;
let id = '';
let source = '';
/** Of the simulated encoder, and of the picture on air at first. */
const ENCODER = [0x2f, 0x6d, 0x7a] as const;
const TONE = 900;

beforeAll(async () => {
  app = await startApp();
  browser = await startBrowser();
  ({ page } = browser);
  await openSmall(page, app, ['harbour'], true);
  id = await page.evaluate(() => window.bivocaHost?.showId ?? '');
});
afterAll(async () => {
  await browser.close();
  await app.close();
});

/** Loudest frequency of the programme, Hz; 0 while it is silent. */
const pitch = () =>
  page.evaluate(async () => {
    const own = window.bivocaHost!.sound.streamOf('programme');
    if (!own) return 0;
    const context = new AudioContext();
    await context.resume();
    const analyser = new AnalyserNode(context, { fftSize: 8192 });
    context.createMediaStreamSource(own.stream).connect(analyser);
    await new Promise((resolve) => setTimeout(resolve, 400));
    const bins = new Float32Array(analyser.frequencyBinCount);
    analyser.getFloatFrequencyData(bins);
    await context.close();
    own.end();
    const top = bins.reduce((best, value, i) => (value > (bins[best] ?? 0) ? i : best), 0);
    return (bins[top] ?? -200) < -70 ? 0 : (top * context.sampleRate) / analyser.fftSize;
  });

it('takes what an encoder sends: picture and sound are in the show', async () => {
  await clickButton(page, 'normalize-space(.)="Add"');
  await clickButton(page, 'normalize-space(.)="Add encoder"');
  source = await until(
    () => pick(page, ({ desk }) => desk.show.sources.find((s) => s.settings.kind === 'encoder')?.id ?? null),
    'the source',
  );
  await until(() => pick(page, ({ health }) => Object.values(health).some((h) => h.state === 'waiting') || null), 'it to wait');
  const secret = await page.evaluate(async (of) => (await window.bivocaHost!.ways.make('encoder', of, null)).secret, source);
  // Nobody without its key, and no other method.
  const tries = await page.evaluate(
    async (address) =>
      Promise.all(
        ['wrong', ''].map(
          async (key) =>
            (
              await fetch(address, {
                method: 'POST',
                body: 'v=0\r\n',
                headers: { 'Content-Type': 'application/sdp', ...(key && { Authorization: `Bearer ${key}` }) },
              })
            ).status,
        ),
      ),
    `/api/whip/${id}/${source}`,
  );
  expect(tries).toEqual([401, 401]);
  expect(secret.length).toBeGreaterThan(20);
  await must(page, 'picture.cut', { picture: source });
  await must(page, 'sound.mute', { channel: source, on: false });
  await clickButton(page, '@aria-label="Edit Encoder"');
  await clickButton(page, 'normalize-space(.)="Simulate" and ancestor::*[@role="dialog"]');
  await programmeShows(page, ENCODER, 'the picture of the encoder', 0.1, 0.2);
  await until(async () => Math.abs((await pitch()) - TONE) < 15, 'the tone of the encoder', 20_000);
});

it('gives the programme to a viewer with little delay, and ends when the link is withdrawn', async () => {
  const secret = await page.evaluate(async () => (await window.bivocaHost!.ways.make('viewer', 'all', null)).secret);
  const viewer = await browser.browser.newPage();
  await viewer.goto(`${app.url}/watch?show=${id}#in=${secret}`);
  await until(() => viewer.evaluate(() => (document.querySelector('video')?.videoWidth ?? 0) > 0 || null), 'the picture');
  const seen = () =>
    viewer.evaluate(() => {
      const video = document.querySelector('video')!;
      const context = new OffscreenCanvas(32, 18).getContext('2d')!;
      context.drawImage(video, 0, 0, 32, 18);
      return [...context.getImageData(4, 4, 1, 1).data].slice(0, 3);
    });
  await until(async () => near(await seen(), ENCODER, 22), 'the programme at the viewer');
  expect(
    await viewer.evaluate(() =>
      (document.querySelector('video')!.srcObject as MediaStream)
        .getTracks()
        .map((t) => t.kind)
        .sort(),
    ),
  ).toEqual(['audio', 'video']);
  await page.bringToFront();
  await page.evaluate(() => window.bivocaHost!.ways.withdraw('viewer', 'all'));
  await viewer.bringToFront();
  await until(() => viewer.evaluate(() => document.body.innerText.includes('This key is not known here') || null), 'that it has ended');
  await viewer.close();
});

it('shows the last picture and then that nothing comes, when the link of the encoder is withdrawn', async () => {
  await page.bringToFront();
  await page.evaluate((of) => window.bivocaHost!.ways.withdraw('encoder', of), source);
  await until(() => page.evaluate((of) => window.bivocaHost!.state.health[of]?.state === 'waiting' || null, source), 'that nothing comes');
  expect(browser.troubles).toEqual([]);
});
