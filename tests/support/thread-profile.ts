/** How busy each thread of a page is, and with what, as the browser's own sampling profiler sees it. */
import { type CDPSession, type Page } from 'puppeteer-core';

export interface ThreadProfile {
  /** `page`, or the name of the worker's file. */
  thread: string;
  /** Share of the time in which it was not idle, 0 to 1. */
  busy: number;
  /** What took longest by itself, with its share of the whole time. */
  top: { name: string; share: number }[];
}

interface Profile {
  nodes: { id: number; callFrame: { functionName: string; url: string; lineNumber: number } }[];
  samples: number[];
  timeDeltas: number[];
}

const IDLE = new Set(['(idle)', '(program)', '(root)']);

function summed(thread: string, { nodes, samples, timeDeltas }: Profile): ThreadProfile {
  const names = new Map(nodes.map((n) => [n.id, n.callFrame.functionName || `(unnamed ${n.callFrame.lineNumber})`]));
  const times = new Map<string, number>();
  let whole = 0;
  samples.forEach((id, i) => {
    const name = names.get(id) ?? '?';
    times.set(name, (times.get(name) ?? 0) + (timeDeltas[i] ?? 0));
    whole += timeDeltas[i] ?? 0;
  });
  const shares = [...times].map(([name, time]) => ({ name, share: time / whole }));
  return {
    thread,
    busy: shares.filter((s) => !IDLE.has(s.name) || s.name === '(program)').reduce((sum, s) => sum + s.share, 0),
    top: shares
      .filter((s) => s.name !== '(idle)')
      .sort((a, b) => b.share - a.share)
      .slice(0, 12),
  };
}

/** Profiles every thread of `page` while `work` runs. Profiling itself costs a few per cent. */
export async function profileThreads(page: Page, work: () => Promise<void>): Promise<ThreadProfile[]> {
  const sessions: [string, CDPSession][] = [
    ['page', await page.createCDPSession()],
    ...page.workers().map((w) => [/([^/]+?)(-[\w-]{8})?\.js/.exec(w.url())?.[1] ?? w.url().slice(-40), w.client] as [string, CDPSession]),
  ];
  for (const [, session] of sessions) {
    await session.send('Profiler.enable');
    await session.send('Profiler.setSamplingInterval', { interval: 500 });
    await session.send('Profiler.start');
  }
  await work();
  const found: ThreadProfile[] = [];
  for (const [thread, session] of sessions) {
    const { profile } = (await session.send('Profiler.stop')) as unknown as { profile: Profile };
    found.push(summed(thread, profile));
  }
  return found.sort((a, b) => b.busy - a.busy);
}
