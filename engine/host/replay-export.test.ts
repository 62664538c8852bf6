import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { type FakeDisk, useFakeDisk } from '#tests/support/fake-disk';
import { FakeWorker, useFakeWorkers } from '#tests/support/fake-worker';
import { type ExportJob, type FromExport, type ToExport } from '../replay/export-messages';
import { ReplayExport } from './replay-export';

const JOB: ExportJob = { kind: 'angle', angleId: 'a', from: 0, to: 100 };
const CLOSING: (() => Promise<void>)[] = [];
let disk: FakeDisk;

beforeEach(() => {
  vi.useFakeTimers();
  useFakeWorkers();
  disk = useFakeDisk();
  CLOSING.length = 0;
});

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

function setup() {
  const exports = new ReplayExport(
    'show',
    { num: 25, den: 1 },
    {
      closeSegments: () => CLOSING.shift()?.() ?? Promise.resolve(),
      runs: () => ({ a: [{ from: 0, to: 4e6 }] }),
    },
  );
  const finished: string[] = [];
  const add = (name: string) => void exports.add(name, JOB, {}).then((file) => finished.push(`${name} ${file ? file.size : 'no file'}`));
  const state = (name: string) => exports.store.getState().tasks.find((t) => t.name === name);
  const worker = (n: number) => FakeWorker.started[n] as unknown as FakeWorker<ToExport, FromExport>;
  /** The worker of the n-th file has written `bytes` of it. */
  const done = async (n: number, bytes: number) => {
    disk.put('exports', worker(n).heard('start')[0]?.fileName ?? '', new Uint8Array(bytes));
    worker(n).say({ type: 'done', seconds: 4, copied: true, frames: 100 });
    await vi.advanceTimersByTimeAsync(1);
  };
  return { exports, finished, add, state, worker, done };
}

describe('files of replays', () => {
  it('are made one after another, each from what is on disk when its turn comes', async () => {
    const { finished, add, state, worker, done } = setup();
    let close: () => void = () => undefined;
    CLOSING.push(() => new Promise((resolve) => (close = resolve)));
    add('one.mp4');
    add('two.mp4');
    await vi.advanceTimersByTimeAsync(1);
    expect([FakeWorker.started.length, worker(0).told]).toEqual([1, []]);
    close();
    await vi.advanceTimersByTimeAsync(1);
    expect(worker(0).heard('start')).toMatchObject([{ showId: 'show', job: JOB, recorded: { a: [{ from: 0, to: 4e6 }] } }]);
    worker(0).say({ type: 'progress', done: 1, total: 4 });
    expect([state('one.mp4')?.share, state('two.mp4')?.state]).toEqual([0.25, 'waiting']);
    await done(0, 7);
    expect(state('one.mp4')).toMatchObject({ state: 'done', copied: true, frames: 100 });
    await done(1, 9);
    expect(finished).toEqual(['one.mp4 7', 'two.mp4 9']);
    expect(FakeWorker.started.every((w) => w.terminated)).toBe(true);
  });

  it('of which nothing more comes are given up, and the next is made', async () => {
    const { finished, add, state, worker, done } = setup();
    add('stuck.mp4');
    add('next.mp4');
    await vi.advanceTimersByTimeAsync(50_000);
    worker(0).say({ type: 'progress', done: 1, total: 100 });
    await vi.advanceTimersByTimeAsync(59_000);
    expect(state('stuck.mp4')?.state).toBe('running');
    await vi.advanceTimersByTimeAsync(1001);
    expect(state('stuck.mp4')).toMatchObject({ state: 'failed', message: 'nothing has come of it for 60 seconds; try it again' });
    expect(worker(0).terminated).toBe(true);
    await done(1, 9);
    expect(finished).toEqual(['stuck.mp4 no file', 'next.mp4 9']);
  });

  it('that fail say why: the recorder, the worker or its script', async () => {
    const { finished, add, state, worker } = setup();
    CLOSING.push(() => Promise.reject(new Error('the recorder is gone')));
    for (const name of ['one', 'two', 'three']) add(name);
    await vi.advanceTimersByTimeAsync(1);
    worker(1).say({ type: 'failed', message: 'the disk is full' });
    await vi.advanceTimersByTimeAsync(1);
    worker(2).onerror?.({ message: 'out of memory' });
    await vi.advanceTimersByTimeAsync(1);
    expect(['one', 'two', 'three'].map((n) => [state(n)?.state, state(n)?.message])).toEqual([
      ['failed', 'the recorder is gone'],
      ['failed', 'the disk is full'],
      ['failed', 'out of memory'],
    ]);
    expect(finished).toHaveLength(3);
  });

  it('are cancelled while they wait and while they are made; what comes afterwards changes nothing', async () => {
    const { exports, finished, add, state, worker } = setup();
    for (const name of ['one', 'two', 'three']) add(name);
    await vi.advanceTimersByTimeAsync(1);
    exports.cancel(state('two')?.id ?? '');
    exports.cancel(state('one')?.id ?? '');
    await vi.advanceTimersByTimeAsync(1);
    worker(0).say({ type: 'done', seconds: 4, copied: true, frames: 100 });
    await vi.advanceTimersByTimeAsync(1);
    expect(['one', 'two', 'three'].map((n) => state(n)?.state)).toEqual(['cancelled', 'cancelled', 'running']);
    expect(finished.sort()).toEqual(['one no file', 'two no file']);
    exports.close();
    expect(worker(1).terminated).toBe(true);
  });
});
