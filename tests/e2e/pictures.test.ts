/** The WebGL2 mixer against the reference rasteriser, picture by picture. */
import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type PicturePlan } from '#core/picture/draw';
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
