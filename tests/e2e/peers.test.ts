/** Encoders and viewers over HTTP in the real interface: pictures and sound come in by WHIP and go out by WHEP, until the link is withdrawn. */
import { type Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { keepOnly, openDemo, pick, send, until } from '../support/desk';
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

const click = async (on: Page, that: string) =>
  (await on.waitForSelector(`::-p-xpath(//button[${that}])`))!.evaluate((button) => (button as HTMLElement).click());
const must = async (type: string, args: Record<string, unknown> = {}) => {
  const done = await send(page, type, args);
  if (!done.ok) throw new Error(done.error.message);
  return done.result;
};

beforeAll(async () => {
  app = await startApp();
  browser = await startBrowser();
  ({ page } = browser);
  await openDemo(page, app);
  await must('picture.cut', { picture: 'harbour' });
  await keepOnly(page, 'harbour');
  await must('trigger.armAll', { armed: false });
  for (const lane of ['lane-1', 'lane-2', 'lane-3', 'lane-4']) await send(page, 'lane.hide', { lane });
  const channels = await pick(page, ({ desk: { show } }) => [...show.sources.map((x) => x.id), ...show.sound.inputs.map((c) => c.id)]);
  for (const channel of channels) await send(page, 'sound.mute', { channel, on: true });
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
  await click(page, 'normalize-space(.)="Add"');
  await click(page, 'normalize-space(.)="Add encoder"');
  source = await until(
    () => pick(page, ({ desk }) => desk.show.sources.find((s) => s.settings.kind === 'encoder')?.id ?? null),
    'the source',
  );
  await until(() => pick(page, ({ health }) => Object.values(health).some((h) => h.state === 'waiting') || null), 'it to wait');
  const secret = await page.evaluate(async (of) => (await window.bivocaHost!.ways.open('encoder', of, null)).secret, source);
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
  await must('picture.cut', { picture: source });
  await must('sound.mute', { channel: source, on: false });
  await click(page, '@aria-label="Edit Encoder"');
  await click(page, 'normalize-space(.)="Simulate" and ancestor::*[@role="dialog"]');
  await programmeShows(page, ENCODER, 'the picture of the encoder', 0.1, 0.2);
  await until(async () => Math.abs((await pitch()) - TONE) < 15, 'the tone of the encoder', 20_000);
});

it('gives the programme to a viewer with little delay, and ends when the link is withdrawn', async () => {
  const secret = await page.evaluate(async () => (await window.bivocaHost!.ways.open('viewer', 'all', null)).secret);
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
  await page.evaluate(() => window.bivocaHost!.ways.close('viewer', 'all'));
  await viewer.bringToFront();
  await until(() => viewer.evaluate(() => document.body.innerText.includes('This key is not known here') || null), 'that it has ended');
  await viewer.close();
});

it('shows the last picture and then that nothing comes, when the link of the encoder is withdrawn', async () => {
  await page.bringToFront();
  await page.evaluate((of) => window.bivocaHost!.ways.close('encoder', of), source);
  await until(() => page.evaluate((of) => window.bivocaHost!.state.health[of]?.state === 'waiting' || null, source), 'that nothing comes');
  expect(browser.troubles).toEqual([]);
});
