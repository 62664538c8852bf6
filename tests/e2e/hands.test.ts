/** The jobs of a show by keys alone, counted; and that no control keeps the keys. */
import { type KeyInput, type Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { openDemo, passes, pick, press, send, until } from '../support/desk';

let app: App;
let browser: TestBrowser;
let page: Page;

beforeAll(async () => {
  [app, browser] = await Promise.all([startApp(), startBrowser()]);
  page = browser.page;
  await openDemo(page, app);
}, 240_000);
afterAll(async () => {
  await browser?.close();
  await app?.close();
});

/** Presses keys by their place; `Shift+F1` holds. Returns how many presses that were. */
async function keys(...chords: string[]): Promise<number> {
  for (const chord of chords) {
    const parts = chord.split('+');
    const key = (parts.pop() ?? '') as KeyInput;
    for (const part of parts) await page.keyboard.down((part === 'Ctrl' ? 'Control' : part) as KeyInput);
    await page.keyboard.press(key);
    for (const part of parts.reverse()) await page.keyboard.up((part === 'Ctrl' ? 'Control' : part) as KeyInput);
  }
  return chords.length;
}

const focused = () =>
  page.evaluate(() => {
    const e = document.activeElement;
    if (e === null || e === document.body) return 'nothing';
    return e.getAttribute('aria-label') ?? (e as HTMLInputElement).labels?.[0]?.textContent ?? e.textContent ?? e.tagName;
  });
const room = () => page.evaluate(() => location.pathname.split('/').at(-1));
const goTo = async (key: string, name: string) => {
  await keys(key);
  await until(async () => (await room()) === name, `the room ${name}`);
};
const focusOn = async (label: string) => {
  await until(async () => (await focused()).includes(label), `the focus on ${label}`, 5000).catch(async (error: unknown) => {
    throw new Error(`${String(error)} It is on ${await focused()}.`);
  });
};

describe('jobs by keys alone', () => {
  it('a dissolve of 12 frames to camera 3, in 10 presses at most', async () => {
    let count = await keys('KeyD', 'Digit3', 'KeyL');
    await focusOn('Length of the transition');
    count += await keys('Digit1', 'Digit2', 'Enter');
    await until(() => pick(page, (s) => s.desk.show.transition.frames === 12), 'the length');
    count += await keys('Space');
    await until(() => pick(page, (s) => s.desk.air.onAirId === 'mast'), 'camera 3 on air');
    expect(await pick(page, (s) => s.desk.show.transition.kind)).toBe('dissolve');
    expect(count).toBeLessThanOrEqual(10);
  });

  it('the words of the card on air, in 12 presses and the typing', async () => {
    const card = await pick(page, (s) => s.desk.show.cards[0]?.id);
    await send(page, 'lane.setContent', { lane: 'lane-1', content: { kind: 'card', id: card } });
    let count = await keys('KeyQ');
    await until(() => pick(page, (s) => s.desk.air.lanes['lane-1']?.fade.to === 1), 'the lane up');
    count += await keys('KeyC');
    await focusOn('Name on the card');
    await page.keyboard.type('Ebba Sund');
    count += await keys('Tab');
    await focusOn('Who that is');
    await page.keyboard.type('Line judge');
    count += await keys('Enter');
    await until(() => pick(page, (s) => s.desk.show.cards[0]?.role === 'Line judge'), 'the words');
    count += await keys('KeyA');
    await until(
      () =>
        pick(page, (s) => {
          const picture = s.desk.air.lanes['lane-1']?.picture;
          return picture?.kind === 'card' && picture.card.name === 'Ebba Sund' && picture.card.role === 'Line judge';
        }),
      'the new words on air',
    );
    expect(count).toBeLessThanOrEqual(12);
    await keys('KeyQ');
  });

  it('the in point of a clip, in 6 presses', async () => {
    await send(page, 'replay.start');
    await passes(page, 60);
    const made = await send(page, 'clip.grab', { deck: 1, seconds: 2 });
    if (!made.ok) throw new Error(made.error.message);
    const before = await pick(page, (s) => s.desk.show.replay.clips[0]?.in ?? 0);
    await goTo('F2', 'replay');
    let count = await keys('ArrowDown', 'Alt+KeyI');
    await focusOn('in point of the clip');
    await page.keyboard.type('+10');
    count += 3 + (await keys('Enter'));
    await until(() => pick(page, (s) => s.desk.show.replay.clips[0]?.in).then((n) => n === before + 10), 'the in point');
    expect(count).toBeLessThanOrEqual(6);
    // Escape restores.
    await keys('Alt+KeyI');
    await focusOn('in point of the clip');
    await page.keyboard.type('nonsense');
    await keys('Escape');
    expect(await pick(page, (s) => s.desk.show.replay.clips[0]?.in)).toBe(before + 10);
    expect(await focused()).not.toContain('in point');
  });

  it('a crosspoint, in 8 presses', async () => {
    let count = await keys('F3');
    await until(async () => (await room()) === 'sound', 'Sound');
    const before = await pick(page, (s) => JSON.stringify(s.desk.show.sound));
    const levels = await pick(page, (s) => JSON.stringify(s.desk.show.sources.map((x) => x.sound.faderDb)));
    count += await keys('KeyX');
    await until(() => page.evaluate(() => document.activeElement?.hasAttribute('data-cell') ?? false), 'the focus in the matrix');
    const first = await focused();
    count += await keys('ArrowDown', 'ArrowDown', 'ArrowRight');
    const cell = await focused();
    expect(cell).not.toBe(first);
    count += await keys('Enter');
    await until(() => pick(page, (s) => JSON.stringify(s.desk.show.sound)).then((now) => now !== before), 'the crosspoint');
    expect(count).toBeLessThanOrEqual(8);
    // No fader that is out of sight has moved.
    expect(await pick(page, (s) => JSON.stringify(s.desk.show.sources.map((x) => x.sound.faderDb)))).toBe(levels);
    await keys('KeyX');
  });

  it('a layout of two boxes with a seat filled, put on air, in 25 presses', async () => {
    let count = await keys('F1');
    await until(async () => (await room()) === 'desk', 'the Desk');
    const before = await pick(page, (s) => s.desk.show.layouts.length);
    count += await keys('Shift+F1');
    await until(async () => (await room()) === 'layouts', 'Layouts');
    count += await keys('KeyA');
    await focusOn('One box');
    count += await keys('ArrowDown', 'Enter');
    await until(() => pick(page, (s) => s.desk.show.layouts.length).then((n) => n === before + 1), 'the layout');
    // What the first box shows: the first seat of the list.
    count += await keys('KeyS');
    await focusOn('What the box shows');
    count += await keys('ArrowDown');
    await until(() => pick(page, (s) => s.desk.show.layouts.at(-1)?.boxes[0]?.content?.kind === 'seat'), 'a seat in the box');
    // Who fills it: the next one of the list.
    const filled = await pick(page, (s) => s.desk.show.seats[0]?.occupantId);
    count += await keys('Digit4');
    await focusOn('Who fills');
    count += await keys('ArrowDown');
    await until(() => pick(page, (s) => s.desk.show.seats[0]?.occupantId).then((id) => id !== filled), 'somebody else in the seat');
    count += await keys('Shift+Enter', 'F1');
    await until(async () => (await room()) === 'desk', 'the Desk');
    const next = await pick(page, (s) => s.desk.show.layouts.at(-1)?.id);
    await until(() => pick(page, (s) => s.desk.air.nextId).then((id) => id === next), 'the layout in Next');
    count += await keys('Space');
    await until(() => pick(page, (s) => s.desk.air.onAirId).then((id) => id === next), 'the layout on air');
    expect(count).toBeLessThanOrEqual(25);
  });

  it('a recording renamed and played, in 12 presses and the typing', async () => {
    let count = await keys('Alt+KeyR');
    await until(() => pick(page, (s) => (s.encoder.recording?.seconds ?? 0) > 1), 'a recording');
    // The same key, only pressed, says that it wants to be held.
    await keys('Alt+KeyR');
    await until(() => page.evaluate(() => /hold/i.test(document.querySelector('.status-line')?.textContent ?? '')), 'a word about holding');
    expect(await pick(page, (s) => s.desk.air.recording !== null)).toBe(true);
    await page.keyboard.down('Alt');
    await page.keyboard.down('KeyR');
    await until(() => pick(page, (s) => s.desk.air.recording === null), 'the recording to end').finally(async () => {
      await page.keyboard.up('KeyR');
      await page.keyboard.up('Alt');
    });
    count += 1 + (await keys('F10'));
    await page.waitForSelector('[data-recording] [data-role="play"]:not([aria-disabled])');
    count += await keys('KeyN');
    await focusOn('Name of the recording');
    await page.keyboard.type('First heat');
    count += await keys('Enter', 'KeyP');
    await page.waitForSelector('[role=dialog] video');
    await until(
      () => page.evaluate(() => document.querySelector('[role=dialog] h2')?.textContent === 'First heat'),
      'the name over the player',
    );
    count += await keys('Escape');
    await until(() => page.evaluate(() => document.querySelector('[role=dialog]') === null), 'the player to close');
    expect(await focused()).not.toBe('nothing');
    expect(count).toBeLessThanOrEqual(12);
  });
});

describe('Space takes', () => {
  /** Presses Space and sees whether what was Next goes to air. */
  async function takes(what: string): Promise<void> {
    const next = await pick(page, (s) => s.desk.air.nextId);
    await keys('Space');
    await until(() => pick(page, (s) => s.desk.air.onAirId).then((id) => id === next), `the take after ${what}`, 4000).catch(
      async (error: unknown) => {
        throw new Error(`${String(error)} The focus is on ${await focused()}.`);
      },
    );
    await send(page, 'picture.cut', { picture: 'shore' });
    await send(page, 'picture.setNext', { picture: 'flight' });
  }

  beforeAll(async () => {
    await goTo('F1', 'desk');
    await send(page, 'picture.arm', { kind: 'dissolve', frames: 2 });
    await send(page, 'picture.cut', { picture: 'shore' });
    await send(page, 'picture.setNext', { picture: 'flight' });
  });

  it('after anything was pressed with the mouse', async () => {
    for (const name of [
      'Mute Shore wide',
      'Framings',
      'Cards',
      'Add a lane',
      'All transitions',
      'All transitions',
      'Notices[role="button"]',
      'Dissolve',
    ]) {
      await press(page, name);
      if (name.startsWith('Notices')) await keys('Escape');
      await takes(name);
    }
    await press(page, 'Mute Shore wide');
  });

  it('after a list, a slider, a fader, the bar and a number were used', async () => {
    await page.select('select[aria-label="What Names holds ready"]', '');
    await page.focus('select[aria-label="What Names holds ready"]');
    await takes('a list');
    const ears = await page.$('input[aria-label^="What you hear"], [aria-label="Ears"], section[aria-label="Sound"] input[type=range]');
    await ears?.click();
    await takes('a slider');
    const fader = await page.$('[aria-label="Programme fader, dB"]');
    await fader?.click();
    await takes('a fader');
    const level = await page.$('[aria-label="Level of Flight line, dB"]');
    await level?.click();
    await page.keyboard.type('-3');
    await keys('Enter');
    await takes('a number');
    await level?.click();
    await keys('Escape');
    await takes('a number that was left');
    // A take by hand, half-way, is finished.
    const bar = await page.$('[aria-label^="Bar"]');
    const box = await bar?.boundingBox();
    if (!box) throw new Error('no bar');
    await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
    await until(() => pick(page, (s) => s.desk.air.transition?.mode === 'bar'), 'the bar half-way');
    await keys('Space');
    await until(
      () => pick(page, (s) => s.desk.air.transition === null || s.desk.air.transition.mode === 'auto'),
      'the take to go on by itself',
      4000,
    );
    await until(() => pick(page, (s) => s.desk.air.onAirId === 'flight'), 'the take by hand to end', 4000);
    await send(page, 'picture.cut', { picture: 'shore' });
    await send(page, 'picture.setNext', { picture: 'flight' });
  });

  it('after a button was reached by Tab and used, and after a dialog', async () => {
    await page.focus('[aria-label="Mute Flight line"]');
    await keys('Shift+Tab', 'Tab');
    await keys('Enter');
    await takes('a button by keys');
    await keys('Ctrl+KeyK');
    await page.waitForSelector('[role=dialog] input');
    await keys('Escape');
    await until(() => page.evaluate(() => document.querySelector('[role=dialog]') === null), 'the finder to close');
    expect(await focused()).not.toBe('nothing');
    await takes('the finder');
  });

  it('but not while a text is typed, where every letter goes into it', async () => {
    await keys('KeyC');
    await focusOn('Name on the card');
    const onAir = await pick(page, (s) => s.desk.air.onAirId);
    await page.keyboard.type('x 1 q');
    expect(await pick(page, (s) => s.desk.air.onAirId)).toBe(onAir);
    expect(await page.evaluate(() => (document.activeElement as HTMLInputElement).value)).toContain('x 1 q');
    await keys('Escape');
    await takes('Escape');
  });

  it('and Tab goes round the Desk in few stops', async () => {
    const stops = new Set<string>();
    for (let i = 0; i < 40; i += 1) {
      await keys('Tab');
      stops.add(await focused());
    }
    expect(stops.size, [...stops].join(' | ')).toBeLessThanOrEqual(18);
  });
});
