/** Outputs in windows beside the demo: frames that the programme loses for them; a surface's five outputs; planning with 64 screens; search of areas. */
import { type Page } from 'puppeteer-core';
import { pick, send, until, wait } from '../support/desk';
import { type WindowsFigures } from '../harness/windows-bench';

interface Lost {
  mixed: number;
  dropped: number;
}

export interface ScreensFigures {
  /** Frames mixed and dropped while so many windows show outputs of 640×360, by their number. */
  windows: (Lost & { count: number })[];
  /** All outputs of the pier wall in windows of their own pixels: frames a second of each. */
  pier: Lost & { rates: [string, number | null][] };
  /** Milliseconds of an edit with 64 screens, from the command to the page laid out: median, and of 95 %. */
  planning: { median: number; most: number };
  areas: WindowsFigures;
}

const SECONDS = 30;
const EDITS = 60;

async function lost(page: Page): Promise<Lost> {
  const now = () => pick(page, (s) => ({ mixed: s.mixer.frames, dropped: s.mixer.dropped }));
  const before = await now();
  await wait(SECONDS * 1000);
  const after = await now();
  return { mixed: after.mixed - before.mixed, dropped: after.dropped - before.dropped };
}

async function openWindow(page: Page, url: string, output: string): Promise<Page> {
  const show = await pick(page, (s) => s.desk.show.id);
  const one = await page.browser().newPage();
  await one.setViewport({ width: 640, height: 360 });
  await one.goto(`${url}/programme?${new URLSearchParams({ show, output }).toString()}`);
  await until(() => one.evaluate(() => (document.querySelector('canvas')?.width ?? 0) > 300), 'its picture');
  return one;
}

/** Two windows, then four: clean programme, a camera, an upright output, a line that moves. */
async function benchWindowsBeside(page: Page, url: string): Promise<ScreensFigures['windows']> {
  await send(page, 'screen.set', { output: 'judges', shows: { kind: 'picture', pictureId: 'line' } });
  await send(page, 'screen.add', { name: 'Upright', shows: { kind: 'picture', pictureId: 'mast' }, raster: { width: 448, height: 768 } });
  await send(page, 'screen.add', { name: 'Moving line', shows: { kind: 'test', pattern: 'sweep' }, raster: { width: 640, height: 360 } });
  const ids = await pick(page, (s) => s.desk.show.screens.outputs.map((o) => o.id));
  const wanted = ['foyer', 'judges', ...ids.slice(-2)];
  const windows: Page[] = [];
  const figures: ScreensFigures['windows'] = [{ count: 0, ...(await lost(page)) }];
  for (const [i, id] of wanted.entries()) {
    windows.push(await openWindow(page, url, id));
    if (i !== 1 && i !== wanted.length - 1) continue;
    await wait(2000);
    figures.push({ count: i + 1, ...(await lost(page)) });
  }
  for (const one of windows) await one.close();
  return figures;
}

/** The pier wall with cameras on all of its screens, each output in a window. */
async function benchPier(page: Page, url: string): Promise<ScreensFigures['pier']> {
  await send(page, 'surface.take', { surfaces: ['pier-wall'], cut: true });
  const ids = ['pier-left', 'pier-right', 'ribbon-left', 'ribbon-right', 'sail-screen'];
  const windows: Page[] = [];
  for (const id of ids) windows.push(await openWindow(page, url, id));
  await wait(4000);
  const figures = await lost(page);
  const rates = await pick(page, (s) =>
    s.desk.show.screens.outputs.map((o): [string, number | null] => [o.name, s.mixer.screens[o.id] ?? null]),
  );
  const names = await pick(page, (s) => s.desk.show.screens.surfaces[0]!.screens.map((x) => x.name));
  for (const one of windows) await one.close();
  return { ...figures, rates: rates.filter(([name]) => names.includes(name)) };
}

/** Edits of a plan with 64 screens in the room. */
async function benchPlanning(page: Page): Promise<ScreensFigures['planning']> {
  await page.bringToFront();
  await send(page, 'surface.add', { name: 'Many', width: 8000, height: 8000 });
  const surface = await pick(page, (s) => s.desk.show.screens.surfaces.at(-1)!.id);
  for (let i = 0; i < 64; i += 1)
    await send(page, 'surface.addScreen', { surface, rect: { x: (i % 8) * 960, y: Math.floor(i / 8) * 960, width: 1000, height: 1000 } });
  await page.keyboard.down('Shift');
  await page.keyboard.press('F2');
  await page.keyboard.up('Shift');
  const row = await page.waitForSelector(`[data-surface="${surface}"]`);
  await row?.click();
  await page.waitForSelector('[data-testid="surface"]');
  await page.keyboard.press('KeyM');
  await wait(2000);
  const times = await page.evaluate(
    async (id, edits) => {
      const host = window.bivocaHost!;
      const screens = host.state.desk.show.screens.surfaces.find((s) => s.id === id)!.screens;
      const out: number[] = [];
      for (let i = 0; i < edits; i += 1) {
        await new Promise((resolve) => setTimeout(resolve, 60));
        const started = performance.now();
        host.dispatch({ type: 'surface.nudgeScreens', args: { surface: id, screens: [screens[i % 64]!.id], x: 1, y: 0 } });
        // What follows a change is drawn at once; the layout is asked for, so that its time counts too.
        await Promise.resolve();
        await Promise.resolve();
        document.querySelector('[data-testid="surface"] svg')?.getBoundingClientRect();
        out.push(performance.now() - started);
      }
      return out.sort((a, b) => a - b);
    },
    surface,
    EDITS,
  );
  await send(page, 'surface.remove', { surface });
  return { median: times[EDITS >> 1]!, most: times[Math.floor(EDITS * 0.95)]! };
}

export async function benchScreens(page: Page, url: string, harness: Page): Promise<ScreensFigures> {
  // What a page does at first takes longer than anything later.
  await wait(10_000);
  const windows = await benchWindowsBeside(page, url);
  const pier = await benchPier(page, url);
  const planning = await benchPlanning(page);
  const areas = await harness.evaluate(() => window.harness.benchAreas(7680, 4320, 5));
  return { windows, pier, planning, areas };
}

const share = ({ mixed, dropped }: Lost): string =>
  `${dropped} of ${mixed + dropped} frames dropped, ${((100 * dropped) / (mixed + dropped)).toFixed(2)} %`;

export const screensLines = ({ windows, pier, planning, areas }: ScreensFigures): string[] => [
  '## Screens',
  '',
  `Windows with outputs (clean programme, a camera, an upright output of 448×768, a moving line), beside the demo at 640×360 for ${SECONDS} s each: ${windows
    .map((w) => `${w.count} windows: ${share(w)}`)
    .join('; ')}.`,
  '',
  `The pier wall, five outputs of 10 million pixels together, in windows beside the demo for ${SECONDS} s: ${share(pier)}; ${pier.rates
    .map(([name, rate]) => `${name} ${rate === null ? 'still' : `${rate.toFixed(1)} a second`}`)
    .join(', ')}.`,
  '',
  `An edit with 64 screens, from the command to the page laid out: ${planning.median.toFixed(1)} ms, 95 % under ${planning.most.toFixed(1)} ms.`,
  '',
  `Areas of a picture of 7680×4320 (${areas.found} found): ${areas.median.toFixed(0)} ms from its pixels, at most ${areas.slowest.toFixed(0)}; with decoding ${areas.whole.toFixed(0)} ms.`,
  '',
];
