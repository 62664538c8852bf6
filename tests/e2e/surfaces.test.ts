/** Surfaces in the real interface: planned by numbers, mended by a press, shown in real windows whose pixels blend, fit and move together. */
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type KeyInput, type Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Surface } from '#core/screens/surface';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { chord as chordOn, keepOnly, openDemo, passes, pick, post, press, send, until, uploadTo } from '../support/desk';
import { look, near } from '../support/windows';

let app: App;
let browser: TestBrowser;
let page: Page;
beforeAll(async () => {
  app = await startApp();
  browser = await startBrowser();
  ({ page } = browser);
  await openDemo(page, app);
  await send(page, 'picture.cut', { picture: 'harbour' });
  await keepOnly(page, 'harbour', 'bars', 'bug', 'sync');
  await send(page, 'trigger.armAll', { armed: false });
  for (const lane of ['lane-1', 'lane-2', 'lane-3', 'lane-4']) await send(page, 'lane.hide', { lane });
  // The venue is planned anew, small, so that its windows are read quickly.
  await send(page, 'surface.remove', { surface: 'pier-wall' });
  for (const { id } of await pick(page, (s) => s.desk.show.screens.outputs)) await send(page, 'screen.remove', { output: id });
  await chord(['Shift'], 'F2');
  await page.waitForSelector('nav[aria-label="Outputs"]');
  await blur();
});
afterAll(async () => {
  await browser.close();
  await app.close();
});

const chord = (held: ('Alt' | 'Shift' | 'Control')[], key: KeyInput) => chordOn(page, held, key);
const blur = () => page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
const surface = async (): Promise<Surface> => (await pick(page, (s) => s.desk.show.screens.surfaces[0]))!;
/** Types into a field of the numbers, and settles it. */
async function type(label: string, text: string): Promise<void> {
  const field = await page.waitForSelector(`aside input[aria-label="${label}"]`);
  await field?.click({ clickCount: 3 });
  await page.keyboard.type(text);
  await page.keyboard.press('Enter');
  await blur();
}
/** A button of the interface by its words, wherever it is. */
const pressWords = async (words: string) => {
  const button = await page.waitForSelector(`::-p-xpath(//main//button[normalize-space(.)="${words}"])`);
  await button?.click();
};
const findings = () => page.$$eval('section[aria-label="What does not agree"] li', (all) => all.map((li) => li.textContent ?? ''));

const open: Record<string, Page> = {};
/** The window of an output, which notes the stamps of the frames that it draws. */
async function windowOf(output: string): Promise<Page> {
  const own = (open[output] = await browser.browser.newPage());
  await own.evaluateOnNewDocument(() => {
    const drawn: number[] = [];
    Object.assign(window, { drawn });
    const draw = CanvasRenderingContext2D.prototype.drawImage;
    CanvasRenderingContext2D.prototype.drawImage = function noted(this: CanvasRenderingContext2D, ...args: unknown[]) {
      if (args[0] instanceof VideoFrame) drawn.push(args[0].timestamp);
      return (draw as (...a: unknown[]) => void).apply(this, args);
    } as typeof draw;
  });
  const id = await page.evaluate(() => window.bivocaHost?.showId ?? '');
  await own.goto(`${app.url}/programme?show=${id}&output=${output}`);
  await own.waitForSelector('canvas');
  await page.bringToFront();
  return own;
}

it('is planned from real sizes, by keys and numbers; what does not agree is found, and mended by one press', async () => {
  await chord(['Shift'], 'KeyN');
  await until(() => pick(page, (s) => s.desk.show.screens.surfaces.length === 1), 'the surface');
  await until(() => page.evaluate(() => document.activeElement?.getAttribute('aria-label') === 'Name of the surface'), 'its name');
  await page.keyboard.type('Quay');
  await page.keyboard.press('Enter');
  await type('A pixel measures', '10');
  const { id } = await surface();
  for (const [name, width, height] of [
    ['Left', 200, 120],
    ['Right', 200, 120],
    ['Mast', 160, 80],
  ] as const)
    await send(page, 'screen.add', { name, raster: { width, height }, shows: { kind: 'surface', surfaceId: id } });
  // Two projectors by their metres, one beside the other, then an overlap of 0.4 m.
  for (const output of [0, 1]) {
    await pressWords('+ Screen');
    await type('Width', '2 m');
    await type('Height', "4' - 1.92 cm");
    await page.select(
      'aside select[aria-label="Output"]',
      await pick(page, (s) => s.desk.show.screens.outputs.map((o) => o.id)).then((ids) => ids[output]!),
    );
    await pressWords('Done');
  }
  expect((await surface()).screens.map((s) => s.rect)).toEqual([
    { x: 0, y: 0, width: 200, height: 120 },
    { x: 200, y: 0, width: 200, height: 120 },
  ]);
  await blur();
  // Both are chosen on the canvas, with Shift, and lined up with an overlap that is written as a length.
  const on = async (x: number, y: number) => {
    const at = await page.$eval(
      '[data-testid="surface"] svg',
      (svg, px, py) => {
        const p = new DOMPoint(px, py).matrixTransform((svg as SVGSVGElement).getScreenCTM()!);
        return { x: p.x, y: p.y };
      },
      x,
      y,
    );
    return at;
  };
  const first = await on(100, 60);
  await page.mouse.click(first.x, first.y);
  const second = await on(300, 60);
  await page.keyboard.down('Shift');
  await page.mouse.click(second.x, second.y);
  await page.keyboard.up('Shift');
  await page.waitForSelector('aside ::-p-text(2 screens)');
  await type('Line up across: gap', '-0.4 m');
  await until(async () => (await surface()).screens[1]?.rect.x === 160, 'the overlap');
  // It is not blended: said with its size, and one press blends both.
  expect((await findings())[0]).toContain('Screen 1 and Screen 2 overlap by 40×120 and are not blended');
  await pressWords('Blend both');
  await until(async () => (await findings()).every((f) => !f.includes('not blended')), 'that it is mended');
  // An upright mast of LED, fed by an output turned by a quarter.
  await pressWords('Done');
  await chord(['Shift'], 'KeyR');
  await pressWords('+ Screen');
  await page.select(
    'aside select[aria-label="Output"]',
    await pick(page, (s) => s.desk.show.screens.outputs.map((o) => o.id)).then((ids) => ids[2]!),
  );
  for (const [field, text] of [
    ['X', '400'],
    ['Y', '0'],
    ['Width', '80'],
    ['Height', '160'],
  ] as const)
    await type(field, text);
  await page.select('aside select[aria-label="In the output"]', 'right');
  await pressWords('Done');
  await type('Canvas width', '480');
  await type('Canvas height', '160');
  await until(async () => (await findings()).length === 1 && (await findings())[0]!.startsWith('Sizes, outputs'), 'that everything agrees');
  // Nonsense is said, and changes nothing.
  await type('Canvas width', '3 yards');
  await page.waitForSelector('aside [role="alert"]');
  expect((await surface()).width).toBe(480);
  await type('Canvas width', '480');
  await chord(['Control'], 'KeyZ');
  await until(async () => (await surface()).height !== 160, 'undo');
  await chord(['Control', 'Shift'], 'KeyZ');
  await until(async () => (await surface()).height === 160, 'redo');
});

it('is shown in windows as one picture: taken from Next, blended in light, turned, fitted, masked', async () => {
  const [left, right, mast] = await pick(page, (s) => s.desk.show.screens.outputs.map((o) => o.id));
  const { id, screens } = await surface();
  const [a, b, c] = [await windowOf(left!), await windowOf(right!), await windowOf(mast!)];
  await send(page, 'surface.set', { surface: id, blend: { curve: 'straight', gamma: 2, lift: 0 } });
  await send(page, 'layer.background', { surface: id, content: { kind: 'colour', colour: '#c8c8c8' } });
  // A red layer across the gap to the mast, and a blue one on its upper half.
  await send(page, 'layer.add', {
    surface: id,
    name: 'Band',
    content: { kind: 'colour', colour: '#b00000' },
    rect: { x: 300, y: 100, width: 140, height: 20 },
  });
  await send(page, 'layer.add', {
    surface: id,
    name: 'Flag',
    content: { kind: 'colour', colour: '#0000b0' },
    rect: { x: 400, y: 0, width: 80, height: 80 },
  });
  expect((await findings()).some((f) => f.includes('of Band falls between or beside the screens'))).toBe(true);
  expect(near((await look(a, [50, 60])).pixels[0], [0, 0, 0])).toBe(true);
  await blur();
  await chord(['Shift'], 'KeyG');
  const grey = [200, 200, 200];
  await until(async () => near((await look(a, [50, 60])).pixels[0], grey), 'the background on the left');
  await until(async () => near((await look(c, [10, 10])).pixels[0], grey), 'the background on the mast');
  expect((await look(a)).size).toEqual([200, 120]);
  expect((await look(c)).size).toEqual([160, 80]);
  // In the overlap each gives its share; the light of both is that of one: with a gamma of 2, squares add up.
  for (const x of [162, 170, 180, 190, 198]) {
    const [l] = (await look(a, [x, 60])).pixels;
    const [r] = (await look(b, [x - 160, 60])).pixels;
    const share = Math.sqrt((200 - x - 0.5) / 40);
    expect(
      near(
        l,
        grey.map((v) => v * share),
        9,
      ),
      `left at ${x}: ${String(l)}`,
    ).toBe(true);
    expect(Math.abs(Math.hypot(l![0]!, r![0]!) - 200), `light at ${x}`).toBeLessThan(12);
  }
  // The band ends at the right projector, goes on at the mast; the mast's picture lies turned in its output: its top is at the right.
  expect(near((await look(b, [150, 110])).pixels[0], [176, 0, 0])).toBe(true);
  expect(near((await look(c, [150, 40])).pixels[0], [0, 0, 176])).toBe(true);
  expect(near((await look(c, [50, 20])).pixels[0], [176, 0, 0])).toBe(true);
  expect(near((await look(c, [50, 60])).pixels[0], grey)).toBe(true);
  // A corner pulled in: black beside, the picture within; a mask stays dark; half of the light is half of the signal.
  await send(page, 'surface.setScreens', {
    surface: id,
    screens: [screens[2]!.id],
    corners: { topLeft: { x: 40, y: 0 }, topRight: { x: 0, y: 0 }, bottomRight: { x: 0, y: 0 }, bottomLeft: { x: 40, y: 0 } },
  });
  await until(async () => near((await look(c, [20, 40])).pixels[0], [0, 0, 0]), 'black beside the fitted picture');
  expect(near((await look(c, [60, 70])).pixels[0], grey)).toBe(true);
  await send(page, 'surface.setScreens', {
    surface: id,
    screens: [screens[2]!.id],
    corners: null,
    masks: [{ x: 0, y: 60, width: 160, height: 20 }],
    gain: { red: 1, green: 0.5, blue: 0.5 },
  });
  await until(async () => near((await look(c, [50, 70])).pixels[0], [0, 0, 0]), 'the mask');
  await until(async () => near((await look(c, [20, 20])).pixels[0], [200, 100, 100], 14), 'the light of each colour');
  await send(page, 'surface.setScreens', { surface: id, screens: [screens[2]!.id], masks: [], gain: { red: 1, green: 1, blue: 1 } });
});

it('moves in all windows together, of one frame of the show; a window that is closed comes back to the same', async () => {
  const { id } = await surface();
  const outputs = await pick(page, (s) => s.desk.show.screens.outputs.map((o) => o.id));
  // The same moving picture, whole, on each screen.
  const layers = (await surface()).look.layers.map((l) => l.id);
  for (const { id: screen, rect } of (await surface()).screens)
    await send(page, 'layer.add', { surface: id, name: `Moving ${screen}`, content: { kind: 'source', id: 'sync' }, rect });
  await send(page, 'surface.take', { surfaces: [id], cut: true });
  const stamps = async (output: string) => new Set(await open[output]!.evaluate(() => (window as unknown as { drawn: number[] }).drawn));
  const before = await Promise.all(outputs.map(stamps));
  const enough = async () => (await stamps(outputs[0]!)).size > before[0]!.size + 12;
  await until(enough, 'frames in the windows', 40_000);
  const after = await Promise.all(outputs.map(stamps));
  // What one has drawn of these frames the others have too, but for the newest, which may be on its way.
  const fresh = after.map((set, i) => [...set].filter((stamp) => !before[i]!.has(stamp)).sort((x, y) => x - y));
  const until_ = Math.min(...fresh.map((list) => list.at(-3) ?? 0));
  const from = Math.max(...fresh.map((list) => list[1] ?? 0));
  const within = fresh.map((list) => list.filter((s) => s >= from && s <= until_));
  expect(within[0]!.length).toBeGreaterThan(4);
  const missing = within
    .slice(1)
    .map((list) => within[0]!.filter((s) => !list.includes(s)).length + list.filter((s) => !within[0]!.includes(s)).length);
  expect(Math.max(...missing)).toBeLessThanOrEqual(1);
  // Frozen, nothing is drawn any more; let go, it goes on.
  const moving = (await surface()).look.layers.map((l) => l.id).filter((l) => !layers.includes(l));
  await send(page, 'surface.over', { surfaces: [id], over: { kind: 'frozen' } });
  await passes(page, 10);
  const still = await open[outputs[0]!]!.evaluate(() => document.querySelector('canvas')!.toDataURL());
  await passes(page, 15);
  expect(await open[outputs[0]!]!.evaluate(() => document.querySelector('canvas')!.toDataURL())).toBe(still);
  await blur();
  await page.keyboard.press('KeyB');
  await until(async () => near((await look(open[outputs[0]!]!, [50, 60])).pixels[0], [0, 0, 0]), 'black across all');
  await send(page, 'layer.remove', { surface: id, layers: moving });
  await send(page, 'surface.take', { surfaces: [id], cut: true });
  await page.keyboard.press('KeyB');
  await until(async () => near((await look(open[outputs[0]!]!, [50, 60])).pixels[0], [200, 200, 200]), 'the surface again');
  await open[outputs[1]!]!.close();
  const again = await windowOf(outputs[1]!);
  await until(async () => near((await look(again, [100, 40])).pixels[0], [200, 200, 200]), 'the picture in the new window');
});

it('keeps looks as presets, puts them into Next and on air, and goes with the programme where it should', async () => {
  const { id } = await surface();
  const [left] = await pick(page, (s) => s.desk.show.screens.outputs.map((o) => o.id));
  const pixel = async () => (await look(open[left!]!, [50, 60])).pixels[0];
  await pressWords('Store');
  await send(page, 'layer.background', { surface: id, content: { kind: 'colour', colour: '#206020' } });
  await send(page, 'surface.set', { surface: id, change: { kind: 'cut', frames: 1, colour: '#000000' }, withTake: true });
  // The take of the programme says so, and takes it too.
  await send(page, 'picture.setNext', { picture: 'bars' });
  await page.keyboard.press('F1');
  await until(
    () => page.evaluate(() => document.body.textContent?.includes('Quay: background the colour #206020')),
    'that the surface changes with it',
  );
  await blur();
  await page.keyboard.press('Space');
  await until(async () => near(await pixel(), [0x20, 0x60, 0x20]), 'the surface taken with the programme');
  await chord(['Shift'], 'F2');
  await page.waitForSelector('[data-testid="surface"]');
  await pressWords('Preset 1');
  await until(async () => (await surface()).look.background?.colour === '#c8c8c8', 'the preset in Next');
  expect(near(await pixel(), [0x20, 0x60, 0x20])).toBe(true);
  await blur();
  await page.keyboard.press('KeyG');
  await until(async () => near(await pixel(), [200, 200, 200]), 'the take');
  // By remote: what is there already is refused in words, and so is what is not there.
  const same = await post(app, 'surface.take', { surfaces: [id] });
  expect([same.status, JSON.stringify(same.body)]).toEqual([422, expect.stringContaining('What is in Next of Quay is on air.')]);
  expect((await post(app, 'surface.recallPreset', { preset: 'constructor', to: 'air' })).status).not.toBe(200);
  expect((await post(app, 'surface.over', { surfaces: [id], over: { kind: 'test', pattern: 'nothing' } })).status).not.toBe(200);
  // The page loaded anew shows the same on air.
  await page.reload();
  await until(() => page.evaluate(() => window.bivocaHost !== undefined), 'the show', 60_000);
  await until(async () => near(await pixel(), [200, 200, 200]), 'the surface after a reload', 60_000);
});

it('is dragged on the canvas: snapped, along one axis, put back by Escape; layers go to screens and places', async () => {
  await page.waitForSelector('[data-testid="surface"]');
  await passes(page, 5);
  const { id } = await surface();
  const layers = async () => (await surface()).look.layers;
  const on = (x: number, y: number) =>
    page.$eval(
      '[data-testid="surface"] svg',
      (svg, px, py) => {
        const p = new DOMPoint(px, py).matrixTransform((svg as SVGSVGElement).getScreenCTM()!);
        return { x: p.x, y: p.y };
      },
      x,
      y,
    );
  const drag = async (from: [number, number], to: [number, number], end: () => Promise<void>) => {
    const [p, q] = [await on(...from), await on(...to)];
    await page.mouse.move(p.x, p.y);
    await page.mouse.down();
    await page.mouse.move((p.x + q.x) / 2, (p.y + q.y) / 2, { steps: 4 });
    await page.mouse.move(q.x, q.y, { steps: 4 });
    await end();
  };
  const band = async () => (await layers())[0]!.rect;
  const was = await band();
  await drag([350, 110], [380, 60], async () => {
    await until(async () => (await band()).y !== was.y, 'the move');
    await page.keyboard.press('Escape');
    await page.mouse.up();
  });
  expect(await band()).toEqual(was);
  await page.keyboard.down('Shift');
  await page.keyboard.up('Shift');
  // Close to the edge of a screen it snaps to it.
  await drag([350, 110], [452, 110], () => page.mouse.up());
  expect((await band()).x).toBe(400);
  await chord(['Control'], 'KeyZ');
  await until(async () => (await band()).x === was.x, 'undo of the drag as one step');
  // Onto a screen by its button, onto a place by dropping.
  await pressWords('1 Screen 1');
  await until(async () => (await band()).width === 200, 'the layer on the first screen');
  await send(page, 'surface.addPlace', { surface: id, name: 'Middle', rect: { x: 100, y: 20, width: 60, height: 40 } });
  await pressWords('Middle');
  await until(async () => (await band()).x === 100, 'the layer in the place');
  await page.keyboard.press('ArrowRight');
  await chord(['Shift'], 'ArrowDown');
  await until(async () => (await band()).x === 101 && (await band()).y === 30, 'nudges');
  // By its number, from the keyboard alone; the digits themselves still switch cameras.
  await chord(['Alt'], 'Digit1');
  await until(async () => (await band()).x === 100 && (await band()).y === 20, 'the place by key');
  // Nearer about the mouse by the wheel, and panned: what is under it stays under it.
  const under = await on(150, 40);
  const apart = (await on(350, 40)).x - under.x + 2;
  await page.mouse.move(under.x, under.y);
  await page.mouse.wheel({ deltaY: -300 });
  await until(async () => Math.abs((await on(350, 40)).x - (await on(150, 40)).x) > apart, 'the zoom');
  const after = await on(150, 40);
  expect(Math.hypot(after.x - under.x, after.y - under.y)).toBeLessThan(3);
  await page.keyboard.down('Alt');
  await page.mouse.down();
  await page.mouse.move(under.x + 60, under.y + 20, { steps: 4 });
  await page.mouse.up();
  await page.keyboard.up('Alt');
  const panned = await on(150, 40);
  expect([Math.round(panned.x - after.x), Math.round(panned.y - after.y)]).toEqual([60, 20]);
  await pressWords('All');
  // Several are written large, and none are left by Escape.
  await blur();
  await page.keyboard.press('Escape');
  await page.waitForSelector('aside input[aria-label="Name of the surface"]');
});

it('areas, masks and corners are dragged on the output itself, and seen in its window at once', async () => {
  const { id, screens } = await surface();
  const right = screens[1]!;
  const output = right.outputId!;
  await send(page, 'surface.setScreens', {
    surface: id,
    screens: [right.id],
    corners: null,
    masks: [],
    area: { x: 0, y: 0, width: 200, height: 120 },
  });
  await page.click(`[data-output="${output}"]`);
  await page.waitForSelector(`[data-area="${right.id}"]`);
  const on = (x: number, y: number) =>
    page.$eval(
      'svg[aria-label="What screens use of it"]',
      (svg, px, py) => {
        const p = new DOMPoint(px, py).matrixTransform((svg as SVGSVGElement).getScreenCTM()!);
        return { x: p.x, y: p.y };
      },
      x,
      y,
    );
  const drag = async (from: [number, number], to: [number, number], end = () => page.mouse.up()) => {
    const [p, q] = [await on(...from), await on(...to)];
    await page.mouse.move(p.x, p.y);
    await page.mouse.down();
    await page.mouse.move(q.x, q.y, { steps: 5 });
    await end();
  };
  const now = async () => (await surface()).screens[1]!;
  // Chosen by a press, then its lower right corner: half as large. Escape while one drags puts it back.
  await drag([100, 60], [100, 60]);
  await drag([200, 120], [100, 60], async () => {
    await until(async () => (await now()).area!.width < 150, 'the area as it is dragged');
    await page.keyboard.press('Escape');
    await page.mouse.up();
  });
  expect((await now()).area).toEqual({ x: 0, y: 0, width: 200, height: 120 });
  await drag([200, 120], [120, 80]);
  expect((await now()).area).toEqual({ x: 0, y: 0, width: 120, height: 80 });
  const own = open[output] ?? (await windowOf(output));
  await until(async () => near((await look(own, [160, 100])).pixels[0], [0, 0, 0]), 'nothing beside the area');
  await chord(['Control'], 'KeyZ');
  await until(async () => (await now()).area!.width === 200, 'undo of the drag as one step');
  // A mask is moved, and a corner pulled.
  await send(page, 'surface.setScreens', { surface: id, screens: [right.id], masks: [{ x: 10, y: 10, width: 20, height: 20 }] });
  await drag([20, 20], [100, 60]);
  expect((await now()).masks[0]).toMatchObject({ width: 20, height: 20 });
  expect(Math.abs((await now()).masks[0]!.x - 90)).toBeLessThanOrEqual(2);
  const still = { x: 0, y: 0 };
  await send(page, 'surface.setScreens', {
    surface: id,
    screens: [right.id],
    masks: [],
    corners: { topLeft: still, topRight: still, bottomRight: still, bottomLeft: still },
  });
  await page.waitForSelector('[data-corner="topLeft"]');
  await drag([0, 0], [40, 30]);
  const { topLeft, topRight } = (await now()).corners!;
  expect([Math.abs(topLeft.x - 40) <= 1, Math.abs(topLeft.y - 30) <= 1, topRight.x]).toEqual([true, true, 0]);
  await until(async () => near((await look(own, [8, 6])).pixels[0], [0, 0, 0]), 'black beside the corner');
  await send(page, 'surface.setScreens', { surface: id, screens: [right.id], corners: null, area: null });
  await page.click('nav [data-surface]');
});

it('is compared with the picture made for the venue; a plan comes in as a file with its faults said first', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'bivoca-plan-'));
  const { id, screens } = await surface();
  // A template in which the mast stands ten pixels further to the right.
  const bytes = await page.evaluate(async () => {
    const canvas = new OffscreenCanvas(480, 160);
    const context = canvas.getContext('2d')!;
    context.fillStyle = '#101a1c';
    context.fillRect(0, 0, 480, 160);
    context.fillStyle = '#4060a0';
    context.fillRect(0, 0, 360, 120);
    context.fillStyle = '#a04040';
    context.fillRect(390, 0, 80, 160);
    return [...new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer())];
  });
  const still = await page.evaluate(async (data) => {
    const file = new File([new Uint8Array(data)], 'venue.png', { type: 'image/png' });
    return window.bivocaHost!.files.add(file);
  }, bytes);
  await send(page, 'source.add', { name: 'Venue', settings: still });
  const source = await pick(page, (s) => s.desk.show.sources.at(-1)!.id);
  await send(page, 'surface.set', { surface: id, templateId: source });
  await until(
    async () => (await findings()).some((f) => f.includes('Screen 3 is at 400,0 80×160; Venue has it at 390,0 80×160')),
    'what the template says',
  );
  await pressWords('Take 390,0 80×160');
  await until(async () => (await surface()).screens[2]?.rect.x === 390, 'the place of the template');
  await until(async () => (await findings()).every((f) => !f.includes('Venue')), 'that it agrees');
  expect(screens.length).toBe(3);
  const bad = 'Screen,X,Output\nScreen 1,3 yards,Nobody\n';
  await press(page, 'Plan');
  await uploadTo(page, 'File of a plan', folder, 'bad.csv', bad);
  await page.waitForSelector('[role="dialog"] ::-p-text(Line 1, X: “yards” is no unit)');
  await page.waitForSelector('[role="dialog"] ::-p-text(no output here is called “Nobody”)');
  await press(page, 'Leave it');
  const good = 'Screen,X,Y,Width,Height,Real width,Real height\nScreen 1,0,0,,,2 m,1.2 m\nScreen 3,4.1 m,0,80,160,,\n';
  await press(page, 'Plan');
  await uploadTo(page, 'File of a plan', folder, 'good.csv', good);
  await page.waitForSelector('[role="dialog"] ::-p-text(Not in the plan, and so removed: Screen 2)');
  await press(page, 'Bring it in');
  await until(async () => (await surface()).screens.map((s) => `${s.name} ${s.rect.x}`).join() === 'Screen 1 0,Screen 3 410', 'the plan');
  await chord(['Control'], 'KeyZ');
  await until(async () => (await surface()).screens.length === 3, 'undo');
  expect(browser.troubles).toEqual([]);
});
