/** The room Sound, worked by hand: mouse, keys and typed numbers. */
import { type Page } from 'puppeteer-core';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { type App, startApp, startBrowser, type TestBrowser } from '#tests/support/browser';
import { hold, openDemo, passes, pick, post, send, until } from '#tests/support/desk';
import { Downloads } from '#tests/support/downloads';
import { room, tidy, view } from '#tests/support/sound-room';

let app: App;
let browser: TestBrowser;
let downloads: Downloads;

beforeAll(async () => {
  app = await startApp();
  browser = await startBrowser();
  downloads = await Downloads.of(browser);
  await openDemo(browser.page, app);
});

afterAll(async () => {
  expect(browser.troubles).toEqual([]);
  await browser.close();
  await app.close();
  await downloads.close();
});

// Keys belong to the room only while no field has the caret.
const leaveField = () => browser.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
beforeEach(leaveField);

/** A field of the panel takes a typed value when the caret leaves it. */
async function typeInto(page: Page, label: string, text: string): Promise<void> {
  const field = await page.waitForSelector(`aria/${label}[role="textbox"]`);
  await field?.click({ count: 3 });
  await page.keyboard.type(text);
  await page.keyboard.press('Enter');
}

/** Chooses from a list by the words of an option. */
async function choose(page: Page, label: string, words: string): Promise<void> {
  const list = await page.waitForSelector(`select[aria-label="${label}"]`);
  const value = await list?.evaluate((e, w) => {
    const options = [...(e as HTMLSelectElement).options];
    return (options.find((o) => o.text.trim().startsWith(w)) ?? options.find((o) => o.text.includes(w)))?.value;
  }, words);
  if (value === undefined) throw new Error(`${label} offers nothing called "${words}".`);
  await list?.select(value);
}

/** Presses a control of the panel at the right, found by its words. */
const press = async (page: Page, words: string) =>
  (await page.waitForSelector(`::-p-xpath(//aside//button[normalize-space()="${words}"])`))?.click();

const strip = (page: Page, id: string) =>
  page.evaluate(
    (key) =>
      window.bivocaHost?.state.desk.show.sources.find((s) => s.id === key)?.sound ??
      window.bivocaHost?.state.desk.show.sound.inputs.find((c) => c.id === key)?.sound,
    id,
  );

describe('the room Sound', () => {
  it('warns before a loop is closed, closes it only when that is held, and breaks it with one press', async () => {
    const { page } = browser;
    await room(page, 'sound');
    await tidy(page);
    await view(page, 'Matrix');
    const cell = await page.waitForSelector('button[title^="Field to Pier PA: closed"]');
    await cell?.click();
    const dialog = await page.waitForSelector('[role=alertdialog]');
    expect(await dialog?.evaluate((e) => e.textContent)).toContain(
      'Pier loudspeakers → pier microphones → channel Field → bus Pier PA → outputs 1–2 → Pier loudspeakers',
    );
    expect(await pick(page, (s) => s.desk.show.sound.sends.length)).toBe(0);
    // Escape leaves everything as it was.
    await page.keyboard.press('Escape');
    await page.waitForSelector('[role=alertdialog]', { hidden: true });
    await cell?.click();
    const hold = await page.waitForSelector('[role=alertdialog] button');
    const box = await hold?.boundingBox();
    await page.mouse.move((box?.x ?? 0) + 10, (box?.y ?? 0) + 10);
    await page.mouse.down();
    await until(() => pick(page, (s) => s.desk.show.sound.sends.length === 1), 'the loop to be closed by holding');
    await page.mouse.up();
    await page.waitForSelector('button[title^="Field to Pier PA: 0 dB"]');
    await page.keyboard.press('o');
    const fix = await page.waitForSelector('button[title="Close channel Field in bus Pier PA"]');
    await fix?.click();
    await until(() => pick(page, (s) => s.desk.show.sound.sends[0]?.on === false), 'the send to be closed');
    await page.waitForSelector('::-p-xpath(//p[contains(., "No loop, nobody hears themself")])');
    await send(page, 'sound.sendByRule', { from: 'mic-field', bus: 'bus-pa' });
  });

  it('refuses a loop through the remote too, and does it when that is meant', async () => {
    const refused = await post(app, 'sound.setSend', { from: 'mic-field', bus: 'bus-pa', on: true });
    expect(refused.status).toBeGreaterThanOrEqual(400);
    expect(JSON.stringify(refused.body)).toContain('Pier loudspeakers → pier microphones');
    expect((await post(app, 'sound.setSend', { from: 'mic-field', bus: 'bus-pa', on: true, anyway: true })).status).toBe(200);
    expect((await post(app, 'sound.breakLoops')).body).toMatchObject({ changes: 1 });
    await post(app, 'sound.sendByRule', { from: 'mic-field', bus: 'bus-pa' });
  });

  it('is worked by keys alone: strip, fader, mute, solo', async () => {
    const { page } = browser;
    await view(page, 'Strips');
    await page.keyboard.press('2');
    await page.keyboard.press('ArrowDown');
    await page.keyboard.down('Shift');
    await page.keyboard.press('ArrowDown');
    await page.keyboard.up('Shift');
    await page.keyboard.press('m');
    await page.keyboard.press('s');
    const strip = () =>
      pick(page, (s) => ({
        db: s.desk.show.sources.find((x) => x.id === 'line')?.sound.faderDb,
        muted: s.desk.show.sources.find((x) => x.id === 'line')?.sound.muted,
        solos: s.desk.air.sound.solos,
      }));
    expect(await strip()).toEqual({ db: -11, muted: true, solos: [{ id: 'line', tap: 'after' }] });
    await page.keyboard.press('0');
    await page.keyboard.press('m');
    await page.keyboard.press('Escape');
    expect(await strip()).toEqual({ db: 0, muted: false, solos: [] });
  });

  it('moves a fader by dragging, and puts it back by a double press', async () => {
    const { page } = browser;
    const fader = await page.waitForSelector('aria/Fader of Shore wide, dB');
    const box = (await fader?.boundingBox()) as { x: number; y: number; width: number; height: number };
    const x = box.x + box.width / 2;
    await page.mouse.move(x, box.y + box.height * 0.22);
    await page.mouse.down();
    await page.mouse.move(x, box.y + box.height * 0.45, { steps: 4 });
    await page.mouse.up();
    // From 0 dB at 0.78 of the travel by 0.23 down to 0.55, which is −10 dB.
    expect(await pick(page, (s) => s.desk.show.sources[0]?.sound.faderDb)).toBeCloseTo(-10, 0);
    await fader?.click({ count: 2 });
    expect(await pick(page, (s) => s.desk.show.sources[0]?.sound.faderDb)).toBe(0);
  });

  it('says what a listener hears', async () => {
    const { page } = browser;
    await page.keyboard.press('l');
    const row = await page.waitForSelector(
      '::-p-xpath(//li[contains(., "Producer") and contains(., "the guests alone")]//button[contains(., "Hears")])',
    );
    await row?.click();
    const list = await page.waitForSelector('ol[aria-label^="What they hear"]');
    const text = await list?.evaluate((e) => e.textContent);
    expect(text).toContain('Weather hut → channel Weather hut → bus Producer → outputs 5–6 → producer’s headphones → Producer');
    // The card's own mixer lets the producer hear the pier.
    expect(text).toContain('pier microphones → outputs 5–6 → producer’s headphones');
  });
});

describe('a channel’s settings', () => {
  it('are shaped on the equaliser’s curve by dragging, one drag being one step of undo', async () => {
    const { page } = browser;
    await page.bringToFront();
    await view(page, 'Strips');
    await page.keyboard.press('1');
    await page.keyboard.press('c');
    const before = (await strip(page, 'shore'))?.eq;
    const handle = await page.waitForSelector('[aria-label^="Band 3:"]');
    await handle?.evaluate((e) => e.scrollIntoView({ block: 'center' }));
    const curve = (await (await page.waitForSelector('svg[aria-label="Response of the equaliser"]'))?.boundingBox()) as {
      x: number;
      y: number;
      width: number;
      height: number;
    };
    const grip = (await handle?.boundingBox()) as { x: number; y: number; width: number; height: number };
    await page.mouse.move(grip.x + grip.width / 2, grip.y + grip.height / 2);
    await page.mouse.down();
    // 1 kHz lies at ln(1000/20)/ln(1000) = 56.6 % of the width; +9 dB at a quarter of the height.
    await page.mouse.move(curve.x + curve.width * 0.5663, curve.y + curve.height * 0.25, { steps: 6 });
    await page.mouse.up();
    const band = (await strip(page, 'shore'))?.eq.bands[2];
    expect(band?.gainDb).toBeCloseTo(9, 0);
    expect((band?.hz ?? 0) / 1000).toBeCloseTo(1, 1);
    await page.waitForSelector('aria/Band 3: ' + String(Math.round(band?.hz ?? 0)) + ' Hz');
    await page.keyboard.down('Control');
    await page.keyboard.press('z');
    await page.keyboard.up('Control');
    expect((await strip(page, 'shore'))?.eq).toEqual(before);
  });

  it('are typed, in milliseconds and in frames, with arithmetic; what is out of range is refused in words', async () => {
    const { page } = browser;
    await page.keyboard.press('1');
    await typeInto(page, '= frames', '1+1');
    expect((await strip(page, 'shore'))?.delayMs).toBe(80);
    await typeInto(page, 'Delay', '0');
    await typeInto(page, 'Gain', '99');
    await page.waitForSelector('::-p-xpath(//aside//*[@role="alert"][contains(., "Gain goes from -30 to 40")])');
    await page.keyboard.press('Escape');
    expect(await strip(page, 'shore')).toMatchObject({ delayMs: 0, gainDb: 0 });
  });

  it('are stored as a preset, put on another channel, and taken off the list', async () => {
    const { page } = browser;
    await send(page, 'sound.setCompressor', { channel: 'mic-presenter', on: true, thresholdDb: -27, ratio: 5 });
    const wanted = await strip(page, 'mic-presenter');
    await page.keyboard.press('PageDown');
    await (await page.waitForSelector('[data-strip="mic-presenter"] button[title*="its settings"]'))?.click();
    await (await page.waitForSelector('aria/Name of a new preset'))?.type('Pier voice');
    await page.keyboard.press('Enter');
    await until(() => pick(page, (s) => s.desk.show.sound.presets.some((p) => p.name === 'Pier voice')), 'the preset to be stored');
    await leaveField();
    await page.keyboard.press('PageDown');
    await (await page.waitForSelector('[data-strip="mic-field"] button[title*="its settings"]'))?.click();
    await choose(page, 'Preset for this channel', 'Pier voice');
    expect((await strip(page, 'mic-field'))?.compressor).toEqual(wanted?.compressor);
    // The level is not a part of a preset.
    expect((await strip(page, 'mic-field'))?.faderDb).toBe(-8);
    await choose(page, 'Preset for this channel', 'remove Pier voice');
    expect(await pick(page, (s) => s.desk.show.sound.presets.some((p) => p.name === 'Pier voice'))).toBe(false);
    await send(page, 'history.undo');
    await send(page, 'history.undo');
    await send(page, 'history.undo');
  });

  it('stand in banks that keys turn', async () => {
    const { page } = browser;
    const before = page.viewport();
    // As wide as leaves some of them out.
    await page.setViewport({ width: 900, height: 700 });
    await page.keyboard.press('PageUp');
    await page.keyboard.press('PageUp');
    await page.waitForSelector('[data-strip="shore"]');
    const shown = () =>
      page.evaluate(() =>
        [...document.querySelectorAll('[aria-label^="Channels "] [data-strip]')].map((e) => (e as HTMLElement).dataset.strip ?? ''),
      );
    const all = await page.evaluate(() => window.bivocaHost?.state.desk.show.sources.map((s) => s.id) ?? []);
    await until(async () => (await shown()).length < all.length, 'that not all of them are seen');
    const first = await shown();
    await page.keyboard.press('PageDown');
    await until(async () => (await shown())[0] !== first[0], 'the next bank');
    // The next bank begins where the first one ended: no strip is skipped.
    expect(all.indexOf((await shown())[0] ?? '')).toBeLessThanOrEqual(all.indexOf(first.at(-1) ?? '') + 1);
    await page.keyboard.press('PageUp');
    await until(async () => (await shown()).join() === first.join(), 'the bank before');
    await page.setViewport(before);
  });
});

describe('the patch', () => {
  it('names sockets, plugs buses in, and tells of ways back, with a warning before one closes a loop', async () => {
    const { page } = browser;
    await page.keyboard.press('h');
    // All devices are listed, and the panel stands.
    await page.waitForSelector('::-p-xpath(//summary[contains(., "Fake Audio Output 2")])');
    const name = await page.waitForSelector('aria/What is plugged into outputs 7 and 8');
    await name?.click({ count: 3 });
    await page.keyboard.type('Quay horn');
    await page.keyboard.press('Tab');
    await choose(page, 'Plug a bus into outputs 7 and 8 of Simulated sound card', 'Judge');
    await until(
      () => pick(page, (s) => s.desk.show.sound.patches.some((p) => p.busId === 'bus-judge' && p.to.pair === 4)),
      'the bus to be plugged in',
    );
    // The field microphones are in the judge's mix: hearing the horn there would close a loop.
    await choose(page, 'What comes back', 'outputs 7–8');
    await choose(page, 'Where it comes back to', 'inputs 3–4');
    await choose(page, 'How it comes back', 'through the air');
    await press(page, 'Add');
    const dialog = await page.waitForSelector('[role=alertdialog]');
    expect(await dialog?.evaluate((e) => e.textContent)).toContain(
      'Quay horn → pier microphones → channel Field → bus Judge → outputs 7–8 → Quay horn',
    );
    await page.keyboard.press('Escape');
    expect(await pick(page, (s) => s.desk.show.sound.paths.length)).toBe(1);
    await send(page, 'sound.setSend', { from: 'mic-field', bus: 'bus-judge', on: false });
    await press(page, 'Add');
    await until(() => pick(page, (s) => s.desk.show.sound.paths.length === 2), 'the way through the air');
    for (let i = 0; i < 4; i += 1) await send(page, 'history.undo');
    expect(await pick(page, (s) => [s.desk.show.sound.paths.length, s.desk.show.sound.patches.length])).toEqual([1, 3]);
  });

  it('makes a channel of one input', async () => {
    const { page } = browser;
    await choose(page, 'Add a channel for inputs 7 and 8 of Simulated sound card', 'input 8 alone');
    const added = await until(
      () => pick(page, (s) => s.desk.show.sound.inputs.find((c) => c.feed.kind === 'device' && c.feed.first === 8 && !c.feed.stereo)),
      'the channel',
    );
    expect(added.name).toBe('Input 8');
    await send(page, 'history.undo');
  });

  it('is saved to a file and read in again', async () => {
    const { page } = browser;
    await press(page, 'Save the routing');
    const file = await downloads.path('routing.json');
    await send(page, 'sound.setSend', { from: 'music', bus: 'programme', on: false });
    await send(page, 'sound.unplug', { patch: await pick(page, (s) => s.desk.show.sound.patches[0]?.id) });
    const input = await page.waitForSelector('input[aria-label="Routing to read in"]');
    await (input as unknown as { uploadFile: (path: string) => Promise<void> }).uploadFile(file);
    await until(
      () =>
        pick(page, (s) => s.desk.show.sound.patches.length === 3 && !s.desk.show.sound.sends.some((x) => x.fromId === 'music' && !x.on)),
      'the routing to be as it was',
    );
  });

  it('gives the ears a device of their own, and keeps it', async () => {
    const { page } = browser;
    await choose(page, 'Device on which you listen', 'Fake Audio Output 1');
    const kept = await until(() => page.evaluate(() => localStorage.getItem('bivoca.ears')), 'the choice to be kept');
    const label = await page.evaluate(
      async (id) => (await navigator.mediaDevices.enumerateDevices()).find((d) => d.deviceId === id)?.label,
      kept,
    );
    expect(label).toBe('Fake Audio Output 1');
    await choose(page, 'Device on which you listen', 'the default device');
    await until(() => page.evaluate(() => localStorage.getItem('bivoca.ears') === ''), 'the default device');
  });
});

describe('listeners', () => {
  it('come with a bus of their own, made by rule, overridden by hand, and go again', async () => {
    const { page } = browser;
    await page.keyboard.press('l');
    await (await page.waitForSelector('aria/Name of a new listener'))?.type('Harbour master');
    await press(page, 'Add');
    const listener = await until(
      () => pick(page, (s) => s.desk.show.sound.listeners.find((l) => l.name === 'Harbour master')),
      'the listener',
    );
    await leaveField();
    await view(page, 'Matrix');
    const cell = await page.waitForSelector('button[title^="Music to Harbour master: 0 dB"]');
    await cell?.click();
    await page.waitForSelector('button[title^="Music to Harbour master: closed"]');
    expect(
      await page.evaluate(
        (bus) => window.bivocaHost?.state.desk.show.sound.sends.filter((s) => s.busId === bus).map((s) => [s.fromId, s.on]),
        listener.busId,
      ),
    ).toEqual([['music', false]]);
    await (await page.waitForSelector('::-p-xpath(//*[@aria-label="Chosen crosspoint"]//button[contains(., "rule")])'))?.click();
    await page.waitForSelector('button[title^="Music to Harbour master: 0 dB"]');
    await send(page, 'listener.remove', { listener: listener.id });
    await page.waitForSelector('button[title^="Music to Harbour master"]', { hidden: true });
  });
});

describe('loudness', () => {
  it('is saved as a report with its figures and its course', async () => {
    const { page } = browser;
    await page.keyboard.press('u');
    await press(page, 'Start');
    await until(
      () => page.evaluate(() => (window.bivocaHost?.sound.store.getState().loudness.programme?.seconds ?? 0) > 3),
      'three seconds of measurement',
    );
    await press(page, 'Stop');
    const reading = () => page.evaluate(() => window.bivocaHost?.sound.store.getState().loudness.programme);
    let seconds = -1;
    await until(async () => {
      const before = seconds;
      seconds = (await reading())?.seconds ?? 0;
      await passes(page, 12);
      return seconds === before;
    }, 'the measurement to have stopped');
    await press(page, 'Save a report');
    const text = String(await downloads.bytes('loudness.csv'));
    const integrated = (await reading())?.integrated ?? 0;
    expect(text).toContain('Programme');
    expect(text).toContain(integrated.toFixed(1));
    expect(text.trim().split('\n').length).toBeGreaterThan(8);
    await press(page, 'Reset');
  });
});

describe('a loop outside this room', () => {
  it('is warned of when a seat is filled, and when an undo would close it', async () => {
    const { page } = browser;
    const seat = await pick(page, (s) => s.desk.show.seats[0]);
    // A microphone of the card where the loudspeakers are heard, as the sound of a camera.
    const settings = {
      kind: 'camera',
      deviceId: 'none',
      deviceLabel: '',
      width: 0,
      height: 0,
      frameRate: 0,
      audioDeviceId: null,
      audioDeviceLabel: '',
    };
    const added = await send(page, 'source.add', { name: 'Mole camera', settings });
    const camera = added.ok ? String(added.result.id) : '';
    await send(page, 'sound.addAirPath', {
      from: { deviceId: 'simulated-card', deviceLabel: 'Simulated sound card', pair: 1 },
      to: { deviceId: 'mole-mic', deviceLabel: 'Mole microphone', pair: 1 },
    });
    await send(page, 'source.setSettings', {
      source: camera,
      settings: { ...settings, audioDeviceId: 'mole-mic', audioDeviceLabel: 'Mole microphone' },
      anyway: true,
    });
    await send(page, 'sound.setSend', { from: camera, bus: 'bus-pa', on: false });
    const channel = await send(page, 'sound.addChannel', { name: 'Seat', feed: { kind: 'seat', seatId: seat?.id } });
    await room(page, 'layouts');
    await (await page.waitForSelector('::-p-xpath(//*[@role="tab"][normalize-space()="Seats"])'))?.click();
    await choose(page, `Who fills ${seat?.name}`, 'Mole camera');
    const dialog = await page.waitForSelector('[role=alertdialog]');
    expect(await dialog?.evaluate((e) => e.textContent)).toContain('channel Seat → bus Pier PA');
    expect(await page.evaluate((id) => window.bivocaHost?.state.desk.show.seats.find((s) => s.id === id)?.occupantId, seat?.id)).toBe(
      seat?.occupantId,
    );
    await hold(
      page,
      '[role=alertdialog] button',
      () => page.evaluate((id, c) => window.bivocaHost?.state.desk.show.seats.find((s) => s.id === id)?.occupantId === c, seat?.id, camera),
      'the seat to be filled by holding',
    );
    await page.waitForSelector('[role=alertdialog]', { hidden: true });
    await send(page, 'sound.breakLoops');
    await (await page.waitForSelector('aria/Undo'))?.click();
    expect(await (await page.waitForSelector('[role=alertdialog]'))?.evaluate((e) => e.textContent)).toContain('would close a loop');
    await page.keyboard.press('Escape');
    await send(page, 'seat.fill', { seat: seat?.id, occupant: seat?.occupantId, anyway: true });
    await send(page, 'sound.removeChannel', { channel: channel.ok ? String(channel.result.id) : '' });
    await send(page, 'source.remove', { source: camera, force: true });
    for (const path of await pick(page, (s) => s.desk.show.sound.paths.slice(1).map((p) => p.id)))
      await send(page, 'sound.removeAirPath', { path });
  });
});
