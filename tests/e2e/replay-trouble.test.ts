/** Replay when things go wrong: a lost source, a failing encoder, a full disk, a crash, a budget that is used up. */
import { type Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { passes, pick, send, showRuns, until, wait } from '../support/desk';
import { agrees, deskNow, openReplay, probe, writtenSpan } from '../support/replay';

let app: App;
let browser: TestBrowser;
let page: Page;
beforeAll(async () => {
  app = await startApp();
  browser = await startBrowser();
  ({ page } = browser);
  await openReplay(page, app);
  await send(page, 'picture.cut', { picture: 'shore' });
  await send(page, 'clip.grab', { deck: 1, seconds: 3 });
});
afterAll(async () => {
  expect(browser.troubles).toEqual([]);
  await browser.close();
  await app.close();
});

describe('when things go wrong', () => {
  it('a source that is lost leaves a gap in its lane, and goes on when it returns', async () => {
    const runs = () => pick(page, (s) => s.replay?.runs.mast?.length ?? 0);
    const frames = () => pick(page, (s) => Object.fromEntries((s.replay?.tracks ?? []).map((t) => [t.id, t.frames])));
    const before = await runs();
    await page.evaluate(() => {
      // What runs no more is started anew with the next act, which may be a clock's; what has stopped by itself is not.
      const host = window.bivocaHost as unknown as { drivers: { running: Map<string, { handle: { stop(): void } }> } };
      host.drivers.running.get('mast')?.handle.stop();
    });
    await passes(page, 15);
    const stopped = await frames();
    await until(
      async () =>
        Object.entries(await frames()).every(([id, count]) => id.startsWith('sound-') || id === 'mast' || count > (stopped[id] ?? 0) + 10),
      'the other angles to go on',
    );
    // What was under way when it was lost is still recorded.
    let last = -1;
    await until(async () => {
      const [before, now] = [last, (await frames()).mast ?? 0];
      last = now;
      await passes(page, 15);
      return before === now;
    }, 'the lost angle to end');
    const at = (await deskNow(page)).frame;
    await passes(page, 40);
    await page.evaluate(() => window.bivocaHost?.restartSource('mast'));
    await until(async () => (await runs()) > before, 'the second run', 10_000);
    expect(await probe(page, 'mast', at + 20)).toBeNull();
    await until(
      async () => ((await probe(page, 'mast', (await deskNow(page)).frame - 12)) ?? 0) > (at + 40) * 40_000,
      'pictures after the gap',
    );
  });

  it('an encoder that fails is said at once, stops nothing else, and is tried again', async () => {
    const worker = page.workers().find((w) => w.url().includes('recorder.worker'));
    const frames = () => pick(page, (s) => Object.fromEntries((s.replay?.tracks ?? []).map((t) => [t.id, t.frames])));
    // Looking into the worker stalls it for a while; only then begins what is tested.
    await worker?.evaluate(() => 1);
    await passes(page, 88);
    await worker?.evaluate(() => {
      const real = VideoEncoder.prototype.encode;
      const victims: VideoEncoder[] = [];
      VideoEncoder.prototype.encode = function fail(this: VideoEncoder, ...args) {
        if (victims.length === 0) victims.push(this);
        if (victims.includes(this)) throw new Error('out of order');
        return real.apply(this, args);
      };
      (globalThis as unknown as { mend: () => void }).mend = () => {
        VideoEncoder.prototype.encode = real;
      };
    });
    await until(
      () => pick(page, (s) => s.notices.some((n) => n.text.includes('its encoder failed (out of order)'))),
      'the trouble to be said',
      5000,
    );
    const failed = await pick(page, (s) => s.replay?.tracks.filter((t) => t.state === 'failed').map((t) => t.id) ?? []);
    const [then, mixed] = [await frames(), await pick(page, (s) => s.mixer.frames)];
    const others = ['shore', 'line', 'mast', 'desk'].filter((t) => !failed.includes(t));
    await until(
      async () => frames().then((now) => others.every((id) => (now[id] ?? 0) > (then[id] ?? 0) + 25)),
      'the other angles to go on',
      15_000,
    );
    expect(await pick(page, (s) => s.mixer.frames)).toBeGreaterThan(mixed + 20);
    await worker?.evaluate(() => (globalThis as unknown as { mend: () => void }).mend());
    await until(() => pick(page, (s) => s.replay?.tracks.every((t) => t.state === 'recording')), 'the angle to be recorded again', 10_000);
  });

  it('a full disk is said, with the programme and the picture on air untouched', async () => {
    const onAir = await pick(page, (s) => s.desk.air.onAirId);
    // A frame that is recorded: the middle of the longest run.
    const known = await pick(page, (s) => {
      const [longest] = [...(s.replay?.runs.line ?? [])].sort((a, b) => b.to - b.from - (a.to - a.from));
      return longest ? Math.round((longest.from + longest.to) / 2 / 40_000) : -1;
    });
    const before = await probe(page, 'line', known);
    expect(before).not.toBeNull();
    const client = await page.createCDPSession();
    const used = await page.evaluate(() => navigator.storage.estimate());
    await client.send('Storage.overrideQuotaForOrigin', { origin: app.url, quotaSize: (used.usage ?? 0) + 1_500_000 });
    await until(() => pick(page, (s) => s.notices.some((n) => n.text.includes('the disk is full'))), 'the full disk to be said', 25_000);
    const frames = await pick(page, (s) => s.mixer.frames);
    await until(async () => (await pick(page, (s) => s.mixer.frames)) > frames + 15, 'the programme to go on', 8000);
    expect(await pick(page, (s) => s.desk.air.onAirId)).toBe(onAir);
    await client.send('Storage.overrideQuotaForOrigin', { origin: app.url });
    await until(() => pick(page, (s) => s.replay?.tracks.every((t) => t.state === 'recording')), 'recording to go on', 15_000);
    // What was recorded before still plays.
    expect(await probe(page, 'line', known)).toBe(before);
  });

  it('after a crash everything recorded is there, the gap is a gap, clips are whole, and recording goes on', async () => {
    await passes(page, 75);
    const before = await deskNow(page);
    // The packets are on disk as they come, however far behind the encoder is.
    const from = await writtenSpan(page, ['line'], 60);
    const probes = () => Promise.all([0, 10, 20, 30, 40, 50].map((at) => probe(page, 'line', from + at)));
    const found = await probes();
    expect(found.some((stamp) => stamp !== null)).toBe(true);
    const clips = before.desk.show.replay.clips.length;
    const address = page.url();
    // Workers die without a word, as in a crash: nothing is closed.
    await page.goto('about:blank');
    await wait(1500);
    await page.goto(address);
    await showRuns(page);
    await page.waitForSelector('canvas[aria-label="Picture of deck 1"]');
    expect(await pick(page, (s) => s.desk.show.replay.clips.length)).toBe(clips);
    await until(() => pick(page, (s) => (s.replay?.runs.line?.length ?? 0) >= 2), 'recording to go on after the gap', 15_000);
    expect(await probes()).toEqual(found);
    await send(page, 'deck.setAngle', { deck: 1, angle: 'line' });
    await send(page, 'deck.goTo', { deck: 1, frame: from + 20 });
    await agrees(page, 1);
    expect(await pick(page, (s) => s.notices.some((n) => n.text.includes('angles were not recorded while')))).toBe(true);
  });

  it('a budget that is used up drops the oldest, and never what lies under a clip', async () => {
    const kept = await pick(page, (s) => s.desk.show.replay.clips[0]);
    const oldest = await pick(page, (s) => s.desk.air.replay.kept?.from ?? 0);
    const probes = () => Promise.all([kept?.in ?? 0, (kept?.out ?? 1) - 1].map((frame) => probe(page, 'line', frame)));
    const before = await probes();
    expect(before.some((stamp) => stamp !== null)).toBe(true);
    // Something heavy to drop; then little, so that what grows does not count for much.
    const used = () => pick(page, (s) => s.replay?.usedBytes ?? 0);
    const light = await used();
    await send(page, 'replay.set', { height: 0, megabits: 8 });
    await until(async () => (await used()) > light + 8e6, 'something to drop', 60_000);
    await send(page, 'replay.set', { height: 180, megabits: 1 });
    const heavy = await used();
    // What the decks stand on is kept too.
    for (const deck of [1, 2]) await send(page, 'deck.jump', { deck, to: 'live' });
    await send(page, 'mark.clear');
    await send(page, 'replay.set', { budget: { kind: 'gigabytes', value: 0.005 } });
    await until(async () => (await used()) < heavy - 5e6, 'the budget to be kept', 30_000);
    expect(await pick(page, (s) => s.desk.air.replay.kept?.from ?? 0)).toBeGreaterThanOrEqual(oldest);
    expect(await probes()).toEqual(before);
  });
});
