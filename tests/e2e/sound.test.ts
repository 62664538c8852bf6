import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Desk } from '#core/desk/air';
import { deskConfig } from '#core/sound/desk-config';
import { planSound } from '#core/sound/plan';
import { type App, startApp, startBrowser, type TestBrowser } from '#tests/support/browser';
import { hold, openDemo, passes, pick, press, post, quietPier, send, showRuns, until } from '#tests/support/desk';
import { endLeftover, recordingRow } from '#tests/support/recording';
import { openHarness } from '#tests/support/harness';
import { steadyLevelAt } from '#tests/support/levels';
import { must, sampleDesk } from '#tests/support/sample-show';
import { room, tidy } from '#tests/support/sound-room';
import { readWav } from '#tests/support/wav';

let app: App;
let browser: TestBrowser;

beforeAll(async () => {
  app = await startApp();
  browser = await startBrowser();
  await openDemo(browser.page, app);
  await room(browser.page, 'sound');
});

afterAll(async () => {
  expect(browser.troubles).toEqual([]);
  await browser.close();
  await app.close();
});

/** Highest level of a channel or bus now, dBFS. */
const level = (page: Page, id: string): Promise<number> =>
  page.evaluate((key) => Math.max(...(window.bivocaHost?.sound.readings.get(key) ?? []).map((r) => r.level), -99), id);

const held = (page: Page) => pick(page, (s) => s.desk.air.sound.held);

describe('the audio node, rendered offline', () => {
  const TONES = { a: 400, b: 1000, c: 2500 };
  const offline = async (desk: Desk, amplitude = 0.1) => {
    const harness = await openHarness(browser);
    try {
      const input = {
        config: deskConfig(desk.show, desk.air),
        gains: { gains: planSound(desk.show, desk.air, 0).gains, buses: planSound(desk.show, desk.air, 0).buses, held: [] },
        tones: TONES,
        amplitude,
        seconds: 1,
      };
      return await harness.page.evaluate((x) => window.harness.renderOffline(x), JSON.parse(JSON.stringify(input)) as typeof input);
    } finally {
      await harness.close();
      await browser.page.bringToFront();
    }
  };

  it('puts into each bus who should be in it, at its level, and nobody else', async () => {
    let desk = sampleDesk();
    for (const channel of ['a', 'b', 'c']) desk = must(desk, 'sound.follow', { channel, on: false });
    desk = must(desk, 'listener.add', { name: 'Analyst', kind: 'guest', ownIds: ['a'] });
    desk = must(desk, 'listener.add', { name: 'Judge', kind: 'guest', ownIds: ['b'] });
    desk = must(desk, 'sound.setFader', { channel: 'c', db: -10 });
    const [analyst, judge] = desk.show.sound.buses.slice(1).map((b) => b.id) as [string, string];
    desk = must(desk, 'sound.setSend', { from: 'b', bus: analyst, levelDb: -6, on: true });
    desk = must(desk, 'sound.setChannel', { channels: ['a'], pan: 1 });
    const buses = await offline(desk);
    const db = (value: number | undefined) => 20 * Math.log10((value ?? 0) / 0.1);
    expect(db(buses.programme?.right.a)).toBeCloseTo(0, 1);
    expect(buses.programme?.left.a).toBeLessThan(1e-4);
    expect(db(buses.programme?.left.c)).toBeCloseTo(-10, 1);
    // Everything but themself.
    expect(buses[analyst]?.right.a).toBeLessThan(1e-5);
    expect(db(buses[analyst]?.left.b)).toBeCloseTo(-6, 1);
    expect(buses[judge]?.left.b).toBeLessThan(1e-5);
    expect(db(buses[judge]?.right.a)).toBeCloseTo(0, 1);
  });

  it('holds every output under its ceiling', async () => {
    let desk = sampleDesk();
    for (const channel of ['a', 'b', 'c'])
      desk = must(must(desk, 'sound.follow', { channel, on: false }), 'sound.setFader', { channel, db: 12 });
    const buses = await offline(desk, 1);
    expect(buses.programme?.peak).toBeGreaterThan(0.8);
    expect(buses.programme?.peak).toBeLessThanOrEqual(10 ** (-1 / 20) + 1e-6);
  });
});

describe('talkback', () => {
  it('is heard by the guests while its key is held, and never by the programme', async () => {
    const { page } = browser;
    await quietPier(page);
    await send(page, 'picture.cut', { picture: 'harbour' });
    // A tone stands for the producer's voice.
    await send(page, 'talkback.set', { channel: 'line-up-tone' });
    await send(page, 'sound.setSend', { from: 'line-up-tone', bus: 'programme', on: false });
    for (const bus of ['bus-wind', 'bus-judge', 'bus-pa', 'bus-presenter'])
      await send(page, 'sound.setSend', { from: 'line-up-tone', bus, on: false });
    await send(page, 'sound.mute', { channel: 'line-up-tone', on: false });
    await until(async () => (await level(page, 'bus-wind')) < -55, 'the guest’s mix to be silent');
    await page.keyboard.down('Backquote');
    await until(async () => Math.abs((await level(page, 'bus-wind')) + 18) < 1.5, 'the guest to hear the tone at −18 dBFS');
    await passes(page, 12);
    expect(await level(page, 'programme')).toBeLessThan(-55);
    expect(await level(page, 'bus-pa')).toBeLessThan(-55);
    await page.keyboard.up('Backquote');
    await until(async () => (await level(page, 'bus-wind')) < -55, 'talkback to end with the key');
    await page.keyboard.down('Shift');
    await page.keyboard.down('Backquote');
    await until(async () => (await level(page, 'bus-pa')) > -20, 'the room to hear it with Shift');
    expect(await level(page, 'bus-wind')).toBeLessThan(-55);
    await page.keyboard.up('Backquote');
    await page.keyboard.up('Shift');
    // With Alt to one person alone: the one who is marked under Listeners.
    await page.keyboard.press('l');
    await (await page.waitForSelector('aria/Alt with the key left of 1 speaks to Judge'))?.click();
    await until(async () => (await level(page, 'bus-pa')) < -55, 'the room’s mix to be silent');
    await page.keyboard.down('Alt');
    await page.keyboard.down('Backquote');
    await until(async () => (await level(page, 'bus-judge')) > -20, 'the judge to hear it with Alt');
    expect(await level(page, 'bus-wind')).toBeLessThan(-55);
    await page.keyboard.up('Backquote');
    await page.keyboard.up('Alt');
    expect(await pick(page, (s) => s.desk.air.sound.talkback)).toBeNull();
    await send(page, 'talkback.set', { channel: 'mic-producer' });
  });
});

describe('loudness', () => {
  it('measures a tone in the running show, and begins anew', async () => {
    const { page } = browser;
    await quietPier(page);
    await send(page, 'picture.cut', { picture: 'harbour' });
    await send(page, 'sound.mute', { channel: 'line-up-tone', on: true });
    await until(async () => (await level(page, 'programme')) < -55, 'the programme to be silent');
    await send(page, 'sound.mute', { channel: 'line-up-tone', on: false });
    await send(page, 'sound.setSend', { from: 'line-up-tone', bus: 'programme', on: true });
    await until(async () => (await level(page, 'programme')) > -19, 'the tone in the programme');
    await passes(page, 12);
    await send(page, 'loudness.start', { bus: 'programme' });
    const reading = () => page.evaluate(() => window.bivocaHost?.sound.store.getState().loudness.programme);
    await until(async () => ((await reading())?.seconds ?? 99) < 2, 'the measurement to begin');
    await until(async () => ((await reading())?.seconds ?? 0) > 4, 'four seconds of measurement');
    const r = await reading();
    // A sine of 1 kHz on both sides has as many LUFS as dBFS (EBU Tech 3341).
    for (const value of [r?.integrated, r?.shortTerm, r?.momentary]) expect(value).toBeCloseTo(-18, 0.7);
    expect(Math.abs((r?.integrated ?? 0) + 18)).toBeLessThan(0.1);
    expect(Math.abs((r?.truePeak ?? 0) + 18)).toBeLessThan(0.3);
    await send(page, 'loudness.stop', { bus: 'programme' });
    await passes(page, 15);
    const stopped = (await reading())?.seconds;
    await passes(page, 20);
    expect((await reading())?.seconds).toBe(stopped);
    await send(page, 'sound.mute', { channel: 'line-up-tone', on: true });
  });
});

describe('the simulated room', () => {
  it('howls when it is looped, is caught and turned down, and stops after the offered fix', async () => {
    const { page } = browser;
    await room(page, 'sound');
    await tidy(page);
    await until(async () => (await level(page, 'bus-pa')) < -30, 'the pier to be quiet');
    await send(page, 'sound.mute', { channel: 'mic-field', on: false });
    await send(page, 'sound.setChannel', { channels: ['mic-field'], faderDb: 6, gainDb: 6 });
    await send(page, 'sound.setAirPath', { path: 'air-pier', levelDb: -3 });
    const report = page.evaluate(async () => {
      const host = window.bivocaHost as NonNullable<typeof window.bivocaHost>;
      const loud = () => Math.max(...(host.sound.readings.get('bus-pa') ?? []).map((r) => r.level));
      const began = performance.now();
      let loudAt = 0;
      let heldAt = 0;
      while (performance.now() - began < 15_000 && heldAt === 0) {
        if (loudAt === 0 && loud() > -9) loudAt = performance.now();
        if (host.state.desk.air.sound.held['bus-pa']) heldAt = performance.now();
        await new Promise((resolve) => setTimeout(resolve, 10));
      }
      return { loudAt: loudAt - began, heldAt: heldAt - began, took: heldAt - loudAt };
    });
    await passes(page, 2);
    expect(await send(page, 'sound.setSend', { from: 'mic-field', bus: 'bus-pa', on: true, levelDb: 6, anyway: true })).toMatchObject({
      ok: true,
    });
    const { loudAt, heldAt, took } = await report;
    console.log(`howl: loud after ${Math.round(loudAt)} ms, held ${Math.round(took)} ms later`);
    expect(heldAt).toBeGreaterThan(0);
    expect(took).toBeLessThan(500);
    expect(await held(page)).toMatchObject({ 'bus-pa': { db: 24 } });
    expect(await pick(page, (s) => s.notices.some((n) => n.text.startsWith('Pier PA howled')))).toBe(true);
    // Turned down by 24 dB it dies away: nothing but the pier is left.
    await until(async () => (await level(page, 'bus-pa')) < -40, 'the howl to die away');
    expect(await level(page, 'programme')).toBeLessThan(0);
    // Released while the loop stands it comes back, and is caught again.
    await send(page, 'sound.release', { bus: 'bus-pa' });
    await until(async () => Boolean((await held(page))['bus-pa']), 'the howl to be caught again');
    await page.keyboard.press('o');
    const fix = await page.waitForSelector('button[title="Close channel Field in bus Pier PA"]');
    await fix?.click();
    await until(async () => (await level(page, 'bus-pa')) < -40, 'the loop to be silent');
    await send(page, 'sound.release', { bus: 'bus-pa' });
    await passes(page, 38);
    expect(await held(page)).toEqual({});
    expect(await level(page, 'bus-pa')).toBeLessThan(-40);
    await send(page, 'sound.sendByRule', { from: 'mic-field', bus: 'bus-pa' });
    await quietPier(page);
  });
});

describe('sound devices', () => {
  const states = () => browser.page.evaluate(() => window.bivocaHost?.sound.store.getState().devices ?? []);
  const state = (id: string, side: string) => states().then((list) => list.find((d) => d.deviceId === id && d.side === side));
  const find = (kind: string, label: string) =>
    browser.page.evaluate(
      async (k, l) => (await navigator.mediaDevices.enumerateDevices()).find((d) => d.kind === k && d.label === l)?.deviceId ?? '',
      kind,
      label,
    );

  it('play a bus on a pair of outputs, and say what they cannot', async () => {
    const { page } = browser;
    const id = await find('audiooutput', 'Fake Audio Output 1');
    await tidy(page);
    const to = { deviceId: id, deviceLabel: 'Fake Audio Output 1', pair: 1 };
    await send(page, 'sound.plug', { bus: 'bus-judge', to });
    await until(async () => (await state(id, 'output'))?.state === 'live', 'the output to play');
    expect((await state(id, 'output'))?.note).toBe('runs at 44.1 kHz: converted to 48');
    await send(page, 'sound.plug', { bus: 'bus-wind', to: { ...to, pair: 3 } });
    await until(async () => (await state(id, 'output'))?.state === 'lost', 'the missing pair to be named');
    expect((await state(id, 'output'))?.note).toBe('it has 2 outputs: outputs 5–6 do not exist there');
    for (const patch of await pick(page, (s) => s.desk.show.sound.patches.slice(3).map((p) => p.id)))
      await send(page, 'sound.unplug', { patch });
    await until(async () => (await state(id, 'output')) === undefined, 'the output to be let go');
  });

  it('feed channels; one that goes says so, the rest sounds on, and it comes back', async () => {
    const { page } = browser;
    const id = await find('audioinput', 'Fake Audio Input 1');
    const added = await send(page, 'sound.addChannel', {
      name: 'Line',
      feed: { kind: 'device', deviceId: id, deviceLabel: 'Fake Audio Input 1', first: 1, stereo: true },
    });
    const channel = added.ok ? String(added.result.id) : '';
    await until(async () => (await level(page, channel)) > -40, 'Chromium’s fake microphone to beep');
    // The device is unplugged: its track ends, and it is no longer listed.
    await page.evaluate((gone) => {
      const devices = navigator.mediaDevices;
      const [enumerate, open] = [devices.enumerateDevices.bind(devices), devices.getUserMedia.bind(devices)];
      Object.assign(window, { replug: () => Object.assign(devices, { enumerateDevices: enumerate, getUserMedia: open }) });
      devices.enumerateDevices = async () => (await enumerate()).filter((d) => d.deviceId !== gone);
      devices.dispatchEvent(new Event('devicechange'));
    }, id);
    await until(async () => (await state(id, 'input'))?.state === 'lost', 'the device to be missed');
    // At first it was unplugged; from the next try on it is not plugged in.
    expect(await pick(page, (s) => Object.values(s.desk.air.sound.lostDevices))).toEqual([
      expect.stringMatching(/^it (was unplugged|is not plugged in)$/),
    ]);
    expect((await state('simulated-card', 'input'))?.state).toBe('live');
    await page.waitForSelector('aria/A sound device is missing');
    expect(await level(page, 'music')).toBeGreaterThan(-60);
    await page.evaluate(() => (window as unknown as { replug: () => void }).replug());
    await until(async () => (await state(id, 'input'))?.state === 'live', 'the device to come back');
    await until(async () => (await level(page, channel)) > -40, 'its sound to come back');
    expect(await pick(page, (s) => s.desk.air.sound.lostDevices)).toEqual({});
    await send(page, 'sound.removeChannel', { channel });
  });

  it('are named in plain words when the show wants one that is not here', async () => {
    const { page } = browser;
    await send(page, 'sound.plug', { bus: 'bus-judge', to: { deviceId: 'gone', deviceLabel: 'Quay desk 16', pair: 1 } });
    await until(async () => (await state('gone', 'output'))?.note === 'it is not plugged in', 'the missing device to be named');
    await page.keyboard.press('h');
    await page.waitForSelector('::-p-xpath(//summary[contains(., "Quay desk 16") and contains(., "lost: it is not plugged in")])');
    await send(page, 'sound.unplug', { patch: await pick(page, (s) => s.desk.show.sound.patches.at(-1)?.id) });
  });

  it('come with a routing file, which is refused with every name it does not know', async () => {
    const { page } = browser;
    const folder = await mkdtemp(join(tmpdir(), 'bivoca-routing-'));
    const file = join(folder, 'wrong.json');
    await writeFile(
      file,
      JSON.stringify({
        format: 'bivoca-routing',
        version: 1,
        buses: [],
        sends: [{ from: 'Foghorn', bus: 'Programme', on: true, levelDb: 0, tap: 'after' }],
        listeners: [],
        patches: [{ bus: 'Lighthouse', device: 'Quay desk 16', pair: 1 }],
      }),
    );
    const before = await pick(page, (s) => s.desk.show.sound.patches.length);
    const input = await page.waitForSelector('input[aria-label="Routing to read in"]');
    await (input as unknown as { uploadFile: (path: string) => Promise<void> }).uploadFile(file);
    const toast = await page.waitForSelector('::-p-xpath(//*[@aria-label="Notices"]//*[@role="status"][contains(., "Foghorn")])');
    const text = await toast?.evaluate((e) => e.textContent);
    expect(text).toContain('sends[0].from: no channel or bus is called “Foghorn” here');
    expect(text).toContain('no bus is called “Lighthouse” here');
    expect(await pick(page, (s) => s.desk.show.sound.patches.length)).toBe(before);
  });
});

describe('sound tracks of a recording', () => {
  it('begin on the same sample, each with its own sound at its own level', async () => {
    const { page } = browser;
    await quietPier(page);
    await send(page, 'picture.cut', { picture: 'sync' });
    await send(page, 'sound.setChannel', { channels: ['sync'], faderDb: -6, iso: true });
    await send(page, 'sound.setChannel', { channels: ['bars', 'music'], iso: true });
    await send(page, 'sound.setBus', { bus: 'programme', record: true });
    await passes(page, 38);
    await endLeftover(page);
    const { body } = await post(app, 'output.startRecording');
    const id = String(body.id);
    await passes(page, 150);
    await send(page, 'output.stopRecording');
    const rows = await until(async () => {
      const list = await page.evaluate(
        (key) =>
          new Promise<{ id: string; name: string; state: string; seconds: number }[]>((resolve) => {
            const open = indexedDB.open('bivoca');
            open.onsuccess = () => {
              const all = open.result.transaction('recordings').objectStore('recordings').getAll();
              all.onsuccess = () => {
                open.result.close();
                resolve(
                  (all.result as { id: string; name: string; state: string; seconds: number }[]).filter((r) => r.id.startsWith(`${key}-`)),
                );
              };
            };
          }),
        id,
      );
      return list.length === 4 && list.every((r) => r.state === 'done') ? list : null;
    }, 'the tracks to be closed');
    const file = async (name: string) => {
      const row = rows.find((r) => r.name.endsWith(name));
      const data = await page.evaluate(async (track) => {
        const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('recordings');
        const bytes = new Uint8Array(await (await (await folder.getFileHandle(`${track}.wav`)).getFile()).arrayBuffer());
        let text = '';
        for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.subarray(at, at + 8192));
        return btoa(text);
      }, row?.id);
      return readWav(Buffer.from(data, 'base64'));
    };
    const [programme, sync, bars, music] = await Promise.all([
      file('Programme mix'),
      file('Flash and beep'),
      file('Bars and tone'),
      file('Music'),
    ]);
    for (const wav of [programme, sync, bars, music]) {
      expect(wav).toMatchObject({ channels: 2, sampleRate: 48_000, bits: 24 });
      expect(wav.left.length / 48_000).toBeGreaterThan(5);
      expect(wav.timeReference).toBe(programme.timeReference);
    }
    // The beep stands at the same sample in its own track and in the mix, 6 dB louder in its own.
    const onset = (x: Float32Array, threshold: number) => x.findIndex((v) => Math.abs(v) > threshold);
    expect(onset(sync.left, 0.02)).toBeGreaterThan(0);
    expect(Math.abs(onset(programme.left, 0.02 * 10 ** (-6 / 20)) - onset(sync.left, 0.02))).toBeLessThanOrEqual(1);
    const at = onset(sync.left, 0.02) + 480;
    const part = (x: Float32Array) => Math.sqrt(x.subarray(at, at + 2400).reduce((s, v) => s + v * v, 0) / 2400);
    expect(20 * Math.log10(part(programme.left) / part(sync.left))).toBeCloseTo(-6, 0.7);
    // Bars are not on air: their tone is in their own track and nowhere else.
    const tone = steadyLevelAt(bars.left, 1000);
    expect(20 * Math.log10(tone)).toBeCloseTo(-18, 0);
    expect(music.left.some((v) => Math.abs(v) > 0.02)).toBe(true);
  });

  it('are whole when the show is left while it records', async () => {
    const { page } = browser;
    await send(page, 'sound.setChannel', { channels: ['music'], iso: true });
    const outcome = await send(page, 'output.startRecording');
    const track = `${outcome.ok ? String(outcome.result.id) : ''}-1`;
    await until(() => recordingRow(page, track).then((row) => (row?.seconds ?? 0) > 1), 'a second of the track');
    await press(page, 'Shows');
    await hold(page, 'button[title^="Hold to leave"]', () => page.evaluate(() => location.pathname === '/'), 'the show to be left');
    const row = await until(() => recordingRow(page, track).then((r) => (r?.state === 'done' ? r : null)), 'the track to be closed');
    expect(row.seconds).toBeGreaterThan(1);
    await openDemo(page, app);
    await room(page, 'sound');
    // Nothing was cut off, and nothing is told of it.
    expect((await recordingRow(page, track))?.state).toBe('done');
  });
});

describe('a reload', () => {
  it('finds solo, ears and what was held down as they were left, and talkback closed', async () => {
    const { page } = browser;
    await send(page, 'sound.solo', { channel: 'mic-field', tap: 'before' });
    await send(page, 'sound.hold', { bus: 'bus-pa', db: 24, hz: 400 });
    await send(page, 'talkback.start', { to: 'guests' });
    await passes(page, 10);
    await page.reload();
    await showRuns(page);
    expect(await pick(page, (s) => s.desk.air.sound)).toMatchObject({
      solos: [{ id: 'mic-field', tap: 'before' }],
      held: { 'bus-pa': { db: 24 } },
      talkback: null,
    });
    await until(async () => (await level(page, 'programme')) > -90, 'meters to move');
  });
});
