/** The demo at the show's own size: what is dropped and late while it records and streams, and which thread is busy with what. */
import { type Page } from 'puppeteer-core';
import { type App } from '../support/browser';
import { openDemo, pick, send, wait } from '../support/desk';
import { profileThreads, type ThreadProfile } from '../support/thread-profile';

export interface SizeFigures {
  height: number;
  seconds: number;
  frames: number;
  dropped: number;
  late: number;
  /** Milliseconds of a programme frame, mean of one a second. */
  drawMs: number;
  skipped: number;
  /** What was reduced at the end; empty when nothing was. */
  notice: string;
  threads: ThreadProfile[];
}

const CAMERAS = ['line', 'mast', 'desk', 'shore'];

/** Records, streams, and takes every two seconds. */
export async function benchSize(page: Page, app: App, height: number, seconds: number, profiled = false): Promise<SizeFigures> {
  await openDemo(page, app, height);
  await wait(5000);
  await send(page, 'output.startRecording');
  await send(page, 'output.startStream');
  await wait(3000);
  const before = await pick(page, (s) => s.mixer);
  const run = async () => {
    const end = Date.now() + seconds * 1000;
    for (let i = 0; Date.now() < end; i += 1) {
      await send(page, 'picture.setNext', { picture: CAMERAS[i % 4] });
      await wait(1000);
      await send(page, i % 3 === 0 ? 'picture.cut' : 'picture.take');
      if (i % 4 === 0) await send(page, 'lane.toggle', { lane: 'lane-1' });
      await wait(1000);
    }
  };
  const threads = profiled ? await profileThreads(page, run) : (await run(), []);
  const after = await pick(page, (s) => ({ mixer: s.mixer, notice: s.working.notice, draws: s.samples.slice(-30).map((x) => x.drawMs) }));
  await send(page, 'output.stopStream');
  await send(page, 'output.stopRecording');
  const count = (key: 'frames' | 'dropped' | 'late' | 'monitorsSkipped') => after.mixer[key] - before[key];
  return {
    height,
    seconds,
    frames: count('frames'),
    dropped: count('dropped'),
    late: count('late'),
    skipped: count('monitorsSkipped'),
    drawMs: after.draws.reduce((a, b) => a + b, 0) / after.draws.length,
    notice: after.notice,
    threads,
  };
}
