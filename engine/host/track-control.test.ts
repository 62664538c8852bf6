import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { type Desk } from '#core/desk/air';
import { FakeHost } from '#tests/support/fake-host';
import { FakeWorker, useFakeWorkers, workerOf } from '#tests/support/fake-worker';
import { must, sampleDesk } from '#tests/support/sample-show';
import { type SoundDesk } from '../sound/sound-desk';
import { type FromTrackRecorder, type ToTrackRecorder } from '../sound/track-messages';
import { db } from '../storage/db';
import { TrackControl } from './track-control';

beforeEach(async () => {
  useFakeWorkers();
  await db.recordings.clear();
});

afterEach(() => {
  vi.unstubAllGlobals();
});

/** Tracks of the clip and of the programme mix are wanted, unless `desk` says otherwise. */
function setup(
  desk: Desk = must(must(sampleDesk(), 'sound.setChannel', { channels: ['clip'], iso: true }), 'sound.setBus', {
    bus: 'programme',
    record: true,
  }),
) {
  const made = new FakeHost(desk);
  const taps: string[] = [];
  const sound = {
    sendTo: (id: string, from: { kind: string }) => {
      taps.push(`${from.kind} ${'busId' in from ? String(from.busId) : ''}`.trim());
      return () => taps.push(`end ${id.split('-').at(-1)}`);
    },
  } as unknown as SoundDesk;
  const control = new TrackControl('show', sound, made);
  const run = (type: string, args: Record<string, unknown> = {}, frame = 0) => {
    made.desk = must(made.desk, type, args, frame);
    control.follow(made.desk);
  };
  const recorder = () => workerOf<ToTrackRecorder, FromTrackRecorder>('track-recorder');
  const rows = async () => (await db.recordings.toArray()).sort((a, b) => (a.id < b.id ? -1 : 1));
  return { made, taps, control, run, recorder, rows };
}

const started = () => vi.waitFor(() => expect(FakeWorker.started).toHaveLength(1));

describe('sound tracks beside a recording', () => {
  it('begin at the recording’s own sample, one for each channel and bus that wants one, and are listed by name', async () => {
    const { made, taps, control, run, recorder, rows } = setup();
    run('output.startRecording', {}, 250);
    await started();
    expect(taps).toEqual(['bus programme', 'feed']);
    expect(control.byteRate).toBe(2 * 48_000 * 6);
    const [start] = recorder().heard('start');
    expect(start?.startSample).toBe(480_000);
    const id = made.desk.air.recording?.id ?? '';
    expect(start?.tracks.map((t) => [t.id, t.info.description, t.info.channels])).toEqual([
      [`${id}-1`, 'Sample: Programme mix', 2],
      [`${id}-2`, 'Sample: Clip', 2],
    ]);
    expect(new Set(start?.tracks.map((t) => t.info.timeReference)).size).toBe(1);
    expect((await rows()).map((r) => [r.name.replace(/^Sample \S+ \S+ /, ''), r.extension, r.state])).toEqual([
      ['· Programme mix', 'wav', 'recording'],
      ['· Clip', 'wav', 'recording'],
    ]);
  });

  it('end with the recording; it is settled once every file is closed and its line says how long it is', async () => {
    const { made, taps, control, run, recorder, rows } = setup();
    run('output.startRecording');
    await started();
    const id = made.desk.air.recording?.id ?? '';
    recorder().say({ type: 'status', tracks: [{ id: `${id}-1`, bytes: 600, seconds: 1 }] });
    await vi.waitFor(async () => expect((await rows())[0]).toMatchObject({ bytes: 600, seconds: 1, state: 'recording' }));
    run('output.stopRecording');
    expect(taps.slice(2).sort()).toEqual(['end 1', 'end 2']);
    expect(recorder().told.at(-1)).toEqual({ type: 'stop' });
    expect(control.byteRate).toBe(0);
    let settled = false;
    const waiting = control.settled().then(() => (settled = true));
    await new Promise((resolve) => setTimeout(resolve, 5));
    expect(settled).toBe(false);
    recorder().say({ type: 'ended', tracks: [1, 2].map((n) => ({ id: `${id}-${n}`, bytes: 900, seconds: 2, silence: 0 })), error: '' });
    await waiting;
    expect((await rows()).map((r) => [r.state, r.bytes, r.seconds])).toEqual([
      ['done', 900, 2],
      ['done', 900, 2],
    ]);
    expect(FakeWorker.started[0]?.terminated).toBe(true);
    expect(made.notices).toEqual([]);
  });

  it('that end by themselves say why, and let go of what they tapped; the recording goes on', async () => {
    const { made, taps, control, run, recorder, rows } = setup();
    run('output.startRecording');
    await started();
    const id = made.desk.air.recording?.id ?? '';
    recorder().say({ type: 'ended', tracks: [{ id: `${id}-1`, bytes: 900, seconds: 2, silence: 0 }], error: 'the disk is full' });
    await vi.waitFor(() =>
      expect(made.notices).toEqual(['trouble: The sound tracks ended early: the disk is full. What was recorded is kept.']),
    );
    expect(taps.slice(2).sort()).toEqual(['end 1', 'end 2']);
    await control.settled();
    expect((await rows())[0]).toMatchObject({ state: 'done', note: 'the disk is full' });
    expect(made.desk.air.recording).not.toBeNull();
    run('picture.cut', { picture: 'c' });
    expect(FakeWorker.started).toHaveLength(1);
  });

  it('of a recording that is stopped at once are ended too, and the next has its own', async () => {
    const { taps, run } = setup();
    run('output.startRecording', {}, 0);
    run('output.stopRecording', {}, 1);
    run('output.startRecording', {}, 2);
    await vi.waitFor(() => expect(FakeWorker.started).toHaveLength(2));
    const ends = () => FakeWorker.started.map((w) => w.told.map((m) => m.type).join());
    await vi.waitFor(() => expect(ends()).toEqual(['start,stop', 'start']));
    // Four taps were begun, and those of the first recording ended.
    expect(taps.filter((t) => t.startsWith('end'))).toHaveLength(2);
  });

  it('that cannot be listed say so, and the recording goes on without them', async () => {
    const { made, taps, control, run } = setup();
    run('output.startRecording');
    const id = made.desk.air.recording?.id ?? '';
    await started();
    run('output.stopRecording');
    // The next one's lines are there already: the database refuses them.
    await db.recordings.clear();
    await db.recordings.add({
      id: `${id}-1`,
      showId: 'show',
      name: '',
      extension: 'wav',
      startedAt: 0,
      state: 'done',
      bytes: 0,
      seconds: 0,
      note: '',
    });
    made.desk = { ...made.desk, air: { ...made.desk.air, recording: { id, startFrame: 9 } } };
    control.follow(made.desk);
    await vi.waitFor(() =>
      expect(made.notices).toEqual([
        expect.stringMatching(/^trouble: The sound tracks cannot be recorded: .*The recording goes on without them\.$/s),
      ]),
    );
    expect(taps.filter((t) => t.startsWith('end'))).toHaveLength(4);
    expect(control.byteRate).toBe(0);
  });

  it('are none where nobody wants one', async () => {
    const { taps, run } = setup(sampleDesk());
    run('output.startRecording');
    await new Promise((resolve) => setTimeout(resolve, 5));
    expect([taps, FakeWorker.started]).toEqual([[], []]);
  });
});
