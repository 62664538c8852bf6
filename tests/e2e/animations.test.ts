/** Animations that were made elsewhere: brought in, on air, filled in, and what cannot be done of them. */
import { readFile } from 'node:fs/promises';
import { crc32, deflateSync } from 'node:zlib';
import { strToU8, zipSync } from 'fflate';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { animation, moving, plate, words } from '#standins/graphics/lottie-parts';
import { sfntOf } from '#engine/graphics/sfnt';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { keepOnly, openDemo, passes, pick, press, send, until, said as saidOn, uploadTo } from '../support/desk';
import { Downloads } from '../support/downloads';
import { differingPixels, keepFrame, pixelOf } from '../support/kept-frames';

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
  await page.keyboard.press('F4');
  await page.waitForSelector('main h1');
});
afterAll(async () => {
  await downloads.close();
  await browser.close();
  await app.close();
});

/** A red square that goes from left to right until frame 20, and back from 80 on; words over a green ground that stands. */
const template = (extra: object = {}) => ({
  ...animation(
    'Square',
    [
      words('Title', [100, 600], 'Ada', 'Oswald', 80, '#ffffff', { opacity: moving([0, [0]], [10, [100]], [85, [100]], [99, [0]]) }),
      plate('Square', [0, 0], [120, 120], '#e01010', {
        position: moving([0, [100, 200]], [20, [1100, 200]], [80, [1100, 200]], [99, [100, 200]]),
      }),
      plate('Ground', [640, 600], [1280, 160], '#107020'),
    ],
    30,
  ),
  ...extra,
});

const said = (words: string) => saidOn(page, words);
const upload = (name: string, data: string | Uint8Array) => uploadTo(page, 'Graphic file', downloads.folder, name, data);
/** A PNG of one colour as a data address (PNG specification, third edition). */
function pngOf(width: number, height: number, colour: readonly number[]): string {
  const chunk = (type: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(type), data]);
    const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
    length.writeUInt32BE(data.length);
    sum.writeUInt32BE(crc32(body));
    return Buffer.concat([length, body, sum]);
  };
  const header = Buffer.alloc(13);
  header.writeUInt32BE(width, 0);
  header.writeUInt32BE(height, 4);
  header.set([8, 2], 8);
  const row = Buffer.from([0, ...Array.from({ length: width }, () => colour).flat()]);
  const pixels = deflateSync(Buffer.concat(Array.from({ length: height }, () => row)));
  const mark = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
  const png = Buffer.concat([mark, chunk('IHDR', header), chunk('IDAT', pixels), chunk('IEND', Buffer.alloc(0))]);
  return `data:image/png;base64,${png.toString('base64')}`;
}

/** The part of its animation that takes a live picture. */
const partOf = ({ elements }: { elements: { content: unknown }[] }): string =>
  (elements[0]?.content as { parts: { id: string; kind: string }[] }).parts.find((p) => p.kind === 'window')?.id ?? '';

/** Pixels that are not the green ground in a kept frame, those that are so in just one of it and `drawn`, and the red ones in it. */
const greenOf = (on: TestBrowser['page'], name: string): Promise<{ notGreen: number; apart: number; red: number }> =>
  on.evaluate((key) => {
    const kept = (window as unknown as { kept: Record<string, Uint8ClampedArray> }).kept;
    const [p, q] = [kept[key] as Uint8ClampedArray, kept.drawn as Uint8ClampedArray];
    const count = { notGreen: 0, apart: 0, red: 0 };
    for (let i = 0; i < p.length; i += 4) {
      const here = !(Math.abs(p[i]! - 16) < 14 && Math.abs(p[i + 1]! - 112) < 14 && Math.abs(p[i + 2]! - 32) < 14);
      const there = !(Math.abs(q[i]! - 16) < 14 && Math.abs(q[i + 1]! - 112) < 14 && Math.abs(q[i + 2]! - 32) < 14);
      count.notGreen += here ? 1 : 0;
      count.apart += here !== there ? 1 : 0;
      count.red += p[i]! > 190 && p[i + 1]! < 60 ? 1 : 0;
    }
    return count;
  }, name);
const graphics = () => pick(page, (s) => s.desk.show.graphics.list.length);
const last = () => pick(page, (s) => s.desk.show.graphics.list.at(-1)?.id ?? '');

it('comes in by its file: parts are chosen, where it waits is said, and it is on air as it was made', async () => {
  const before = await graphics();
  await upload('square.json', JSON.stringify(template()));
  await said('Bring in square.json');
  await said('It waits at frame 30, as its markers say.');
  await press(page, 'Bring it in');
  await until(async () => (await graphics()) === before + 1, 'the graphic');
  const id = await last();
  expect(await pick(page, (s) => s.desk.show.graphics.list.at(-1)?.fields.map((f) => f.name))).toEqual(['Title']);
  await send(page, 'lane.showPicture', { lane: 'lane-1', picture: id });
  // At its hold the square stands at the right, the ground is green.
  await until(async () => ((await pixelOf(page, 550, 100))[0] ?? 0) > 180, 'the square where it waits');
  const [red, green] = [await pixelOf(page, 550, 100), await pixelOf(page, 620, 300)];
  expect([red[0] ?? 0, red[1] ?? 255].map((v, i) => (i === 0 ? v > 190 : v < 60))).toEqual([true, true]);
  expect([green[0] ?? 255, green[1] ?? 0].map((v, i) => (i === 0 ? v < 70 : v > 90))).toEqual([true, true]);
  // Its left is the sea: the square has gone from there.
  expect((await pixelOf(page, 50, 100))[0]).toBeLessThan(60);
});

it('draws nothing while it waits, and changes just the layers whose values change', async () => {
  const id = await last();
  await send(page, 'entry.add', {
    graphic: id,
    values: [{ fieldId: await pick(page, (s) => s.desk.show.graphics.list.at(-1)?.fields[0]?.id), value: { kind: 'text', text: 'Bo' } }],
  });
  const entry = await pick(page, (s) => s.desk.show.graphics.list.at(-1)?.entries[0]?.id ?? '');
  await passes(page, 20);
  await keepFrame(page, 'before');
  await passes(page, 10);
  await keepFrame(page, 'still');
  const TITLE = { x: 40, y: 250, width: 260, height: 100 };
  expect(await differingPixels(page, 'before', 'still', TITLE)).toEqual({ inside: 0, outside: 0 });
  await send(page, 'lane.showPicture', { lane: 'lane-1', picture: entry });
  const most = { inside: 0, outside: 0 };
  for (let i = 0; i < 12; i += 1) {
    await keepFrame(page, 'moves');
    const now = await differingPixels(page, 'before', 'moves', TITLE);
    most.inside = Math.max(most.inside, now.inside);
    most.outside = Math.max(most.outside, now.outside);
  }
  expect(most.inside).toBeGreaterThan(200);
  expect(most.outside).toBe(0);
  await passes(page, 110);
  await keepFrame(page, 'after');
  const after = await differingPixels(page, 'before', 'after', TITLE);
  expect([after.inside > 100, after.outside]).toEqual([true, 0]);
  await send(page, 'lane.hide', { lane: 'lane-1' });
  await until(async () => ((await pixelOf(page, 620, 300))[1] ?? 255) < 90, 'its end');
});

it('asks which one of a file with several, brings images along, and lists what it cannot do by layer', async () => {
  const dot = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8DwHwAFBQIAX8jx0gAAAABJRU5ErkJggg==';
  const image = {
    ty: 2,
    nm: 'Face',
    refId: 'face',
    ip: 0,
    op: 100,
    st: 0,
    ks: {
      o: { a: 0, k: 100 },
      r: { a: 0, k: 0, x: 'time*9' },
      a: { a: 0, k: [0, 0] },
      s: { a: 0, k: [30000, 30000] },
      p: { a: 0, k: [500, 200] },
    },
  };
  const pictured = { ...template(), layers: [image], assets: [{ id: 'face', w: 1, h: 1, u: '/images/', p: 'face.png', e: 0 }] };
  const zip = zipSync({
    'manifest.json': strToU8('{}'),
    'animations/one.json': strToU8(JSON.stringify(template())),
    'animations/two.json': strToU8(JSON.stringify(pictured)),
    'images/face.png': Uint8Array.from(atob(dot), (c) => c.charCodeAt(0)),
  });
  await upload('several.lottie', zip);
  await said('Which animation of the file');
  await page.select('select[aria-label="Which animation of the file"]', '1');
  await said('Face: an expression is not run');
  await press(page, 'Bring it in');
  const id = await until(async () => {
    const now = await pick(page, (s) => s.desk.show.graphics.list.at(-1));
    return now?.name === 'two' ? now.id : null;
  }, 'the second animation');
  await send(page, 'lane.showPicture', { lane: 'lane-1', picture: id });
  // The red dot of the file, three hundred times as large.
  await until(async () => ((await pixelOf(page, 320, 170))[0] ?? 0) > 180, 'the image of the file');
  await send(page, 'lane.hide', { lane: 'lane-1' });
});

it('lets a live picture stand for an image layer: where the image was drawn, under what lay over it, and as it moves', async () => {
  const fixed = (k: unknown) => ({ a: 0, k });
  const ease = { i: { x: 0.4, y: 1 }, o: { x: 0.7, y: 0.1 } };
  const layer = (change: object) => ({ ip: 0, op: 100, st: 0, sr: 1, ...change });
  const place = (change: object) => ({
    o: fixed(100),
    r: fixed(0),
    a: fixed([0, 0]),
    s: fixed([100, 100]),
    p: fixed([0, 0]),
    ...change,
  });
  // An image in a composition, hung on an empty layer, that turns while it goes along a curve; it waits in the middle of that.
  const face = layer({
    ty: 2,
    nm: 'Face',
    refId: 'face',
    ind: 1,
    parent: 2,
    ks: place({ a: fixed([150, 100]) }),
  });
  const hook = layer({ ty: 3, nm: 'Hook', ind: 2, ks: place({ r: fixed(20), p: fixed([460, 320]) }) });
  const inside = layer({
    ty: 0,
    nm: 'Inside',
    refId: 'inside',
    w: 1280,
    h: 720,
    st: 4,
    ks: place({
      r: {
        a: 1,
        k: [
          { t: 0, s: [0], ...ease },
          { t: 60, s: [-50] },
        ],
      },
      p: {
        a: 1,
        k: [
          { t: 0, s: [0, 0], to: [300, -200], ti: [-200, -100], ...ease },
          { t: 60, s: [500, 300] },
        ],
      },
      s: fixed([80, 80]),
    }),
  });
  const doc = {
    ...animation(
      'Curve',
      [plate('Over', [640, 330], [1280, 16], '#e01010'), inside, plate('Ground', [640, 360], [1280, 720], '#107020')],
      30,
    ),
    assets: [
      { id: 'face', w: 300, h: 200, u: '', p: pngOf(300, 200, [255, 0, 0]), e: 1 },
      { id: 'inside', layers: [face, hook] },
    ],
  };
  await upload('curve.json', JSON.stringify(doc));
  await said('Live pictures');
  await press(page, 'Bring it in');
  const graphic = await until(async () => {
    const now = await pick(page, (s) => s.desk.show.graphics.list.at(-1));
    return now?.name === 'curve' ? now : null;
  }, 'the animation');
  await send(page, 'lane.showPicture', { lane: 'lane-1', picture: graphic.id });
  // The image of the file is of one colour, so it tells where the player draws it.
  await until(async () => {
    const [r = 0, g = 0] = await pixelOf(page, 20, 20);
    return g > 80 && r < 70;
  }, 'the ground');
  await passes(page, 70);
  await keepFrame(page, 'drawn');
  await send(page, 'field.add', {
    graphic: graphic.id,
    element: 'animation',
    property: 'part',
    part: graphic.elements[0] && partOf(graphic),
  });
  const field = await pick(page, (s) => s.desk.show.graphics.list.at(-1)?.fields.at(-1)?.id ?? '');
  await send(page, 'entry.add', { graphic: graphic.id, values: [{ fieldId: field, value: { kind: 'picture', pictureId: 'harbour' } }] });
  const entry = await pick(page, (s) => s.desk.show.graphics.list.at(-1)?.entries.at(-1)?.id ?? '');
  await send(page, 'lane.showPicture', { lane: 'lane-1', picture: entry });
  await passes(page, 130);
  await until(async () => {
    await keepFrame(page, 'live');
    return (await greenOf(page, 'live')).notGreen > 1000;
  }, 'the live picture');
  const { notGreen, apart, red } = await greenOf(page, 'live');
  // As large, in the same place but for the softness of its edges, and under the bar that lies over it.
  expect(notGreen).toBeGreaterThan(8000);
  expect(apart).toBeLessThan(notGreen * 0.05);
  expect(red).toBeGreaterThan(3000);
  await send(page, 'lane.hide', { lane: 'lane-1' });
  // Its images and pictures are of one place: the graphic cannot show itself.
  const itself = await page.evaluate(
    (of) =>
      window.bivocaHost?.dispatch({
        type: 'entry.set',
        args: { entry: of.entry, field: of.field, value: { kind: 'picture', pictureId: of.graphic } },
      }),
    { graphic: graphic.id, entry, field },
  );
  expect(itself?.ok).toBe(false);
});

it('brings the fonts of a zip along, and its numbers as fields that are counted', async () => {
  const woff = await readFile(new URL('../../node_modules/@fontsource/oswald/files/oswald-latin-400-normal.woff', import.meta.url));
  const signed = JSON.stringify(template()).replaceAll('Oswald', 'Harbour Hand').replace('"Ada"', '"42"');
  await upload(
    'signed.lottie',
    zipSync({ 'animations/signed.json': strToU8(signed), 'fonts/Harbour Hand.ttf': await sfntOf(Uint8Array.from(woff)) }),
  );
  await said('Its fonts come along: Harbour Hand.');
  expect(await page.evaluate(() => document.body.innerText.includes('the font Harbour Hand is not here'))).toBe(false);
  await press(page, 'Bring it in');
  const graphic = await until(async () => {
    const now = await pick(page, (s) => s.desk.show.graphics.list.at(-1));
    return now?.name === 'signed' ? now : null;
  }, 'the animation');
  expect(await pick(page, (s) => s.desk.show.graphics.fonts.map((f) => f.family))).toEqual(['Harbour Hand']);
  expect(graphic.fields.map((f) => f.default)).toEqual([{ kind: 'number', number: 42 }]);
  // Font and graphic are one step.
  await send(page, 'history.undo');
  expect(await pick(page, (s) => s.desk.show.graphics.fonts.length)).toBe(0);
});

it('refuses what is damaged, in words, and nothing changes', async () => {
  const before = await graphics();
  const layers = (n: number) => Array.from({ length: n }, () => ({ ty: 3, nm: 'x' }));
  for (const [name, data, why] of [
    ['torn.json', JSON.stringify(template()).slice(0, 900), 'it is no JSON'],
    ['other.json', '{"name":"not an animation"}', 'it has no layers'],
    ['heap.json', JSON.stringify(template({ layers: layers(10_000) })), 'more than 3000 layers'],
    ['circle.json', JSON.stringify(template({ assets: [{ id: 'a', layers: [{ ty: 0, refId: 'a' }] }] })), 'shows itself'],
    ['empty.lottie', zipSync({ 'readme.txt': strToU8('x') }), 'there is no animation in it'],
    ['torn.lottie', Uint8Array.from([0x50, 0x4b, 3, 4, 9, 9]), 'it is a damaged zip'],
  ] as const) {
    await upload(name, data);
    await said(why);
  }
  expect(await graphics()).toBe(before);
  expect(browser.troubles).toEqual([]);
});
