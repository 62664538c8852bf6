/** Devices in the real interface, against the simulated ones over real TCP, HTTP and OSC: lamps that follow tally, learning, one that dies in the middle. */
import { type KeyInput, type Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type PierState } from '#standins/devices/pier';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { chord as chordOn, keepOnly, openDemo, passes, pick, post, press, said as saidOn, send, until } from '../support/desk';

let app: App;
let browser: TestBrowser;
let page: Page;
beforeAll(async () => {
  app = await startApp();
  browser = await startBrowser();
  ({ page } = browser);
  await openDemo(page, app);
  await send(page, 'picture.cut', { picture: 'harbour' });
  await keepOnly(page, 'line', 'mast');
  await send(page, 'trigger.armAll', { armed: false });
  // Lines of a clock, one a second, are no use here.
  await send(page, 'message.remove', { messages: ['wall-clock'] });
});
afterAll(async () => {
  await browser.close();
  await app.close();
});

const said = (words: string) => saidOn(page, words);
const chord = (held: ('Alt' | 'Shift' | 'Control')[], key: KeyInput) => chordOn(page, held, key);
const pier = async () => (await (await fetch(`${app.url}/simulated/devices.json`)).json()) as PierState;
const act = (what: object) =>
  fetch(`${app.url}/simulated/devices`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(what) });
const reach = (id: string) =>
  pick(page, (s) => JSON.stringify(s.devices)).then((all) => (JSON.parse(all) as Record<string, { reach: string }>)[id]?.reach);
/** Presses the newest line of the log that says this. While one points at the log its lines stay where they are. */
const chooseLine = async (words: string, more = false) => {
  const toNewest = () => page.$$eval('button', (all) => all.find((b) => /^\d+ newer$/.test(b.textContent ?? ''))?.click());
  if (!more) await toNewest();
  await page.hover('[aria-label="Log of the day"]');
  const line = await until(
    async () =>
      (
        await page.evaluateHandle(
          (w) => [...document.querySelectorAll<HTMLElement>('[data-line]')].findLast((l) => l.textContent?.includes(w)) ?? null,
          words,
        )
      ).asElement(),
    `a line that says ${words}`,
  );
  if (more) await page.keyboard.down('Shift');
  await (line as unknown as { click: () => Promise<void> }).click();
  if (more) await page.keyboard.up('Shift');
  await page.waitForSelector('[data-line][aria-pressed=true]');
};

it('lights the lamps of cameras by tally, from the moment the show is open', async () => {
  // The demo opens with it in Next.
  await until(async () => (await pier()).lamps[1] === 'next', 'the lamp of what is Next');
  await send(page, 'picture.cut', { picture: 'line' });
  await until(async () => (await pier()).lamps[1] === 'air', 'the lamp of what is on air');
  await send(page, 'picture.cut', { picture: 'mast' });
  await until(async () => (await pier()).lamps.slice(1, 3).join() === 'off,air', 'the lamps after the cut');
});

it('learns: a line of the log becomes a message, is changed, swept, and sent by a macro and by the remote', async () => {
  await chord(['Shift'], 'F4');
  await page.waitForSelector('::-p-xpath(//main//button[@role="tab"][.="Running order"])');
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await chord(['Shift'], 'KeyD');
  await page.waitForSelector('[data-device="second-wall"]').then((d) => d!.click());
  await press(page, 'Send Wall layout 2');
  await until(async () => (await pier()).wall.layout === 2, 'the wall');
  // What it answers unasked came in, too.
  await said('/wall/is 2');
  await chooseLine('/wall/layout 2');
  await press(page, 'Make a message');
  const made = await until(
    () =>
      pick(page, (s) => s.desk.show.devices.find((d) => d.id === 'second-wall')?.messages.find((m) => m.name === '/wall/layout 2') ?? null),
    'the message',
  );
  expect(made).toMatchObject({ path: '/wall/layout', text: '2' });
  // One number is changed, with what is wrong said while one types.
  await page.click('textarea[aria-label="Arguments"]', { count: 3 });
  await page.keyboard.type('{clock: Nowhere}');
  await said('no clock is called “Nowhere”');
  await page.click('textarea[aria-label="Arguments"]', { count: 3 });
  await page.keyboard.type('5');
  await press(page, 'Send');
  await until(async () => (await pier()).wall.layout === 5, 'the changed message');
  await press(page, 'Sweep…');
  await press(page, 'Make 7 messages');
  const swept = await pick(page, (s) =>
    s.desk.show.devices
      .find((d) => d.id === 'second-wall')
      ?.messages.slice(-7)
      .map((m) => m.text),
  );
  expect(swept).toEqual(['1', '2', '3', '4', '6', '7', '8']);
  await page.keyboard.press('Escape');
  // Two lines of the log, one done here and one sent, become a macro.
  await send(page, 'picture.setNext', { picture: 'line' });
  await send(page, 'device.send', { message: 'wall-3' });
  await until(async () => (await pier()).wall.layout === 3, 'the third layout');
  await send(page, 'device.send', { message: 'wall-1' });
  await until(async () => (await pier()).wall.layout === 1, 'the first again');
  await chooseLine('Put Flight line into Next');
  await chooseLine('/wall/layout 3', true);
  // A line that comes meanwhile moves nothing.
  const places = () =>
    page.$$eval('[data-line]', (all) =>
      all
        .slice(0, 8)
        .map((l) => `${l.getAttribute('data-line')} ${l.getBoundingClientRect().y}`)
        .join(),
    );
  const stood = await places();
  await send(page, 'picture.setNext', { picture: 'harbour' });
  await until(
    () => page.$$eval('button', (all) => all.some((b) => /^\d+ newer$/.test(b.textContent ?? ''))),
    'the newer line to be counted',
  );
  expect(await places()).toBe(stood);
  await page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('button')].find((b) => /^Add as \d+ steps$/.test(b.textContent ?? ''))?.click(),
  );
  const macro = await until(
    () => pick(page, (s) => s.desk.show.automation.macros.find((m) => m.name === 'From the log') ?? null),
    'the macro',
  );
  const types = macro.steps.map((s) => (s.act.kind === 'command' ? s.act.type : ''));
  expect(types.filter((t) => t === 'device.say').length).toBeGreaterThan(0);
  await send(page, 'picture.setNext', { picture: 'harbour' });
  expect((await post(app, 'macro.run', { macro: macro.id })).status).toBe(200);
  await until(
    async () => (await pier()).wall.layout === 3 && (await pick(page, (s) => s.desk.air.nextId)) === 'line',
    'what the macro does',
  );
});

it('does something when a device says something', async () => {
  const when = await pick(page, (s) => s.desk.show.automation.triggers[0]?.when);
  await send(page, 'trigger.add', {
    name: 'Lamp pressed',
    when: { ...when, event: 'device-says', deviceId: 'lamps', sheetId: null, row: '', column: '', value: 'lamp * pressed' },
    then: { kind: 'command', type: 'picture.cut', args: { picture: 'harbour' } },
  });
  await passes(page, 5);
  await act({ press: 4 });
  await until(() => pick(page, (s) => s.desk.air.onAirId === 'harbour'), 'what the trigger does');
  await send(page, 'picture.cut', { picture: 'mast' });
  await act({ press: 4 });
  await until(() => pick(page, (s) => s.desk.air.onAirId === 'harbour'), 'the same again');
});

it('goes on when a device dies in the middle, says so, and lights its lamps again when it is back', async () => {
  // What has been on air becomes Next with a cut, unless somebody has chosen: none with a lamp.
  await send(page, 'picture.cut', { picture: 'mast' });
  await send(page, 'picture.setNext', { picture: 'harbour' });
  await act({ power: false });
  await until(async () => (await reach('lamps')) === 'away', 'the loss');
  await said('Camera lamps is away');
  const frames = await pick(page, (s) => s.mixer.frames);
  await send(page, 'picture.cut', { picture: 'line' });
  await send(page, 'device.send', { message: 'shutter-close' });
  // What hangs holds nothing up: the wall's line is another, and the show goes on.
  expect(await pick(page, (s) => s.desk.air.onAirId)).toBe('line');
  await passes(page, 25);
  expect(await pick(page, (s) => s.mixer.frames)).toBeGreaterThan(frames + 10);
  await until(async () => (await reach('projector')) === 'away', 'the projector that hangs');
  await act({ power: true });
  await until(async () => (await reach('lamps')) === 'reached', 'the return');
  // It is told again what it has forgotten without current.
  await until(async () => (await pier()).lamps.slice(1, 3).join() === 'air,off', 'the lamps');
  await send(page, 'picture.cut', { picture: 'mast' });
  await until(async () => (await pier()).lamps.slice(1, 3).join() === 'off,air', 'the lamps after the cut');
  // Off, it is told nothing.
  await send(page, 'device.switch', { device: 'lamps', on: false });
  await send(page, 'picture.cut', { picture: 'line' });
  await passes(page, 15);
  expect((await pier()).lamps[1]).toBe('off');
  const refused = await post(app, 'device.set', { device: 'lamps', settings: { kind: 'tcp', host: '10.0.0.1', port: 1, ending: 'lf' } });
  expect(refused).toMatchObject({ status: 422, body: { code: 'only-here' } });
  expect(browser.troubles).toEqual([]);
});
