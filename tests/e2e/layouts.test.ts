/** Pictures are built and switched by hand: layouts from artwork, seats, framings, transitions; checked in recorded pixels. */
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { encode } from 'fast-png';
import { type Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { keepOnly, openDemo, passes, pick, post, press, send, showRuns, until } from '../support/desk';
import { finishRecording, gaveUp, records, startRecording, steps } from '../support/recording';
import { openHarness } from '../support/harness';

let app: App;
let browser: TestBrowser;
let harness: Awaited<ReturnType<typeof openHarness>>;
let files: string;
let page: Page;
const colours: Record<string, string> = {};
beforeAll(async () => {
  app = await startApp();
  browser = await startBrowser();
  harness = await openHarness(browser);
  page = browser.page;
  await page.bringToFront();
  await openDemo(page, app);
  await keepOnly(page, 'shore', 'desk', 'hut');
  files = await mkdtemp(join(tmpdir(), 'bivoca-files-'));
  for (const [name, colour] of [
    ['red', '#c02020'],
    ['blue', '#2020c0'],
    ['green', '#20a020'],
  ] as const) {
    colours[name] = String((await post(app, 'source.add', { name, settings: { kind: 'colour', colour } })).body.id);
  }
});
afterAll(async () => {
  await harness.close();
  await browser.close();
  await app.close();
  await rm(files, { recursive: true, force: true });
});

const room = async (name: 'desk' | 'layouts') => {
  await page.click(`a[href$="/${name}"]`);
  await page.waitForSelector(name === 'desk' ? 'section[aria-label="On air"]' : 'nav[aria-label="Layouts and framings"]');
};
const upload = async (label: string, path: string) => {
  const input = await page.waitForSelector(`input[aria-label="${label}"]`);
  await (input as unknown as { uploadFile(p: string): Promise<void> }).uploadFile(path);
};
const analyse = async (file: string) => {
  const done = await harness.page.evaluate((data) => window.harness.analyseFile(data), file);
  await page.bringToFront();
  return done;
};
const isRed = ([r, , b]: number[]) => (r as number) > 140 && (b as number) < 80;
const isBlue = ([r, , b]: number[]) => (b as number) > 140 && (r as number) < 80;
/** A place of the raster in the layout's stage, in pixels of the page. */
const stagePoint = async (x: number, y: number) => {
  const stage = await (await page.waitForSelector('[data-testid="stage"]'))?.boundingBox();
  if (!stage) throw new Error('no stage');
  return [stage.x + (x * stage.width) / 640, stage.y + (y * stage.height) / 360] as const;
};
const drag = async (from: [number, number], to: [number, number]) => {
  const [a, b] = [await stagePoint(...from), await stagePoint(...to)];
  await page.mouse.move(...a);
  await page.mouse.down();
  await page.mouse.move((a[0] + b[0]) / 2, (a[1] + b[1]) / 2, { steps: 3 });
  await page.mouse.move(...b, { steps: 3 });
  await page.mouse.up();
};

describe('a two-box from artwork', () => {
  it('finds the windows, fills the seats, swaps them on air, and glides to a one-box: in recorded pixels', async () => {
    // Artwork of 1280 × 720 with two openings, the first with rounded corners.
    const data = new Uint8Array(1280 * 720 * 4);
    for (let y = 0; y < 720; y += 1) {
      for (let x = 0; x < 1280; x += 1) {
        const first =
          x >= 64 && x < 608 && y >= 200 && y < 600 && Math.hypot(Math.max(0, 84 - x, x - 587), Math.max(0, 220 - y, y - 579)) < 20;
        const open = first || (x >= 672 && x < 1216 && y >= 200 && y < 600);
        data.set(open ? [0, 0, 0, 0] : [20, 60, 40, 255], (y * 1280 + x) * 4);
      }
    }
    await writeFile(join(files, 'two windows.png'), encode({ width: 1280, height: 720, data, channels: 4 }));
    await room('layouts');
    await press(page, 'Layout');
    await press(page, 'Empty');
    await until(() => pick(page, (s) => s.desk.show.layouts.length === 5), 'the layout');
    const id = await pick(page, (s) => s.desk.show.layouts.at(-1)?.id ?? '');
    await page.click('aside [role=tab]:nth-of-type(2)');
    await upload('File with frame artwork', join(files, 'two windows.png'));
    await until(() => pick(page, (s) => (s.desk.show.layouts.at(-1)?.boxes.length ?? 0) === 2), 'boxes under the windows');
    // The usual bleed of 2 pixels of the raster.
    expect(await pick(page, (s) => s.desk.show.layouts.at(-1)?.boxes.map((b) => [b.name, b.rect]))).toEqual([
      ['Host', { x: 30, y: 98, width: 276, height: 204 }],
      ['Guest 1', { x: 334, y: 98, width: 276, height: 204 }],
    ]);
    await page.click('aside [role=tab]:nth-of-type(4)');
    await page.select('select[aria-label="Who fills Host"]', colours.red as string);
    await page.select('select[aria-label="Who fills Guest 1"]', colours.blue as string);
    await press(page, 'Next');
    await room('desk');
    await page.keyboard.press('KeyX');
    expect(await pick(page, (s) => s.desk.air.onAirId)).toBe(id);
    const one = String((await post(app, 'layout.add', { starter: 'one', name: 'Host alone' })).body.id);
    await send(page, 'picture.setNext', { picture: one });
    await passes(page, 10);
    const recording = await startRecording(page);
    await records(page, 900);
    await press(page, 'Seats · 1');
    await press(page, 'Swap Host with another');
    await press(page, 'Swap with Guest 1');
    await records(page, 900);
    await page.keyboard.press('KeyH');
    await page.keyboard.press('Space');
    await records(page, 2200);
    const { pictures } = await analyse(await finishRecording(page, recording));
    const cell = (n: number) => pictures.map((p) => p.grid[n] as number[]);
    const [left, above, right] = [cell(3), cell(1), cell(5)];
    expect([isRed(left[5] as number[]), isBlue(right[5] as number[])]).toEqual([true, true]);
    const swapped = left.findIndex(isBlue);
    expect(swapped).toBeGreaterThan(5);
    expect(isRed(right[swapped] as number[])).toBe(true);
    // Above the windows there is artwork until the host's box has grown over it, and then all is the host.
    expect((above[5] as number[])[1]).toBeGreaterThan(50);
    const grown = above.findIndex(isBlue);
    const whole = right.findIndex((c, i) => i > swapped && isBlue(c));
    expect(Math.min(grown, whole)).toBeGreaterThan(swapped);
    expect(pictures.at(-1)?.grid.every(isBlue)).toBe(true);
    // The glide took its second: not a cut.
    expect((pictures[whole]?.time ?? 0) - (pictures[swapped]?.time ?? 0)).toBeGreaterThan(0.4);
  });

  it('says so when artwork has no openings, or cannot be read, and changes nothing', async () => {
    await room('layouts');
    const before = await pick(page, (s) => JSON.stringify(s.desk.show.layouts));
    await writeFile(join(files, 'closed.png'), encode({ width: 64, height: 36, data: new Uint8Array(64 * 36 * 4).fill(255), channels: 4 }));
    await writeFile(join(files, 'broken.png'), Buffer.from('not a picture'));
    await page.click('aside [role=tab]:nth-of-type(2)');
    await upload('File with frame artwork', join(files, 'closed.png'));
    await until(() => page.evaluate(() => document.body.textContent?.includes('has no transparent openings')), 'the reason');
    await upload('File with frame artwork', join(files, 'broken.png'));
    await until(
      () => page.evaluate(() => document.body.textContent?.includes('broken.png cannot be used: it cannot be decoded')),
      'the other reason',
    );
    expect(await pick(page, (s) => JSON.stringify(s.desk.show.layouts))).toBe(before);
  });
});

describe('the editor', () => {
  const boxes = async () => pick(page, (s) => s.desk.show.layouts.find((l) => l.name === 'Bench')?.boxes ?? []);

  it('drags sixteen boxes in one step a move, with one post to the mixer, and undoes them all at once', async () => {
    const id = String((await post(app, 'layout.add', { name: 'Sixteen' })).body.id);
    for (let i = 0; i < 16; i += 1)
      await post(app, 'box.add', {
        layout: id,
        name: `Box ${i}`,
        rect: { x: 40 + (i % 4) * 100, y: 40 + Math.floor(i / 4) * 60, width: 80, height: 50 },
        content: { kind: 'source', id: colours.red },
      });
    await room('layouts');
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('nav button')].find((b) => b.textContent?.includes('Sixteen'))?.click(),
    );
    const rects = () => pick(page, (s) => s.desk.show.layouts.find((l) => l.name === 'Sixteen')?.boxes.map((b) => b.rect.x) ?? []);
    const before = await rects();
    expect(before).toHaveLength(16);
    const at = (i: number) => stagePoint(80 + (i % 4) * 100, 65 + Math.floor(i / 4) * 60);
    await page.mouse.click(...(await at(0)));
    await page.keyboard.down('Shift');
    for (let i = 1; i < 16; i += 1) await page.mouse.click(...(await at(i)));
    await page.keyboard.up('Shift');
    await page.evaluate(() => {
      const counts = { moves: 0, steps: 0, posts: 0 };
      Object.assign(window, { counts });
      const host = window.bivocaHost as NonNullable<typeof window.bivocaHost>;
      const all = host.dispatchAll.bind(host);
      host.dispatchAll = (...given) => ((counts.steps += 1), all(...given));
      const post = Worker.prototype.postMessage;
      Worker.prototype.postMessage = function (this: Worker, ...given: [unknown]) {
        if ((given[0] as { type?: string }).type === 'desk') counts.posts += 1;
        return post.apply(this, given as never);
      };
    });
    const steps = (await pick(page, (s) => s.history.past.length)) as number;
    await drag([80, 65], [180, 105]);
    const counts = await page.evaluate(() => (window as unknown as { counts: { steps: number; posts: number } }).counts);
    const after = await rects();
    expect(new Set(after.map((x, i) => x - (before[i] ?? 0))).size).toBe(1);
    expect(after[0]).not.toBe(before[0]);
    expect(counts.steps).toBeGreaterThan(0);
    expect(counts.posts).toBeLessThanOrEqual(counts.steps);
    expect(await pick(page, (s) => s.history.past.length)).toBe(steps + 1);
    await press(page, 'Undo');
    expect(await rects()).toEqual(before);
  });

  it('moves, snaps, resizes and crops by the mouse, and undoes a drag in one step', async () => {
    const id = String((await post(app, 'layout.add', { name: 'Bench' })).body.id);
    for (const [name, x] of [
      ['A', 100],
      ['B', 300],
      ['C', 420],
    ] as const)
      await post(app, 'box.add', {
        layout: id,
        name,
        rect: { x, y: 103, width: 90, height: 60 },
        content: { kind: 'source', id: colours.red },
      });
    await room('layouts');
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('nav button')].find((b) => b.textContent?.includes('Bench'))?.click(),
    );
    await passes(page, 8);
    await drag([145, 133], [66, 133]);
    // 21 pixels from the left is near the 93 % safe area at 22.4.
    expect((await boxes())[0]?.rect).toMatchObject({ x: 22, y: 103, width: 90 });
    await press(page, 'Undo');
    expect((await boxes())[0]?.rect.x).toBe(100);
    await page.mouse.click(...(await stagePoint(145, 133)));
    await drag([190, 163], [211, 191]);
    expect((await boxes())[0]?.rect).toMatchObject({ x: 100, y: 103 });
    expect((await boxes())[0]?.rect.width).toBeGreaterThan(105);
    await page.keyboard.press('KeyC');
    const before = (await boxes())[0];
    await drag([100, 103 + (before?.rect.height ?? 0) / 2], [130, 103 + (before?.rect.height ?? 0) / 2]);
    expect((await boxes())[0]?.crop.left).toBeGreaterThan(0.2);
    expect((await boxes())[0]?.rect).toEqual(before?.rect);
    await page.keyboard.press('KeyC');
  });

  it('works by keys alone: choosing, nudging, duplicating, pasting, removing; and by typed numbers', async () => {
    await page.keyboard.press('Escape');
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.keyboard.press('KeyN');
    await page.keyboard.press('KeyN');
    const start = (await boxes())[1]?.rect.x ?? 0;
    await page.keyboard.press('ArrowRight');
    await page.keyboard.down('Shift');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.up('Shift');
    expect((await boxes())[1]?.rect.x).toBe(start + 11);
    await page.click('aside [role=tab]:nth-of-type(1)');
    const width = await page.waitForSelector('aside input[aria-label="Width"]');
    await width?.click({ count: 3 });
    await page.keyboard.type('1280/4-20%');
    await page.keyboard.press('Enter');
    expect((await boxes())[1]?.rect.width).toBe(1280 / 4 - 128);
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.keyboard.down('Control');
    await page.keyboard.press('KeyC');
    await page.keyboard.press('KeyA');
    await page.keyboard.up('Control');
    expect(await page.evaluate(() => document.querySelector('aside')?.textContent)).toContain('3 boxes: a change goes to all of them');
    await page.keyboard.down('Control');
    await page.keyboard.press('KeyV');
    await page.keyboard.up('Control');
    expect(new Set((await boxes()).map((b) => JSON.stringify(b.rect))).size).toBe(1);
    await page.keyboard.down('Control');
    await page.keyboard.press('KeyD');
    await page.keyboard.up('Control');
    expect(await boxes()).toHaveLength(6);
    await page.keyboard.press('Delete');
    expect(await boxes()).toHaveLength(3);
  });

  it('applies a style by its key, shows what was set by hand, and hands it back', async () => {
    await page.keyboard.press('Escape');
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.keyboard.press('KeyN');
    await page.keyboard.down('Alt');
    await page.keyboard.press('Digit1');
    await page.keyboard.up('Alt');
    expect((await boxes()).filter((b) => b.styleId === 'regatta')).toHaveLength(1);
    const corners = await page.waitForSelector('aside input[aria-label="Corners"]');
    await corners?.click({ count: 3 });
    await page.keyboard.type('3');
    await page.keyboard.press('Enter');
    await until(async () => (await boxes()).some((b) => b.own.includes('radius')), 'the corners to be its own');
    await page.evaluate(() =>
      [...document.querySelectorAll('aside button')]
        .find((b) => b.textContent?.includes('by hand'))
        ?.dispatchEvent(new MouseEvent('click', { bubbles: true })),
    );
    expect((await boxes()).some((b) => b.own.includes('radius'))).toBe(false);
  });
});

describe('things dropped on the picture', () => {
  /** Drops a file or a style at a place of the raster. */
  const drop = async (x: number, y: number, what: { file: string; name: string } | { style: string }) => {
    const [clientX, clientY] = await stagePoint(x, y);
    await page.evaluate(
      (at, dropped) => {
        const dataTransfer = new DataTransfer();
        if ('style' in dropped) dataTransfer.setData('application/x-bivoca-style', dropped.style);
        else
          dataTransfer.items.add(
            new File([Uint8Array.from(atob(dropped.file), (c) => c.charCodeAt(0))], dropped.name, { type: 'image/png' }),
          );
        const stage = document.querySelector('[data-testid="stage"]');
        for (const type of ['dragover', 'drop'])
          stage?.dispatchEvent(new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer, ...at }));
      },
      { clientX, clientY },
      what,
    );
  };

  it('a style goes to the box under it; artwork gets boxes under its openings', async () => {
    await page.keyboard.press('Escape');
    const id = String((await post(app, 'layout.add', { name: 'Drops', starter: 'two' })).body.id);
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('nav button')].find((b) => b.textContent?.includes('Drops'))?.click(),
    );
    await passes(page, 8);
    const boxes = () => pick(page, (s) => s.desk.show.layouts.find((l) => l.name === 'Drops')?.boxes ?? []);
    await drop(480, 180, { style: 'regatta' });
    expect((await boxes()).map((b) => b.styleId)).toEqual([null, 'regatta']);
    await drop(5, 5, { style: 'regatta' });
    expect((await boxes()).map((b) => b.styleId)).toEqual([null, 'regatta']);
    const data = new Uint8Array(320 * 180 * 4).fill(255);
    for (let y = 40; y < 140; y += 1) data.fill(0, (y * 320 + 200) * 4, (y * 320 + 300) * 4);
    const png = Buffer.from(encode({ width: 320, height: 180, data, channels: 4 })).toString('base64');
    await drop(300, 100, { file: png, name: 'one window.png' });
    await until(async () => (await boxes())[0]?.rect.x === 398, 'the first box under the opening');
    expect((await boxes())[0]?.rect).toEqual({ x: 398, y: 78, width: 204, height: 204 });
    await send(page, 'layout.remove', { layout: id });
  });
});

describe('a framing', () => {
  it('gets its key colour from a press on the picture, and is switched like a source', async () => {
    await press(page, 'Framings');
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('nav button')].find((b) => b.textContent?.includes('Wind analyst'))?.click(),
    );
    await send(page, 'framing.set', {
      framing: 'analyst',
      key: {
        kind: 'chroma',
        colour: '#0000ff',
        similarity: 0.3,
        softness: 0.2,
        spill: 0.5,
        garbageLeft: 0,
        garbageTop: 0,
        garbageRight: 0,
        garbageBottom: 0,
      },
    });
    await press(page, 'Pick');
    await passes(page, 8);
    const monitor = await (await page.waitForSelector('canvas[aria-label="The whole source"]'))?.boundingBox();
    if (!monitor) throw new Error('no monitor');
    await page.mouse.click(monitor.x + monitor.width * 0.9, monitor.y + monitor.height * 0.3);
    const colour = await pick(page, (s) => s.desk.show.framings.find((f) => f.id === 'analyst')?.key);
    const [r, g, b] = [1, 3, 5].map((i) => parseInt((colour as { colour: string }).colour.slice(i, i + 2), 16)) as [number, number, number];
    expect(g).toBeGreaterThan(140);
    expect(Math.max(r, b)).toBeLessThan(120);
    await press(page, 'To Next');
    expect(await pick(page, (s) => s.desk.air.nextId)).toBe('analyst');
  });
});

describe('transitions', () => {
  it('are tried out without touching air, kept, and put at hand', async () => {
    await room('desk');
    await send(page, 'picture.cut', { picture: colours.red });
    await send(page, 'picture.setNext', { picture: colours.blue });
    await press(page, 'All transitions');
    await page.waitForSelector('select[aria-label="Kind of transition"]');
    await page.select('select[aria-label="Kind of transition"]', 'wipe');
    await page.select('select[aria-label="Shape of the wipe"]', 'iris');
    const seen = new Set<string>();
    await until(async () => {
      const colour = await page.evaluate(() => {
        const shown = document.querySelector<HTMLCanvasElement>('canvas[aria-label="The armed transition, tried out"]');
        const context = document.createElement('canvas').getContext('2d');
        if (!shown || !context) return '';
        context.drawImage(shown, 0, 0, 4, 4);
        const [r = 0, , b = 0] = context.getImageData(1, 1, 1, 1).data;
        return r > b ? 'red' : 'blue';
      });
      seen.add(colour);
      return seen.has('red') && seen.has('blue');
    }, 'the trial to run');
    expect(await pick(page, (s) => [s.desk.air.onAirId, s.desk.air.transition])).toEqual([colours.red, null]);
    await page.type('input[aria-label="Name for the armed transition"]', 'Porthole');
    await press(page, 'Keep');
    await press(page, 'Put Porthole at hand');
    await press(page, 'Close Transitions');
    await page.keyboard.press('KeyD');
    await page.keyboard.press('KeyF');
    expect(await pick(page, (s) => s.desk.show.transition)).toMatchObject({ kind: 'wipe', shape: 'iris' });
  });

  it('plays a stinger clip with its alpha and its sound, changes at its cut, and dissolves when its file is missing', async () => {
    const clip = await harness.page.evaluate(() => window.harness.makeTransparentClip('#20c040', 2));
    await page.bringToFront();
    await writeFile(join(files, 'sting.webm'), Buffer.from(clip, 'base64'));
    await press(page, 'Add');
    const input = await page.waitForSelector('[role=dialog] input[type=file]');
    await (input as unknown as { uploadFile(p: string): Promise<void> }).uploadFile(join(files, 'sting.webm'));
    const source = await until(() => pick(page, (s) => s.desk.show.sources.find((x) => x.name === 'sting')), 'the clip');
    expect(source.settings).toMatchObject({ kind: 'media', hasAlpha: true, hasSound: true });
    await page.keyboard.press('Escape');
    await until(() => page.evaluate((id) => window.bivocaHost?.state.health[id]?.state === 'live', source.id), 'the clip to be ready');
    for (const s of await pick(page, (x) => x.desk.show.sources.map((y) => y.id)))
      if (s !== source.id) await send(page, 'sound.setChannel', { source: s, muted: true });
    await send(page, 'picture.arm', { kind: 'stinger', stingerId: source.id, frames: 50, cutFrame: 25, easing: 'linear' });
    await passes(page, 8);
    const recording = await startRecording(page);
    await records(page, 800, 8);
    const before = await gaveUp(page);
    await page.keyboard.press('Space');
    await records(page, 3200);
    const lost = (await gaveUp(page)) - before;
    const { pictures, envelope } = await analyse(await finishRecording(page, recording));
    const green = pictures.findIndex((p) => (p.grid[4]?.[1] ?? 0) > 120);
    expect(green).toBeGreaterThan(5);
    // The clip is transparent above its band: the old picture shows there, and from the cut on the new one.
    expect(isRed(pictures[green + 3]?.grid[1] as number[])).toBe(true);
    const changed = pictures.findIndex((p) => isBlue(p.grid[1] as number[]));
    // What a machine gave up cannot be seen: by so much either of the two may come late.
    const slack = 0.15 + lost + 0.04 * steps(pictures).leftOut;
    const shown = (pictures[changed]?.time ?? 0) - (pictures[green]?.time ?? 0);
    expect(shown).toBeLessThan(1 + slack);
    // Its beginning is missing by as much as the busy page told the mixer late.
    expect(shown).toBeGreaterThan(0.5 - lost);
    expect((pictures[changed + 3]?.grid[4] ?? [])[1]).toBeGreaterThan(120);
    expect(pictures.at(-1)?.grid.every(isBlue)).toBe(true);
    expect(Math.max(...envelope)).toBeGreaterThan(0.1);

    const asset = (source.settings as { assetId: string }).assetId;
    await page.evaluate(
      async (name) => (await (await navigator.storage.getDirectory()).getDirectoryHandle('assets')).removeEntry(name),
      asset,
    );
    await page.evaluate((id) => window.bivocaHost?.restartSource(id), source.id);
    await until(
      () =>
        page.evaluate(() => document.querySelector('ul[aria-label="The take will change"]')?.textContent?.includes('Dissolves, as sting')),
      'the warning before the take',
    );
    await page.keyboard.press('Space');
    expect(await pick(page, (s) => s.desk.air.transition?.settings.kind)).toBe('dissolve');
    await passes(page, 58);
  });

  it('uses a transition of its own for one picture', async () => {
    await send(page, 'transition.override', {
      to: colours.green,
      settings: { ...(await pick(page, (s) => s.desk.show.transition)), kind: 'cut' },
    });
    await send(page, 'picture.setNext', { picture: colours.green });
    await until(
      () => page.evaluate(() => document.querySelector('ul[aria-label="The take will change"]')?.textContent?.includes('(cut)')),
      'the summary to say cut',
    );
    await page.keyboard.press('Space');
    expect(await pick(page, (s) => [s.desk.air.onAirId, s.desk.air.transition])).toEqual([colours.green, null]);
  });
});

describe('lanes', () => {
  it('stay out of the clean programme', async () => {
    await send(page, 'lane.show', { lane: 'lane-2' });
    const colour = (feed: 'programme' | 'clean') =>
      page.evaluate(
        (which) =>
          new Promise<number[]>((resolve) => {
            const stop = window.bivocaHost?.outputFrames((frame) => {
              const context = new OffscreenCanvas(640, 360).getContext('2d');
              context?.drawImage(frame, 0, 0, 640, 360);
              frame.close();
              stop?.();
              resolve([...(context?.getImageData(475, 30, 1, 1).data ?? [])]);
            }, which);
          }),
        feed,
      );
    await until(async () => ((await colour('programme'))[1] ?? 255) < 110, 'the bug in the programme');
    expect((await colour('clean'))[1]).toBeGreaterThan(130);
    // Recorded clean, the card in its lane is not there.
    await send(page, 'lane.setContent', { lane: 'lane-1', content: { kind: 'picture', id: colours.blue } });
    await send(page, 'lane.show', { lane: 'lane-1' });
    await send(page, 'output.setRecording', { outputId: 'clean' });
    await passes(page, 18);
    const recording = await startRecording(page);
    await records(page, 1500, 22);
    const { pictures } = await analyse(await finishRecording(page, recording));
    expect(pictures.length).toBeGreaterThan(20);
    expect(pictures.every((p) => p.grid.every(([r, g, b]) => g > 120 && r < 80 && b < 80))).toBe(true);
    await send(page, 'output.setRecording', { feed: 'programme' });
    for (const lane of ['lane-1', 'lane-2']) await send(page, 'lane.hide', { lane });
  });
});

it('survives a reload with all of it', async () => {
  const before = await pick(page, (s) =>
    JSON.stringify([s.desk.show.layouts, s.desk.show.seats, s.desk.show.transitions, s.desk.air.onAirId]),
  );
  await passes(page, 15);
  await page.reload();
  await showRuns(page);
  expect(
    await pick(page, (s) => JSON.stringify([s.desk.show.layouts, s.desk.show.seats, s.desk.show.transitions, s.desk.air.onAirId])),
  ).toBe(before);
});

it('has made no error and leaked no frame in all of this', () => {
  expect(browser.troubles).toEqual([]);
});
