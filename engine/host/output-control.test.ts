import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { type Desk } from '#core/desk/air';
import { type FakeDisk, useFakeDisk } from '#tests/support/fake-disk';
import { FakeHost } from '#tests/support/fake-host';
import { FakeWorker, useFakeWorkers } from '#tests/support/fake-worker';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { type EncoderStatus, type FromEncoder, type ToEncoder } from '../output/messages';
import { db } from '../storage/db';
import { IDLE_ENCODER } from '../output/messages';
import { OutputControl } from './output-control';

let disk: FakeDisk;
let control: OutputControl | null = null;
let host: FakeHost | null = null;

beforeEach(async () => {
  disk = useFakeDisk();
  useFakeWorkers();
  vi.stubGlobal('location', { href: 'http://127.0.0.1:4000/show/show' });
  await db.recordings.clear();
});

afterEach(async () => {
  // A recording or stream that a test has left is over now: its end is not waited for.
  host?.set({ encoder: IDLE_ENCODER });
  vi.useRealTimers();
  await control?.close();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** A host of the sample show whose encoder does nothing by itself. */
function setup(desk: Desk = sampleDesk()) {
  const worker = new FakeWorker<ToEncoder, FromEncoder>();
  const made = new FakeHost(desk);
  host = made;
  const rate = { tracks: 0 };
  control = new OutputControl(worker as unknown as Worker, { sendProgramme: () => undefined }, made, () => rate.tracks);
  made.follower = control;
  // The programme's sound is connected at the start, whatever comes.
  worker.told.length = 0;
  const { run } = made;
  const recorded = async () =>
    (await db.recordings.toArray()).map(({ id, state, bytes, seconds, note }) => ({ id, state, bytes, seconds, note }));
  return { worker, made, rate, run, recorded };
}

const settle = (ms = 20) => new Promise((resolve) => setTimeout(resolve, ms));
const recording = (id: string, seconds: number, bytes: number): EncoderStatus => ({
  ...IDLE_ENCODER,
  recording: { id, seconds, pictures: 25 * seconds, bytes, bitrate: 800_000 },
});

describe('what records and streams', () => {
  it('starts and ends a recording with air, and keeps its line in the list true', async () => {
    const { worker, made, run, recorded } = setup(must(sampleDesk(), 'output.setRecording', { megabits: 4 }));
    run('output.startRecording');
    const id = made.desk.air.recording?.id ?? '';
    await vi.waitFor(() => expect(worker.heard('record')).toHaveLength(1));
    expect(worker.heard('record')[0]).toMatchObject({
      id,
      settings: { bitrate: 4e6, raster: { width: 64, height: 36 }, outputId: 'programme' },
    });
    expect(await recorded()).toEqual([{ id, state: 'recording', bytes: 0, seconds: 0, note: '' }]);
    // Further commands change nothing about it.
    run('picture.cut', { picture: 'b' });
    worker.say({ type: 'status', status: recording(id, 3, 300_000) });
    await vi.waitFor(async () => expect(await recorded()).toMatchObject([{ bytes: 300_000, seconds: 3 }]));
    run('output.stopRecording');
    expect(worker.told.map((m) => m.type)).toEqual(['output', 'record', 'stop-recording']);
    worker.say({ type: 'recording-ended', id, seconds: 4, bytes: 400_000, error: '' });
    await vi.waitFor(async () => expect(await recorded()).toEqual([{ id, state: 'done', bytes: 400_000, seconds: 4, note: '' }]));
    expect(made).toMatchObject({ notices: [], commands: [] });
  });

  it('tells air and crew when a recording has ended by itself, with the cause on its line', async () => {
    const { worker, made, run, recorded } = setup();
    run('output.startRecording');
    await vi.waitFor(() => expect(worker.heard('record')).toHaveLength(1));
    const id = made.desk.air.recording?.id ?? '';
    worker.say({ type: 'recording-ended', id, seconds: 9, bytes: 90, error: 'the disk is full' });
    await vi.waitFor(() => expect(made.commands).toEqual([{ type: 'output.stopRecording' }]));
    expect(made.desk.air.recording).toBeNull();
    expect(made.notices).toEqual(['trouble: The recording ended early: the disk is full. What was recorded is kept.']);
    expect(await recorded()).toEqual([{ id, state: 'done', bytes: 90, seconds: 9, note: 'the disk is full' }]);
  });

  it('refuses to record without room, in words, and leaves no line behind', async () => {
    disk.quota = 40e6;
    const { worker, made, run, recorded } = setup();
    run('output.startRecording');
    await vi.waitFor(() => expect(made.commands).toEqual([{ type: 'output.stopRecording' }]));
    expect(made.notices).toEqual([expect.stringMatching(/^trouble: Not recording: only 40 MB are left/)]);
    expect(worker.heard('record')).toEqual([]);
    expect(await recorded()).toEqual([]);
  });

  it('that is stopped before it has begun does not begin, and leaves no line behind', async () => {
    const { worker, made, run, recorded } = setup();
    run('output.startRecording');
    run('output.stopRecording');
    await settle();
    expect(worker.heard('record')).toEqual([]);
    expect(await recorded()).toEqual([]);
    run('output.startRecording');
    await vi.waitFor(() => expect(worker.heard('record')).toHaveLength(1));
    expect(worker.heard('record')[0]?.id).toBe(made.desk.air.recording?.id);
  });

  it('warns once when there are minutes left, and ends the recording while it can still be closed', async () => {
    vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval'] });
    const { worker, made, rate, run } = setup();
    run('output.startRecording');
    await vi.waitFor(() => expect(worker.heard('record')).toHaveLength(1));
    worker.say({ type: 'status', status: recording(made.desk.air.recording?.id ?? '', 60, 6e6) });
    const watch = async () => {
      vi.advanceTimersByTime(2000);
      await settle(2);
    };
    await watch();
    expect(made.notices).toEqual([]);
    // 0.1 MB a second of programme and as much of tracks: two minutes and a half.
    rate.tracks = 100_000;
    disk.quota = 48e6 + 30e6;
    await watch();
    await watch();
    expect(made.notices).toEqual([expect.stringMatching(/^caution: Room for 3 more minutes/)]);
    disk.quota = 47e6;
    await watch();
    expect(made.notices.at(-1)).toMatch(/^trouble: Recording stopped: less than 48 MB/);
    expect(made.commands).toEqual([{ type: 'output.stopRecording' }]);
    expect(worker.told.at(-1)?.type).toBe('stop-recording');
  });

  it('streams to the address of the show, and tells when the destination refused it', async () => {
    const set = must(sampleDesk(), 'output.setStream', { url: '/ingest/pier', key: 'kites', megabits: 2 });
    const { worker, made, run } = setup(set);
    run('output.startStream');
    expect(worker.heard('stream')[0]).toMatchObject({
      url: 'http://127.0.0.1:4000/ingest/pier',
      key: 'kites',
      settings: { codec: 'h264', bitrate: 2e6 },
    });
    worker.say({ type: 'stream-ended', id: 'an older one', error: '' });
    await settle(2);
    expect(made.commands).toEqual([]);
    worker.say({ type: 'stream-ended', id: made.desk.air.stream?.id ?? '', error: 'The destination refused the stream (401)' });
    await settle(2);
    expect(made.commands).toEqual([{ type: 'output.stopStream' }]);
    expect(made.notices).toEqual(['trouble: The stream ended: The destination refused the stream (401).']);
    expect(worker.told.at(-1)?.type).toBe('stop-stream');
  });

  it('takes the frames of an output only while a recording or stream of it runs, and once for both', async () => {
    const { made, run, worker } = setup(must(sampleDesk(), 'output.setRecording', { outputId: 'clean' }));
    expect(made.mixed).toEqual([]);
    run('output.startRecording');
    run('picture.cut', { picture: 'b' });
    expect(made.mixed).toEqual(['output-port clean']);
    run('output.startStream');
    expect(made.mixed).toEqual(['output-port clean', 'output-port programme']);
    run('output.stopRecording');
    expect(made.mixed.map((m) => m.split(' ')[0])).toEqual(['output-port', 'output-port', 'output-gone']);
    run('output.setRecording', { outputId: 'programme' });
    run('output.startRecording');
    expect(worker.heard('output').map((m) => m.outputId)).toEqual(['clean', 'programme']);
    await settle();
  });

  it('refuses an output that there is not', () => {
    expect(attempt(sampleDesk(), 'output.setRecording', { outputId: 'attic' })).toMatchObject({
      ok: false,
      error: { code: 'unknown-output', field: 'outputId' },
    });
  });
});
