/** The WebGL2 mixer against the reference rasteriser, picture by picture. */
import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type PicturePlan } from '#core/picture/draw';
import { Light } from '#core/screens/blend';
import { toCanvas, wayOf } from '#core/screens/canvas';
import { type AreaFinish } from '#core/screens/finish';
import { inverse, pulled, squareTo, through } from '#core/screens/homography';
import { createScreen } from '#core/screens/surface-create';
import { fullRect } from '#core/show/geometry';
import { type Raster } from '#core/show/raster';
import { type OutputJob } from '#engine/picture/renderer';
import { createPlanes, fillFromRgba, releasePlanes } from '#core/picture/soft/planes';
import { startBrowser, type TestBrowser } from '../support/browser';
import { openHarness } from '../support/harness';
import { anyLookPlan, anyPlan, difference } from '../support/picture-plans';
import { rasterise } from '../support/reference-rasteriser';
import { TEST_PICTURES } from '../support/test-pictures';

const RASTER = { width: 64, height: 36 };

let browser: TestBrowser;
let harness: Awaited<ReturnType<typeof openHarness>>;
beforeAll(async () => {
  browser = await startBrowser();
  harness = await openHarness(browser);
});
afterAll(async () => {
  await harness.close();
  await browser.close();
});

it.each(['planes', 'frame'] as const)('draws what the reference draws, frames going up as %s', async (path) => {
  const plans = fc.sample(anyPlan, { numRuns: 80, seed: 4242 });
  const drawn = await harness.page.evaluate((p, raster, how) => window.harness.drawPlans(p, raster, how), plans, RASTER, path);
  plans.forEach((plan, i) => {
    const reference = rasterise(plan, RASTER, (ref) => (ref.kind === 'source' ? (TEST_PICTURES[ref.id] ?? null) : null));
    const { share, mean } = difference(reference, new Uint8ClampedArray(Buffer.from(drawn[i] as string, 'base64')), 12);
    // Chroma is stored at half size, and edges may fall on either side of a pixel's centre.
    expect(
      { plan: i, mean: mean < 2.5, share: share < 0.02 },
      `plan ${i}: mean ${mean.toFixed(2)}, ${(share * 100).toFixed(2)} % off: ${JSON.stringify(plan)}`,
    ).toEqual({ plan: i, mean: true, share: true });
  });
});

it('draws boxes, framings, keys and all mixes as the reference does', async () => {
  const plans = fc.sample(anyLookPlan, { numRuns: 100, seed: 31 });
  const drawn = await harness.page.evaluate((p, raster, how) => window.harness.drawPlans(p, raster, how), plans, RASTER, 'planes' as const);
  plans.forEach((plan, i) => {
    const reference = rasterise(plan, RASTER, (ref) => (ref.kind === 'source' ? (TEST_PICTURES[ref.id] ?? null) : null));
    const { share, mean } = difference(reference, new Uint8ClampedArray(Buffer.from(drawn[i] as string, 'base64')), 16);
    expect(
      { mean: mean < 3, share: share < 0.05 },
      `plan ${i}: mean ${mean.toFixed(2)}, ${(share * 100).toFixed(2)} % off: ${JSON.stringify(plan)}`,
    ).toEqual({ mean: true, share: true });
  });
});

it('draws in software what the reference draws, from real frames', async () => {
  const plans = fc.sample(anyPlan, { numRuns: 80, seed: 777 });
  const drawn = await harness.page.evaluate((p, raster) => window.harness.drawPlansSoft(p, raster), plans, RASTER);
  const size = RASTER.width * RASTER.height;
  plans.forEach((plan, i) => {
    const want = createPlanes(RASTER.width, RASTER.height);
    fillFromRgba(want, {
      data: rasterise(plan, RASTER, (ref) => (ref.kind === 'source' ? (TEST_PICTURES[ref.id] ?? null) : null)),
      stride: RASTER.width * 4,
      red: 0,
    });
    const got = Buffer.from(drawn[i] as string, 'base64');
    const luma = difference(want.y, got.subarray(0, size), 24);
    const chroma = difference(want.bytes.subarray(size), got.subarray(size), 40);
    const close = { luma: luma.mean < 1.6, edges: luma.share < 0.04, chroma: chroma.mean < 6 };
    expect(
      close,
      `plan ${i}: luma ${luma.mean.toFixed(2)}, ${(luma.share * 100).toFixed(1)} %, chroma ${chroma.mean.toFixed(2)}: ${JSON.stringify(plan)}`,
    ).toEqual({ luma: true, edges: true, chroma: true });
    releasePlanes(want);
  });
});

it('would notice a wrong picture', async () => {
  const plan: PicturePlan = {
    base: [{ texture: { kind: 'source', id: 'slope' }, target: { x: 0, y: 0, ...RASTER }, fit: 'fill', opacity: 1 }],
    over: null,
    mix: null,
    lanes: [],
    black: 0,
  };
  const [drawn] = await harness.page.evaluate((p, raster) => window.harness.drawPlans([p], raster, 'planes'), plan, RASTER);
  const upsideDown = rasterise({ ...plan, base: [{ ...plan.base[0]!, texture: { kind: 'source', id: 'blocks' } }] }, RASTER, (ref) =>
    ref.kind === 'source' ? (TEST_PICTURES[ref.id] ?? null) : null,
  );
  expect(difference(upsideDown, new Uint8ClampedArray(Buffer.from(drawn as string, 'base64')), 12).share).toBeGreaterThan(0.3);
});

/** A picture finished as core says it, pixel by pixel: fitted, each colour's light, blends, masks. */
function finished(rgba: Uint8ClampedArray, { width, height }: Raster, finish: readonly AreaFinish[]): Uint8ClampedArray {
  const out = new Uint8ClampedArray(rgba);
  for (const { area, corners, gain, masks, blend } of finish) {
    const map = corners && inverse(squareTo(pulled(area, corners)));
    const light = blend && new Light({ screens: [...blend.screens], blend: blend.settings });
    for (let y = area.y; y < area.y + area.height; y += 1)
      for (let x = area.x; x < area.x + area.width; x += 1) {
        const p = { x: x + 0.5, y: y + 0.5 };
        const uv = map ? through(map, p) : null;
        const seen = !uv || (uv.x >= 0 && uv.x <= 1 && uv.y >= 0 && uv.y <= 1);
        const from = uv
          ? [
              Math.min(area.width - 1, Math.floor(uv.x * area.width)) + area.x,
              Math.min(area.height - 1, Math.floor(uv.y * area.height)) + area.y,
            ]
          : [x, y];
        const on = blend && toCanvas(blend.way, p);
        const lift = blend && light && on && light.count(on) < 2 ? blend.settings.lift : 0;
        const part = blend && light && on ? light.signal(blend.own, on) * (1 - lift) : 1;
        const masked = masks.some((m) => x >= m.x && x < m.x + m.width && y >= m.y && y < m.y + m.height);
        const light3 = gain ? [gain.red, gain.green, gain.blue] : [1, 1, 1];
        for (let c = 0; c < 3; c += 1) {
          const value = seen ? (rgba[(from[1]! * width + from[0]!) * 4 + c] as number) * light3[c]! : 0;
          out[(y * width + x) * 4 + c] = masked ? 0 : value * part + 255 * lift;
        }
      }
  }
  expect(rgba.length).toBe(width * height * 4);
  return out;
}

it.each(['gl', 'soft'] as const)('draws outputs in pixels of their own, finished as they should be: %s', async (how) => {
  const size = { width: 120, height: 68 };
  const full = fullRect(size);
  // Larger than the canvas of the programme, of a picture without fine edges.
  const plan: PicturePlan = {
    base: [{ texture: { kind: 'source', id: 'slope' }, target: full, fit: 'fill', opacity: 1 }],
    over: null,
    mix: null,
    lanes: [],
    black: 0,
  };
  const none = { corners: null, gain: null, masks: [], blend: null };
  const screens = [0, 80].map((x, i) => createScreen(`s${i}`, `Screen ${i}`, { x, y: 0, width: 120, height: 68 }, { blends: true }));
  const settings = { curve: 'smooth' as const, gamma: 2.2, lift: 0.08 };
  const blend = { screens, own: screens[0]!, settings, way: wayOf(screens[0]!, full) };
  const corners = { topLeft: { x: 14, y: 6 }, topRight: { x: -8, y: 4 }, bottomRight: { x: 0, y: -6 }, bottomLeft: { x: 4, y: 0 } };
  const finishes: (readonly AreaFinish[] | null)[] = [
    null,
    [{ ...none, area: full, blend }],
    [{ ...none, area: full, gain: { red: 0.9, green: 0.5, blue: 1 } }],
    [{ ...none, area: full, corners }],
    [
      { ...none, area: { x: 0, y: 0, width: 60, height: 68 }, masks: [{ x: 10, y: 10, width: 20, height: 20 }] },
      { ...none, area: { x: 60, y: 0, width: 60, height: 68 }, corners, gain: { red: 0.7, green: 0.7, blue: 0.7 } },
    ],
  ];
  const jobs: OutputJob[] = [
    ...finishes.map((finish) => ({ plan, raster: size, size, place: full, finish })),
    // Of another shape than its pixels: whole, black beside it.
    { plan, raster: { width: 60, height: 68 }, size, place: { x: 30, y: 0, width: 60, height: 68 }, finish: null },
  ];
  const drawn = await harness.page.evaluate((j, h) => window.harness.drawOutputs(j, h), jobs, how);
  const plain = rasterise(plan, size, (ref) => (ref.kind === 'source' ? (TEST_PICTURES[ref.id] ?? null) : null));
  finishes.forEach((finish, i) => {
    const want = finish ? finished(plain, size, finish) : plain;
    const { share, mean } = difference(want, new Uint8ClampedArray(Buffer.from(drawn[i]!, 'base64')), 16);
    expect({ i, mean: mean < 3, share: share < 0.04 }, `finish ${i}: mean ${mean.toFixed(2)}, ${(share * 100).toFixed(2)} % off`).toEqual({
      i,
      mean: true,
      share: true,
    });
  });
  const beside = Buffer.from(drawn.at(-1)!, 'base64');
  for (const x of [2, 28, 92, 118]) expect(beside[(30 * size.width + x) * 4 + 1]).toBeLessThan(6);
  expect(beside[(30 * size.width + 60) * 4 + 1]).toBeGreaterThan(10);
});
