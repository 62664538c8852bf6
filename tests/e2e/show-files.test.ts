/** Show files that were damaged in every way: imported whole, or refused in plain words, and never half. */
import { strToU8, zipSync } from 'fflate';
import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { startBrowser, type TestBrowser } from '../support/browser';
import { openHarness } from '../support/harness';
import { sampleDesk } from '../support/sample-show';

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

const text = JSON.stringify({ show: sampleDesk().show, assets: [{ id: 'bug', name: 'bug.png', type: 'image/png' }] });
const pack = (json: string) => zipSync({ 'show.json': strToU8(json), 'assets/bug': new Uint8Array([1, 2, 3]) });
const base64 = (data: Uint8Array) => Buffer.from(data).toString('base64');

it('takes a sound file, and each time as a new show', async () => {
  const whole = base64(pack(text));
  const results = await harness.page.evaluate((files) => window.harness.importAll(files), [whole, whole]);
  expect(results).toEqual([
    { outcome: 'imported', shows: 1 },
    { outcome: 'imported', shows: 2 },
  ]);
});

it('answers damage to the zip and to the JSON with a refusal in words, and adds nothing', async () => {
  const zip = pack(text);
  const bytes = fc.tuple(fc.nat(zip.length - 1), fc.integer({ min: 1, max: 255 })).map(([at, by]) => {
    const spoiled = zip.slice();
    spoiled[at] = ((spoiled[at] as number) + by) & 255;
    return spoiled;
  });
  const cut = fc.nat(zip.length - 1).map((length) => zip.slice(0, length));
  const words = fc
    .constantFrom('"sources":', '"rate":', '"id":', '25', 'null', 'true', '"kind":', '[', '}')
    .chain((word) =>
      fc.constantFrom('', '0', '"x"', '-1', '1e999', '{}', '[[]]', '"__proto__":').map((by) => pack(text.replace(word, by))),
    );
  const files = fc.sample(fc.oneof(bytes, cut, words), { numRuns: 120, seed: 31 });
  const before = (await harness.page.evaluate((none) => window.harness.importAll(none), [base64(new Uint8Array(3))]))[0]?.shows ?? -1;
  const results = await harness.page.evaluate((all) => window.harness.importAll(all), files.map(base64));
  let shows = before;
  for (const { outcome, shows: after } of results) {
    expect(outcome).not.toMatch(/^broke/);
    if (outcome === 'imported') shows += 1;
    else expect(outcome.length).toBeGreaterThan(25);
    expect(after).toBe(shows);
  }
  expect(results.filter((r) => r.outcome !== 'imported').length).toBeGreaterThan(60);
});
