/** Everything at once, and a page that stands still: what the programme loses. */
import { readdirSync, readFileSync } from 'node:fs';
import { type Page } from 'puppeteer-core';
import { type App, type TestBrowser } from '../support/browser';
import { openDemo, pick, send, until, wait } from '../support/desk';
import { profileThreads, type ThreadProfile } from '../support/thread-profile';

export interface LoadFigures {
  minutes: number;
  frames: number;
  dropped: number;
  late: number;
  monitorsSkipped: number;
  notice: string;
  threads: ThreadProfile[];
}

const CAMERAS = ['line', 'mast', 'desk', 'shore'];

/** Four angles recorded, recording, streaming, a take every two seconds, grabs, clips rolled to air; at 640×360. */
export async function benchEverything(page: Page, app: App, minutes: number, profiled = false): Promise<LoadFigures> {
  await openDemo(page, app);
  await send(page, 'replay.start');
  await send(page, 'output.startRecording');
  await send(page, 'output.startStream');
  await wait(8000);
  const before = await pick(page, (s) => s.mixer);
  const run = async () => {
    const end = Date.now() + minutes * 60_000;
    for (let i = 0; Date.now() < end; i += 1) {
      await send(page, 'picture.setNext', { picture: CAMERAS[i % 4] });
      await wait(1000);
      await send(page, i % 3 === 0 ? 'picture.cut' : 'picture.take');
      if (i % 2 === 0) await send(page, 'clip.grab', { deck: 1, seconds: 4 });
      if (i % 5 === 4) {
        const clip = await pick(page, (s) => s.desk.show.replay.clips.at(-1)?.id);
        if (clip) await send(page, 'roll.toAir', { deck: 1, clips: [clip] });
      }
      await wait(1000);
    }
  };
  const threads = profiled ? await profileThreads(page, run) : (await run(), []);
  const after = await pick(page, (s) => ({ mixer: s.mixer, notice: s.working.notice }));
  for (const type of ['output.stopStream', 'output.stopRecording', 'replay.stop']) await send(page, type);
  const count = (key: 'frames' | 'dropped' | 'late' | 'monitorsSkipped') => after.mixer[key] - before[key];
  return {
    minutes,
    frames: count('frames'),
    dropped: count('dropped'),
    late: count('late'),
    monitorsSkipped: count('monitorsSkipped'),
    notice: after.notice,
    threads,
  };
}

/** Megabytes that a browser holds, all its processes together. */
function residentMB(root: number): number {
  const parents = new Map<number, number>();
  const sizes = new Map<number, number>();
  for (const name of readdirSync('/proc').filter((n) => /^\d+$/.test(n))) {
    try {
      const status = readFileSync(`/proc/${name}/status`, 'utf8');
      parents.set(Number(name), Number(/PPid:\s+(\d+)/.exec(status)?.[1]));
      sizes.set(Number(name), Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1000);
    } catch {
      // It has ended meanwhile.
    }
  }
  const belongs = (pid: number | undefined): boolean => pid !== undefined && (pid === root || belongs(parents.get(pid)));
  return [...sizes].reduce((sum, [pid, size]) => sum + (belongs(pid) ? size : 0), 0);
}

export interface BusyFigures {
  seconds: number;
  frames: number;
  dropped: number;
  late: number;
  memoryBeforeMB: number;
  /** A quarter, a half, three quarters of the time gone, and at its end: what is bounded stops growing. */
  memoryMB: number[];
}

/** The page does nothing else for `seconds`, monitors on, recording, a programme window's frames wanted too. */
export async function benchBusyPage({ page, browser }: TestBrowser, app: App, seconds: number): Promise<BusyFigures> {
  await openDemo(page, app);
  await page.evaluate(() => void window.bivocaHost?.outputFrames((frame) => frame.close()));
  await send(page, 'output.startRecording');
  await wait(8000);
  const pid = browser.process()?.pid ?? 0;
  const before = await pick(page, (s) => s.mixer);
  const memoryBeforeMB = residentMB(pid);
  const memoryMB: number[] = [];
  const watch = setInterval(() => memoryMB.push(Math.round(residentMB(pid))), seconds * 245);
  await page.evaluate((ms) => {
    const end = performance.now() + ms;
    while (performance.now() < end);
  }, seconds * 1000);
  clearInterval(watch);
  const after = await until(
    () => pick(page, (s) => s.mixer).then((m) => (m.frames > before.frames + seconds * 10 ? m : null)),
    'the mixer to be heard again',
  );
  await send(page, 'output.stopRecording');
  return {
    seconds,
    frames: after.frames - before.frames,
    dropped: after.dropped - before.dropped,
    late: after.late - before.late,
    memoryBeforeMB,
    memoryMB,
  };
}
