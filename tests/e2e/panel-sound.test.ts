/** Sound of panels in the real interface: ears of one's own, the crew that talks and is never in the show, and whose hand is on a fader. */
import { type Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type {} from '#interface/panels/work-panel';
import { FADER_FLOOR_DB } from '#core/sound/level';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { clickButton, must, openSmall, pick, said, send, until } from '../support/desk';

let app: App;
let browser: TestBrowser;
let other: TestBrowser;
let page: Page;
let mara: Page;
let odd: Page;
let id = '';
const tones: Record<'low' | 'high', string> = { low: '', high: '' };

const enter = async (on: Page, name: string, rooms: Record<string, string>, room: string) => {
  const secret = await page.evaluate(
    async (who, what) => (await window.bivocaHost!.passes.add(who, what as never, null)).secret,
    name,
    rooms,
  );
  await on.goto(`${app.url}/crew/${id}/${room}#pass=${secret}`);
  await until(() => on.evaluate(() => window.bivocaPanel !== undefined), 'the panel to open');
};

/** Loudest frequency of what is heard at a panel, Hz; 0 while that is nothing. */
const pitch = (on: Page) =>
  on.evaluate(async () => {
    const { output } = window.bivocaPanel!.sound.listening as unknown as { output: AudioNode | null };
    if (!output) return 0;
    const analyser = new AnalyserNode(output.context, { fftSize: 8192 });
    output.connect(analyser);
    const bins = new Float32Array(analyser.frequencyBinCount);
    await new Promise((resolve) => setTimeout(resolve, 400));
    analyser.getFloatFrequencyData(bins);
    output.disconnect(analyser);
    const top = bins.reduce((best, value, i) => (value > (bins[best] ?? 0) ? i : best), 0);
    return (bins[top] ?? -200) < -70 ? 0 : (top * output.context.sampleRate) / analyser.fftSize;
  });
const hears = (on: Page, hz: number, what: string) => until(async () => Math.abs((await pitch(on)) - hz) < 15, `${hz} Hz: ${what}`, 20_000);
const tell = (on: Page, type: string, args: Record<string, unknown> = {}) =>
  on.evaluate((command) => window.bivocaPanel!.dispatch(command), { type, args });

const act = (type: string, args: Record<string, unknown>) => must(page, type, args);

beforeAll(async () => {
  app = await startApp();
  [browser, other] = await Promise.all([startBrowser(), startBrowser()]);
  ({ page } = browser);
  mara = other.page;
  await openSmall(page, app, ['harbour', 'bars'], true);
  for (const [name, hz] of [
    ['low', 437],
    ['high', 1637],
  ] as const) {
    const done = await send(page, 'sound.addChannel', { name, feed: { kind: 'tone', hz, levelDb: -20 } });
    tones[name] = done.ok ? String(done.result.id) : '';
    await act('sound.setChannel', { channels: [tones[name]], muted: false });
    await act('sound.setSend', { from: tones[name], bus: 'programme', on: true });
  }
  // One of them is in the programme, the other is not.
  await act('sound.setFader', { channel: tones.high, db: FADER_FLOOR_DB });
  id = await page.evaluate(() => window.bivocaHost?.showId ?? '');
  await enter(mara, 'Mara', { sound: 'work', desk: 'work' }, 'sound');
  odd = await other.browser.newPage();
  // A room without pictures: here only what is heard counts, and two cores are few.
  await enter(odd, 'Odd', { settings: 'work', desk: 'work' }, 'settings');
});
afterAll(async () => {
  await Promise.all([browser.close(), other.close()]);
  await app.close();
});

it('each hears with ears of their own; what the pass is not for stays silent, and is said', async () => {
  await clickButton(odd, 'normalize-space(.)="Listen"');
  await hears(odd, 437, 'the programme at one panel');
  await mara.bringToFront();
  await clickButton(mara, 'normalize-space(.)="Listen"');
  await hears(mara, 437, 'the programme at the other');
  expect((await tell(mara, 'sound.solo', { channel: tones.high })).ok).toBe(true);
  // Soloed after its fader, which is down: nothing. Before it: the tone.
  await until(async () => (await pitch(mara)) === 0, 'silence');
  expect((await tell(mara, 'sound.solo', { channel: tones.high, tap: 'before', on: true })).ok).toBe(true);
  await hears(mara, 1637, 'the tone alone');
  await said(mara, 'You hear high alone');
  await hears(odd, 437, 'the programme still, at the other');
  // Nobody else's ears have changed, and nothing was done to the show.
  expect(await pick(page, (s) => s.desk.air.sound.solos.length)).toBe(0);
  await tell(odd, 'sound.solo', { channel: tones.low, on: true });
  await said(odd, 'silent');
  expect(await odd.evaluate(() => window.bivocaPanel!.sound.listening!.store.getState().message)).toMatch(/look into Sound/);
  await tell(odd, 'sound.clearSolo');
  await hears(odd, 437, 'the programme again');
  await odd.evaluate(() => window.bivocaPanel!.sound.listening!.off());
  await tell(mara, 'sound.clearSolo');
  await hears(mara, 437, 'the programme again');
  await mara.evaluate(() => window.bivocaPanel!.sound.listening!.off());
  await until(
    () =>
      page.evaluate(() =>
        (window.bivocaHost as unknown as { followers: { heard?: Map<number, unknown> }[] }).followers.every(
          (f) => !(f.heard instanceof Map) || f.heard.size === 0,
        ),
      ),
    'the end of the encoding',
  );
});

const speaking = (on: Page) => on.evaluate(() => (window.bivocaPanel ?? window.bivocaHost)!.crew.store.getState().speaking.length);

it('the crew hears who holds the key, to all or to one; never themself, and never in the show', async () => {
  await act('sound.mute', { channel: tones.low, on: true });
  await until(() => page.evaluate(() => (window.bivocaHost!.sound.readings.get('programme')?.[0].level ?? 0) < -59), 'a silent programme');
  await mara.bringToFront();
  await clickButton(mara, '@aria-label="Crew: 2 others"');
  const all = (await mara.waitForSelector('button[aria-label="Hold to talk to everybody"]'))!;
  const at = (await all.boundingBox())!;
  await mara.mouse.move(at.x + 10, at.y + 10);
  await mara.mouse.down();
  await until(async () => (await speaking(page)) === 1 && (await speaking(odd)) === 1, 'the voice at both others', 20_000);
  expect(await speaking(mara)).toBe(0);
  expect(
    await page.evaluate(() =>
      window
        .bivocaHost!.crew.store.getState()
        .members.filter((m) => m.to === 'all')
        .map((m) => m.name),
    ),
  ).toEqual(['Mara']);
  await said(page, 'Mara');
  // The fake microphone beeps loudly: in the programme that would be seen.
  for (let i = 0; i < 20; i += 1) {
    expect(await page.evaluate(() => window.bivocaHost!.sound.readings.get('programme')![0].level)).toBeLessThan(-59);
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  await mara.mouse.up();
  await until(async () => (await speaking(page)) === 0 && (await speaking(odd)) === 0, 'silence after it');
  // To one alone, by key: the host does not hear it.
  await mara.keyboard.press('Escape');
  const oddId = await page.evaluate(() => window.bivocaHost!.crew.store.getState().members.find((m) => m.name === 'Odd')!.id);
  await mara.evaluate((one) => window.bivocaPanel!.crew.talk(one), oddId);
  await until(async () => (await speaking(odd)) === 1, 'the voice at the one');
  expect(await speaking(page)).toBe(0);
  await mara.evaluate(() => window.bivocaPanel!.crew.end());
  // The host speaks to all, by the key.
  await until(async () => (await speaking(odd)) === 0, 'silence');
  await page.bringToFront();
  await page.keyboard.down('Control');
  await page.keyboard.down('Backquote');
  await until(async () => (await speaking(odd)) === 1 && (await speaking(mara)) === 1, 'the voice of the host', 20_000);
  await page.keyboard.up('Backquote');
  await page.keyboard.up('Control');
  await until(async () => (await speaking(odd)) === 0, 'the end of it');
});

it('whose hand is on a fader is seen by the others, and the as-run log says who', async () => {
  await page.click('nav a[href$="/sound"]');
  let db = -6;
  await until(async () => {
    db -= 1;
    await tell(mara, 'sound.setFader', { channel: 'bars', db });
    return page.evaluate(() => document.querySelector('[data-strip="bars"] [data-held-by]')?.textContent === 'Mara');
  }, 'her name on the strip');
  expect(await mara.evaluate(() => document.querySelector('[data-held-by]'))).toBeNull();
  await until(() => page.evaluate(() => document.querySelector('[data-held-by]') === null), 'that she has let go');
  await tell(odd, 'picture.cut', { picture: 'bars' });
  await until(() => page.evaluate(async () => (await window.bivocaHost!.files.asRun()).at(-1)?.who === 'Odd'), 'his name in the log');
  expect([...browser.troubles, ...other.troubles]).toEqual([]);
});
