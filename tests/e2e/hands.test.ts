/** The jobs of a show by keys alone, counted; and that no control keeps the keys. */
import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type ElementHandle, type KeyInput, type Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { hold, openDemo, passes, pick, press, send, showRuns, until } from '../support/desk';

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
/** Goes to a room by its key; it is drawn then. */
const goTo = async (key: string, name: string) => {
  await keys(key);
  await until(async () => (await room()) === name, `the room ${name}`);
  await until(
    () => page.evaluate((n) => document.querySelector('main h1')?.textContent?.toLowerCase() === n, name),
    `the room ${name} to be drawn`,
  );
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
    const card = await pick(page, (s) => s.desk.show.graphics.list[0]?.entries[0]?.id);
    await send(page, 'lane.setContent', { lane: 'lane-1', content: { kind: 'picture', id: card } });
    let count = await keys('KeyQ');
    await until(() => pick(page, (s) => s.desk.air.lanes['lane-1']?.fade.to === 1), 'the lane up');
    count += await keys('KeyC');
    await focusOn('Name');
    await page.keyboard.type('Ebba Sund');
    count += await keys('Tab');
    await focusOn('Who that is');
    await page.keyboard.type('Line judge');
    count += await keys('Enter');
    await until(() => pick(page, (s) => JSON.stringify(s.desk.show.graphics.list[0]?.entries[0]).includes('Line judge')), 'the words');
    count += await keys('KeyA');
    await until(
      () =>
        pick(page, (s) => {
          const picture = s.desk.air.lanes['lane-1']?.picture;
          return (
            picture?.kind === 'graphic' &&
            ['Ebba Sund', 'Line judge'].every((words) => JSON.stringify(picture.shown.values).includes(words))
          );
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
    await until(() => pick(page, (s) => s.desk.show.replay.clips[0]?.in).then((n) => n === before + 10), 'the in point', 5000).catch(
      async (error: unknown) => {
        const now = await page.evaluate(() => [
          (document.querySelector('[data-role="edge-in"]') as HTMLInputElement).value,
          document.querySelector('.status-line')?.textContent,
        ]);
        throw new Error(
          `${String(error)} ${now.join(' ')} ${await focused()} ${before} ${await pick(page, (s) => s.desk.show.replay.clips[0]?.in)}`,
        );
      },
    );
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
    await goTo('F3', 'sound');
    let count = 1;
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
    expect(await pick(page, (s) => s.desk.show.layouts.at(-1)?.boxes.length)).toBe(2);
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
      'Framings[role="tab"]',
      'Graphics[role="tab"]',
      'Add a lane',
      'All transitions',
      'All transitions',
      'What was said',
      'Dissolve',
    ]) {
      if (name === 'What was said') {
        await page.click('[aria-label^="What was said lately"]');
        await page.waitForSelector('ul[aria-label="What was said lately"]');
        await keys('Escape');
      } else
        await press(page, name).catch((error: unknown) => {
          throw new Error(`${name}: ${String(error)}`);
        });
      await takes(name);
    }
    // Pressed, not held: it says so, and gives the keys back too.
    await press(page, 'Black');
    await page.waitForFunction(() => [...document.querySelectorAll('button [role=status]')].some((e) => e.textContent === 'hold'));
    await takes('a button that wants to be held');
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
    await focusOn('Name');
    const onAir = await pick(page, (s) => s.desk.air.onAirId);
    await page.keyboard.type('x 1 q');
    expect(await pick(page, (s) => s.desk.air.onAirId)).toBe(onAir);
    expect(await page.evaluate(() => (document.activeElement as HTMLInputElement).value)).toContain('x 1 q');
    await keys('Escape');
    await takes('Escape');
  });

  it('and Tab goes round the Desk in few stops', async () => {
    const held: (boolean | undefined)[] = [];
    // By the element, as names change with what they tell.
    for (let i = 0; i < 40; i += 1) {
      await keys('Tab');
      held.push(
        await page.evaluate(() => {
          const e = document.activeElement as HTMLElement;
          const seen = e.dataset.tabbed !== undefined;
          if (e !== document.body) e.dataset.tabbed = '';
          return e === document.body ? undefined : seen;
        }),
      );
    }
    expect(held.filter((seen) => seen === false).length).toBeLessThanOrEqual(18);
    expect(held.some((seen) => seen === true)).toBe(true);
  });
});

describe('what each person has at hand', () => {
  const hands = (change: string) => page.evaluate((c) => localStorage.setItem('bivoca.hands', c), change);

  beforeAll(() => goTo('F1', 'desk'));
  afterAll(async () => {
    await page.evaluate(() => localStorage.removeItem('bivoca.hands'));
  });

  it('is their own choice of rooms, transitions and speeds', async () => {
    const links = () => page.$$eval('nav[aria-label="Rooms"] a', (all) => all.filter((a) => a.offsetParent).map((a) => a.textContent));
    expect(await links()).toContain('Layouts');
    await press(page, 'All rooms');
    await press(page, 'Layouts in the bar');
    await keys('Escape');
    await until(async () => !(await links()).includes('Layouts'), 'the room to leave the bar');
    await keys('Shift+F1');
    // Still reached, and the bar says where one is.
    await until(() => page.$eval('[aria-label="All rooms"]', (e) => e.textContent?.includes('Layouts')), 'the name of the room');
    await keys('Shift+F7');
    await press(page, 'Keys and what is at hand');
    await (await page.waitForSelector('aria/Transitions on the rail'))?.click();
    await page.keyboard.type('3');
    await keys('Enter');
    await (await page.waitForSelector('section[aria-label="At hand"] label:nth-of-type(2) input'))?.click({ count: 3 });
    await page.keyboard.type('10 60');
    await keys('Enter');
    await goTo('F1', 'desk');
    await until(
      () => page.$$eval('[aria-label="Transition"] button[aria-pressed]', (all) => all.length === 4),
      'three transitions and the list',
    );
    await goTo('F2', 'replay');
    const speeds = () =>
      page.$$eval('section[aria-label="Deck 1"] button', (all) => all.map((b) => b.title).filter((t) => t.startsWith('Speed ')));
    await until(async () => (await speeds()).length === 2, 'two speeds');
    expect(await speeds()).toEqual(['Speed 10 %', 'Speed 60 %']);
    await hands('damaged');
    await page.evaluate(() => localStorage.removeItem('bivoca.hands'));
  });

  it('never makes the bar wrap or scroll, while everything runs', async () => {
    await goTo('F1', 'desk');
    for (const type of ['output.startRecording', 'output.startStream']) await send(page, type);
    await until(() => page.$eval('header', (e) => /REC.*LIVE/.test(e.textContent ?? '')), 'both outputs', 40_000);
    expect(await page.$eval('header', (e) => [e.offsetHeight, e.scrollWidth <= e.clientWidth])).toEqual([44, true]);
    for (const type of ['output.stopStream', 'output.stopRecording']) await send(page, type);
    await until(() => pick(page, (s) => s.encoder.recording === null && s.encoder.stream === null), 'both outputs to end');
  });
});

describe('keys in every room', () => {
  const region = () => page.evaluate(() => (document.activeElement?.closest('[data-region]') as HTMLElement | null)?.dataset.region ?? '');

  it('go from part to part', async () => {
    await goTo('F1', 'desk');
    const seen: string[] = [];
    for (let i = 0; i < 6; i += 1) {
      await keys('F6');
      seen.push(await region());
    }
    expect(new Set(seen)).toEqual(new Set(['sources', 'take', 'lanes', 'shelf', 'sound']));
    await keys('Alt+Shift+Digit2');
    expect(await region()).toBe('take');
  });

  it('talk while another hand switches, and end when they are let go, whatever room is open', async () => {
    await page.keyboard.down('Backquote');
    await until(() => pick(page, (s) => s.desk.air.sound.talkback !== null), 'the talk');
    await keys('Digit3', 'F2');
    await until(async () => (await room()) === 'replay', 'Replay');
    await passes(page, 5);
    expect(await pick(page, (s) => [s.desk.air.nextId, s.desk.air.sound.talkback !== null])).toEqual(['mast', true]);
    await page.keyboard.up('Backquote');
    await until(() => pick(page, (s) => s.desk.air.sound.talkback === null), 'the talk to end');
  });

  it('and controllers are not taken up anew with a room', async () => {
    await page.evaluate(() => {
      const Before = BroadcastChannel;
      const counted = window as unknown as { opened: number };
      counted.opened = 0;
      window.BroadcastChannel = class extends Before {
        constructor(name: string) {
          super(name);
          counted.opened += 1;
        }
      };
    });
    await goTo('F3', 'sound');
    await goTo('F1', 'desk');
    await passes(page, 10);
    expect(await page.evaluate(() => (window as unknown as { opened: number }).opened)).toBe(0);
  });

  it('roll the newest clip to air', async () => {
    await send(page, 'replay.start');
    await passes(page, 60);
    await send(page, 'clip.grab', { deck: 1, seconds: 1 });
    await keys('KeyN');
    const deck = await pick(page, (s) => s.desk.show.sources.find((x) => x.settings.kind === 'deck' && x.settings.deck === 1)?.id);
    await until(() => pick(page, (s) => s.desk.air.onAirId).then((id) => id === deck), 'the deck on air');
    await send(page, 'replay.backToLive');
    await send(page, 'replay.stop');
  });
});

describe('leaving a show that is on air to somebody', () => {
  const asked = () =>
    page.evaluate(() => [...document.querySelectorAll('[role=dialog]')].some((d) => d.textContent?.includes('This show is on air')));
  const inShow = () => page.evaluate(() => location.pathname.startsWith('/show/'));

  it('asks by holding, whether by the link or by going back', async () => {
    const record = async () => {
      await send(page, 'output.startRecording');
      await until(() => pick(page, (s) => s.encoder.recording !== null), 'a recording');
    };
    await record();
    await press(page, 'Shows');
    await until(asked, 'the question');
    await press(page, 'Stay');
    expect(await inShow()).toBe(true);
    // Nobody sees it: left at once. Closing takes its time, as on a slow disk; the show opens again once that is done.
    await send(page, 'output.stopRecording');
    await send(page, 'replay.stop');
    await until(() => pick(page, (s) => s.encoder.recording === null), 'the recording to end');
    await page.evaluate(() => {
      const host = window.bivocaHost;
      if (!host) return;
      const close = host.close.bind(host);
      host.close = () => close().then(() => new Promise((done) => setTimeout(done, 4000)));
    });
    await press(page, 'Shows');
    await until(async () => !(await inShow()), 'the list of shows');
    await (await page.waitForSelector('main li a.block'))?.click();
    await showRuns(page);
    await record();
    await page.evaluate(() => history.back());
    await until(asked, 'the question after going back');
    expect(await inShow()).toBe(true);
    // Pressed, not held: it says so, and stays.
    await press(page, 'Hold to leave');
    expect(await pick(page, (s) => s.desk.air.recording !== null)).toBe(true);
    await press(page, 'Stay');
    await until(async () => !(await asked()), 'the question to go');
    expect(await inShow()).toBe(true);
  });

  it('asks in the browser’s own words before a reload, and a plain reload is told as no interruption', async () => {
    const questions: string[] = [];
    const stay = (dialog: { type: () => string; dismiss: () => Promise<void> }) => {
      questions.push(dialog.type());
      void dialog.dismiss();
    };
    page.on('dialog', stay);
    await page.reload({ timeout: 3000 }).catch(() => undefined);
    await until(() => questions.length > 0, 'the question of the browser');
    page.off('dialog', stay);
    expect(questions).toEqual(['beforeunload']);
    expect(await pick(page, (s) => s.desk.air.recording !== null)).toBe(true);
    await send(page, 'output.stopRecording');
    await until(() => pick(page, (s) => s.encoder.recording === null), 'the recording to end');
    await passes(page, 40);
    await page.reload();
    await showRuns(page);
    expect(await pick(page, (s) => s.notices.map((n) => n.text).join(' '))).not.toContain('interrupted');
  });

  it('counts a window as somebody', async () => {
    const id = await page.evaluate(() => window.bivocaHost?.showId ?? '');
    const other = await browser.browser.newPage();
    await other.goto(`${app.url}/programme?show=${id}`);
    await page.bringToFront();
    await until(
      () => page.evaluate(() => navigator.locks.query().then(({ held = [] }) => held.some((l) => l.name?.startsWith('bivoca-window')))),
      'the window to be there',
    );
    await passes(page, 60);
    await press(page, 'Shows');
    await until(asked, 'the question');
    expect(await inShow()).toBe(true);
    await press(page, 'Stay');
    await other.close();
  });
});

describe('the picture size', () => {
  it('changes on air by holding only, and takes the layouts with it', async () => {
    await send(page, 'picture.cut', { picture: 'shore' });
    const before = await pick(page, (s) => ({ raster: s.desk.show.raster, box: s.desk.show.layouts[0]?.boxes[0]?.rect }));
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await keys('Shift+F7');
    await page.waitForSelector('select[aria-label="Picture size"]');
    await page.select('select[aria-label="Picture size"]', '1280×720');
    await page.waitForSelector('[aria-label="Change the picture size"]');
    expect(await pick(page, (s) => s.desk.show.raster)).toEqual(before.raster);
    await hold(
      page,
      '[aria-label="Change the picture size"] button',
      () => pick(page, (s) => s.desk.show.raster.width === 1280),
      'the new size',
    );
    const box = await pick(page, (s) => s.desk.show.layouts[0]?.boxes[0]?.rect);
    expect(box?.width).toBeCloseTo((before.box?.width ?? 0) * 2, 0);
    await send(page, 'show.setRaster', { raster: before.raster });
  });
});

describe('keys of one’s own', () => {
  const stored = () =>
    page.evaluate(
      () => JSON.parse(localStorage.getItem('bivoca.hands') ?? '{}') as { layoutId?: string; layouts?: { changes: unknown[] }[] },
    );

  it('are bound with their conflicts shown first, work, and come back from a file', async () => {
    await keys('Shift+F7');
    await press(page, 'Keys and what is at hand');
    await press(page, 'Another key for Cut to Next');
    await page.waitForFunction(() => document.body.innerText.includes('Press the key'));
    await keys('KeyD');
    await page.waitForFunction(() => document.querySelector('[aria-label="Bind a key"]')?.textContent?.includes('Arm dissolve'));
    expect((await stored()).layouts?.length ?? 1).toBe(1);
    await press(page, 'Bind it all the same');
    await until(async () => (await stored()).layouts?.length === 2, 'a layout of one’s own');
    await keys('F1');
    await send(page, 'picture.setNext', { picture: 'mast' });
    await keys('KeyD');
    await until(() => pick(page, (s) => s.desk.air.onAirId === 'mast'), 'the cut by the new key');
    // Exported, damaged, imported.
    const file = JSON.stringify(await stored());
    await keys('Shift+F7');
    await press(page, 'Keys and what is at hand');
    const read = async (text: string) => {
      const input = await page.waitForSelector('input[aria-label="File with layouts of keys"]');
      const path = join(await mkdtemp(join(tmpdir(), 'bivoca-keys-')), 'keys.json');
      await writeFile(path, text);
      await (input as ElementHandle<HTMLInputElement>).uploadFile(path);
    };
    await read(file.replace('picture.cut', 'constructor'));
    await page.waitForFunction(() => document.querySelector('.status-line')?.textContent?.includes('nothing is called'));
    expect(JSON.stringify(await stored())).toBe(file);
    await press(page, 'Remove');
    await until(async () => (await stored()).layoutId === 'first', 'the first keys');
    await read(file);
    await until(async () => JSON.stringify(await stored()) === file, 'the keys of the file');
    await page.evaluate(() => localStorage.removeItem('bivoca.hands'));
  });
});

describe('the finder', () => {
  const rows = () => page.evaluate(() => [...document.querySelectorAll('[cmdk-item]')].map((e) => e.textContent ?? ''));
  /** Types into a finder of its own, not into one that is just closing, and waits until it answers these very words. */
  const find = async (words: string) => {
    await until(async () => {
      const open = await page.evaluate(() => document.querySelector('[role=dialog]') !== null);
      if (open) await keys('Escape');
      return !open;
    }, 'the last dialog to be closed');
    await keys('Ctrl+KeyK');
    await page.waitForFunction(() => document.activeElement?.matches('[role=dialog] input'));
    await page.keyboard.type(words);
    await page.waitForFunction((w) => document.querySelector<HTMLInputElement>('[role=dialog] input')?.value === w, {}, words);
    await until(async () => (await rows()).length > 0, 'something found');
  };

  beforeAll(() => goTo('F1', 'desk'));

  it('finds rooms, keys and the length of a transition, and nothing that only the engine sends', async () => {
    await find('length of the transition');
    await until(async () => /Length of the transition.*L$/.test((await rows())[0] ?? ''), 'the length with its key');
    await keys('Enter');
    await focusOn('Length of the transition');
    await keys('Escape');
    await find('sound');
    await until(async () => (await rows()).some((r) => /Go to Sound.*F3$/.test(r)), 'the room with its key');
    await find('re');
    await page.keyboard.type('port');
    await until(async () => !(await rows()).some((r) => /Report what is kept|Report a source/.test(r)), 'no report');
    await keys('Escape');
  });

  it('asks by name and picture, and for a hold where there is one', async () => {
    await find('fill a lane');
    await until(async () => /Fill a lane/.test((await rows())[0] ?? ''), 'the command at the head of the list');
    await keys('Enter');
    await until(async () => (await rows()).includes('Names'), 'the lanes');
    await keys('Enter');
    await until(async () => (await rows()).some((r) => r.includes('Shore wide')), 'what a lane can hold');
    expect(await page.evaluate(() => document.querySelectorAll('[cmdk-item] canvas').length)).toBeGreaterThan(3);
    await page.keyboard.type('Shore wide');
    await keys('Enter');
    await page.waitForSelector('[role=dialog] button[type=submit]');
    await keys('Enter');
    await until(() => pick(page, (s) => s.desk.show.lanes[0]?.content?.id === 'shore'), 'the lane filled');
    await find('fade to black');
    await keys('Enter');
    const button = await page.waitForSelector('::-p-xpath(//*[@role="dialog"]//button[contains(., "Hold to do it")])');
    await button?.click();
    expect(await pick(page, (s) => s.desk.air.black.to)).toBe(0);
    await keys('Escape');
    await until(() => page.evaluate(() => document.querySelector('[role=dialog]') === null), 'the finder to close');
  });
});
