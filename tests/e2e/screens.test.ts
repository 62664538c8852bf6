/** Outputs in the real interface: their windows' pixels, what covers them, displays that come and go, and the same by remote. */
import { type KeyInput, type Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { openHarness } from '../support/harness';
import { finishRecording, records, startRecording } from '../support/recording';
import { chord as chordOn, keepOnly, openDemo, passes, pick, post, press, said, send, until } from '../support/desk';
import { look, near } from '../support/windows';

let app: App;
let browser: TestBrowser;
let page: Page;
beforeAll(async () => {
  app = await startApp();
  browser = await startBrowser();
  ({ page } = browser);
  // Displays as a machine with two has them; the second can be pulled.
  await page.evaluateOnNewDocument(() => {
    const area = (label: string, availLeft: number, availWidth: number, availHeight: number) => ({
      label,
      availLeft,
      availTop: 0,
      availWidth,
      availHeight,
    });
    const details = Object.assign(new EventTarget(), {
      screens: [area('Desk display', 0, 1280, 800), area('Hall projector', 1280, 640, 360)],
    });
    Object.assign(window, {
      getScreenDetails: () => Promise.resolve(details),
      pullDisplay: () => {
        details.screens = details.screens.slice(0, 1);
        details.dispatchEvent(new Event('screenschange'));
      },
    });
  });
  await openDemo(page, app);
  await send(page, 'picture.cut', { picture: 'harbour' });
  await keepOnly(page, 'harbour', 'bars', 'bug');
  await send(page, 'trigger.armAll', { armed: false });
  await send(page, 'surface.remove', { surface: 'pier-wall' });
  for (const output of ['pier-left', 'pier-right', 'ribbon-left', 'ribbon-right']) await send(page, 'screen.remove', { output });
  await send(page, 'screen.set', { output: 'sail-screen', raster: { width: 448, height: 768 } });
  for (const lane of ['lane-1', 'lane-2', 'lane-3', 'lane-4']) await send(page, 'lane.hide', { lane });
});
afterAll(async () => {
  await browser.close();
  await app.close();
});

const chord = (held: ('Alt' | 'Shift' | 'Control')[], key: KeyInput) => chordOn(page, held, key);
const room = async () => {
  await chord(['Shift'], 'F2');
  await page.waitForSelector('nav[aria-label="Outputs"]');
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
};
/** The window of an output: a page of its own. */
const windowOf = async (output: string): Promise<Page> => {
  const found = await until(
    async () => (await page.browser().pages()).find((p) => p.url().includes(`output=${output}`)) ?? null,
    'the window',
  );
  await found.waitForSelector('canvas');
  return found;
};
const HARBOUR = [0x16, 0x40, 0x5a];

it('clean programme goes to the foyer in two presses, while the stream has its graphics', async () => {
  await room();
  await send(page, 'lane.showPicture', { lane: 'lane-2', picture: 'bars' });
  await press(page, 'Open window');
  const foyer = await windowOf('foyer');
  await page.bringToFront();
  // The lane lies over the programme, and not over the foyer's.
  await until(async () => near((await look(foyer, [320, 180])).pixels[0], HARBOUR), 'the clean picture');
  expect((await look(foyer)).size).toEqual([640, 360]);
  const programme = await page.evaluate(
    () =>
      new Promise<number[]>((resolve) => {
        const stop = window.bivocaHost!.outputFrames((frame) => {
          const context = new OffscreenCanvas(640, 360).getContext('2d', { willReadFrequently: true })!;
          context.drawImage(frame, 0, 0, 640, 360);
          frame.close();
          stop();
          resolve([...context.getImageData(320, 180, 1, 1).data].slice(0, 3));
        });
      }),
  );
  expect(near(programme, HARBOUR)).toBe(false);
  await until(
    () => page.evaluate(() => document.querySelector('[data-output="foyer"]')?.textContent?.includes('window open')),
    'that it is open',
  );
  await foyer.close();
  await until(
    () => page.evaluate(() => document.querySelector('[data-output="foyer"]')?.textContent?.includes('no window')),
    'that it was closed',
  );
  // Opened again with the key, it is there again.
  await page.keyboard.press('KeyW');
  const again = await windowOf('foyer');
  await until(async () => near((await look(again, [320, 180])).pixels[0], HARBOUR), 'the picture again');
  await page.bringToFront();
  await send(page, 'lane.hide', { lane: 'lane-2' });
});

it('is covered by key, by remote and all at once, and released; its own pixels are drawn one by one', async () => {
  await send(page, 'screen.set', { output: 'foyer', raster: { width: 480, height: 480 } });
  const foyer = await windowOf('foyer');
  // A picture of another shape is whole, with black above and below.
  await until(async () => {
    const { size, pixels } = await look(foyer, [240, 20], [240, 240], [2, 108], [240, 460]);
    return size.join() === '480,480' && [0, 3].every((i) => near(pixels[i], [0, 0, 0])) && [1, 2].every((i) => near(pixels[i], HARBOUR));
  }, 'the picture in its own shape');
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('KeyT');
  // Eight bars of exactly sixty pixels, from edge to edge.
  await until(async () => near((await look(foyer, [30, 240])).pixels[0], [255, 255, 255]), 'the bars');
  const bars = await look(foyer, [59, 10], [60, 10], [119, 470], [120, 470], [419, 240], [420, 240]);
  for (const [i, colour] of [
    [255, 255, 255],
    [191, 191, 0],
    [191, 191, 0],
    [0, 191, 191],
    [0, 0, 191],
    [0, 0, 0],
  ].entries())
    expect([i, near(bars.pixels[i], colour)]).toEqual([i, true]);
  expect((await post(app, 'screen.over', { outputs: ['foyer'], over: { kind: 'card' } })).status).toBe(200);
  // Straw around the name, the pixels and the display, on the blue of the card.
  await until(async () => {
    const { pixels } = await look(foyer, [1, 1], [100, 60]);
    return near(pixels[0], [0xe2, 0xc4, 0x8d]) && near(pixels[1], [0x16, 0x40, 0x5a]);
  }, 'the card');
  await until(
    () => page.evaluate(() => document.querySelector('[data-output="foyer"]')?.textContent?.includes('Its card')),
    'that it is covered',
  );
  await chord(['Shift'], 'KeyB');
  await until(async () => near((await look(foyer, [240, 240])).pixels[0], [0, 0, 0]), 'black on all');
  expect(await pick(page, (s) => Object.keys(s.desk.air.screens.over).length)).toBe(
    await pick(page, (s) => s.desk.show.screens.outputs.length),
  );
  await chord(['Shift'], 'KeyR');
  await until(async () => near((await look(foyer, [240, 240])).pixels[0], HARBOUR), 'the release');
  // Space is free for the take, whatever control was used.
  await press(page, 'Card');
  await send(page, 'picture.setNext', { picture: 'bars' });
  const refused = await post(app, 'screen.set', { output: 'foyer', raster: { width: 481, height: 480 } });
  expect(refused.status).not.toBe(200);
  await press(page, 'Card');
});

it('opens on its display; one that is pulled is said, and the window opens beside', async () => {
  await page.evaluate(() => {
    const opened: string[] = [];
    Object.assign(window, {
      opened,
      open: (address: string, _name: string, features: string) => (opened.push(`${address} ${features}`), { focus: () => undefined }),
    });
  });
  const opened = () => page.evaluate(() => (window as unknown as { opened: string[] }).opened);
  await press(page, 'Find the displays');
  await page.waitForFunction(() =>
    [...document.querySelectorAll('select[aria-label="Display"] option')].some((o) => o.textContent === 'Hall projector (640×360)'),
  );
  await page.select('select[aria-label="Display"]', 'Hall projector');
  // Both numbers are said, and one press takes those of the display.
  await until(() => page.evaluate(() => document.body.textContent?.includes('The display has 640×360, the output 480×480')), 'both sizes');
  await press(page, 'Take 640×360');
  expect(await pick(page, (s) => s.desk.show.screens.outputs[0]?.raster)).toEqual({ width: 640, height: 360 });
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('KeyW');
  expect((await opened()).at(-1)).toMatch(/output=foyer.* popup,left=1280,top=0,width=640,height=360$/);
  await page.evaluate(() => (window as unknown as { pullDisplay: () => void }).pullDisplay());
  await until(() => page.evaluate(() => document.body.textContent?.includes('Hall projector is not there now')), 'that it is away');
  await page.keyboard.press('KeyW');
  await said(page, 'Hall projector is not there');
  expect((await opened()).at(-1)).toMatch(/width=960,height=540$/);
  // The show goes on.
  const frames = await pick(page, (s) => s.mixer.frames);
  await passes(page, 10);
  expect(await pick(page, (s) => s.mixer.frames)).toBeGreaterThan(frames);
});

it('has a window for the technician: one output large, covered by touch and by keys, another chosen', async () => {
  const id = await page.evaluate(() => window.bivocaHost?.showId ?? '');
  const technician = await browser.browser.newPage();
  await technician.setViewport({ width: 1000, height: 640 });
  await technician.goto(`${app.url}/technician?show=${id}&output=foyer`);
  await technician.waitForSelector('canvas[aria-label="Foyer"]');
  const over = () => pick(page, (s) => s.desk.air.screens.over.foyer?.kind ?? 'none');
  await technician.keyboard.press('KeyB');
  await until(async () => (await over()) === 'black', 'black by key');
  await technician.waitForSelector('button[aria-pressed="true"] ::-p-text(Black)');
  await until(async () => near((await look(technician, [100, 100])).pixels[0], [0, 0, 0]), 'black in its picture');
  await (await technician.waitForSelector('button ::-p-text(Black)'))?.click();
  await until(async () => (await over()) === 'none', 'the release by touch');
  await until(async () => near((await look(technician, [320, 180])).pixels[0], HARBOUR), 'the picture of the output');
  await technician.keyboard.press('ArrowDown');
  await technician.waitForSelector('canvas[aria-label="Judges’ board"]');
  await technician.close();
  await page.bringToFront();
});

it('leaves fewer frames where it is told to', async () => {
  await page.click('[data-output="foyer"]');
  await page.select('select[aria-label="Frames that leave"]', '5');
  expect(await pick(page, (s) => s.desk.show.screens.outputs.find((o) => o.id === 'foyer')?.frameStep)).toBe(5);
  await send(page, 'screen.set', { output: 'foyer', shows: { kind: 'test', pattern: 'sweep' } });
  const stamps = () =>
    page.evaluate(
      () =>
        new Promise<number[]>((resolve) => {
          const host = window.bivocaHost!;
          const output = host.state.desk.show.screens.outputs.find((o) => o.id === 'foyer')!;
          const found: number[] = [];
          const stop = (
            host as unknown as { mixer: { takeOutput: (o: unknown, take: (f: VideoFrame) => void) => () => void } }
          ).mixer.takeOutput(output, (frame) => {
            found.push(Math.round(frame.timestamp / 40_000));
            frame.close();
            if (found.length < 7) return;
            stop();
            resolve(found);
          });
        }),
    );
  // What was on its way before may come first.
  await until(async () => (await stamps()).every((n) => n % 5 === 0), 'every fifth frame, and no other');
  await send(page, 'screen.set', { output: 'foyer', shows: { kind: 'clean' }, frameStep: 1 });
});

it('is made, set, recorded and removed; what is recorded keeps its pixels', async () => {
  await page.click('nav[aria-label="Outputs"] button[title^="New output"]');
  const made = await until(() => pick(page, (s) => s.desk.show.screens.outputs.at(-1) ?? null), 'the output');
  expect(made).toMatchObject({ name: 'Output 4', shows: { kind: 'clean' }, raster: null });
  await page.select('select[aria-label="It shows"]', 'test');
  await page.select('select[aria-label="Test picture"]', 'ramp');
  await until(
    () => pick(page, (s) => JSON.stringify(s.desk.show.screens.outputs.at(-1)?.shows) === '{"kind":"test","pattern":"ramp"}'),
    'the ramp',
  );
  await send(page, 'output.setRecording', { outputId: made.id });
  await press(page, 'Remove Output 4');
  await until(() => pick(page, (s) => s.desk.show.screens.outputs.length === 3), 'its going');
  expect(await pick(page, (s) => s.desk.show.output.recording.outputId)).toBe('programme');
  await chord(['Control'], 'KeyZ');
  await until(() => pick(page, (s) => s.desk.show.screens.outputs.length === 4), 'undo');
  // An output with pixels of its own is recorded in these.
  await send(page, 'screen.set', { output: 'sail-screen', shows: { kind: 'test', pattern: 'bars' } });
  await send(page, 'output.setRecording', { outputId: 'sail-screen' });
  const recording = await startRecording(page);
  await records(page, 400);
  expect((await post(app, 'screen.remove', { output: 'sail-screen' })).status).not.toBe(200);
  const file = await finishRecording(page, recording);
  const harness = await openHarness(browser);
  const { width, height, pictures } = await harness.page.evaluate((data) => window.harness.analyseFile(data), file);
  await harness.close();
  expect([width, height]).toEqual([448, 768]);
  // White and yellow at the left, blue and black at the right, from top to bottom.
  const { grid } = pictures.at(-1)!;
  for (const row of [0, 3, 6]) expect([(grid[row]?.[0] ?? 0) > 150, (grid[row + 2]?.[0] ?? 255) < 80]).toEqual([true, true]);
  expect(browser.troubles).toEqual([]);
});

it('opens the windows again that were open when the browser ended, and none that was closed by hand', async () => {
  const id = await page.evaluate(() => window.bivocaHost?.showId ?? '');
  const kept = () => page.evaluate((show) => localStorage.getItem(`bivoca.windows ${show}`) ?? '', id);
  // The first is closed by hand, while the show is open.
  const sail = await browser.browser.newPage();
  await sail.goto(`${app.url}/programme?show=${id}&output=sail-screen&name=Sail`);
  await page.bringToFront();
  await until(async () => (await kept()).includes('sail-screen'), 'that it is kept');
  await sail.close();
  await until(async () => !(await kept()).includes('sail-screen'), 'that it is forgotten');
  expect(await kept()).toContain('foyer');
  // The browser ends: the window of the show goes first here, and the output's cannot be told from one that was open.
  const foyer = await windowOf('foyer');
  await page.goto('about:blank');
  await foyer.close();
  await page.goto(`${app.url}/show/${id}/screens`);
  await until(() => page.evaluate(() => window.bivocaHost !== undefined).catch(() => false), 'the show', 60_000);
  const again = await windowOf('foyer');
  await until(async () => near((await look(again, [320, 180])).pixels[0], HARBOUR), 'its picture');
  expect((await browser.browser.pages()).filter((p) => p.url().includes('output=sail-screen'))).toEqual([]);
  await again.close();
  await page.bringToFront();
});
