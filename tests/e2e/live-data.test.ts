/** Data that changes by itself: an address that is asked, on air; a ticker that runs evenly; rows that change places; thousands of rows. */
import { createServer, type Server } from 'node:http';
import { type AddressInfo } from 'node:net';
import { type Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { keepOnly, openDemo, passes, pick, press, said as saidOn, send, until, uploadTo } from '../support/desk';
import { Downloads } from '../support/downloads';

let app: App;
let browser: TestBrowser;
let downloads: Downloads;
let page: Page;
let source: Server;
let host = '';
/** What the source answers; null while it is gone. */
let rows: object[] | null = [];
beforeAll(async () => {
  source = createServer((_req, res) => {
    if (rows) res.setHeader('content-type', 'application/json').end(JSON.stringify(rows));
    else res.socket?.destroy();
  });
  await new Promise<void>((done) => source.listen(0, '127.0.0.1', done));
  host = `127.0.0.1:${(source.address() as AddressInfo).port}`;
  app = await startApp();
  browser = await startBrowser();
  ({ page } = browser);
  downloads = await Downloads.of(browser);
  await openDemo(page, app);
  await send(page, 'picture.cut', { picture: 'harbour' });
  await keepOnly(page);
  await page.keyboard.press('F4');
  await page.waitForSelector('main h1');
});
afterAll(async () => {
  source.closeAllConnections();
  source.close();
  await downloads.close();
  await browser.close();
  await app.close();
});

const said = (words: string) => saidOn(page, words);
const onAir = (lane: string) =>
  pick(page, (s) => JSON.stringify(s.desk.air.lanes)).then((all) => JSON.stringify((JSON.parse(all) as Record<string, unknown>)[lane]));
const tab = (name: string) => page.click(`[role=tab] ::-p-text(${name})`);

it('asks an address after it was allowed; what is on air follows it, stays while it fails, and goes on when it comes back', async () => {
  rows = [{ Name: 'Ada Holm', Work: 'first' }];
  await tab('Sheets');
  await press(page, 'New sheet from an address');
  await page.waitForFunction(() => document.querySelector<HTMLInputElement>('input[aria-label="Name of the sheet"]')?.value === 'Address');
  await page.click('input[aria-label="Address"]', { count: 3 });
  await page.type('input[aria-label="Address"]', `http://${host}/rows.json`);
  await page.keyboard.press('Enter');
  // It is on this machine: nothing is asked before somebody says so.
  await said(`${host} is in this network or this machine`);
  await press(page, `Allow ${host}`);
  await said('Read just now.');
  const sheet = await until(
    () => pick(page, (s) => s.desk.show.sheets.find((x) => x.rows.some((r) => r.startsWith('Ada Holm')))?.id ?? null),
    'the rows',
  );
  const card = await pick(page, (s) => s.desk.show.graphics.list.find((g) => g.id === 'name-card'));
  const columns = card?.fields.slice(0, 2).map((f, i) => ({ fieldId: f.id, column: i === 0 ? 'Name' : 'Work' }));
  await send(page, 'sheet.set', { sheet, key: 'Name' });
  await send(page, 'graphic.setSheet', { graphic: 'name-card', sheet: { sheetId: sheet, all: true, columns } });
  const entry = await pick(
    page,
    (s) => s.desk.show.graphics.list.find((g) => g.id === 'name-card')?.entries.find((e) => e.rowKey === 'Ada Holm')?.id,
  );
  await send(page, 'lane.set', { lane: 'lane-1', follows: true, holdSeconds: null });
  await send(page, 'lane.showPicture', { lane: 'lane-1', picture: entry });
  const source = await pick(page, (s) => s.desk.show.sheets.at(-1)?.source);
  await send(page, 'sheet.set', { sheet, source: { ...source, everySeconds: 0.5 } });
  const steps = await pick(page, (s) => s.history.past.length);
  rows = [{ Name: 'Ada Holm', Work: 'second' }];
  await until(async () => (await onAir('lane-1')).includes('second'), 'the change on air');
  rows = null;
  await said('The values from before stay.');
  expect(await onAir('lane-1')).toContain('second');
  await said('The values here are from');
  rows = [{ Name: 'Ada Holm', Work: 'third' }];
  await until(async () => (await onAir('lane-1')).includes('third'), 'the address come back');
  // What comes from outside is no step of undo.
  expect(await pick(page, (s) => s.history.past.length)).toBe(steps);
  await send(page, 'sheet.remove', { sheet });
  await send(page, 'lane.hide', { lane: 'lane-1' });
});

/** Rows of pixels of a level stripe of the programme, 640 wide, of as many frames as come: with the numbers of the frames. */
const stripes = (frames: number, y: number) =>
  page.evaluate(
    (count, top) =>
      new Promise<{ frame: number; line: number[] }[]>((resolve) => {
        const taken: { frame: number; line: number[] }[] = [];
        const context = new OffscreenCanvas(640, 360).getContext('2d', { willReadFrequently: true });
        const stop = window.bivocaHost?.outputFrames((frame) => {
          const number = Math.round((frame.timestamp * 25) / 1e6);
          context?.drawImage(frame, 0, 0, 640, 360);
          frame.close();
          const data = context?.getImageData(0, top, 640, 1).data ?? [];
          if (taken.length < count) taken.push({ frame: number, line: Array.from({ length: 640 }, (_, x) => data[x * 4] ?? 0) });
          if (taken.length < count) return;
          stop?.();
          resolve(taken);
        });
      }),
    frames,
    y,
  );

it('runs a ticker by the same number of pixels in every frame, and takes an urgent item and a pause by key', async () => {
  await send(page, 'lane.showPicture', { lane: 'lane-4', picture: 'news-line' });
  await passes(page, 200);
  const taken = await stripes(40, 343);
  // 100 pixels a second of a raster that is shown at half its size: 2 of the show's in each of 25 frames.
  const first = taken[0] as (typeof taken)[0];
  expect(new Set(first.line.slice(100, 630)).size).toBeGreaterThan(3);
  for (const { frame, line } of taken.slice(1)) {
    const by = 2 * (frame - first.frame);
    expect(line.slice(100, 620 - by), `frame ${frame - first.frame}`).toEqual(first.line.slice(100 + by, 620));
  }
  // From wherever one is: the ticker on air is the one that is meant.
  await page.keyboard.down('Alt');
  await page.keyboard.press('KeyU');
  await page.keyboard.up('Alt');
  await page.waitForFunction(() => document.activeElement?.getAttribute('data-role') === 'urgent-item');
  await page.keyboard.type('Gust over the point');
  await page.keyboard.press('Enter');
  await until(
    () => pick(page, (s) => Object.values(s.desk.air.graphics.tickers).some((t) => t.head.some((p) => p.text === 'Gust over the point'))),
    'the urgent item',
  );
  await page.keyboard.press('Escape');
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.down('Alt');
  await page.keyboard.press('KeyP');
  await page.keyboard.up('Alt');
  await until(() => pick(page, (s) => Object.values(s.desk.air.graphics.tickers).every((t) => t.paused !== null)), 'the pause');
  await passes(page, 5);
  const [a, b] = await stripes(2, 343);
  expect(b?.line).toEqual(a?.line);
  await send(page, 'lane.hide', { lane: 'lane-4' });
});

it('takes a sheet that is typed, ties a graphic to it, and says of a formula what is wrong with it as one types', async () => {
  await tab('Sheets');
  await press(page, 'Sheet');
  await page.waitForFunction(() => document.querySelector<HTMLInputElement>('input[aria-label="Name of the sheet"]')?.value === 'Sheet 5');
  await press(page, 'Row');
  const cell = await page.waitForSelector('input[aria-label="Name, row 1"]');
  await cell?.type('Edda Quill');
  await page.keyboard.press('Enter');
  const sheet = await until(() => pick(page, (s) => s.desk.show.sheets.find((x) => x.rows[0] === 'Edda Quill')?.id ?? null), 'the cell');
  await tab('Entries');
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  for (let i = 0; i < 20; i += 1) await page.keyboard.press('PageUp');
  await page.waitForSelector('[role=table][aria-label="Entries of Name card"]');
  await page.click('button[title^="Entries from a sheet"]');
  await said('Sheet for Name card');
  await page.select('select[aria-label="Sheet"]', sheet);
  await press(page, 'Take the rows');
  const entry = () =>
    pick(page, (s) => s.desk.show.graphics.list.find((g) => g.id === 'name-card')?.entries.find((e) => e.rowKey === 'row 1'));
  await until(entry, 'the entry of the row');
  await page.keyboard.down('Alt');
  await page.keyboard.press('KeyG');
  await page.keyboard.up('Alt');
  const role = await pick(page, (s) => s.desk.show.graphics.list.find((g) => g.id === 'name-card')?.fields[1]?.name ?? '');
  const formula = await page.waitForSelector(`input[aria-label="Formula of ${role}"]`);
  await formula?.type('upper(Name');
  await said('Character 11: upper: a ) or a comma is missing here.');
  await page.keyboard.type(') & "!"');
  await page.waitForFunction(() => ![...document.querySelectorAll('output')].some((o) => o.textContent?.startsWith('Character')));
  await page.keyboard.press('Enter');
  await until(async () => JSON.stringify((await entry())?.values).includes('EDDA QUILL!'), 'what the formula comes to');
  await send(page, 'sheet.remove', { sheet });
  const fields = await pick(page, (s) => s.desk.show.graphics.list.find((g) => g.id === 'name-card')?.fields.map((f) => f.id));
  await send(page, 'field.set', { graphic: 'name-card', field: fields?.[1], formula: null });
  await page.keyboard.down('Alt');
  await page.keyboard.press('KeyG');
  await page.keyboard.up('Alt');
});

it('holds fifty thousand rows: a search, one changed cell, one entry', async () => {
  const lines = Array.from({ length: 50_000 }, (_, i) => `${i},Pilot ${i},Club ${i % 97},${(i * 7919) % 1000}`);
  await tab('Sheets');
  await uploadTo(page, 'New sheet from a file', downloads.folder, 'many.csv', `Bib,Pilot,Club,Points\n${lines.join('\n')}`);
  await said('many.csv');
  const sheet = await until(
    () => pick(page, (s) => s.desk.show.sheets.find((x) => x.rows.length === 50_000)?.id ?? null),
    'the rows',
    60_000,
  );
  await page.waitForSelector('[role=table][aria-rowcount="50000"]');
  await page.type('input[aria-label="Find in many.csv"]', 'pilot 4242');
  await page.waitForSelector('[role=table][aria-rowcount="15"]');
  await page.keyboard.press('Escape');
  await send(page, 'sheet.set', { sheet, key: 'Bib' });
  const fields = await pick(page, (s) => s.desk.show.graphics.list.find((g) => g.id === 'name-card')?.fields.map((f) => f.id));
  const link = { sheetId: sheet, columns: [{ fieldId: fields?.[0], column: 'Pilot' }] };
  expect(await send(page, 'graphic.setSheet', { graphic: 'name-card', sheet: { ...link, all: true } })).toMatchObject({
    ok: false,
    error: { code: 'too-many' },
  });
  await send(page, 'graphic.setSheet', { graphic: 'name-card', sheet: { ...link, all: false } });
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  for (let i = 0; i < 20; i += 1) await page.keyboard.press('PageUp');
  await page.type('input[aria-label="Find in many.csv"]', 'pilot 4242');
  await page.waitForSelector('[role=table][aria-rowcount="15"]');
  await press(page, 'Row 4243 as an entry of Name card');
  await until(
    () => pick(page, (s) => s.desk.show.graphics.list.find((g) => g.id === 'name-card')?.entries.some((e) => e.rowKey === '4242') ?? false),
    'the entry of the row',
  );
  expect(browser.troubles).toEqual([]);
});
