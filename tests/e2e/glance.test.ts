/** Read at a glance: every room in five sizes of window, what has to stay in view on the Desk, and what axe finds. */
import axe from 'axe-core';
import { type KeyInput, type Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ROOM_IDS, type RoomId } from '#core/control/rooms';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { openSmall, pick, until } from '../support/desk';
import { isInView, seeAll } from '../support/glance';

const SIZES = [
  [1280, 800],
  [1920, 1080],
  [1024, 768],
  [1280, 600],
  [600, 1000],
] as const;
/** What a director has to see: the picture on air, Next, take, the lanes, the sound of the programme. */
const ALWAYS = {
  AIR: '[aria-label="On air"]',
  Next: '[aria-label="Next"] .aspect-video, [aria-label="Next"] > div',
  take: '[title^="Take with"]',
  lanes: '[data-region="lanes"] li',
  sound: '[aria-label="Level of the programme"]',
} as const;

let app: App;
let browser: TestBrowser;
let page: Page;

beforeAll(async () => {
  app = await startApp();
  browser = await startBrowser();
  ({ page } = browser);
  await openSmall(page, app, ['harbour', 'bars']);
});
afterAll(async () => {
  await browser.close();
  await app.close();
});

async function go(room: RoomId): Promise<void> {
  const address = page.url().replace(/\/[a-z]+$/u, `/${room}`);
  if (page.url() !== address) {
    await page.goto(address);
    await until(() => pick(page, (s) => s.mixer.frames > 2).catch(() => false), 'the show');
  }
  await page.waitForSelector('main [data-region], main.desk');
}

const resize = async (width: number, height: number) => {
  await page.setViewport({ width, height });
  await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))));
};

it('keeps AIR, Next, take, lanes and the sound of the programme in view on the Desk, and one thing at a time where it is narrow', async () => {
  await go('desk');
  for (const [width, height] of SIZES.slice(0, 4)) {
    await resize(width, height);
    const seen = Object.fromEntries(
      await Promise.all(Object.entries(ALWAYS).map(async ([name, of]) => [name, await isInView(page, of)] as const)),
    );
    expect(seen, `${width} × ${height}`).toEqual({ AIR: true, Next: true, take: true, lanes: true, sound: true });
    expect((await seeAll(page)).over, `${width} × ${height}`).toEqual({ x: 0, y: 0 });
  }
  await resize(600, 1000);
  for (const [part, inside] of [
    ['Sources', '[data-region="sources"]'],
    ['Lanes', '[data-region="lanes"]'],
    ['Shelf', '[data-region="shelf"]'],
    ['Sound', '[data-region="sound"]'],
    ['Next', '[aria-label="Next"]'],
  ] as const) {
    await (await page.waitForSelector(`::-p-xpath(//nav[@aria-label="Parts of the Desk"]/button[.="${part}"])`))!.click();
    await until(() => page.evaluate((of) => (document.querySelector(of)?.getClientRects().length ?? 0) > 0, inside), part);
    // Also when its list is long and was scrolled.
    await page.evaluate(() => window.scrollTo(0, 400));
    for (const of of [ALWAYS.AIR, ALWAYS.take]) expect(await isInView(page, of), `${part}: ${of}`).toBe(true);
    await page.evaluate(() => window.scrollTo(0, 0));
  }
  // A key that goes to a part brings it forward.
  const part = () =>
    page.evaluate(() => [
      document.querySelector('.desk')?.getAttribute('data-part'),
      document.activeElement?.closest('[data-region]')?.getAttribute('data-region'),
    ]);
  const parts = await page.$$eval('[data-region]', (all) => all.map((r) => r.getAttribute('data-region') ?? ''));
  for (const name of ['sound', 'lanes'] as const) {
    await page.keyboard.down('Alt');
    await page.keyboard.down('Shift');
    await page.keyboard.press(`Digit${parts.indexOf(name) + 1}` as KeyInput);
    await page.keyboard.up('Shift');
    await page.keyboard.up('Alt');
    await until(async () => (await part()).join() === `${name},${name}`, name);
  }
});

describe.each(ROOM_IDS)('the room %s', (room) => {
  it('is as wide as the window in every size, with words that can be read, controls that can be met, and nothing that axe finds', async () => {
    await resize(1280, 800);
    await go(room);
    for (const [width, height] of SIZES) {
      await resize(width, height);
      const { over, small, cut, covered } = await seeAll(page);
      expect(over.x, `${width} × ${height}`).toBeLessThanOrEqual(0);
      // Only a narrow window may be scrolled: there rooms are one part below the other.
      if (width >= 860) expect(over.y, `${width} × ${height}`).toBeLessThanOrEqual(0);
      expect({ small, cut, covered }, `${width} × ${height}`).toEqual({ small: [], cut: [], covered: [] });
    }
    await resize(1280, 800);
    await page.evaluate(axe.source);
    const found = (await page.evaluate(
      `axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa', 'best-practice'] })
        .then(({ violations }) => violations.map((v) => [v.id, ...v.nodes.map((n) => n.html.slice(0, 160))]))`,
    )) as string[][];
    expect(found).toEqual([]);
  });
});
