/** The list of shows, export and import, the remote, the log, and working without a mouse. */
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { applyPatches, enablePatches } from 'immer';
import { WebSocket } from 'ws';
import { type ToListener } from '#core/panels/messages';
import { type Desk } from '#core/desk/air';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { openDemo, passes, pick, post, press, send, showRuns, until } from '../support/desk';
import { Downloads } from '../support/downloads';
import { stored } from '../support/stored';

enablePatches();

let app: App;
let browser: TestBrowser;
let downloads: Downloads;
beforeAll(async () => {
  app = await startApp();
  browser = await startBrowser();
  downloads = await Downloads.of(browser);
});
afterAll(async () => {
  await browser.close();
  await app.close();
  await downloads.close();
});

const names = () => browser.page.$$eval('main li a.block', (links) => links.map((a) => a.textContent));
const toast = (text: string) =>
  until(
    () =>
      browser.page.evaluate(
        (t) => [...document.querySelectorAll('.status-line [role=status]')].some((e) => e.textContent?.includes(t)),
        text,
      ),
    `the message "${text}"`,
  );

async function importFile(data: Uint8Array): Promise<void> {
  const path = join(downloads.folder, `import-${Math.random()}.zip`);
  await writeFile(path, data);
  const input = await browser.page.waitForSelector('input[aria-label="Show file to import"]');
  await (input as unknown as { uploadFile(p: string): Promise<void> }).uploadFile(path);
}

describe('the list of shows', () => {
  it('is empty with help at first, and makes a show of typed size and rate', async () => {
    const { page } = browser;
    await page.goto(app.url);
    await until(() => page.evaluate(() => document.body.textContent?.includes('No shows yet')), 'the help');
    await press(page, 'New show');
    await page.waitForSelector('aria/Width, pixels');
    await page.keyboard.type('Harbour talk');
    const width = await page.$('aria/Width, pixels');
    await width?.click({ count: 3 });
    await page.keyboard.type('1920/2');
    await page.keyboard.press('Enter');
    const height = await page.$('aria/Height, pixels');
    await height?.click({ count: 3 });
    await page.keyboard.type('540');
    await page.keyboard.press('Tab');
    await page.select('select:not([aria-label])', '50');
    await press(page, 'Make and open');
    await showRuns(page);
    expect(await pick(page, (s) => [s.desk.show.name, s.desk.show.raster, s.desk.show.rate])).toEqual([
      'Harbour talk',
      { width: 960, height: 540 },
      { num: 50, den: 1 },
    ]);
    // Also without a GPU a show is worked in its own size and rate.
    expect(await pick(page, (s) => s.working)).toMatchObject({ raster: { width: 960, height: 540 }, frameStep: 1, notice: '' });
    expect(await page.evaluate(() => document.body.textContent?.includes('No sources yet'))).toBe(true);
  });

  it('renames, duplicates, deletes, and takes the deletion back', async () => {
    const { page } = browser;
    await page.click('header a[href="/"]');
    await until(async () => (await names()).includes('Harbour talk'), 'the list');
    await press(page, 'Rename Harbour talk');
    await page.keyboard.down('Control');
    await page.keyboard.press('a');
    await page.keyboard.up('Control');
    await page.keyboard.type('Evening talk');
    await page.keyboard.press('Enter');
    await until(async () => (await names()).includes('Evening talk'), 'the new name');
    await press(page, 'Duplicate Evening talk');
    await until(async () => (await names()).includes('Evening talk (copy)'), 'the copy');
    await press(page, 'Delete Evening talk (copy)');
    await until(async () => !(await names()).includes('Evening talk (copy)'), 'it to go');
    await press(page, 'Undo');
    await until(async () => (await names()).includes('Evening talk (copy)'), 'it to come back');
  });

  it('refuses damaged, foreign and newer files with place and cause, and changes nothing', async () => {
    const before = await names();
    await importFile(Buffer.from('no zip at all'));
    await toast('cannot be unpacked');
    await importFile(zipSync({ 'other.txt': strToU8('x') }));
    await toast('it holds no show.json');
    await importFile(zipSync({ 'show.json': strToU8('{"show":{"format":"bivoca-show","version":99}}') }));
    await toast('saved by a newer Bivoca');
    await importFile(zipSync({ 'show.json': strToU8('{"show":{"format":"bivoca-show","version":1,"name":7}}') }));
    await toast('This show is damaged');
    expect(await names()).toEqual(before);
  });

  it('exports a show to one file that another browser reads, files included', async () => {
    const { page } = browser;
    await openDemo(page, app);
    await send(page, 'entry.set', { entry: 'card-1', field: 'name', value: { kind: 'text', text: 'Out and back' } });
    await passes(page, 8);
    await page.click('header a[href="/"]');
    await until(async () => (await names()).includes('Skerry Point Kite Trials'), 'the demo in the list');
    await press(page, 'Export Skerry Point Kite Trials');
    const file = await downloads.bytes('.bivoca');
    const contents = unzipSync(file);
    const { show, assets } = JSON.parse(strFromU8(contents['show.json'] as Uint8Array)) as {
      show: { graphics: { list: { entries: unknown[] }[] } };
      assets: { id: string }[];
    };
    expect(JSON.stringify(show.graphics.list[0]?.entries[0])).toContain('Out and back');
    expect(Object.keys(contents)).toContain(`assets/${assets[0]?.id}`);

    const other = await startBrowser();
    await other.page.goto(app.url);
    const path = join(downloads.folder, 'again.bivoca');
    await writeFile(path, file);
    const input = await other.page.waitForSelector('input[aria-label="Show file to import"]');
    await (input as unknown as { uploadFile(p: string): Promise<void> }).uploadFile(path);
    const link = await other.page.waitForSelector('main li a.block');
    await link?.click();
    await showRuns(other.page);
    expect(await pick(other.page, (s) => JSON.stringify(s.desk.show.graphics.list[0]?.entries[0]).includes('Out and back'))).toBe(true);
    await until(() => pick(other.page, (s) => s.health.bug?.state === 'live'), 'the still to have come along');
    await other.close();
  });

  it('brings chosen parts of one show into another that is open, with what they need, as one step of undo', async () => {
    const { page } = browser;
    const openParts = async () => {
      await page.keyboard.down('Control');
      await page.keyboard.press('KeyK');
      await page.keyboard.up('Control');
      await page.waitForSelector('[role=dialog] input');
      await page.keyboard.type('bring parts of another');
      await page.waitForSelector('[role=dialog] [role=option][aria-selected=true]');
      await page.keyboard.press('Enter');
      await page.waitForSelector('aside[aria-label="What goes along"]');
    };
    const choose = async (name: string) => {
      const box = await page.waitForSelector(`::-p-xpath(//label[starts-with(normalize-space(.), "${name}")]/input)`);
      await box?.evaluate((b) => (b as HTMLInputElement).click());
    };
    const pressStarting = async (words: string) => {
      const button = await page.waitForSelector(
        `::-p-xpath(//button[starts-with(normalize-space(.), "${words}")][not(@aria-disabled="true")])`,
      );
      await button?.evaluate((b) => (b as HTMLButtonElement).click());
    };
    const bringFile = async (path: string) => {
      const input = await page.waitForSelector('input[aria-label="Show file whose parts come in"]');
      await (input as unknown as { uploadFile(p: string): Promise<void> }).uploadFile(path);
    };
    const here = () =>
      pick(page, ({ desk: { show } }) => ({
        macros: show.automation.macros.map((m) => m.name),
        sources: show.sources.map((s) => s.id).sort(),
        devices: show.devices.map((d) => d.on),
        key: show.output.stream.key,
      }));
    await openDemo(page, app);
    await send(page, 'output.setStream', { url: '/ingest/pier', key: 'nobody-else' });
    await openParts();
    await choose('Launch window');
    await choose('Camera lamps');
    // What it shows needs goes along, and is said; one of it stays out.
    await page.select('select[aria-label="What becomes of Mast overhead"]', 'out');
    await pressStarting('Save ');
    const path = await downloads.path('parts.bivoca');

    await page.click('header a[href="/"]');
    await press(page, 'New show');
    await page.waitForSelector('aria/Width, pixels');
    await page.keyboard.type('Small hall');
    await press(page, 'Make and open');
    await showRuns(page);
    const before = await here();
    await openParts();
    // What is damaged changes nothing, and says where.
    const broken = join(downloads.folder, 'broken.bivoca');
    await writeFile(broken, (await readFile(path)).subarray(0, 500));
    await bringFile(broken);
    await toast('This file is damaged');
    await bringFile(path);
    await page.waitForSelector('::-p-xpath(//h2[starts-with(., "Parts of ")][not(contains(., "this show"))])');
    await choose('Launch window');
    await choose('Camera lamps');
    await pressStarting('Bring ');
    await toast('brought in');
    const after = await here();
    expect(after).toMatchObject({ macros: ['Launch window'], devices: [false], key: before.key });
    expect(after.sources).toEqual(['bug', 'line']);
    await until(() => pick(page, (s) => s.health.bug?.state === 'live'), 'the still to have come along');
    // Brought in again, what is here serves, and the macro stands beside the first.
    await bringFile(path);
    await page.waitForSelector('::-p-xpath(//h2[starts-with(., "Parts of ")][not(contains(., "this show"))])');
    await choose('Launch window');
    await pressStarting('Bring 1 part in');
    await until(async () => (await here()).macros.length === 2, 'the second');
    expect(await here()).toMatchObject({ macros: ['Launch window', 'Launch window 2'], sources: ['bug', 'line'] });
    await send(page, 'history.undo');
    expect((await here()).macros).toEqual(['Launch window']);
    await send(page, 'history.undo');
    expect(await here()).toEqual(before);
    await send(page, 'history.redo');
    await send(page, 'macro.run', { macro: await pick(page, (s) => s.desk.show.automation.macros[0]?.id) });
    await until(() => pick(page, (s) => s.desk.air.onAirId === 'line'), 'what the macro takes to air');
    await send(page, 'run.stop');
  });
});

describe('one window runs a show', () => {
  it('a second one says so, and can take it over', async () => {
    const { page } = browser;
    await openDemo(page, app);
    const second = await browser.browser.newPage();
    await second.goto(page.url());
    await until(() => second.evaluate(() => document.body.textContent?.includes('runs in another window')), 'the second window to say so');
    await press(second, 'Take it over');
    await showRuns(second);
    await until(
      () => page.evaluate(() => document.body.textContent?.includes('Another window has taken this show over')),
      'the first to give way',
    );
    // The one that gave way has ended; that the show is open is known all the same, so that a crash is told afterwards.
    const showId = await pick(second, (st) => st.desk.show.id);
    await until(async () => !(await page.evaluate(() => window.bivocaHost)), 'the first to end');
    await passes(second, 12);
    expect((await stored<{ openSince: number | null }>(second, 'shows', showId))?.openSince).toBeTypeOf('number');
    await second.close();
    // Back, as often as it goes.
    const takeBack = async () => {
      await page.bringToFront();
      await press(page, 'Take it over');
      await showRuns(page);
    };
    await takeBack();
    const third = await browser.browser.newPage();
    await third.goto(page.url());
    await press(third, 'Take it over');
    await showRuns(third);
    await until(async () => !(await page.evaluate(() => window.bivocaHost)), 'the first to end again');
    await third.close();
    await takeBack();
  });
});

describe('the remote', () => {
  it('works the show like a hand, refuses what is wrong, and tells what happens', async () => {
    const { page } = browser;
    const socket = new WebSocket(`ws://127.0.0.1:${app.port}/api/events`);
    let desk: Desk | null = null;
    let revision = 0;
    socket.on('message', (data) => {
      const message = JSON.parse(String(data)) as ToListener;
      if (message.kind === 'state') desk = { show: message.show, air: message.air };
      if (message.kind === 'patches' && desk) desk = applyPatches(desk, message.patches);
      if (message.kind === 'state' || message.kind === 'patches') revision = message.revision;
    });
    await until(() => desk, 'the line');
    expect((await post(app, 'picture.cut', { picture: 'line' })).status).toBe(200);
    expect(await pick(page, (s) => s.desk.air.onAirId)).toBe('line');
    await until(() => desk?.air.onAirId === 'line' && revision > 0, 'what a listener makes of it');
    expect(await post(app, 'picture.cut', { picture: 'none' })).toMatchObject({
      status: 422,
      body: { code: 'unknown-picture', field: 'picture' },
    });
    expect(await pick(page, (s) => s.desk.air.onAirId)).toBe('line');
    const status = (await (await fetch(`${app.url}/api/status`)).json()) as { mixer: { frames: number }; health: Record<string, unknown> };
    expect(status.mixer.frames).toBeGreaterThan(0);
    expect(status.health).toHaveProperty('shore');
    expect((await post(app, 'history.undo')).status).toBe(422);
    socket.close();
  });

  it('keeps an as-run log that is saved as CSV', async () => {
    const { page } = browser;
    await post(app, 'picture.cut', { picture: 'mast' });
    await post(app, 'lane.show', { lane: 'lane-1' });
    await passes(page, 20);
    await post(app, 'picture.cut', { picture: 'shore' });
    await passes(page, 8);
    await page.click('a[href$="/output"]');
    await until(() => page.evaluate(() => document.body.textContent?.includes('Mast overhead')), 'the log');
    await press(page, 'Save as CSV');
    const csv = String(await downloads.bytes('as run.csv'));
    expect(csv).toMatch(/picture,Mast overhead,cut,,20\d\d-/);
    expect(csv).toMatch(/Names,"?Out and back|Names,"?Maren Tolv/);
    await page.click('a[href$="/desk"]');
  });
});

describe('without a mouse', () => {
  it('every control has a name, and the finder runs a command with its arguments', async () => {
    const { page } = browser;
    const nameless = await page.evaluate(() =>
      [...document.querySelectorAll('button, a, input, select')]
        .filter((e) => (e as HTMLElement).offsetParent !== null)
        .filter(
          (e) =>
            !(e.textContent?.trim() || e.getAttribute('aria-label') || e.getAttribute('title') || (e as HTMLInputElement).labels?.length),
        )
        .map((e) => e.outerHTML.slice(0, 120)),
    );
    expect(nameless).toEqual([]);
    await page.keyboard.down('Control');
    await page.keyboard.press('k');
    await page.keyboard.up('Control');
    await page.waitForSelector('[cmdk-input]');
    await page.keyboard.type('set next by');
    await page.keyboard.press('Enter');
    await page.waitForSelector('[role=dialog] form');
    await page.keyboard.type('4');
    await page.keyboard.press('Enter');
    await until(() => pick(page, (s) => s.desk.air.nextId === 'desk'), 'the command to be run');
    await page.keyboard.press('?');
    await until(
      () => page.evaluate(() => document.querySelector('[role=dialog]')?.textContent?.includes('straight to air')),
      'the sheet of keys',
    );
    await page.keyboard.press('Escape');
  });

  it('fits 1280 × 800 without scrolling', async () => {
    const { page } = browser;
    expect(
      await page.evaluate(() => [document.documentElement.scrollHeight <= innerHeight, document.documentElement.scrollWidth <= innerWidth]),
    ).toEqual([true, true]);
  });
});

it('has made no error', () => expect(browser.troubles).toEqual([]));
