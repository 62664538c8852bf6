/** Guests who come and go for a long time: whether anything of them stays behind. */
import { type Page } from 'puppeteer-core';
import type {} from '#interface/guests/join-page';
import { startBrowser, type TestBrowser } from '../support/browser';
import { heldOf } from '../support/held';
import { pick, send, until, wait } from '../support/desk';

/** A guest comes, and the one before the last goes, so often, milliseconds. */
const EACH_MS = 20_000;

interface Kept {
  heapMB: number;
  connections: number;
  tracks: number;
}

export interface GuestTraffic {
  minutes: number;
  joins: number;
  /** After the first two, and at the end, with as many there. */
  before: Kept;
  after: Kept;
  frames: number;
  dropped: number;
  /** Frames that nobody has closed. */
  leaked: number;
  /** Longest way from the link to the picture, milliseconds. */
  slowest: number;
}

/** What the page holds once its garbage is collected. */
async function kept(page: Page): Promise<Kept> {
  const session = await page.createCDPSession();
  for (let i = 0; i < 3; i += 1) await session.send('HeapProfiler.collectGarbage');
  const { usedSize } = (await session.send('Runtime.getHeapUsage')) as { usedSize: number };
  await session.detach();
  return {
    heapMB: usedSize / 1e6,
    connections: await heldOf(page, 'RTCPeerConnection.prototype'),
    tracks: await heldOf(page, 'MediaStreamTrack.prototype'),
  };
}

/** `page` has the demo open, at `url`. Two guests are there at any time, by turns in four places. */
export async function benchGuestTraffic(page: Page, browser: TestBrowser, url: string, minutes: number): Promise<GuestTraffic> {
  const showId = await page.evaluate(() => window.bivocaHost?.showId ?? '');
  const other = await startBrowser();
  const places: { id: string; source: string; page: Page | null }[] = [];
  for (let n = 0; n < 4; n += 1) {
    const added = await send(page, 'guest.add', { name: `Guest ${n + 1}` });
    if (!added.ok) throw new Error(added.error.message);
    places.push({ id: String(added.result.id), source: String(added.result.source), page: null });
  }
  let joins = 0;
  let slowest = 0;
  const turn = async () => {
    const n = joins % places.length;
    const place = places[n]!;
    const secret = await page.evaluate(async (who) => (await window.bivocaHost!.ways.make('guest', who, null)).secret, place.id);
    const visitor = await other.browser.newPage();
    const begun = performance.now();
    await visitor.goto(`${url}/join/${showId}?simulated=${n}&name=Guest#guest=${secret}`);
    const here = () => page.evaluate((who) => (window.bivocaHost!.guests.store.getState().figures[who]?.height ?? 0) > 0 || null, place.id);
    await until(here, 'their picture', 60_000);
    slowest = Math.max(slowest, Math.round(performance.now() - begun));
    await send(page, 'guest.admit', { guest: place.id });
    place.page = visitor;
    joins += 1;
    // By turns as people do it: the page is closed, or the crew shows them out.
    const leaving = places[(n + 2) % places.length]!;
    if (!leaving.page) return;
    if (joins % 2 === 0) await send(page, 'guest.showOut', { guest: leaving.id });
    await leaving.page.close();
    if (joins % 2 === 1) await send(page, 'guest.showOut', { guest: leaving.id });
    leaving.page = null;
  };
  for (let i = 0; i < 4; i += 1) await turn();
  await wait(3000);
  const [before, mixer] = [await kept(page), await pick(page, (s) => s.mixer)];
  const end = Date.now() + minutes * 60_000;
  while (Date.now() < end) {
    const next = Date.now() + EACH_MS;
    await turn();
    await wait(Math.max(0, next - Date.now()));
  }
  await wait(3000);
  const [after, mixed] = [await kept(page), await pick(page, (s) => s.mixer)];
  await other.close();
  return {
    minutes,
    joins,
    before,
    after,
    frames: mixed.frames - mixer.frames,
    dropped: mixed.dropped - mixer.dropped,
    leaked: browser.troubles.filter((t) => /garbage collected/.test(t)).length,
    slowest,
  };
}

const keptWords = ({ heapMB, connections, tracks }: Kept): string =>
  `${heapMB.toFixed(1)} MB, ${connections} connections, ${tracks} tracks`;

export const guestTrafficLines = (f: GuestTraffic): string[] => [
  `${f.joins} joins in ${f.minutes} minutes, two guests there at any time: ${keptWords(f.before)} at first, ${keptWords(f.after)} at the end (after collection); ${f.leaked} frames left open.`,
  `${f.dropped} of ${f.frames + f.dropped} programme frames dropped. The slowest took ${f.slowest} ms from the link to their picture.`,
];
