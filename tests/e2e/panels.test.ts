/** Panels in the real interface: two browsers work one show by passes, with pictures, refusals, a withdrawn pass, a host and a server that go and come. */
import { type Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Command } from '#core/commands/command';
import { type LiveState } from '#engine/client/state';
import type {} from '#interface/panels/work-panel';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { chord, hold, keepOnly, openDemo, passes, pick, press, said, send, until } from '../support/desk';
import { near } from '../support/windows';

let app: App;
let browser: TestBrowser;
let other: TestBrowser;
let page: Page;
let panel: Page;
let id = '';

beforeAll(async () => {
  app = await startApp();
  [browser, other] = await Promise.all([startBrowser(), startBrowser()]);
  ({ page } = browser);
  panel = other.page;
  await openDemo(page, app);
  await send(page, 'picture.cut', { picture: 'harbour' });
  await keepOnly(page, 'harbour', 'bars', 'bug');
  await send(page, 'trigger.armAll', { armed: false });
  await send(page, 'surface.remove', { surface: 'pier-wall' });
  for (const lane of ['lane-1', 'lane-2', 'lane-3', 'lane-4']) await send(page, 'lane.hide', { lane });
  id = await page.evaluate(() => window.bivocaHost?.showId ?? '');
});
afterAll(async () => {
  await Promise.all([browser.close(), other.close()]);
  await app.close();
});

const HARBOUR = [0x16, 0x40, 0x5a];

/** The secret of the pass of this name. */
const secretOf = (name: string) =>
  until(
    () =>
      page.evaluate(
        (wanted) =>
          window.bivocaHost?.passes.store
            .getState()
            .passes.filter((p) => p.name === wanted)
            .at(-1)?.secret ?? null,
        name,
      ),
    `the pass of ${name}`,
  );
const enter = async (on: Page, name: string, room: string) => {
  await on.goto(`${app.url}/crew/${id}/${room}#pass=${await secretOf(name)}`);
  await until(() => on.evaluate(() => window.bivocaPanel !== undefined), 'the panel to open');
};
/** Part of a panel's state. */
const seen = <T>(on: Page, select: (state: LiveState) => T): Promise<T> =>
  on.evaluate(`window.bivocaPanel ? (${select.toString()})(window.bivocaPanel.state) : null`) as Promise<T>;
const line = (on: Page) => on.evaluate(() => window.bivocaPanel?.panel.getState().line ?? 'none');
const tell = (on: Page, type: string, args: Record<string, unknown> = {}) =>
  on.evaluate((command) => window.bivocaPanel!.dispatch(command), { type, args } satisfies Command);
/** A pixel of a monitor, as shares of its sides. */
const pixel = (on: Page, selector: string, x: number, y: number) =>
  on.evaluate(
    (which, px, py) => {
      const canvas = document.querySelector<HTMLCanvasElement>(which);
      if (!canvas || canvas.width < 20) return [-99, -99, -99];
      const context = canvas.getContext('2d')!;
      return [...context.getImageData(Math.floor(px * canvas.width), Math.floor(py * canvas.height), 1, 1).data].slice(0, 3);
    },
    selector,
    x,
    y,
  );
const AIR = 'section[aria-label="On air"] canvas';

it('is opened by a pass that is made in Settings, sees the pictures, and switches the show by key', async () => {
  await page.goto(`${app.url}/show/${id}/settings`);
  await until(() => page.evaluate(() => window.bivocaHost !== undefined), 'the show', 60_000);
  await (await page.waitForSelector('::-p-xpath(//*[@role="tab"][.="Passes"])'))?.click();
  await page.type('input[aria-label="For whom"]', 'Runa Eide');
  await page.select('select[aria-label="Layouts: look or work"]', 'work');
  await press(page, 'Pass');
  await until(() => page.evaluate(() => document.body.innerText.includes('Not here.')), 'the pass in the list');
  await enter(panel, 'Runa Eide', 'desk');
  // The secret is out of the address.
  expect(panel.url()).toBe(`${app.url}/crew/${id}/desk`);
  await said(page, 'here since');
  await panel.waitForSelector(AIR);
  await until(async () => near(await pixel(panel, AIR, 0.5, 0.5), HARBOUR, 14), 'the picture on air');
  const number = await pick(page, (s) => s.desk.show.sources.find((x) => x.id === 'bars')!.number!);
  await chord(panel, ['Shift'], `Digit${number}` as 'Digit1');
  await until(() => pick(page, (s) => s.desk.air.onAirId === 'bars'), 'the cut at the host');
  await until(() => seen(panel, (s) => s.desk.air.onAirId === 'bars'), 'the cut at the panel');
  // White-ish at the left, blue or black at the right: seen, and in the order in which bars stand.
  await until(async () => {
    const [left, right] = [await pixel(panel, AIR, 0.05, 0.3), await pixel(panel, AIR, 0.95, 0.3)];
    return Math.min(...left) > 150 && Math.min(...right) < 60;
  }, 'the bars in the picture');
  // Levels come too: of the bars' tone as at the host.
  await until(() => panel.evaluate(() => (window.bivocaPanel?.sound.readings.get('bars')?.[0].level ?? -99) > -60), 'a level at the panel');
  // The log says who.
  expect(await page.evaluate(() => window.bivocaHost?.log.line(window.bivocaHost.log.end - 1)?.who)).toBe('Runa Eide');
});

it('edits at once with identities of its own, is refused in words, and asks before it takes back what another did', async () => {
  const added = await tell(panel, 'layout.add', { name: 'From the panel' });
  expect(added.ok).toBe(true);
  const layout = added.ok ? String(added.result.id) : '';
  // It is seen before the host has answered, and the host has it by the same name.
  expect(await seen(panel, (s) => s.desk.show.layouts.some((l) => l.name === 'From the panel'))).toBe(true);
  await until(
    () => page.evaluate((wanted) => window.bivocaHost!.state.desk.show.layouts.some((l) => l.id === wanted), layout),
    'the layout at the host',
  );
  await until(() => panel.evaluate(() => window.bivocaPanel!.panel.getState().sent === 0), 'the answer');
  expect(await tell(panel, 'sound.setChannel', { channels: ['harbour'], muted: true })).toMatchObject({
    ok: false,
    error: { code: 'no-right' },
  });
  expect(await tell(panel, 'box.add', { layout: 'nothing' })).toMatchObject({ ok: false });
  // The host takes back what the panel did only when it is asked to all the same.
  expect(await send(page, 'history.undo')).toMatchObject({
    ok: false,
    error: { code: 'anothers', message: expect.stringContaining('Runa Eide') as string },
  });
  expect((await send(page, 'history.undo', { anyway: true })).ok).toBe(true);
  await until(() => seen(panel, (s) => !s.desk.show.layouts.some((l) => l.name === 'From the panel')), 'the undo at the panel');
});

it('gives a file to the show: it lies at the host, is shown there, and is seen at the panel', async () => {
  const made = await panel.evaluate(async () => {
    const canvas = new OffscreenCanvas(160, 90);
    const context = canvas.getContext('2d')!;
    context.fillStyle = '#c03060';
    context.fillRect(0, 0, 160, 90);
    const file = new File([await canvas.convertToBlob({ type: 'image/png' })], 'kite.png', { type: 'image/png' });
    const settings = await window.bivocaPanel!.files.add(file);
    const added = window.bivocaPanel!.dispatch({ type: 'source.add', args: { name: 'From the panel', settings } });
    return added.ok ? String(added.result.id) : added.error.message;
  });
  await until(() => page.evaluate((wanted) => window.bivocaHost!.state.sizes[wanted]?.width === 160, made), 'its pixels at the host');
  await tell(panel, 'picture.cut', { picture: made });
  await until(async () => near(await pixel(panel, AIR, 0.5, 0.5), [0xc0, 0x30, 0x60], 14), 'the still on the panel');
  await tell(panel, 'picture.cut', { picture: 'bars' });
  // What is no picture is refused in words, by whoever looked at it.
  const refused = await panel.evaluate(() =>
    window.bivocaPanel!.files.add(new File(['nothing'], 'bad.png', { type: 'image/png' })).then(
      () => 'taken',
      (error: Error) => error.message,
    ),
  );
  expect(refused).toMatch(/bad\.png/);
  // Pictures of graphics are here too, for what the panel draws itself.
  await until(
    () =>
      panel.evaluate(async () => {
        const ids = window.bivocaPanel!.state.desk.show.graphics.list.flatMap(
          (g) => JSON.stringify(g).match(/"assetId":"([\w-]+)"/)?.[1] ?? [],
        );
        const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('assets', { create: true });
        for (const id of ids)
          if ((await (await folder.getFileHandle(id).catch(() => null))?.getFile().catch(() => null)) === null) return false;
        return ids.length > 0;
      }),
    'the files of graphics at the panel',
  );
  await until(() => pick(page, (s) => s.desk.air.onAirId === 'bars'), 'the bars again');
});

it('works Replay on a second panel while the first works the Desk; each keeps its own room', async () => {
  await page.evaluate(() => window.bivocaHost!.passes.add('Odd', { replay: 'work', desk: 'see' }, null));
  const replay = await other.browser.newPage();
  await enter(replay, 'Odd', 'replay');
  expect((await tell(replay, 'reel.add', { name: 'Of the panel' })).ok).toBe(true);
  await until(() => pick(page, (s) => s.desk.show.replay.reels.some((r) => r.name === 'Of the panel')), 'the reel at the host');
  expect(await tell(replay, 'picture.cut', { picture: 'harbour' })).toMatchObject({ ok: false, error: { code: 'no-right' } });
  expect(await pick(page, (s) => s.desk.air.onAirId)).toBe('bars');
  // A room that the pass is not for leads to one that it is for.
  await replay.goto(`${app.url}/crew/${id}/sound`);
  await until(() => replay.url().endsWith('/replay'), 'a room of the pass');
  await said(replay, 'Odd');
  await replay.goto(`${app.url}/crew/${id}/desk`);
  await said(replay, 'look only');
  expect(panel.url()).toMatch(/desk$/);
  await replay.close();
});

it('is worked on a phone: a cut by touch', async () => {
  const phone = await other.browser.newPage();
  await phone.setViewport({ width: 390, height: 844, hasTouch: true, isMobile: true });
  await enter(phone, 'Runa Eide', 'desk');
  await tell(panel, 'picture.setNext', { picture: 'harbour' });
  await until(() => seen(phone, (s) => s.desk.air.nextId === 'harbour'), 'what comes next');
  const cut = await phone.waitForSelector('::-p-xpath(//button[normalize-space(.)="Cut"])');
  await cut?.evaluate((e) => e.scrollIntoView({ block: 'center' }));
  await cut?.tap();
  await until(() => pick(page, (s) => s.desk.air.onAirId === 'harbour'), 'the cut');
  await phone.close();
  await panel.bringToFront();
});

it('waits when the host is loaded anew or the server goes, keeps what it shows, and comes back by itself', async () => {
  await until(async () => near(await pixel(panel, AIR, 0.5, 0.5), HARBOUR, 14), 'the picture before');
  await page.goto('about:blank');
  await until(async () => (await line(panel)) === 'away', 'that the show is away');
  await said(panel, 'No window runs the show now');
  expect(near(await pixel(panel, AIR, 0.5, 0.5), HARBOUR, 14)).toBe(true);
  expect(await tell(panel, 'picture.cut', { picture: 'bars' })).toMatchObject({ ok: false, error: { code: 'failed' } });
  await page.goto(`${app.url}/show/${id}/desk`);
  await until(() => page.evaluate(() => window.bivocaHost !== undefined), 'the host', 60_000);
  await until(async () => (await line(panel)) === 'open', 'the way back', 60_000);
  expect((await tell(panel, 'picture.cut', { picture: 'bars' })).ok).toBe(true);
  await until(() => pick(page, (s) => s.desk.air.onAirId === 'bars'), 'the cut after it');
  await until(async () => Math.min(...(await pixel(panel, AIR, 0.05, 0.3))) > 150, 'pictures again', 60_000);
  await app.stop();
  await until(async () => (await line(panel)) === 'lost', 'the loss of the server');
  // The show goes on without it.
  const frames = await pick(page, (s) => s.mixer.frames);
  await passes(page, 10);
  expect(await pick(page, (s) => s.mixer.frames)).toBeGreaterThan(frames);
  await app.start();
  await until(async () => (await line(panel)) === 'open', 'the way back through the new server', 90_000);
  expect((await tell(panel, 'picture.cut', { picture: 'harbour' })).ok).toBe(true);
  await until(() => pick(page, (s) => s.desk.air.onAirId === 'harbour'), 'the cut through it');
});

it('is sent away at once when its pass is withdrawn, and encodes nothing when nobody looks', async () => {
  await page.goto(`${app.url}/show/${id}/settings`);
  await until(() => page.evaluate(() => window.bivocaHost !== undefined), 'the host', 60_000);
  await until(async () => (await line(panel)) === 'open', 'the panel', 60_000);
  await (await page.waitForSelector('::-p-xpath(//*[@role="tab"][.="Passes"])'))?.click();
  const row = await page.evaluate(() => window.bivocaHost!.passes.store.getState().passes[0]!.id);
  await hold(
    page,
    `[data-pass="${row}"] button[title^="Hold"]`,
    () => page.evaluate(() => window.bivocaHost!.passes.store.getState().passes.length === 1),
    'the withdrawal',
  );
  await until(async () => (await line(panel)) === 'refused', 'that it is sent away');
  await said(panel, 'was withdrawn');
  await until(
    () => page.evaluate(() => (window.bivocaHost as unknown as { mosaic: { now: string } }).mosaic.now === '[]'),
    'the end of the pictures',
  );
  await panel.reload();
  await said(panel, 'was withdrawn');
  expect([...browser.troubles, ...other.troubles]).toEqual([]);
});
