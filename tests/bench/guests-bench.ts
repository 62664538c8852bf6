/** Guests beside the demo: how old their picture is in the programme, how soon they are there, and what three of them cost while it is recorded. */
import { type Page } from 'puppeteer-core';
import type {} from '#interface/guests/join-page';
import { readTime } from '#standins/guests/simulated-guest';
import { startBrowser } from '../support/browser';
import { pick, send, until, wait } from '../support/desk';

export interface GuestsFigures {
  /** From a guest's drawn frame to the programme's frame that has it, milliseconds: median, and of 95 %. */
  picture: { median: number; most: number; seen: number };
  /** From the guest's page being asked for to their picture at the host, milliseconds, for each of three. */
  join: number[];
  /** From a broken line to the picture again, milliseconds. */
  back: number;
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

/** `page` has the demo open, at `url`. */
export async function benchGuests(page: Page, url: string): Promise<GuestsFigures> {
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
    const secret = await page.evaluate(async (who) => (await window.bivocaHost!.ways.open('guest', who, null)).secret, guest);
    const visitor = await other.browser.newPage();
    const begun = performance.now();
    await visitor.goto(`${url}/join/${id}?simulated=${n}&name=Guest#guest=${secret}`);
    await until(() => page.evaluate((s) => (window.bivocaHost!.state.sizes[s]?.width ?? 0) > 0, source), 'their picture', 60_000);
    join.push(Math.round(performance.now() - begun));
    await send(page, 'guest.admit', { guest });
    guests.push({ id: guest, source, page: visitor });
    runs.push(await run(page, n + 1));
  }
  const [first] = guests;
  if (!first) throw new Error('There is no guest.');
  await send(page, 'picture.cut', { picture: first.source });
  await wait(1500);
  const all = (await ages(page)).sort((a, b) => a - b);
  const lost = performance.now();
  await first.page.evaluate(() => window.bivocaVisit!.lose());
  await until(() => page.evaluate((g) => window.bivocaHost!.state.desk.air.guests.now[g]?.lost === true, first.id), 'the loss');
  await until(
    () => page.evaluate((g) => window.bivocaHost!.state.desk.air.guests.now[g]?.lost === false, first.id),
    'the way back',
    60_000,
  );
  const back = Math.round(performance.now() - lost);
  await send(page, 'output.stopRecording');
  await other.close();
  return {
    picture: {
      median: Math.round(all[all.length >> 1] ?? NaN),
      most: Math.round(all[Math.floor(all.length * 0.95)] ?? NaN),
      seen: all.length,
    },
    join,
    back,
    runs,
  };
}

export const guestsLines = ({ picture, join, back, runs }: GuestsFigures): string[] => [
  `A guest's drawn frame to the programme's frame: ${picture.median} ms, 95 % under ${picture.most} ms (${picture.seen} frames read).`,
  `From opening the link to their picture: ${join.join(', ')} ms. From a broken line to the connection again: ${back} ms.`,
  ...runs.map(
    ({ guests, mixed, dropped, drawMs }) =>
      `With ${guests} guests of 320×180 at 25, recorded: ${dropped} of ${mixed + dropped} programme frames dropped, ${drawMs} ms of drawing each.`,
  ),
];
