/** Files that attack, and a page that stands still: the programme goes on, the show opens, and people are told what was wrong. */
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { keepOnly, openDemo, pick, press, send, showRuns, until } from '../support/desk';
import { openHarness } from '../support/harness';

let app: App;
let browser: TestBrowser;
let files: string;
beforeAll(async () => {
  app = await startApp();
  browser = await startBrowser();
  files = await mkdtemp(join(tmpdir(), 'bivoca-hostile-'));
  await openDemo(browser.page, app);
  await keepOnly(browser.page, 'shore');
});
afterAll(async () => {
  await browser.close();
  await app.close();
  await rm(files, { recursive: true, force: true });
});

/** Adds a file as a person would; what was said of it. */
async function add(name: string, content: string | Uint8Array): Promise<string> {
  const { page } = browser;
  const path = join(files, name);
  await writeFile(path, content);
  await press(page, 'Add');
  const input = await page.waitForSelector('input[aria-label="Files to add"]');
  await (input as unknown as { uploadFile(p: string): Promise<void> }).uploadFile(path);
  return until(
    () =>
      page.evaluate(
        (n) =>
          [...document.querySelectorAll('.status-line [role=status]')]
            .map((e) => e.textContent ?? '')
            .find((t) => t.includes(n) && !t.startsWith('Taking in')),
        name,
      ),
    `what is said of ${name}`,
  );
}

const svg = (inner: string) => `<svg xmlns="http://www.w3.org/2000/svg" width="640" height="360">${inner}</svg>`;

/** Patterns within patterns: a hundred tiles each, ten deep. */
const patterns = svg(
  `<defs>${Array.from({ length: 10 }, (_, i) => `<pattern id="p${i}" width="0.1" height="0.1">${Array.from({ length: 10 }, () => `<rect width="60" height="30" fill="${i === 0 ? '#123456' : `url(#p${i - 1})`}"/>`).join('')}</pattern>`).join('')}</defs><rect width="640" height="360" fill="url(#p9)"/>`,
);
const masks = svg(
  `<defs>${Array.from({ length: 24 }, (_, i) => `<mask id="m${i}"><g mask="${i ? `url(#m${i - 1})` : ''}"><rect width="640" height="360" fill="#fff"/></g><g mask="${i ? `url(#m${i - 1})` : ''}"><rect width="9" height="9"/></g></mask>`).join('')}</defs><rect width="640" height="360" mask="url(#m23)"/>`,
);
const laughs = svg(
  `<defs><g id="u0"><rect width="1" height="1"/></g>${Array.from({ length: 9 }, (_, i) => `<g id="u${i + 1}">${`<use href="#u${i}"/>`.repeat(10)}</g>`).join('')}</defs><use href="#u9"/>`,
);
const shapes = (count: number) => svg('<rect width="1" height="1"/>'.repeat(count));
const plain = svg(
  '<defs><pattern id="p" width="20" height="20" patternUnits="userSpaceOnUse"><circle r="5"/></pattern><linearGradient id="g"><stop stop-color="#fff"/></linearGradient></defs><rect width="640" height="360" fill="url(#p)"/><text fill="url(#g)">Kites</text>',
);

it('refuses SVGs that would never be drawn, in words and at once, and takes those that people draw', async () => {
  const nested = 'it would take too long to draw: its patterns, masks or repeated parts are nested too deep';
  for (const [name, text, why] of [
    ['patterns.svg', patterns, nested],
    ['masks.svg', masks, nested],
    ['shapes.svg', shapes(150_000), 'it is 4 MB of text, and 2 MB can be drawn'],
    ['dots.svg', shapes(20_000), 'it holds about 20001 elements, and 8000 can be drawn'],
  ]) {
    const started = performance.now();
    expect(await add(name as string, text as string)).toBe(`${name} cannot be used: ${why}. Save it as PNG instead.`);
    expect(performance.now() - started).toBeLessThan(20_000);
  }
  // Parts that repeat parts are taken out of every SVG.
  expect(await add('laughs.svg', laughs)).toContain('is in the list');
  expect(await add('plain.svg', plain)).toContain('is in the list');
});

it('refuses a picture that would unpack to gigabytes before it is decoded', async () => {
  const head = Buffer.from('89504e470d0a1a0a0000000d494844520000ea600000ea600806000000', 'hex');
  expect(await add('huge.png', Buffer.concat([head, Buffer.alloc(400)]))).toMatch(
    /huge\.png cannot be used: it is 60000×60000, and stills go up to 8192 pixels a side/,
  );
});

it('reads damaged media as far as they are whole, and says of others what is wrong', async () => {
  const { page } = browser;
  const harness = await openHarness(browser);
  const webm = Buffer.from(
    await harness.page.evaluate(() => window.harness.makeClip('webm', ['#ff0000', '#00ff00', '#0000ff', '#ffff00'])),
    'base64',
  );
  await harness.close();
  await page.bringToFront();
  expect(await add('zeros.webm', Buffer.concat([webm.subarray(0, 500), Buffer.alloc(40_000_000)]))).toMatch(
    /^zeros\.webm cannot be used: [a-z].*[^.]\.$/,
  );
  expect(
    await add(
      'noise.webm',
      webm.map((b, i) => (i > 60 ? (b * 7 + i) % 256 : b)),
    ),
  ).toMatch(/^noise\.webm cannot be used: /);
  expect(await add('half.webm', webm.subarray(0, Math.round(webm.length * 0.7)))).toContain('is in the list');
  const half = await until(() => pick(page, (s) => s.desk.show.sources.find((x) => x.name === 'half')), 'the cut file');
  expect((half.settings as { duration: number }).duration).toBeGreaterThan(0.5);
  await send(page, 'picture.cut', { picture: half.id });
  await until(() => page.evaluate((id) => window.bivocaHost?.state.health[id]?.state === 'live', half.id), 'the cut file to play');
  expect(await page.evaluate(() => document.body.textContent)).not.toMatch(/Assertion failed|report (it|this)/);
});

it('goes on while the page stands still, and nothing piles up meanwhile', async () => {
  const { page } = browser;
  await send(page, 'picture.cut', { picture: 'shore' });
  const before = await pick(page, (s) => s.mixer);
  await page.evaluate(() => {
    const end = performance.now() + 6000;
    while (performance.now() < end);
  });
  const after = await until(
    () => pick(page, (s) => s.mixer).then((m) => (m.frames + m.dropped > before.frames + before.dropped + 120 ? m : null)),
    'the mixer to be heard again',
  );
  console.log(
    `a page that stood still for 6 s: ${after.frames - before.frames} frames mixed, ${after.dropped - before.dropped} dropped, ${after.late - before.late} late`,
  );
  // A mixer that waits for the page draws none of these 150. A machine that is three times as slow gives some up by itself, page or not.
  expect(after.dropped - before.dropped).toBeLessThan(60);
  expect(after.frames - before.frames).toBeGreaterThan(60);
});

it('opens a show whatever its files do, and each source says what was wrong', async () => {
  const { page } = browser;
  const id = await pick(page, (s) => s.desk.show.sources.find((x) => x.name === 'plain')?.id ?? '');
  const [still, clip] = await pick(page, (s) =>
    ['plain', 'half'].map((n) => (s.desk.show.sources.find((x) => x.name === n)?.settings as { assetId: string }).assetId),
  );
  await page.evaluate(
    async (contents) => {
      const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('assets');
      for (const [name, text] of contents) {
        const writable = await (await folder.getFileHandle(name as string)).createWritable();
        await writable.write(text as string);
        await writable.close();
      }
    },
    [
      [still, patterns],
      [clip, '\x1a\x45\xdf\xa3'.padEnd(3_000_000, '\0')],
    ],
  );
  await page.reload();
  await showRuns(page);
  await until(() => pick(page, (s) => Object.values(s.health).filter((h) => h.state === 'lost').length >= 2), 'both to be said');
  const causes = await pick(page, (s) =>
    s.desk.show.sources.flatMap((x) => (['plain', 'half'].includes(x.name) ? [s.health[x.id]?.cause ?? ''] : [])),
  );
  expect(causes.sort()).toEqual([
    expect.stringMatching(/half\.webm cannot be played: its head is damaged|half\.webm cannot be played: it is damaged/),
    expect.stringMatching(/plain\.svg cannot be used: it would take too long to draw/),
  ]);
  const frames = await pick(page, (s) => s.mixer.frames);
  await until(() => pick(page, (s) => s.mixer.frames).then((n) => n > frames + 25), 'the programme to run');
  expect(id).not.toBe('');
});

it('has made no error', () => {
  expect(browser.troubles).toEqual([]);
});
