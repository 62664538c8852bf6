import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { db } from '../storage/db';
import { finishSegment, addSegment } from '../storage/replay-segments';
import { type ExportJob } from './export-messages';
import { spansOf, writtenSegments } from './export-written';
import { type StoredSegment } from './messages';

const RATE = { num: 25, den: 1 };
const JOB: ExportJob = { kind: 'angle', angleId: 'a', from: 0, to: 50 };
const SECOND = 1e6;

/** A second of a track, from a second of the show on. */
const second = (trackId: string, at: number): StoredSegment => ({
  id: `${trackId}-${at}`,
  trackId,
  from: at * SECOND,
  to: (at + 1) * SECOND,
  bytes: 100,
  frames: 25,
  config: { kind: 'picture', codec: 'avc1', width: 320, height: 180, description: '' },
  groups: [{ stamp: at * SECOND, offset: 0 }],
});

beforeEach(async () => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'performance'] });
  await db.replaySegments.clear();
});
afterEach(() => void vi.useRealTimers());

/** Lets time pass until `done` is settled; the database has a clock of its own. */
async function passing<T>(done: Promise<T>): Promise<T> {
  let over = false;
  done.then(
    () => (over = true),
    () => (over = true),
  );
  while (!over) {
    await vi.advanceTimersByTimeAsync(250);
    await new Promise((resolve) => setImmediate(resolve));
  }
  return done;
}

it('needs of each angle its pictures and its sound, for as long as they are in the file', () => {
  const item = { clipId: 'x', name: 'x', speed: 50 };
  const items = [
    { ...item, angleId: 'a', in: 0, out: 25 },
    { ...item, angleId: 'b', in: 50, out: 75 },
  ];
  const job: ExportJob = { kind: 'clips', items, joinFrames: 0, container: 'mp4', bitrate: 1e6, blend: false, soundAtSpeed: false };
  expect(spansOf(job, { b: 'sound-b' }, RATE)).toEqual([
    { trackId: 'a', from: 0, to: SECOND },
    { trackId: 'b', from: 2 * SECOND, to: 3 * SECOND },
    { trackId: 'sound-b', from: 2 * SECOND, to: 3 * SECOND },
  ]);
});

it('waits until what the recorder has told of is written, and not for what never was', async () => {
  await finishSegment('show', second('a', 0));
  await addSegment('show', second('a', 1));
  const recorded = { a: [{ from: 0, to: 2 * SECOND }] };
  const found = writtenSegments('show', spansOf(JOB, {}, RATE), recorded);
  setTimeout(() => void finishSegment('show', second('a', 1)), 3000);
  expect((await passing(found)).map((s) => s.id)).toEqual(['a-0', 'a-1']);
  // Recording ended after a second: the rest of the file is a gap.
  await db.replaySegments.delete('a-1');
  const short = writtenSegments('show', spansOf(JOB, { a: 'sound-a' }, RATE), { a: [{ from: 0, to: SECOND }] });
  expect((await passing(short)).map((s) => s.id)).toEqual(['a-0']);
});

it('says so when it is not written in time', async () => {
  await addSegment('show', second('a', 0));
  await expect(passing(writtenSegments('show', spansOf(JOB, {}, RATE), { a: [{ from: 0, to: SECOND }] }))).rejects.toThrow(
    'has not been written to disk yet',
  );
});
