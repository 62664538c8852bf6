import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { type Desk } from '#core/desk/air';
import { FakeHost } from '#tests/support/fake-host';
import { FakeWorker, useFakeWorkers, workerOf } from '#tests/support/fake-worker';
import { must, replayDesk, sampleDesk } from '#tests/support/sample-show';
import { type EngineFormat } from '../capture/driver';
import { type FromDecks, type FromReplayRecorder, type ReplayStatus, type ToDecks, type ToReplayRecorder } from '../replay/messages';
import { type SoundDesk } from '../sound/sound-desk';
import { ReplayControl } from './replay-control';

let control: ReplayControl | null = null;

beforeEach(() => {
  useFakeWorkers();
});

afterEach(async () => {
  vi.useRealTimers();
  const closing = control?.close();
  for (const worker of FakeWorker.started)
    for (const message of worker.told) if (message.type === 'close-segments') worker.say({ ...message, type: 'closed' });
  await closing;
  control = null;
  vi.unstubAllGlobals();
});

const STATUS: ReplayStatus = {
  recording: true,
  tracks: [],
  runs: {},
  usedBytes: 0,
  limitBytes: 1,
  secondsLeft: -1,
  overfull: false,
  bytesPerSecond: 0,
};

function setup(desk: Desk) {
  const made = new FakeHost(desk);
  const sounds: string[] = [];
  const format: EngineFormat = {
    clock: new SharedArrayBuffer(8),
    rate: { num: 25, den: 1 },
    frameStep: 1,
    working: { width: 64, height: 36 },
  };
  const sound = {
    record: (id: string) => {
      sounds.push(`tap ${id}`);
      return () => sounds.push(`end ${id}`);
    },
  } as unknown as SoundDesk;
  control = new ReplayControl('show', format, sound, made);
  made.follower = control;
  const { run } = made;
  const own = control;
  return {
    made,
    sounds,
    run,
    control: own,
    recorder: () => workerOf<ToReplayRecorder, FromReplayRecorder>('recorder.worker'),
    decks: () => workerOf<ToDecks, FromDecks>('decks.worker'),
  };
}

describe('what records and plays replays', () => {
  it('starts no worker before anybody wants a replay', () => {
    const { control, made } = setup(sampleDesk());
    control.follow(made.desk);
    expect(FakeWorker.started).toEqual([]);
  });

  it('taps exactly the angles while they are recorded, follows them, and lets go at the end', () => {
    const { made, sounds, run, control, recorder } = setup(replayDesk());
    control.follow(made.desk);
    expect(made.mixed).toEqual(['copies-port a', 'copies-port b']);
    expect(recorder().heard('record')).toEqual([{ type: 'record', on: true }]);
    expect(recorder().heard('format')).toHaveLength(1);
    run('replay.addAngle', { picture: 'c' });
    const angle = made.desk.show.replay.angles.at(-1)?.pictureId;
    expect([angle, made.mixed.at(-1)]).toEqual(['c', 'copies-port c']);
    expect(
      recorder()
        .heard('track')
        .filter((t) => !t.trackId.startsWith('sound-'))
        .map((t) => [t.trackId, t.name]),
    ).toEqual([
      ['a', 'Camera a'],
      ['b', 'Camera b'],
      ['c', 'Camera c'],
    ]);
    run('replay.removeAngle', { angle: 'b' });
    expect(made.mixed.at(-1)).toBe('copies-gone b');
    run('replay.stop');
    expect(made.mixed.slice(-2)).toEqual(['copies-gone a', 'copies-gone c']);
    expect(recorder().heard('record').at(-1)).toEqual({ type: 'record', on: false });
    expect(sounds.filter((s) => s.startsWith('tap')).length).toBe(sounds.filter((s) => s.startsWith('end')).length);
  });

  it('keeps nothing of a guest who waits, neither picture nor sound, and begins when they are let in', () => {
    let desk = must(replayDesk(), 'guest.add', { name: 'Vik' });
    const { id, sourceId } = desk.show.guests.list[0]!;
    desk = must(must(desk, 'replay.addAngle', { picture: sourceId, sound: sourceId }), 'guest.report', { guest: id, line: 'in' });
    const { made, sounds, run, control } = setup(desk);
    control.follow(made.desk);
    const kept = () => [
      sounds.includes(`tap ${sourceId}`),
      made.mixerWorker.told.some((m) => m.type === 'copies-port' && m.id === sourceId),
    ];
    expect(kept()).toEqual([false, false]);
    run('guest.admit', { guest: id });
    expect(kept()).toEqual([true, true]);
    run('guest.hold', { guest: id });
    expect(sounds.at(-1)).toBe(`end ${sourceId}`);
  });

  it('takes angles that are no sources from the mixer, as outputs of their own size', () => {
    const { made, run, control } = setup(must(replayDesk(), 'replay.set', { height: 18 }));
    control.follow(made.desk);
    run('seat.add', { name: 'Host' });
    run('replay.addAngle', { picture: made.desk.show.seats[0]?.id });
    run('replay.addAngle', { picture: 'programme' });
    const ports = made.mixerWorker.heard('output-port');
    expect(ports.map((m) => [m.output.shows.kind, m.output.raster])).toEqual([
      ['picture', { width: 32, height: 18 }],
      ['programme', { width: 32, height: 18 }],
    ]);
    expect(made.desk.show.replay.angles.at(-1)).toEqual({ pictureId: 'programme', soundId: 'programme' });
    run('replay.stop');
    expect(made.mixed.filter((m) => m.startsWith('output-gone'))).toHaveLength(2);
  });

  it('tells air from which frame to which there is material, when that changes, and when there is none any more', () => {
    const { made, run, control, recorder } = setup(replayDesk());
    control.follow(made.desk);
    const say = (runs: ReplayStatus['runs']) => recorder().say({ type: 'status', status: { ...STATUS, runs } });
    say({});
    expect(made.commands).toEqual([]);
    say({ a: [{ from: 400_000, to: 2e6 }], b: [{ from: 80_000, to: 2e6 }], 'sound-a': [{ from: 0, to: 9e6 }] });
    say({ a: [{ from: 400_000, to: 3e6 }], b: [{ from: 80_000, to: 3e6 }] });
    expect(made.commands).toEqual([{ type: 'replay.report', args: { from: 2, to: null } }]);
    made.frame = 100;
    run('replay.stop');
    // What was still in the encoders comes after the command.
    say({ a: [{ from: 400_000, to: 4.08e6 }], b: [{ from: 80_000, to: 3e6 }] });
    expect(made.commands.at(-1)).toEqual({ type: 'replay.report', args: { from: 2, to: 102 } });
    say({});
    expect(made.commands.at(-1)).toEqual({ type: 'replay.report', args: { from: null, to: null } });
    expect(made.commands).toHaveLength(3);
  });

  it('keeps what clips and decks use from going, as soon as they change', () => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'setInterval', 'clearInterval'] });
    const { made, run, control, recorder } = setup(replayDesk());
    control.follow(made.desk);
    recorder().say({ type: 'status', status: { ...STATUS, runs: { a: [{ from: 0, to: 40e6 }] } } });
    made.frame = 1000;
    const spans = () => recorder().heard('protect').at(-1);
    run('clip.grab', { deck: 1, seconds: 10 });
    vi.advanceTimersByTime(200);
    expect(spans()).toMatchObject({ now: 40e6 });
    expect(spans()?.spans.some((s) => s.from <= 30e6 && s.to >= 40e6)).toBe(true);
    const told = recorder().heard('protect').length;
    made.frame = 1100;
    vi.advanceTimersByTime(2600);
    expect(recorder().heard('protect').length).toBe(told + 1);
    expect(spans()?.now).toBe(44e6);
  });

  it('says what its workers report, and answers thumbnails by their own key, or not at all', async () => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
    const { made, control, recorder, decks } = setup(replayDesk());
    control.follow(made.desk);
    recorder().say({ type: 'trouble', message: 'Camera a: its encoder failed.' });
    decks().onerror?.({ message: 'out of memory' });
    expect(made.notices).toEqual(['trouble: Camera a: its encoder failed.', 'trouble: The decks stopped: out of memory']);
    const [one, two, three] = [10, 20, 30].map((frame) => control.thumbnail('a', frame, 96));
    const asked = decks().heard('thumbnail');
    expect(asked.map((m) => m.micros)).toEqual([400_000, 800_000, 1_200_000]);
    const picture = { width: 96 } as ImageBitmap;
    decks().say({ type: 'thumbnail', key: asked[1]?.key ?? '', image: picture });
    decks().say({ type: 'thumbnail', key: asked[0]?.key ?? '', image: null });
    expect(await Promise.all([one, two])).toEqual([null, picture]);
    vi.advanceTimersByTime(9000);
    expect(await three).toBeNull();
  });

  it('does not wait for ever for a recorder that does not close what grows', async () => {
    vi.useFakeTimers();
    const { made, control, recorder } = setup(replayDesk());
    control.follow(made.desk);
    let answered = 0;
    for (let i = 0; i < 2; i += 1) void control.closeSegments().then(() => (answered += 1));
    recorder().say({ type: 'closed', key: recorder().heard('close-segments')[1]?.key ?? -1 });
    await vi.advanceTimersByTimeAsync(9999);
    expect(answered).toBe(1);
    await vi.advanceTimersByTimeAsync(1);
    expect(answered).toBe(2);
  });

  it('waits on closing until what grows is on disk', async () => {
    const { made, control, recorder } = setup(replayDesk());
    control.follow(made.desk);
    let closed = false;
    const closing = control.close().then(() => (closed = true));
    await new Promise((resolve) => setTimeout(resolve, 5));
    expect(closed).toBe(false);
    const [ask] = recorder().heard('close-segments');
    recorder().say({ type: 'closed', key: ask?.key ?? -1 });
    await closing;
    expect(FakeWorker.started.map((w) => w.terminated)).toEqual([true, true]);
  });
});
