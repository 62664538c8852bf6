import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { FakeWorker, useFakeWorkers } from '#tests/support/fake-worker';
import { askWorker } from './ask-worker';

beforeEach(() => {
  useFakeWorkers();
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const ask = () =>
  askWorker<string>(
    new Worker('reader'),
    { type: 'read' },
    { limitMs: 1000, late: () => new Error('too late'), failed: (m) => new Error(`failed: ${m}`) },
  );
const made = () => FakeWorker.started.at(-1) as FakeWorker<{ type: string }, string>;

it('gives the answer of a worker, or says that it was late or failed, and ends it each time', async () => {
  const answered = ask();
  made().say('fine');
  await expect(answered).resolves.toBe('fine');
  const failed = ask();
  made().onerror?.({ message: 'no memory' });
  await expect(failed).rejects.toThrow('failed: no memory');
  const late = expect(ask()).rejects.toThrow('too late');
  await vi.advanceTimersByTimeAsync(1000);
  await late;
  expect(FakeWorker.started.map((w) => w.terminated)).toEqual([true, true, true]);
});
