/** Kill, reload, a full disk: the show goes on, and nothing is lost. */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { keepOnly, openDemo, pick, post, send, showRuns, until } from '../support/desk';
import { recordingBytes, recordingRow, records, startRecording, steps } from '../support/recording';
import { openHarness } from '../support/harness';
import { stored } from '../support/stored';

interface Stored {
  name: string;
  air: { onAirId: string | null };
}

let app: App;
let profile: string;
let browser: TestBrowser;
beforeAll(async () => {
  app = await startApp();
  profile = await mkdtemp(join(tmpdir(), 'bivoca-kill-'));
  browser = await startBrowser({ profile });
});
afterAll(async () => {
  await browser.close();
  await app.close();
  await rm(profile, { recursive: true, force: true, maxRetries: 5, retryDelay: 300 });
});

/** Waits until the show is on disk as `ready` wants it; milliseconds it took. */
async function onDisk(page: Page, ready: (row: Stored) => boolean, table = 'shows'): Promise<number> {
  const since = performance.now();
  const [, id = ''] = /\/show\/([^/]+)/.exec(new URL(page.url()).pathname) ?? [];
  await until(
    async () => ready((await stored<Stored>(page, table, id)) ?? { name: '', air: { onAirId: null } }),
    'the change to be on disk',
    5000,
  );
  return Math.round(performance.now() - since);
}

/** Cuts to and fro; milliseconds from each until another reader finds it on disk. */
const cutsUntilStored = (page: Page): Promise<number[]> =>
  page.evaluate(async () => {
    const host = window.bivocaHost as NonNullable<typeof window.bivocaHost>;
    const database = await new Promise<IDBDatabase>((resolve) => {
      const open = indexedDB.open('bivoca');
      open.onsuccess = () => resolve(open.result);
    });
    const stored = () =>
      new Promise<string>((resolve) => {
        const get = database.transaction('airs').objectStore('airs').get(host.showId);
        get.onsuccess = () => resolve((get.result as { air: { onAirId: string } }).air.onAirId);
      });
    const times: number[] = [];
    for (const source of ['line', 'mast', 'line', 'mast', 'line', 'mast', 'line', 'mast']) {
      const from = performance.now();
      host.dispatch({ type: 'picture.cut', args: { picture: source } });
      while ((await stored()) !== source);
      times.push(performance.now() - from);
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    database.close();
    return times;
  });

it('after a kill the same picture is on air, the document has its last edit, and the recording plays to within 2 s', async () => {
  const { page } = browser;
  await openDemo(page, app);
  await keepOnly(page, 'shore', 'line', 'mast', 'desk');
  const address = page.url();
  await send(page, 'picture.cut', { picture: 'mast' });
  await send(page, 'lane.show', { lane: 'lane-2' });
  const id = await startRecording(page);
  await records(page, 5000);
  await send(page, 'show.rename', { name: 'Renamed just before' });
  console.log(`an edit is on disk after ${await onDisk(page, (row) => row.name === 'Renamed just before')} ms`);
  const seconds = await pick(page, (s) => s.encoder.recording?.seconds ?? 0);
  console.log(`acts on air were on disk after ${(await cutsUntilStored(page)).map(Math.round).join(', ')} ms`);
  // What the remote has been told is done is done: not a moment is left before the kill.
  expect((await post(app, 'picture.cut', { picture: 'line' })).status).toBe(200);
  const killedAt = performance.now();
  browser.browser.process()?.kill('SIGKILL');
  await until(() => browser.browser.process()?.signalCode !== null, 'the browser to die');
  expect(performance.now() - killedAt).toBeLessThan(1000);

  browser = await startBrowser({ profile });
  await browser.page.goto(address);
  await showRuns(browser.page);
  const found = await pick(browser.page, (s) => ({
    onAir: s.desk.air.onAirId,
    bug: s.desk.air.lanes['lane-2']?.fade.to,
    name: s.desk.show.name,
    recording: s.desk.air.recording,
    notices: s.notices.map((n) => n.text),
  }));
  expect(found).toMatchObject({ onAir: 'line', bug: 1, name: 'Renamed just before', recording: null });
  expect(found.notices.join(' ')).toMatch(/Flight line is on air again.*recording was interrupted.*cut off and plays/is);
  const row = await recordingRow(browser.page, id);
  expect(row?.state).toBe('cut');
  const harness = await openHarness(browser);
  const analysed = await harness.page.evaluate((data) => window.harness.analyseFile(data), await recordingBytes(browser.page, id));
  await harness.close();
  console.log(`recorded ${seconds.toFixed(1)} s at the last report, plays ${analysed.duration.toFixed(1)} s after the kill`);
  expect(analysed.duration).toBeGreaterThan(seconds - 2);
  const { leftOut } = steps(analysed.pictures);
  expect(analysed.pictures.length + leftOut).toBeGreaterThan(25 * (seconds - 2));
  await until(
    () => pick(browser.page, (s) => s.desk.show.sources.every((x) => s.health[x.id]?.state === 'live')),
    'the sources to be back',
  );
});

it('after a reload in the middle of a dissolve the new picture is on air and time has gone on', async () => {
  const { page } = browser;
  await page.bringToFront();
  await send(page, 'picture.setNext', { picture: 'desk' });
  const frame = await pick(page, (s) => s.frame);
  await send(page, 'picture.take');
  await onDisk(page, (row) => row.air.onAirId === 'desk', 'airs');
  await page.reload();
  await showRuns(page);
  const after = await pick(page, (s) => ({ onAir: s.desk.air.onAirId, frame: s.frame, name: s.desk.show.name }));
  expect(after).toMatchObject({ onAir: 'desk', name: 'Renamed just before' });
  expect(after.frame).toBeGreaterThan(frame);
});

it('warns when the disk gets full, and ends the recording cleanly with all of it kept', async () => {
  const { page } = browser;
  // Chromium tells pages a fixed allowance, whatever its quota is; a small one is put in its place.
  const allow = (free: number | null) =>
    page.evaluate((bytes) => {
      const real = StorageManager.prototype.estimate;
      navigator.storage.estimate =
        bytes === null ? real.bind(navigator.storage) : () => Promise.resolve({ usage: 1e6, quota: 1e6 + bytes });
    }, free);
  const id = await startRecording(page);
  await records(page, 2500);
  await allow(55e6);
  await until(() => pick(page, (s) => s.notices.some((n) => /more minutes of recording/.test(n.text))), 'the warning');
  expect(await pick(page, (s) => s.desk.air.recording !== null)).toBe(true);
  await allow(20e6);
  await until(
    () => pick(page, (s) => s.desk.air.recording === null && s.notices.some((n) => /Recording stopped: less than/.test(n.text))),
    'the clean stop',
  );
  await until(async () => (await recordingRow(page, id))?.state === 'done', 'the recording to be finished');
  expect((await recordingRow(page, id))?.seconds).toBeGreaterThan(3);
  await send(page, 'output.startRecording');
  await until(
    () => pick(page, (s) => s.desk.air.recording === null && s.notices.some((n) => /Not recording: only/.test(n.text))),
    'the refusal to start',
  );
  await allow(null);
});

it('keeps all that was written when the disk refuses a write without warning', async () => {
  const { page } = browser;
  const session = await page.createCDPSession();
  const origin = new URL(page.url()).origin;
  const { usage } = (await session.send('Storage.getUsageAndQuota', { origin })) as { usage: number };
  await send(page, 'output.setRecording', { megabits: 20 });
  await send(page, 'picture.cut', { picture: 'line' });
  await session.send('Storage.overrideQuotaForOrigin', { origin, quotaSize: Math.round(usage + 1.5e6) });
  const id = await startRecording(page);
  await until(
    () => pick(page, (s) => s.notices.some((n) => /ended early: the disk is full/.test(n.text))),
    'the full disk to be said',
    40_000,
  );
  await session.send('Storage.overrideQuotaForOrigin', { origin });
  expect(await pick(page, (s) => s.desk.air.recording)).toBeNull();
  const before = await pick(page, (s) => s.mixer.frames);
  await until(() => pick(page, (s) => s.mixer.frames).then((n) => n > before + 10), 'the programme to go on');
  await until(async () => (await recordingRow(page, id))?.state === 'done', 'the recording to be listed');
  const harness = await openHarness(browser);
  const analysed = await harness.page.evaluate((data) => window.harness.analyseFile(data), await recordingBytes(page, id));
  await harness.close();
  expect(analysed.pictures.length).toBeGreaterThan(12);
  await send(page, 'output.setRecording', { megabits: 2.5 });
});

it('has made no error', () => {
  expect(browser.troubles).toEqual([]);
});
