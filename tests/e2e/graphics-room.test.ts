/** Graphics on air and in their room: real pixels, keys and mouse, files, a worker that dies. */
import { type KeyInput } from 'puppeteer-core';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { strToU8, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { chord as chordOn, keepOnly, openDemo, passes, pick, post, press, send, showRuns, until } from '../support/desk';
import { Downloads } from '../support/downloads';
import { fixture } from '../support/fixtures';
import { openHarness } from '../support/harness';
import { type Area, differingPixels, keepFrame, pixelOf } from '../support/kept-frames';
import { finishRecording, records, startRecording } from '../support/recording';

let app: App;
let browser: TestBrowser;
let downloads: Downloads;
let page: TestBrowser['page'];
beforeAll(async () => {
  app = await startApp();
  browser = await startBrowser();
  ({ page } = browser);
  downloads = await Downloads.of(browser);
  await openDemo(page, app);
  await send(page, 'picture.cut', { picture: 'harbour' });
  await keepOnly(page);
  await send(page, 'lane.set', { lane: 'lane-1', holdSeconds: null });
});
afterAll(async () => {
  await downloads.close();
  await browser.close();
  await app.close();
});

const text = (value: string) => ({ kind: 'text', text: value });
const lane = (id = 'lane-1') =>
  pick(
    page,
    `(s) => { const l = s.desk.air.lanes['${id}']; return { id: l.picture?.id ?? null, up: l.fade.to === 1 }; }` as never,
  ) as Promise<{ id: string | null; up: boolean }>;

const keep = (name: string) => keepFrame(page, name);
const differing = (a: string, b: string, rect: Area) => differingPixels(page, a, b, rect);
const pixel = (x: number, y: number) => pixelOf(page, x, y);

/** Where the name stands on the plate, with room for the grid that layers lie on. */
const NAME = { x: 52, y: 278, width: 300, height: 48 };

describe('on air', () => {
  it('only what changed moves: outside of the name not one pixel differs, in any frame', async () => {
    await send(page, 'lane.showPicture', { lane: 'lane-1', picture: 'card-1' });
    await passes(page, 30);
    await keep('before');
    await send(page, 'entry.set', { entry: 'card-1', field: 'name', value: text('Edda Quill') });
    await passes(page, 4);
    await keep('waits');
    // An edit alone changes nothing on air.
    expect(await differing('before', 'waits', NAME)).toEqual({ inside: 0, outside: 0 });
    await send(page, 'lane.show', { lane: 'lane-1' });
    const seen = { inside: 0, outside: 0 };
    for (let i = 0; i < 8; i += 1) {
      await keep('moves');
      const now = await differing('before', 'moves', NAME);
      seen.inside = Math.max(seen.inside, now.inside);
      seen.outside = Math.max(seen.outside, now.outside);
    }
    await passes(page, 20);
    await keep('after');
    const after = await differing('before', 'after', NAME);
    expect(seen.inside).toBeGreaterThan(50);
    expect(after.inside).toBeGreaterThan(50);
    expect([seen.outside, after.outside]).toEqual([0, 0]);
    await send(page, 'history.undo');
    await send(page, 'lane.hide', { lane: 'lane-1' });
    await passes(page, 20);
  });

  it('is in the recording: its very colours, in its place, from the press on', async () => {
    const made = await send(page, 'graphic.add', { name: 'Block' });
    const graphic = made.ok ? String(made.result.id) : '';
    const added = await send(page, 'element.add', { graphic, kind: 'rectangle', rect: { x: 0, y: 0, width: 640, height: 120 } });
    const element = added.ok ? String(added.result.id) : '';
    await send(page, 'element.set', { graphic, elements: [element], fill: { kind: 'colour', colour: '#c02020', opacity: 1 } });
    await send(page, 'lane.setContent', { lane: 'lane-1', content: { kind: 'picture', id: graphic } });
    await send(page, 'lane.set', { lane: 'lane-1', in: { kind: 'fade', edge: 'left', easing: 'linear', frames: 0 } });
    await passes(page, 10);
    const recording = await startRecording(page);
    await records(page, 700);
    await send(page, 'lane.show', { lane: 'lane-1' });
    await records(page, 900);
    const file = await finishRecording(page, recording);
    await send(page, 'lane.hide', { lane: 'lane-1' });
    const harness = await openHarness(browser);
    const { pictures } = await harness.page.evaluate((data) => window.harness.analyseFile(data), file);
    await harness.close();
    await page.bringToFront();
    const [top, low] = [pictures.map((p) => p.grid[1]), pictures.map((p) => p.grid[7])];
    const shown = top.findIndex((c) => (c?.[0] ?? 0) > 150);
    expect(shown).toBeGreaterThan(5);
    // It was prepared: whole in its first frame.
    const colour = top[shown] as number[];
    expect([192, 32, 32].every((v, i) => Math.abs((colour[i] ?? 0) - v) < 14)).toBe(true);
    expect(low.every((c) => Math.abs((c?.[0] ?? 0) - 0x16) < 20)).toBe(true);
    await send(page, 'graphic.remove', { graphic });
    await send(page, 'lane.set', { lane: 'lane-1', in: { kind: 'fade', edge: 'left', easing: 'linear', frames: 12 } });
  });

  it('comes back by itself when its worker dies, and what is up stays up', async () => {
    await send(page, 'lane.showPicture', { lane: 'lane-1', picture: 'card-1' });
    await passes(page, 30);
    await keep('up');
    await page.evaluate(() => (window.bivocaHost as unknown as { graphics: { worker: Worker } }).graphics.worker.terminate());
    await passes(page, 5);
    await keep('dead');
    expect(await differing('up', 'dead', NAME)).toEqual({ inside: 0, outside: 0 });
    await send(page, 'lane.showPicture', { lane: 'lane-1', picture: 'card-2' });
    await until(() => pick(page, (s) => s.notices.some((n) => /started anew/.test(n.text))), 'the worker to be missed');
    await passes(page, 20);
    await keep('again');
    expect((await differing('up', 'again', NAME)).inside).toBeGreaterThan(50);
    await send(page, 'lane.hide', { lane: 'lane-1' });
  });

  it('clocks run by the show clock, over the remote too', async () => {
    expect((await post(app, 'clock.start', { clock: 'heat' })).status).toBe(200);
    await send(page, 'lane.showPicture', { lane: 'lane-3', picture: 'heat-clock' });
    await passes(page, 40);
    await keep('first');
    await passes(page, 30);
    await keep('later');
    const dial = { x: 516, y: 20, width: 96, height: 48 };
    const moved = await differing('first', 'later', dial);
    expect(moved.inside).toBeGreaterThan(5);
    expect(moved.outside).toBe(0);
    await send(page, 'clock.pause', { clock: 'heat' });
    await passes(page, 8);
    const drawn = await pick(page, (s) => s.mixer.paints.drawn);
    await passes(page, 50);
    // At rest nothing is drawn.
    expect(await pick(page, (s) => s.mixer.paints.drawn)).toBe(drawn);
    await send(page, 'lane.hide', { lane: 'lane-3' });
  });
});

describe('the operator’s page', () => {
  const where = () => page.evaluate(() => document.activeElement?.getAttribute('data-role'));

  it('is worked by keys all the way: letters find, Enter prepares, Enter shows, next, count, hide', async () => {
    await send(page, 'lane.setContent', { lane: 'lane-1', content: null });
    await page.keyboard.press('F4');
    await until(() => page.evaluate(() => document.querySelector('main h1')?.textContent === 'Graphics'), 'the room');
    await press(page, 'Name card, 3 entries');
    await page.keyboard.type('osk');
    expect(await where()).toBe('find-entry');
    await until(
      () => page.evaluate(() => document.querySelector('[role=row][aria-selected=true]')?.textContent?.includes('Osk Ferrand')),
      'the entry to be found',
    );
    await page.keyboard.press('Enter');
    await until(() => pick(page, (s) => s.desk.show.lanes[0]?.content?.id === 'card-2'), 'it to be prepared');
    expect((await lane()).up).toBe(false);
    await page.keyboard.press('Enter');
    await until(async () => (await lane()).up && (await lane()).id === 'card-2', 'it to be shown');
    await page.keyboard.press('Escape');
    await page.keyboard.down('Control');
    await page.keyboard.press('Enter');
    await page.keyboard.up('Control');
    await until(async () => (await lane()).id === 'card-3', 'the next entry');
    await page.keyboard.down('Shift');
    await page.keyboard.press('Enter');
    await page.keyboard.up('Shift');
    await until(async () => !(await lane()).up, 'it to be hidden');
    // Space shows again, and a digit finds an entry by its number.
    await page.keyboard.press('Space');
    await until(async () => (await lane()).up, 'it to be up again');
    await page.keyboard.press('1');
    await until(
      () => page.evaluate(() => document.querySelector('[role=row][aria-selected=true]')?.textContent?.includes('Maren Tolv')),
      'number 1',
    );
    await page.keyboard.press('Escape');
  });

  it('counts a number on air by a key, and says what is on air with other words', async () => {
    const score = await pick(page, (s) => s.desk.show.graphics.list.find((g) => g.name === 'Heat score')?.entries[0]?.id ?? '');
    await send(page, 'lane.showPicture', { lane: 'lane-1', picture: score });
    await press(page, 'Heat score, 2 entries, on air');
    await page.keyboard.press('Equal');
    await until(() => pick(page, (s) => JSON.stringify(s.desk.air.lanes['lane-1']?.picture).includes('"number":4')), 'heat 4 on air');
    await send(page, 'entry.set', { entry: score, field: 'left', value: text('Marl') });
    await until(
      () => page.evaluate(() => document.querySelector('[role=table]')?.textContent?.includes('EDITED')),
      'the sign that it was edited',
    );
    await press(page, 'Change Names on air');
    await until(() => page.evaluate(() => !document.querySelector('[role=table]')?.textContent?.includes('EDITED')), 'no sign any more');
    await send(page, 'lane.hide', { lane: 'lane-1' });
  });

  it('saves a graphic as a file and opens it again; damaged files are refused in words', async () => {
    await press(page, 'Name card, 3 entries');
    const before = await pick(page, (s) => s.desk.show.graphics.list.length);
    await press(page, 'Save Name card as a file');
    const file = await downloads.path('.bivoca-graphic');
    const input = await page.waitForSelector('input[aria-label="Graphic file"]');
    const upload = (path: string) => (input as unknown as { uploadFile(p: string): Promise<void> }).uploadFile(path);
    await upload(file);
    await until(() => pick(page, (s) => s.desk.show.graphics.list.length).then((n) => n === before + 1), 'the graphic of the file');
    expect(await pick(page, (s) => s.desk.show.graphics.list.at(-1)?.entries.length)).toBe(3);
    const said = (words: string) => until(() => page.evaluate((w) => document.body.innerText.includes(w), words), `the words “${words}”`);
    for (const [name, bytes, words] of [
      ['none.bivoca-graphic', strToU8('no zip'), 'it is no zip file'],
      ['empty.bivoca-graphic', zipSync({ 'a.txt': strToU8('x') }), 'graphic.json is missing'],
      [
        'odd.bivoca-graphic',
        zipSync({ 'graphic.json': strToU8('{"format":"bivoca-graphic","version":1,"graphic":{"constructor":1}}') }),
        'This is no graphic',
      ],
    ] as const) {
      const path = join(downloads.folder, name);
      await writeFile(path, bytes);
      await upload(path);
      await said(words);
    }
    expect(await pick(page, (s) => s.desk.show.graphics.list.length)).toBe(before + 1);
  });
});

describe('drawing', () => {
  const elements = () =>
    pick(page, (s) => s.desk.show.graphics.list.at(-1)?.elements.map((e) => [e.content.kind, e.x, e.y, e.width, e.height]) ?? []);
  const chord = (held: ('Alt' | 'Shift' | 'Control')[], key: KeyInput) => chordOn(page, held, key);

  it('is done by keys: draw, nudge, type arithmetic, group, duplicate, undo', async () => {
    await send(page, 'graphic.add', { name: 'By hand' });
    await chord(['Alt'], 'KeyG');
    await page.waitForSelector('[data-testid="graphic-stage"]');
    await page.select('select[aria-label="Graphic that is drawn"]', await pick(page, (s) => s.desk.show.graphics.list.at(-1)?.id ?? ''));
    await chord(['Shift'], 'KeyR');
    await until(async () => (await elements()).length === 1, 'a rectangle');
    const [, x0] = (await elements())[0] as [string, number];
    await page.keyboard.press('ArrowRight');
    await chord(['Shift'], 'ArrowRight');
    await until(async () => (await elements())[0]?.[1] === x0 + 11, 'the nudges');
    await press(page, 'Place[role="tab"]');
    const field = await page.waitForSelector('input[aria-label="Width"]');
    await field?.click({ count: 3 });
    await page.keyboard.type('100%-40');
    await page.keyboard.press('Enter');
    await until(async () => (await elements())[0]?.[3] === 600, 'the arithmetic');
    await chord(['Control'], 'KeyD');
    await until(async () => (await elements()).length === 2, 'a copy');
    await chord(['Control'], 'KeyZ');
    await until(async () => (await elements()).length === 1, 'the copy undone');
    // Letters that no family has are named.
    const graphic = await pick(page, (s) => s.desk.show.graphics.list.at(-1)?.id ?? '');
    await chord(['Shift'], 'KeyT');
    await until(async () => (await elements()).length === 2, 'a text');
    const element = await pick(page, (s) => s.desk.show.graphics.list.at(-1)?.elements.at(-1)?.id ?? '');
    await send(page, 'element.setText', { graphic, element, text: 'wind \u{12031}' });
    await press(page, 'Content[role="tab"]');
    await until(
      () => page.evaluate(() => document.querySelector('[data-region="properties"]')?.textContent?.includes('U+12031')),
      'the missing letter to be named',
    );
    await send(page, 'element.remove', { graphic, elements: [element] });
  });

  it('is done by the mouse: moved with snapping, sized by a handle, and put on air', async () => {
    await chord(['Shift'], 'KeyE');
    await until(async () => (await elements()).length === 2, 'an ellipse');
    const id = await pick(page, (s) => s.desk.show.graphics.list.at(-1)?.elements.at(-1)?.id ?? '');
    const graphic = await pick(page, (s) => s.desk.show.graphics.list.at(-1)?.id ?? '');
    await send(page, 'element.set', { graphic, elements: [id], x: 200, y: 100, width: 80, height: 60 });
    const box = await (await page.waitForSelector('[data-testid="graphic-stage"]'))?.boundingBox();
    if (!box) throw new Error('The stage has no place.');
    const scale = box.width / 640;
    const at = (x: number, y: number): [number, number] => [box.x + x * scale, box.y + y * scale];
    await page.mouse.move(...at(240, 130));
    await page.mouse.down();
    // To within reach of the picture's middle, where it snaps.
    await page.mouse.move(...at(300, 170), { steps: 5 });
    await page.mouse.move(...at(318, 181), { steps: 3 });
    await page.mouse.up();
    await until(async () => JSON.stringify((await elements())[1]) === JSON.stringify(['ellipse', 280, 150, 80, 60]), 'the middle');
    await page.mouse.move(...at(360, 210));
    await page.mouse.down();
    await page.keyboard.down('Alt');
    await page.mouse.move(...at(400, 250), { steps: 5 });
    await page.keyboard.up('Alt');
    await page.mouse.up();
    const [, x, y, w, h] = (await elements())[1] as [string, number, number, number, number];
    expect([x, y]).toEqual([280, 150]);
    expect([Math.abs(w - 120) < 4, Math.abs(h - 100) < 4]).toEqual([true, true]);
    await send(page, 'element.set', { graphic, elements: [id], fill: { kind: 'colour', colour: '#20c040', opacity: 1 } });
    await send(page, 'lane.showPicture', { lane: 'lane-1', picture: graphic });
    await until(async () => ((await pixel(330, 190))[1] ?? 0) > 150, 'the green ellipse on air');
    await send(page, 'lane.hide', { lane: 'lane-1' });
    await chord(['Alt'], 'KeyG');
  });

  it('has guides out of the rulers, live pictures on the stage, and boxes that grow on air', async () => {
    const graphic = String(
      await send(page, 'graphic.add', { name: 'Grows' }).then(() => pick(page, (s) => s.desk.show.graphics.list.at(-1)?.id)),
    );
    const add = async (kind: string, rect: object) => {
      await send(page, 'element.add', { graphic, kind, rect });
      return pick(page, (s) => s.desk.show.graphics.list.at(-1)?.elements.at(-1)?.id ?? '');
    };
    await chord(['Alt'], 'KeyG');
    await page.waitForSelector('select[aria-label="Graphic that is drawn"]');
    await page.select('select[aria-label="Graphic that is drawn"]', graphic);
    const view = await add('window', { x: 400, y: 40, width: 160, height: 90 });
    const camera = await pick(page, (s) => s.desk.show.sources[0]?.id ?? '');
    await send(page, 'element.setContent', { graphic, element: view, content: { kind: 'window', pictureId: camera, fit: 'cover' } });
    await page.waitForSelector('canvas[aria-label="Live picture in the drawing"]');
    const guides = () => pick(page, (s) => s.desk.show.graphics.list.at(-1)?.guides ?? []);
    const box = await (await page.waitForSelector('[data-testid="graphic-stage"]'))?.boundingBox();
    if (!box) throw new Error('The stage has no place.');
    const pull = async (from: [number, number], to: [number, number]) => {
      await page.mouse.move(box.x + from[0], box.y + from[1]);
      await page.mouse.down();
      await page.mouse.move(box.x + to[0], box.y + to[1], { steps: 3 });
      await page.mouse.up();
    };
    await pull([50, -6], [50, 60]);
    await until(async () => (await guides())[0]?.axis === 'across', 'a guide out of the ruler');
    await pull([80, 60], [80, -6]);
    await until(async () => (await guides()).length === 0, 'the guide back in the ruler');

    // A red plate around words that grow: on air it is as wide as they are.
    const words = await add('text', { x: 20, y: 300, width: 40, height: 30 });
    await send(page, 'element.setType', { graphic, elements: [words], size: 20, overflow: 'grow' });
    await send(page, 'element.group', { graphic, elements: [words] });
    const group = await pick(page, (s) => s.desk.show.graphics.list.at(-1)?.elements.find((e) => e.content.kind === 'group')?.id ?? '');
    await send(page, 'element.setContent', { graphic, element: group, content: { kind: 'group', flow: 'row', align: 'start' } });
    await send(page, 'element.set', { graphic, elements: [group], fill: { kind: 'colour', colour: '#d01010', opacity: 1 } });
    await send(page, 'element.setText', { graphic, element: words, text: 'i' });
    await send(page, 'lane.showPicture', { lane: 'lane-1', picture: graphic });
    await until(async () => ((await pixel(50, 326))[0] ?? 0) > 150, 'the plate');
    expect((await pixel(180, 326))[0]).toBeLessThan(150);
    await send(page, 'element.setText', { graphic, element: words, text: 'Words that need much more room' });
    await send(page, 'lane.show', { lane: 'lane-1' });
    await until(async () => ((await pixel(180, 326))[0] ?? 0) > 150, 'the plate as wide as the words');
    await send(page, 'lane.hide', { lane: 'lane-1' });
    await chord(['Alt'], 'KeyG');
  });
});

it('a card of a show of before is up as it was, in the same words', async () => {
  const { show, air } = fixture(6);
  const path = join(downloads.folder, 'before.bivoca');
  await writeFile(
    path,
    zipSync({ 'show.json': strToU8(JSON.stringify({ show: { ...show, id: 'before', name: 'Of before' }, air, assets: [] })) }),
  );
  await page.goto(app.url);
  const input = await page.waitForSelector('input[aria-label="Show file to import"]');
  await (input as unknown as { uploadFile(p: string): Promise<void> }).uploadFile(path);
  const link = await page.waitForSelector('::-p-xpath(//main//li//a[contains(., "Of before")])');
  await link?.click();
  await showRuns(page);
  expect(await pick(page, (s) => s.desk.show.graphics.list.map((g) => [g.name, g.entries.length]))).toEqual([['Name card', 2]]);
  const before = await pixel(200, 320);
  await send(page, 'lane.show', { lane: 'lane-1' });
  await until(async () => {
    const now = await pixel(200, 320);
    return now.every((v, i) => v < 70 || v < (before[i] ?? 0)) && JSON.stringify(now) !== JSON.stringify(before);
  }, 'the plate');
});
