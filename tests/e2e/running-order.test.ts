/** The running order and pages of buttons in the real interface: Go by key and press, times, the presenter's window, tables, buttons on another screen. */
import { type KeyInput, type Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { chord as chordOn, keepOnly, openDemo, pick, post, press, said as saidOn, send, until, uploadTo } from '../support/desk';
import { Downloads } from '../support/downloads';

let app: App;
let browser: TestBrowser;
let downloads: Downloads;
let page: Page;
beforeAll(async () => {
  app = await startApp();
  browser = await startBrowser();
  ({ page } = browser);
  downloads = await Downloads.of(browser);
  await openDemo(page, app);
  await send(page, 'picture.cut', { picture: 'harbour' });
  await keepOnly(page, 'shore', 'mast', 'bars');
  await send(page, 'trigger.armAll', { armed: false });
});
afterAll(async () => {
  await downloads.close();
  await browser.close();
  await app.close();
});

const said = (words: string) => saidOn(page, words);
const chord = (held: ('Alt' | 'Shift' | 'Control')[], key: KeyInput) => chordOn(page, held, key);
const order = () => pick(page, (s) => ({ air: s.desk.air.order, onAir: s.desk.air.onAirId, next: s.desk.air.nextId }));
const names = () => pick(page, (s) => s.desk.show.order.items.map((i) => i.name));
const openPage = async (key: 'KeyO' | 'KeyB') => {
  await chord(['Shift'], 'F4');
  await page.waitForSelector('::-p-xpath(//main//button[@role="tab"][.="Running order"])');
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await chord(['Shift'], key);
};
/** Another window with an address of the app. */
async function windowOf(path: string): Promise<Page> {
  const other = await page.browser().newPage();
  const show = await pick(page, (s) => s.desk.show.id);
  await other.goto(`${app.url}${path}?show=${show}`);
  return other;
}

it('goes from item to item by key in any room, prepares the next picture, skips, jumps and starts anew', async () => {
  // At the Desk.
  await chord(['Alt'], 'KeyB');
  await until(async () => (await order()).onAir === 'shore', 'the first item');
  await openPage('KeyO');
  await said('Who flies today');
  expect((await order()).air.onId).toBe('item-1');
  await until(async () => (await order()).next === 'talk', 'the picture of the item after it in Next');
  // The item after next is skipped by key, and Go passes over it.
  await page.click('[data-item="item-2"] button[aria-pressed]');
  await page.keyboard.press('k');
  await said('skipped');
  await page.click('[data-item="item-4"] button[aria-pressed]');
  await page.keyboard.press('n');
  await until(async () => (await order()).air.nextId === 'item-4', 'the item that was chosen');
  await chord(['Alt'], 'KeyB');
  await until(async () => (await order()).onAir === 'mast', 'its picture');
  expect((await order()).air.past.map((p) => p.name)).toEqual(['Welcome at the pier']);
  // By the remote, too.
  expect((await post(app, 'order.goTo', { item: 'item-1' })).status).toBe(200);
  await until(async () => (await order()).onAir === 'shore', 'the item that was gone to');
  await press(page, 'Anew');
  await until(async () => (await order()).air.onId === null, 'a new beginning');
});

it('keeps the time in the room and in the window of the presenter', async () => {
  await send(page, 'order.set', { item: 'item-1', seconds: 1, notes: 'Look at the flag.' });
  await send(page, 'order.go');
  const presenter = await windowOf('/order');
  await saidOn(presenter, 'Welcome at the pier');
  await saidOn(presenter, 'Look at the flag.');
  // It runs over: with a sign, and the time goes up.
  await until(
    () => presenter.evaluate(() => document.querySelector('[aria-label="over by"]')?.textContent?.startsWith('+') ?? null),
    'the item over its time',
  );
  await send(page, 'order.goTo', { item: 'item-4' });
  await saidOn(presenter, 'What the judges saw');
  await presenter.close();
  await page.bringToFront();
});

it('is edited by key and drag, leaves as a table and comes back, with every fault said first', async () => {
  const before = await names();
  await page.click('[data-item="item-1"] button[aria-pressed]');
  await chord(['Alt'], 'ArrowDown');
  await until(async () => (await names())[1] === before[0], 'the item further down');
  await chord(['Control'], 'KeyZ');
  await until(async () => (await names())[0] === before[0], 'the undo');
  await chord(['Shift'], 'KeyI');
  await page.waitForFunction(() => document.activeElement?.getAttribute('aria-label') === 'Name of the item');
  await page.keyboard.type('Interval', {});
  await page.keyboard.press('Enter');
  await until(async () => (await names()).some((n) => n.includes('Interval')), 'the new item');
  const length = await page.waitForSelector('input[aria-label="Planned length"]');
  await length?.type('2:30');
  await page.keyboard.press('Enter');
  await until(() => pick(page, (s) => s.desk.show.order.items.some((i) => i.seconds === 150)), 'its length');
  await press(page, 'File');
  await press(page, 'Save as CSV');
  const csv = new TextDecoder().decode(await downloads.bytes('running order.csv'));
  expect(csv.split('\r\n')[0]).toContain('Item,Length,Hard time,Picture');
  const all = await names();
  await page.keyboard.press('Escape');
  await press(page, 'File');
  await page.waitForSelector('input[aria-label="File of a running order"]');
  await uploadTo(page, 'File of a running order', downloads.folder, 'plan.csv', csv.replace('Shore wide', 'Nowhere at all'));
  await said('nothing here is called “Nowhere at all”');
  expect(await names()).toEqual(all);
  await press(page, `In place of the ${all.length} there`);
  await until(() => pick(page, (s) => s.desk.show.order.items[0]?.pictureId === null), 'what was brought in');
  expect(await names()).toEqual(all);
  await chord(['Control'], 'KeyZ');
  await until(() => pick(page, (s) => s.desk.show.order.items[0]?.pictureId === 'shore'), 'the undo');
});

it('has pages of buttons that are pressed here, by key and on another screen, and are lit there', async () => {
  await openPage('KeyB');
  await page.click('[data-button="cameras-3"]');
  // Arranging, a press chooses.
  expect(await pick(page, (s) => s.desk.air.onAirId)).not.toBe('bars');
  await page.select('select[aria-label="Command"]', 'picture.setNext');
  // The fields of the command are there with it.
  const field = 'select[aria-label="Source"]';
  await page.waitForSelector(field);
  await page.select(
    field,
    await page.$eval(field, (select) => [...(select as HTMLSelectElement).options].find((o) => o.text === 'Bars and tone')?.value ?? ''),
  );
  await until(() => pick(page, (s) => JSON.stringify(s.desk.show.pages[0]?.buttons).includes('"picture":"bars"')), 'what it does');
  await press(page, 'Use');
  await page.click('[data-button="cameras-3"]');
  await until(async () => (await order()).next === 'bars', 'the press');
  const tablet = await windowOf('/buttons');
  const lit = (id: string) => tablet.$eval(`[data-button="${id}"]`, (b) => b.getAttribute('aria-pressed'));
  await tablet.waitForSelector('[data-button="cameras-1"]');
  expect([await lit('cameras-3'), await lit('lanes-1')]).toEqual(['true', 'false']);
  await tablet.click('[data-button="lanes-1"]');
  await until(async () => (await lit('lanes-1')) === 'true', 'the lamp of the lane');
  expect(await pick(page, (s) => s.desk.air.lanes['lane-1']?.fade.to)).toBe(1);
  await tablet.click('[data-button="phases-5"]');
  await saidOn(tablet, 'Layout 6');
  await press(tablet, 'Back');
  // What is refused is said there.
  await tablet.click('[data-button="phases-3"]');
  await saidOn(tablet, 'No macro');
  await tablet.close();
  await page.bringToFront();
  expect(browser.troubles).toEqual([]);
});
