/** Guests beside the demo: how old their picture is in the programme, how soon they are there, and what three of them cost while it is recorded. */
import { type Page } from 'puppeteer-core';
import type {} from '#interface/guests/join-page';
import { readTime } from '#standins/guests/simulated-guest';
import { startBrowser, type TestBrowser } from '../support/browser';
import { pick, send, until, wait } from '../support/desk';
import { openHarness } from '../support/harness';
import { finishRecording, startRecording } from '../support/recording';
import { apartOf } from './apart';

export interface GuestsFigures {
  /** From a guest's drawn frame to the programme's frame that has it, milliseconds: median, and of 95 %. */
  picture: { median: number; most: number; seen: number };
  /** From the guest's page being asked for to their picture at the host, milliseconds, for each of three. */
  join: number[];
  /** From a broken line to the picture again, milliseconds. */
  back: number;
  /** From the end of ten seconds without any line to the connection again, milliseconds. */
  later: number;
  /** From their own mix as the desk makes it to what they hear, milliseconds, each of several. */
  mix: number[];
  /** By how much their sound comes later than their picture in a recording, milliseconds. */
  apart: number;
  /** Programme frames mixed and dropped while it is recorded: without guests, and with one, two, three. */
  runs: { guests: number; mixed: number; dropped: number; drawMs: number }[];
}

const SECONDS = 30;

async function run(page: Page, guests: number): Promise<GuestsFigures['runs'][number]> {
  const now = () => pick(page, (s) => ({ mixed: s.mixer.frames, dropped: s.mixer.dropped }));
  const before = await now();
  await wait(SECONDS * 1000);
  const after = await now();
  const drawMs = await pick(page, (s) => s.samples.slice(-20).reduce((sum, x) => sum + x.drawMs, 0) / 20);
  return { guests, mixed: after.mixed - before.mixed, dropped: after.dropped - before.dropped, drawMs: Math.round(drawMs * 10) / 10 };
}

/** Ages of the guest's picture in the programme, as it leaves the mixer, milliseconds. The guest fills it: 320 × 180 in whatever size. */
async function ages(page: Page): Promise<number[]> {
  const rows = await page.evaluate(
    () =>
      new Promise<{ at: number; luma: number[] }[]>((resolve) => {
        const found: { at: number; luma: number[] }[] = [];
        const canvas = new OffscreenCanvas(320, 180);
        const context = canvas.getContext('2d', { willReadFrequently: true })!;
        const end = window.bivocaHost!.outputFrames((frame) => {
          const at = performance.timeOrigin + performance.now();
          context.drawImage(frame, 0, 0, 320, 180);
          frame.close();
          const { data } = context.getImageData(0, 5, 320, 1);
          found.push({ at, luma: Array.from({ length: 320 }, (_, x) => data[x * 4] ?? 0) });
          if (found.length < 250) return;
          end();
          resolve(found);
        });
      }),
  );
  return rows.flatMap(({ at, luma }) => {
    const age = (Math.floor(at) % 2 ** 32) - readTime((x) => luma[Math.floor(x)] ?? 0);
    // A cell that was read in the middle of a change of the picture.
    return age > 0 && age < 5000 ? [age] : [];
  });
}

const isLost = (page: Page, guest: string, lost: boolean) =>
  until(
    () => page.evaluate((g, is) => window.bivocaHost!.state.desk.air.guests.now[g]?.lost === is, guest, lost),
    lost ? 'the loss' : 'the way back',
    60_000,
  );

/** The wall time at which a loud tone begins in what a guest hears: at the desk, or on their own page. */
const toneBegins = (on: Page, bus: string | null) =>
  on.evaluate(async (busId) => {
    const own = busId === null ? null : window.bivocaHost!.sound.streamOf(busId);
    const stream = own ? own.stream : window.bivocaVisit!.store.getState().back!;
    const context = new AudioContext({ latencyHint: 'interactive' });
    await context.resume();
    const analyser = new AnalyserNode(context, { fftSize: 256 });
    context.createMediaStreamSource(stream).connect(analyser);
    const samples = new Float32Array(256);
    const at = await new Promise<number>((resolve) => {
      const timer = setInterval(() => {
        analyser.getFloatTimeDomainData(samples);
        if (samples.every((x) => Math.abs(x) < 0.05)) return;
        clearInterval(timer);
        resolve(performance.timeOrigin + performance.now());
      }, 4);
    });
    await context.close();
    own?.end();
    return at;
  }, bus);

/** How late what the desk makes for a guest comes to them. */
async function mixDelays(page: Page, visitor: Page, guest: string): Promise<number[]> {
  const bus = await page.evaluate((who) => {
    const { guests, sound } = window.bivocaHost!.state.desk.show;
    const listener = guests.list.find((g) => g.id === who)?.listenerId;
    return sound.listeners.find((l) => l.id === listener)!.busId;
  }, guest);
  const channels = await pick(page, ({ desk: { show } }) => [...show.sources.map((x) => x.id), ...show.sound.inputs.map((c) => c.id)]);
  for (const channel of channels) await send(page, 'sound.mute', { channel, on: true });
  const added = await send(page, 'sound.addChannel', { name: 'Tone', feed: { kind: 'tone', hz: 1500, levelDb: -6 } });
  const tone = added.ok ? String(added.result.id) : '';
  const found: number[] = [];
  for (let n = 0; n < 5; n += 1) {
    await send(page, 'sound.mute', { channel: tone, on: true });
    await wait(1500);
    const both = Promise.all([toneBegins(page, bus), toneBegins(visitor, null)]);
    await wait(600);
    await send(page, 'sound.mute', { channel: tone, on: false });
    const [made, heard] = await both;
    found.push(Math.round(heard - made));
  }
  await send(page, 'sound.removeChannel', { channel: tone });
  return found;
}

/** By how much a guest's sound is later than their picture: they clap, and the programme is recorded. */
async function agreement(page: Page, browser: TestBrowser, visitor: Page): Promise<number> {
  const guest = await pick(page, ({ desk }) => desk.air.onAirId ?? '');
  await send(page, 'sound.mute', { channel: guest, on: false });
  for (const simulatedGuest of ['silent', 'clap'])
    await visitor.evaluate((order) => window.postMessage({ simulatedGuest: order }, location.origin), simulatedGuest);
  await wait(3000);
  const recording = await startRecording(page);
  await wait(15_000);
  const file = await finishRecording(page, recording);
  const harness = await openHarness(browser);
  const found = await harness.page.evaluate((data) => window.harness.analyseFile(data), file);
  await harness.close();
  return apartOf(found, 0, 180);
}

/** Ten seconds in which nothing gets through, and then: from their end to the connection, milliseconds. */
async function afterTenSeconds(page: Page, visitor: Page, guest: string): Promise<number> {
  // As text: what compiles this file names functions in a way that pages do not know.
  await visitor.evaluate(`
    window.realSocket = window.WebSocket;
    window.WebSocket = class extends WebSocket { constructor() { super('ws://127.0.0.1:9/'); } };
    window.bivocaVisit.lose();
  `);
  await isLost(page, guest, true);
  await wait(10_000);
  await visitor.evaluate('void (window.WebSocket = window.realSocket)');
  const began = performance.now();
  await isLost(page, guest, false);
  return Math.round(performance.now() - began);
}

/** `page` has the demo open, at `url`. */
export async function benchGuests(page: Page, browser: TestBrowser, url: string): Promise<GuestsFigures> {
  const id = await page.evaluate(() => window.bivocaHost?.showId ?? '');
  const other = await startBrowser();
  await send(page, 'output.startRecording');
  const runs = [await run(page, 0)];
  const join: number[] = [];
  const guests: { id: string; source: string; page: Page }[] = [];
  for (const n of [0, 1, 2]) {
    const added = await send(page, 'guest.add', { name: `Guest ${n + 1}` });
    if (!added.ok) throw new Error(added.error.message);
    const [guest, source] = [String(added.result.id), String(added.result.source)];
    const secret = await page.evaluate(async (who) => (await window.bivocaHost!.ways.make('guest', who, null)).secret, guest);
    const visitor = await other.browser.newPage();
    const begun = performance.now();
    await visitor.goto(`${url}/join/${id}?simulated=${n}&name=Guest#guest=${secret}`);
    await until(() => page.evaluate((s) => (window.bivocaHost!.state.sizes[s]?.width ?? 0) > 0, source), 'their picture', 60_000);
    join.push(Math.round(performance.now() - begun));
    await send(page, 'guest.admit', { guest });
    guests.push({ id: guest, source, page: visitor });
    runs.push(await run(page, n + 1));
  }
  await send(page, 'output.stopRecording');
  const [first] = guests;
  if (!first) throw new Error('There is no guest.');
  await send(page, 'picture.cut', { picture: first.source });
  await wait(1500);
  const all = (await ages(page)).sort((a, b) => a - b);
  const mix = await mixDelays(page, first.page, first.id);
  const apart = await agreement(page, browser, first.page);
  const lost = performance.now();
  await first.page.evaluate(() => window.bivocaVisit!.lose());
  await isLost(page, first.id, true);
  await isLost(page, first.id, false);
  const back = Math.round(performance.now() - lost);
  const later = await afterTenSeconds(page, first.page, first.id);
  await other.close();
  return {
    picture: {
      median: Math.round(all[all.length >> 1] ?? NaN),
      most: Math.round(all[Math.floor(all.length * 0.95)] ?? NaN),
      seen: all.length,
    },
    join,
    back,
    later,
    mix,
    apart,
    runs,
  };
}

export const guestsLines = ({ picture, join, back, later, mix, apart, runs }: GuestsFigures): string[] => [
  `A guest's drawn frame to the programme's frame: ${picture.median} ms, 95 % under ${picture.most} ms (${picture.seen} frames read).`,
  `From opening the link to their picture: ${join.join(', ')} ms. From a broken line to the connection again: ${back} ms; after ten seconds without any line: ${later} ms.`,
  `Their own mix back to them: ${mix.join(', ')} ms. Their sound is ${apart.toFixed(1)} ms later than their picture in a recording.`,
  ...runs.map(
    ({ guests, mixed, dropped, drawMs }) =>
      `With ${guests} guests of 320×180 at 25, recorded: ${dropped} of ${mixed + dropped} programme frames dropped, ${drawMs} ms of drawing each.`,
  ),
];
