/** Panels beside the demo: how late a press and a picture are, what they cost the window that runs the show, and what one that reads nothing costs the server. */
import { readdirSync, readFileSync } from 'node:fs';
import { type Page } from 'puppeteer-core';
import { WebSocket } from 'ws';
import { PANEL_VERSION } from '#core/panels/panel-messages';
import type {} from '#interface/panels/work-panel';
import { STRIP } from '#standins/pictures/frame-strip';
import { startBrowser, type TestBrowser } from '../support/browser';
import { pick, send, until, wait } from '../support/desk';

interface Run {
  /** Share of one core that the host's browser takes. */
  cores: number;
  mixed: number;
  dropped: number;
}

export interface PanelsFigures {
  /** From the host's own press, and from one at a panel, to the programme's frame that shows it, milliseconds: median, and of 95 %. */
  press: Record<'host' | 'panel', { median: number; most: number }>;
  /** From a frame that leaves the host's mixer to the panel's screen, milliseconds. */
  picture: { median: number; most: number; seen: number };
  none: Run;
  one: Run;
  ten: Run;
  /** Bytes that the server's process grew by while a panel read nothing for a minute. */
  stuckBytes: number;
}

const SECONDS = 30;
/** Times that one panel and ten are measured by turns. */
const TURNS = 4;
const PRESSES = 40;

const sorted = (list: number[]) => [...list].sort((a, b) => a - b);
const figures = (list: number[]) => {
  const all = sorted(list);
  return { median: Math.round(all[all.length >> 1] ?? NaN), most: Math.round(all[Math.floor(all.length * 0.95)] ?? NaN) };
};

/** Processor time of a process and all below it, seconds (Linux: /proc). */
function cpuSeconds(root: number): number {
  const parents = new Map<number, { parent: number; ticks: number }>();
  for (const name of readdirSync('/proc')) {
    if (!/^\d+$/.test(name)) continue;
    try {
      const stat = readFileSync(`/proc/${name}/stat`, 'utf8');
      const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
      parents.set(Number(name), { parent: Number(fields[1]), ticks: Number(fields[11]) + Number(fields[12]) });
    } catch {
      // It has ended meanwhile.
    }
  }
  const isBelow = (pid: number): boolean => pid === root || (pid > 1 && isBelow(parents.get(pid)?.parent ?? 0));
  return [...parents].reduce((sum, [pid, { ticks }]) => sum + (isBelow(pid) ? ticks : 0), 0) / 100;
}

async function run(page: Page, browser: TestBrowser, seconds = SECONDS): Promise<Run> {
  const pid = browser.browser.process()?.pid ?? 0;
  const now = () => pick(page, (s) => ({ mixed: s.mixer.frames, dropped: s.mixer.dropped }));
  const [before, cpu] = [await now(), cpuSeconds(pid)];
  await wait(seconds * 1000);
  const after = await now();
  return { cores: (cpuSeconds(pid) - cpu) / seconds, mixed: after.mixed - before.mixed, dropped: after.dropped - before.dropped };
}

const meanOf = (runs: readonly Run[]): Run => ({
  cores: runs.reduce((sum, r) => sum + r.cores, 0) / runs.length,
  mixed: runs.reduce((sum, r) => sum + r.mixed, 0),
  dropped: runs.reduce((sum, r) => sum + r.dropped, 0),
});

/** Notes in the host when each burned-in frame, and each other picture, leaves the mixer. */
const watchHost = (page: Page) =>
  page.evaluate((strip) => {
    const notes: { burned: Record<number, number>; bright: { at: number; on: boolean }[] } = { burned: {}, bright: [] };
    const canvas = new OffscreenCanvas(640, 360);
    const context = canvas.getContext('2d', { willReadFrequently: true })!;
    Object.assign(window, { notes });
    window.bivocaHost!.outputFrames((frame) => {
      const at = Date.now();
      context.drawImage(frame, 0, 0, 640, 360);
      frame.close();
      const row = context.getImageData(0, strip.y + strip.height / 2, 640, 1).data;
      let value = 0;
      for (let i = 0; i < 24; i += 1) value = value * 2 + ((row[Math.round(strip.x + (i + 0.5) * strip.cell) * 4] ?? 0) > 128 ? 1 : 0);
      notes.burned[value] ??= at;
      const on = (context.getImageData(20, 250, 1, 1).data[0] ?? 0) > 120;
      if (notes.bright.at(-1)?.on !== on) notes.bright.push({ at, on });
    });
  }, STRIP);

/** The first moment at which each burned-in frame is on the panel's screen. */
const watchPanel = (panel: Page, ms: number) =>
  panel.evaluate(
    (strip, length) =>
      new Promise<Record<number, number>>((resolve) => {
        const seen: Record<number, number> = {};
        const copy = new OffscreenCanvas(640, 360);
        const context = copy.getContext('2d', { willReadFrequently: true })!;
        const end = Date.now() + length;
        const timer = setInterval(() => {
          const canvas = document.querySelector<HTMLCanvasElement>('section[aria-label="On air"] canvas');
          if (canvas) {
            context.drawImage(canvas, 0, 0, 640, 360);
            const row = context.getImageData(0, strip.y + strip.height / 2, 640, 1).data;
            let value = 0;
            for (let i = 0; i < 24; i += 1)
              value = value * 2 + ((row[Math.round(strip.x + (i + 0.5) * strip.cell) * 4] ?? 0) > 128 ? 1 : 0);
            seen[value] ??= Date.now();
          }
          if (Date.now() < end) return;
          clearInterval(timer);
          resolve(seen);
        }, 8);
      }),
    STRIP,
    ms,
  );

/** Presses that change the picture between two colours; milliseconds from the press to the programme's frame. */
async function presses(page: Page, from: Page, which: 'bivocaHost' | 'bivocaPanel'): Promise<number[]> {
  const took: number[] = [];
  for (let i = 0; i < PRESSES; i += 1) {
    await wait(230 + ((i * 37) % 90));
    const picture = i % 2 === 0 ? 'bars' : 'harbour';
    const pressed = await from.evaluate(
      (client, id) => {
        const at = Date.now();
        window[client]!.dispatch({ type: 'picture.cut', args: { picture: id } });
        return at;
      },
      which,
      picture,
    );
    const shown = await until(
      () =>
        page.evaluate(
          (after) => (window as unknown as { notes: { bright: { at: number }[] } }).notes.bright.find((b) => b.at >= after)?.at ?? null,
          pressed,
        ),
      'the picture',
    );
    took.push(shown - pressed);
  }
  return took;
}

const bare = (url: string, show: string, secret: string): WebSocket => {
  const socket = new WebSocket(`${url.replace('http', 'ws')}/api/panel`);
  socket.on('open', () => {
    socket.send(JSON.stringify({ kind: 'enter', version: PANEL_VERSION, show, secret }));
    const key = JSON.stringify({ kind: 'programme' });
    socket.send(JSON.stringify({ kind: 'pictures', tiles: [{ key, width: 320, height: 180 }] }));
  });
  socket.on('message', (data, isBinary) => {
    if (!isBinary && String(data as Buffer).startsWith('{"kind":"ping"')) socket.send(String(data as Buffer).replace('ping', 'pong'));
  });
  socket.on('error', () => undefined);
  return socket;
};

export async function benchPanels(page: Page, browser: TestBrowser, url: string): Promise<PanelsFigures> {
  await wait(8000);
  const none = await run(page, browser);
  const show = await pick(page, (s) => s.desk.show.id);
  const secret = await page.evaluate(
    async () => (await window.bivocaHost!.passes.add('Bench', { desk: 'work', replay: 'work', sound: 'work' }, null)).secret,
  );
  const other = await startBrowser();
  const panel = other.page;
  await panel.goto(`${url}/crew/${show}/desk#pass=${secret}`);
  await until(() => panel.evaluate(() => window.bivocaPanel !== undefined), 'the panel');
  await wait(5000);
  // By turns: what else the machine does would count for one of them otherwise.
  const [ones, tens]: [Run[], Run[]] = [[], []];
  for (let i = 0; i < TURNS; i += 1) {
    ones.push(await run(page, browser, SECONDS / 2));
    const sockets = Array.from({ length: 9 }, () => bare(url, show, secret));
    await wait(2000);
    tens.push(await run(page, browser, SECONDS / 2));
    for (const socket of sockets) socket.terminate();
    await wait(1000);
  }
  const [one, ten] = [meanOf(ones), meanOf(tens)];
  await watchHost(page);
  await send(page, 'picture.cut', { picture: 'shore' });
  await wait(1000);
  const seen = await watchPanel(panel, 10_000);
  const left = await page.evaluate(() => (window as unknown as { notes: { burned: Record<number, number> } }).notes.burned);
  const delays = Object.entries(seen).flatMap(([frame, at]) => (left[Number(frame)] === undefined ? [] : [at - left[Number(frame)]!]));
  await send(page, 'picture.cut', { picture: 'harbour' });
  const press = { host: figures(await presses(page, page, 'bivocaHost')), panel: figures(await presses(page, panel, 'bivocaPanel')) };
  // One that reads nothing for a minute, while the show changes.
  const stuck = bare(url, show, secret);
  await wait(2000);
  (stuck as unknown as { _socket: { pause(): void } })._socket.pause();
  global.gc?.();
  const memory = () => {
    const { heapUsed, external } = process.memoryUsage();
    return heapUsed + external;
  };
  const before = memory();
  await wait(60_000);
  global.gc?.();
  const stuckBytes = memory() - before;
  stuck.terminate();
  await other.close();
  return { press, picture: { ...figures(delays), seen: delays.length }, none, one, ten, stuckBytes };
}

const percent = (n: number): string => `${Math.round(n * 100)} %`;
const lost = ({ mixed, dropped }: Run): string => `${dropped} of ${mixed + dropped} frames dropped`;

export const panelsLines = ({ press, picture, none, one, ten, stuckBytes }: PanelsFigures): string[] => [
  '## Panels',
  '',
  `From a press to the programme's frame that shows it: at the host ${press.host.median} ms (95 % under ${press.host.most}), at a panel ${press.panel.median} ms (95 % under ${press.panel.most}).`,
  `From a frame that leaves the mixer to the panel's screen: ${picture.median} ms (95 % under ${picture.most}), ${picture.seen} frames in 10 s.`,
  `Cores that the host's browser takes: without panels ${percent(none.cores)} (${lost(none)}); with one that shows the Desk ${percent(one.cores)} (${lost(one)}); with ten, nine of them bare sockets, ${percent(ten.cores)} (${lost(ten)}).`,
  `A panel that reads nothing for a minute: the server's process grew by ${(stuckBytes / 1e6).toFixed(1)} MB.`,
  '',
];
