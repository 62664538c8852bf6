/** Every kind of source with the real thing: Chromium's fake camera, real files, a hostile SVG; and what happens when they stop. */
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { keepOnly, openDemo, passes, pick, press, quietPier, send, until } from '../support/desk';
import { finishRecording, gaveUp, records, startRecording } from '../support/recording';
import { drag } from '../support/drag';
import { openHarness } from '../support/harness';

let app: App;
let browser: TestBrowser;
let harness: Awaited<ReturnType<typeof openHarness>>;
let files: string;
beforeAll(async () => {
  app = await startApp();
  browser = await startBrowser();
  harness = await openHarness(browser);
  files = await mkdtemp(join(tmpdir(), 'bivoca-files-'));
  await browser.page.bringToFront();
  await openDemo(browser.page, app);
  await keepOnly(browser.page, 'shore', 'bars');
  await quietPier(browser.page);
});
afterAll(async () => {
  await harness.close();
  await browser.close();
  await app.close();
  await rm(files, { recursive: true, force: true });
});

const sourceNamed = (name: string) =>
  browser.page.evaluate((wanted) => window.bivocaHost?.state.desk.show.sources.find((s) => s.name === wanted), name);

/** Gives files to the dialog's file field, as a person would. */
async function choose(...paths: string[]): Promise<void> {
  await press(browser.page, 'Add');
  const input = await browser.page.waitForSelector('input[aria-label="Files to add"]');
  await (input as unknown as { uploadFile(...p: string[]): Promise<void> }).uploadFile(...paths);
}

/** A short recording of a source on air, taken apart. */
async function recordSource(id: string, ms: number) {
  const { page } = browser;
  await send(page, 'picture.cut', { picture: id });
  await passes(page, 10);
  const recording = await startRecording(page);
  await records(browser.page, ms);
  const file = await finishRecording(page, recording);
  return harness.page.evaluate((data) => window.harness.analyseFile(data), file);
}

describe('a camera', () => {
  it('is found by label, chosen with a microphone, and is on air with moving pictures and sound', async () => {
    const { page } = browser;
    await press(page, 'Add');
    await until(
      () =>
        page.evaluate(() =>
          [...document.querySelectorAll('button')].some((b) => b.textContent === 'Find cameras' || b.textContent === 'Add camera'),
        ),
      'the dialog',
    );
    // Once the labels are known the button gives way to the list by itself.
    await page.evaluate(() => [...document.querySelectorAll('button')].find((b) => b.textContent === 'Find cameras')?.click());
    await page.waitForSelector('select[aria-label="Microphone"]');
    const microphone = await page.$eval('select[aria-label="Microphone"] option:nth-child(2)', (o) => (o as HTMLOptionElement).value);
    await page.select('select[aria-label="Microphone"]', microphone);
    await press(page, 'Add camera');
    const camera = await until(
      () => page.evaluate(() => window.bivocaHost?.state.desk.show.sources.find((s) => s.settings.kind === 'camera')),
      'the camera in the list',
    );
    await until(() => page.evaluate((id) => window.bivocaHost?.state.health[id]?.state === 'live', camera.id), 'the camera to be live');
    const different = ({ pictures }: Awaited<ReturnType<typeof recordSource>>) => new Set(pictures.map((p) => JSON.stringify(p.grid))).size;
    let taken = await recordSource(camera.id, 3000);
    // A machine that gives most frames up needs longer to show that they move.
    if (different(taken) <= 10) taken = await recordSource(camera.id, 12_000);
    const { envelope } = taken;
    // The fake camera draws a turning pie and a counter, and beeps each second.
    expect(different(taken)).toBeGreaterThan(10);
    expect(Math.max(...envelope)).toBeGreaterThan(0.05);
  });

  it('that is pulled says so, keeps its place on air, and comes back by itself', async () => {
    const { page } = browser;
    const id = await pick(page, (s) => s.desk.air.onAirId as string);
    // What a pulled cable does: every track of the device ends.
    await page.evaluate(() => {
      const real = MediaDevices.prototype.getUserMedia;
      const gone = () => Promise.reject(new DOMException('gone', 'NotFoundError'));
      MediaDevices.prototype.getUserMedia = gone;
      setTimeout(() => (MediaDevices.prototype.getUserMedia = real), 5000);
    });
    await page.evaluate((source) => window.bivocaHost?.restartSource(source), id);
    await until(() => page.evaluate((source) => window.bivocaHost?.state.health[source]?.state === 'lost', id), 'the loss to be noticed');
    expect(await page.evaluate((source) => window.bivocaHost?.state.health[source]?.cause, id)).toBe('it is not plugged in');
    expect(await pick(page, (s) => s.desk.air.onAirId)).toBe(id);
    const before = await pick(page, (s) => s.mixer.frames);
    await passes(page, 12);
    expect(await pick(page, (s) => s.mixer.frames)).toBeGreaterThan(before + 5);
    await until(
      () => page.evaluate((source) => window.bivocaHost?.state.health[source]?.state === 'live', id),
      'the camera to come back',
      15_000,
    );
  });

  it('that is open but sends nothing says so, and is opened anew until it does', async () => {
    const { page } = browser;
    const id = await pick(page, (s) => s.desk.air.onAirId as string);
    await page.evaluate((source) => {
      const causes = new Set<string>();
      window.bivocaHost?.store.subscribe(({ health }) => causes.add(health[source]?.cause ?? ''));
      const Real = MediaStreamTrackProcessor;
      // The first stream is stuck, the next one is not.
      class Stuck {
        readable = new ReadableStream();

        constructor() {
          Object.assign(window, { MediaStreamTrackProcessor: Real });
        }
      }
      Object.assign(window, { causes, MediaStreamTrackProcessor: Stuck });
    }, id);
    await page.evaluate((source) => window.bivocaHost?.restartSource(source), id);
    const causes = () => page.evaluate(() => [...(window as unknown as { causes: Set<string> }).causes]);
    await until(async () => (await causes()).includes('it sends no pictures; it is opened again'), 'the silence to be noticed');
    // Opened anew it sends: it stays live for longer than a silence is borne.
    await until(
      async () => {
        await page.evaluate(() => (window as unknown as { causes: Set<string> }).causes.clear());
        await passes(page, 75);
        const live = await page.evaluate((source) => window.bivocaHost?.state.health[source]?.state === 'live', id);
        return live && !(await causes()).some((cause) => cause !== '');
      },
      'the camera to go on sending',
      30_000,
    );
  });
});

describe('a media file', () => {
  it('plays from its in point when taken, with its sound, in the very colours of the file, and holds at the end', async () => {
    const clip = await harness.page.evaluate(() => window.harness.makeClip('mp4', ['#d02020', '#20c040', '#2030d0']));
    await writeFile(join(files, 'colours.mp4'), Buffer.from(clip, 'base64'));
    await choose(join(files, 'colours.mp4'));
    const source = await until(() => sourceNamed('colours'), 'the file in the list');
    expect(source.settings).toMatchObject({ kind: 'media', hasSound: true, startOnTake: true });
    await until(
      () => browser.page.evaluate((id) => window.bivocaHost?.state.health[id]?.state === 'live', source.id),
      'the file to be ready',
    );
    const { page } = browser;
    // A camera's microphone stays open by itself; here only the file is to be heard.
    const camera = await page.evaluate(() => window.bivocaHost?.state.desk.show.sources.find((s) => s.settings.kind === 'camera')?.id);
    if (camera) await send(page, 'sound.mute', { channel: camera, on: true });
    await send(page, 'picture.cut', { picture: 'harbour' });
    await passes(page, 8);
    const recording = await startRecording(page);
    await records(page, 300);
    const before = await gaveUp(page);
    await send(page, 'picture.cut', { picture: source.id });
    await records(page, 4200);
    // By what the machine gave up a change may be seen late.
    const slack = 0.15 + (await gaveUp(page)) - before;
    const file = await finishRecording(page, recording);
    const { pictures, envelope } = await harness.page.evaluate((data) => window.harness.analyseFile(data), file);
    const is = (c: readonly number[] | undefined, channel: number) =>
      c !== undefined && (c[channel] as number) > 150 && c.every((v, i) => i === channel || v < 90);
    const at = (channel: number) => pictures.filter((p) => is(p.grid[4], channel)).map((p) => p.time);
    const [red, green, blue] = [at(0), at(1), at(2)];
    expect(Math.abs((green[0] as number) - (red[0] as number) - 1)).toBeLessThan(0.35 + slack);
    expect(Math.abs((blue[0] as number) - (green[0] as number) - 1)).toBeLessThan(slack);
    expect(is(pictures.at(-1)?.grid[4], 2)).toBe(true);
    // Its tone is heard while it plays, and ends with it.
    const mid = ((red[0] as number) + 1.5) * 1000;
    expect(Math.max(...envelope.slice(mid - 300, mid + 300))).toBeGreaterThan(0.15);
    expect(Math.max(...envelope.slice(-200))).toBeLessThan(0.02);
  });

  it('shows the time left on its tile', async () => {
    const { page } = browser;
    const source = await until(() => sourceNamed('colours'), 'the file');
    await send(page, 'media.cue', { source: source.id });
    await until(
      () => page.evaluate(() => /0:0[34]/.test(document.querySelector('[aria-label^="time left"]')?.textContent ?? '')),
      'the time left',
    );
  });

  it('whose bytes are lost says so by name, and comes back when they do', async () => {
    const { page } = browser;
    const source = await until(() => sourceNamed('colours'), 'the file');
    const asset = (source.settings as { assetId: string }).assetId;
    await page.evaluate(async (id) => {
      const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('assets');
      const file = await (await folder.getFileHandle(id)).getFile();
      (window as unknown as { kept: ArrayBuffer }).kept = await file.arrayBuffer();
      await folder.removeEntry(id);
    }, asset);
    await page.evaluate((id) => window.bivocaHost?.restartSource(id), source.id);
    await until(
      () => page.evaluate((id) => window.bivocaHost?.state.health[id]?.cause.includes('colours.mp4 is missing'), source.id),
      'the loss to be named',
    );
    await page.evaluate(async (id) => {
      const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('assets');
      const writable = await (await folder.getFileHandle(id, { create: true })).createWritable();
      await writable.write((window as unknown as { kept: ArrayBuffer }).kept);
      await writable.close();
    }, asset);
    await until(
      () => page.evaluate((id) => window.bivocaHost?.state.health[id]?.state === 'live', source.id),
      'the file to come back',
      15_000,
    );
  });
});

describe('files that cannot be used', () => {
  it.each([
    ['broken.mp4', Buffer.from('this is no video at all'), 'cannot be used: it is damaged, or not what its name says'],
    ['broken.png', Buffer.from('89504e470d0a1a0a00', 'hex'), 'cannot be used: it cannot be decoded'],
    ['empty.webm', Buffer.alloc(0), 'is empty'],
  ])('%s is refused with its name and the cause, and nothing is added', async (name, data, cause) => {
    const { page } = browser;
    const before = await pick(page, (s) => s.desk.show.sources.length);
    await writeFile(join(files, name), data);
    await choose(join(files, name));
    await until(
      () =>
        page.evaluate(
          (text) => [...document.querySelectorAll('.status-line [role=status]')].some((t) => t.textContent?.includes(text)),
          `${name} ${cause}`,
        ),
      'the refusal',
    );
    expect(await pick(page, (s) => s.desk.show.sources.length)).toBe(before);
  });
});

describe('stills', () => {
  it('an SVG is drawn, without its script, handlers and outside pictures', async () => {
    const { page } = browser;
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="640" height="360" onload="window.hacked=1"><script>window.hacked=1</script><rect width="640" height="360" fill="#d0a020" onclick="window.hacked=1"/><image xlink:href="http://elsewhere.test/x.png" width="9" height="9"/><foreignObject><body xmlns="http://www.w3.org/1999/xhtml"><iframe src="http://elsewhere.test"/></body></foreignObject></svg>`;
    await writeFile(join(files, 'plate.svg'), svg);
    await choose(join(files, 'plate.svg'));
    const source = await until(() => sourceNamed('plate'), 'the still in the list');
    const stored = await page.evaluate(
      async (id) => {
        const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('assets');
        return (await (await folder.getFileHandle(id)).getFile()).text();
      },
      (source.settings as { assetId: string }).assetId,
    );
    expect(stored).not.toMatch(/script|onload|onclick|elsewhere|foreignObject/i);
    const { pictures } = await recordSource(source.id, 1200);
    const centre = pictures.at(-2)?.grid[4] ?? [0, 0, 0];
    [0xd0, 0xa0, 0x20].forEach((v, i) => expect(Math.abs((centre[i] as number) - v)).toBeLessThan(16));
    expect(await page.evaluate(() => 'hacked' in window)).toBe(false);
  });
});

describe('a screen', () => {
  it('is captured after a press, and shows what the browser shares', async () => {
    const { page } = browser;
    await press(page, 'Add');
    await press(page, 'Choose a screen…');
    const source = await until(() => sourceNamed('Screen'), 'the screen in the list');
    const live = await until(
      () =>
        page
          .evaluate((id) => window.bivocaHost?.state.health[id], source.id)
          .then((h) => (h && h.cause !== '' && h.state === 'lost' ? h : h?.state === 'live' ? h : null)),
      'an answer of the browser',
    );
    // Headless browsers may have nothing to share; then it must say so and stay startable.
    if (live.state === 'lost') expect(live.cause.length).toBeGreaterThan(5);
    else expect(live.state).toBe('live');
  });
});

describe('the list', () => {
  const order = () => pick(browser.page, (s) => s.desk.show.sources.filter((x) => !x.feedsOnly).map((x) => x.id));
  const handle = (name: string) => browser.page.waitForSelector(`[aria-label="Move ${name} in the list"]`);
  const tile = (name: string) => browser.page.waitForSelector(`xpath/.//*[@data-region="sources"]//li[contains(., "${name}")]`);

  it('is put in order by dragging, into another group too, as one step', async () => {
    const { page } = browser;
    const before = await order();
    const groupOf = () => pick(page, (s) => s.desk.show.sources.find((x) => x.id === 'bars')?.groupId ?? null);
    const group = await groupOf();
    await drag(page, await handle('Bars and tone'), await tile('Shore wide'));
    expect(await order()).toEqual(['bars', ...before.filter((id) => id !== 'bars')]);
    expect(await groupOf()).toBe(await pick(page, (s) => s.desk.show.sources.find((x) => x.id === 'shore')?.groupId ?? null));
    await send(page, 'history.undo');
    expect([await order(), await groupOf()]).toEqual([before, group]);
  });

  it('is put in order by keys: what is moved keeps the focus', async () => {
    const { page } = browser;
    const before = await order();
    await (await handle('Shore wide'))!.focus();
    const shifted = async (key: 'ArrowRight' | 'ArrowLeft') => {
      await page.keyboard.down('Shift');
      await page.keyboard.press(key);
      await page.keyboard.up('Shift');
    };
    await shifted('ArrowRight');
    expect(await order()).toEqual([before[1], before[0], ...before.slice(2)]);
    await until(() => page.evaluate(() => document.activeElement?.getAttribute('data-moves') === 'shore'), 'the focus to go along');
    await shifted('ArrowLeft');
    expect(await order()).toEqual(before);
    // At the end of the list there is nowhere to go.
    await shifted('ArrowLeft');
    expect(await order()).toEqual(before);
    expect(await pick(page, (s) => s.notices)).toEqual([]);
  });
});

describe('deleting', () => {
  it('says where a source is used before it goes, and goes when pressed again', async () => {
    const { page } = browser;
    await send(page, 'picture.cut', { picture: 'shore' });
    await send(page, 'picture.setNext', { picture: 'bars' });
    await page.hover('button[aria-label^="5 Bars and tone"]');
    await press(page, 'Edit Bars and tone');
    await until(() => page.evaluate(() => document.querySelector('[role=dialog]')?.textContent?.includes('In use: Next')), 'its uses');
    await press(page, 'Remove');
    expect(await sourceNamed('Bars and tone')).toBeDefined();
    await press(page, 'Remove all the same');
    await until(async () => (await sourceNamed('Bars and tone')) === undefined, 'it to be gone');
    await page.keyboard.down('Control');
    await page.keyboard.press('z');
    await page.keyboard.up('Control');
    await until(async () => (await sourceNamed('Bars and tone')) !== undefined, 'it to be back');
  });
});

it('has leaked no frame', () => {
  expect(browser.troubles.filter((t) => /garbage collected/.test(t))).toEqual([]);
});
