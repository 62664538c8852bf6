/** The audience in the real interface: a phone writes and votes, a moderator on another phone chooses, and what is chosen is seen in the programme. */
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type {} from '#interface/panels/work-panel';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { clickButton, must, openSmall, pick, said, until, uploadTo } from '../support/desk';
import { programmeAt, programmeShows } from '../support/programme';

let app: App;
let browser: TestBrowser;
let other: TestBrowser;
let page: Page;
let phone: Page;
let moderator: Page;
let id = '';
let secret = '';
const PHONE = { width: 390, height: 844 };
/** Of the gallery's card, and of the disc behind a picture. */
const CLOTH = [0xe8, 0xef, 0xe9] as const;
const STRAW = [0xe2, 0xc4, 0x8d] as const;
/** Places in the programme: of the card, of the picture in it, and of the first bar near its left end and near its right. */
const CARD = [0.74, 0.9] as const;
const PICTURE = [165 / 1280, 591 / 720] as const;
const BAR = { left: [130 / 1280, 295 / 720], right: [500 / 1280, 295 / 720] } as const;

const audience = () => pick(page, ({ desk: { show, air } }) => ({ inbox: air.audience.inbox, ...show.audience }));
const act = (type: string, args: Record<string, unknown> = {}) => must(page, type, args);
const type = async (on: Page, label: string, text: string) => {
  const field = (await on.waitForSelector(`::-p-xpath(//*[@aria-label="${label}"])`))!;
  await field.click({ count: 3 });
  await field.type(text);
};
/** Writes a comment on the phone; waits until the page says what became of it. */
async function write(text: string, becomes = 'Sent. The crew reads it.'): Promise<void> {
  await phone.bringToFront();
  await type(phone, 'Your comment', text);
  await clickButton(phone, 'normalize-space(.)="Send"');
  if (becomes !== '') await said(phone, becomes);
}

beforeAll(async () => {
  app = await startApp();
  [browser, other] = await Promise.all([startBrowser(), startBrowser()]);
  ({ page } = browser);
  await openSmall(page, app, ['harbour']);
  id = await page.evaluate(() => window.bivocaHost?.showId ?? '');
  await page.keyboard.press('F8');
  await page.waitForSelector('[data-region="audience"]');
});
afterAll(async () => {
  await Promise.all([browser.close(), other.close()]);
  await app.close();
});

it('opens a page by its link, on a phone, that says what is taken', async () => {
  await clickButton(
    page,
    '../../h2[normalize-space(.)="Audience"] or (normalize-space(.)="Make link" and ancestor::*[@data-region="audience"])',
  );
  secret = await until(
    () => page.evaluate(() => window.bivocaHost!.ways.store.getState().ways.find((w) => w.kind === 'audience')?.secret ?? null),
    'the link',
  );
  phone = other.page;
  await phone.setViewport(PHONE);
  await phone.goto(`${app.url}/audience/${id}#in=wrong`);
  await said(phone, 'This link is not known here');
  await phone.goto('about:blank');
  await phone.goto(`${app.url}/audience/${id}#in=${secret}`);
  await said(phone, 'Skerry Point Kite Trials');
  await until(() => page.evaluate(() => window.bivocaHost!.audience.store.getState().people === 1 || null), 'one page that is open');
  // Nobody without a name.
  await type(phone, 'Your comment', 'Hello');
  await clickButton(phone, 'normalize-space(.)="Send"');
  await said(phone, 'Say what you are called first.');
});

it('brings what is written to the moderation as words, never as markup, and holds back what is to be looked at', async () => {
  await act('audience.set', { words: ['drudge'], perMinute: 60 });
  const picture = await page.evaluate(() => {
    const canvas = document.createElement('canvas');
    canvas.width = canvas.height = 64;
    const context = canvas.getContext('2d')!;
    context.fillStyle = '#c02020';
    context.fillRect(0, 0, 64, 64);
    return canvas.toDataURL('image/png').split(',')[1] ?? '';
  });
  await type(phone, 'Your name', 'Jory');
  await uploadTo(phone, 'Your picture', await mkdtemp(join(tmpdir(), 'bivoca-picture-')), 'me.png', Buffer.from(picture, 'base64'));
  await phone.waitForSelector('img[alt="Your picture"]');
  await write('<img src=x onerror="document.title=1"> \u202egnorw\u202c');
  await write('What a drudge');
  const { inbox } = await until(async () => {
    const now = await audience();
    return now.inbox.length === 2 ? now : null;
  }, 'two comments');
  expect(inbox.map((c) => [c.name, c.text, c.held])).toEqual([
    ['Jory', '<img src=x onerror="document.title=1"> gnorw', ''],
    ['Jory', 'What a drudge', 'drudge'],
  ]);
  await said(page, '<img src=x onerror="document.title=1"> gnorw');
  expect(await page.evaluate(() => document.querySelectorAll('img[src="x"]').length)).toBe(0);
  await write('What a drudge', 'You have written this already.');
});

it('is moderated on another phone: queue, show with name and picture, next, out', async () => {
  const pass = await page.evaluate(async () => (await window.bivocaHost!.passes.add('Mara', { guests: 'work' }, null)).secret);
  moderator = await other.browser.newPage();
  await moderator.setViewport(PHONE);
  await moderator.goto(`${app.url}/crew/${id}/guests#pass=${pass}`);
  await moderator.waitForSelector('[data-region="audience"]');
  await clickButton(moderator, 'normalize-space(.)="Set up a graphic" and ancestor::*[@aria-label="Queue of comments"]');
  await clickButton(moderator, 'starts-with(@aria-label, "Queue the comment of Jory")');
  await until(async () => (await audience()).queue[0]?.pictureId ?? null, 'the picture of whoever wrote it');
  await clickButton(moderator, 'starts-with(normalize-space(.), "Show next")');
  await programmeShows(page, CLOTH, 'the card', ...CARD);
  await programmeShows(page, [0xc0, 0x20, 0x20], 'the picture in it', ...PICTURE);
  await clickButton(moderator, 'starts-with(normalize-space(.), "Held back")');
  await clickButton(moderator, 'starts-with(@aria-label, "Queue the comment of Jory")');
  await until(async () => (await audience()).queue.length === 2, 'the second one');
  // Next without a gap: the card stays where it is.
  await clickButton(moderator, 'starts-with(normalize-space(.), "Show next")');
  await until(async () => (await audience()).queue[1]?.shown ?? null, 'the next one');
  expect(await programmeAt(page, ...CARD)).not.toEqual([]);
  await programmeShows(page, CLOTH, 'the card, still', ...CARD);
  await clickButton(moderator, 'starts-with(normalize-space(.), "Out")');
  await until(async () => (await programmeAt(page, ...CARD))[0]! < 100, 'the card to be gone', 10_000);
});

it('answers one who wrote, and takes nothing more of one who is banned', async () => {
  await write('Which heat is next?');
  await moderator.bringToFront();
  await clickButton(moderator, 'starts-with(normalize-space(.), "New")');
  await clickButton(moderator, 'starts-with(@aria-label, "Answer Jory")');
  await type(moderator, 'Answer to Jory', 'Heat 4, at 10:40.');
  await moderator.keyboard.press('Enter');
  await phone.bringToFront();
  await said(phone, 'Heat 4, at 10:40.');
  const from = (await audience()).inbox[0]?.from;
  await act('comment.ban', { from, on: true });
  const before = (await audience()).inbox.length;
  // The server is told a moment later; what comes until then is taken by nobody.
  for (let n = 1; !(await phone.evaluate(() => document.body.innerText.includes('Nothing more is taken from here.'))); n += 1)
    await write(`Another ${n}`, n > 20 ? 'Nothing more is taken from here.' : '');
  expect((await audience()).inbox).toHaveLength(before);
  await act('comment.ban', { from, on: false });
});

it('asks the audience: votes are counted once for each browser, bars grow in the programme, results are seen', async () => {
  const { lane } = await act('audience.setUp', { what: 'poll' });
  const poll = (await act('poll.add', { question: 'Which kite?', choices: ['The red one', 'The box kite'] })).id;
  await act('lane.show', { lane });
  await act('poll.open', { poll });
  await phone.bringToFront();
  await clickButton(phone, 'contains(., "The red one")');
  await page.bringToFront();
  await programmeShows(page, STRAW, 'the bar of all votes', ...BAR.right);
  // A second browser votes for the other, and changes its mind.
  const second = await browser.browser.createBrowserContext();
  const visitor = await second.newPage();
  await visitor.goto(`${app.url}/audience/${id}#in=${secret}`);
  for (const choice of ['The red one', 'The box kite']) await clickButton(visitor, `contains(., "${choice}")`);
  const votes = () => pick(page, ({ desk }) => desk.show.audience.polls[0]?.choices.map((c) => c.votes).join() ?? '');
  await until(async () => (await votes()) === '1,1', 'one vote each');
  await page.bringToFront();
  await programmeShows(page, STRAW, 'the bar of half the votes', ...BAR.left);
  await until(async () => (await programmeAt(page, ...BAR.right))[0]! < 100, 'the bar to be shorter', 10_000);
  await act('poll.results', { on: true });
  await said(phone, '50 %');
  // A page that is loaded anew is the same browser.
  await visitor.reload();
  await said(visitor, 'your vote');
  await act('poll.close');
  await said(visitor, 'The poll is closed.');
  expect(await votes()).toBe('1,1');
  await second.close();
});

it('works by keys alone in the room', async () => {
  await page.bringToFront();
  await act('comment.heard', {
    comments: [{ id: 'key-1', from: 'edda', name: 'Edda', text: 'By keys', origin: 'audience', at: Date.now() }],
  }).catch(() => undefined);
  const room = await page.$('[data-region="audience"]');
  await room?.focus();
  const before = (await audience()).queue.length;
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('KeyS');
  await until(async () => (await audience()).inbox.some((c) => c.star), 'a star');
  await page.keyboard.press('KeyQ');
  await until(async () => (await audience()).queue.length === before + 1, 'one more in the queue');
  await page.keyboard.press('KeyN');
  await programmeShows(page, CLOTH, 'the card', ...CARD);
  await page.keyboard.press('KeyO');
  await until(async () => (await programmeAt(page, ...CARD))[0]! < 100, 'the card to be gone', 10_000);
});

it('ends their pages when the link is withdrawn', async () => {
  await page.evaluate(() => window.bivocaHost!.ways.withdraw('audience', 'all'));
  await said(phone, 'This link is not known here');
  expect(browser.troubles).toEqual([]);
});
