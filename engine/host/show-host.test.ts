/** The host of a show on fakes: no browser, no threads; what it tells whom, and in which order. */
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { useFakeDisk } from '#tests/support/fake-disk';
import { FakeWorker, useFakeWorkers, workerOf } from '#tests/support/fake-worker';
import { sampleDesk } from '#tests/support/sample-show';
import { fixture } from '#tests/support/fixtures';
import { type Show } from '#core/desk/show';
import { SHOW_VERSION } from '#core/desk/version';
import { type AnyDriver, type OutsideDrivers } from '../capture/driver';
import { type FromMixer, noStats, type ToMixer } from '../picture/messages';
import { type SoundDeskEvents } from '../sound/sound-desk';
import { db } from '../storage/db';
import { ShowHost } from './show-host';

/** The sound desk, as far as a host deals with it. */
const sound = vi.hoisted(() => ({
  applied: [] as number[],
  events: null as unknown,
  context: {} as { onstatechange?: () => void },
  awake: true,
  clockError: 0,
  store: { getState: () => ({}) },
  listen: (events: unknown) => (sound.events = events),
  apply: (_show: unknown, _air: unknown, frame: number) => sound.applied.push(frame),
  sendProgramme: () => undefined,
  sendTo: () => () => undefined,
  record: () => () => undefined,
  connectPcm: () => undefined,
  disconnect: () => undefined,
  wake: () => Promise.resolve(),
  close: () => Promise.resolve(),
}));
vi.mock('../sound/sound-desk', () => ({ SoundDesk: { create: () => Promise.resolve(sound) } }));

const log: string[] = [];
const driver: AnyDriver = (source, _air, link) => {
  log.push(`start ${source.id}`);
  link.health('live');
  return { stop: () => log.push(`stop ${source.id}`) };
};
const drivers: OutsideDrivers = { camera: driver, screen: driver, media: driver, still: driver, test: driver, simulated: driver };

let host: ShowHost | null = null;
const mixer = () => workerOf<ToMixer, FromMixer>('mixer.worker');
const tick = (frame: number) => mixer().say({ type: 'tick', frame, stats: { ...noStats(), frames: frame } });

beforeEach(async () => {
  log.length = 0;
  sound.applied.length = 0;
  useFakeDisk();
  useFakeWorkers();
  vi.stubGlobal('localStorage', { getItem: () => null, setItem: () => undefined });
  vi.stubGlobal('location', { href: 'http://127.0.0.1:4000/show/show' });
  vi.stubGlobal('fetch', () => Promise.reject(new Error('no server')));
  vi.stubGlobal(
    'SharedWorker',
    class {
      port = { postMessage: () => undefined, close: () => undefined };
    },
  );
  await Promise.all([db.shows.clear(), db.airs.clear(), db.asRun.clear()]);
});
afterEach(async () => {
  await host?.close();
  host = null;
  vi.unstubAllGlobals();
});

async function open(show: Show = sampleDesk().show): Promise<ShowHost> {
  const row = {
    id: 'show',
    name: show.name,
    show,
    createdAt: 0,
    openedAt: 0,
    savedAt: 0,
    openSince: null,
    deletedAt: null,
    epoch: null,
    thumbnail: null,
  };
  await db.shows.put(row as never);
  await db.airs.put({ showId: 'show', air: sampleDesk().air, savedFrame: 100 });
  host = await ShowHost.open((await db.shows.get('show')) as never, drivers, []);
  return host;
}

describe('the host of a show', () => {
  it('tells the mixer before anybody who listens, and everything that follows the show, once for each act', async () => {
    const opened = await open();
    const heard: string[] = [];
    opened.store.subscribe(({ desk }) => heard.push(`${desk.air.onAirId}, mixer ${mixer().heard('desk').at(-1)?.air.onAirId}`));
    expect(opened.dispatch({ type: 'picture.cut', args: { picture: 'c' } })).toMatchObject({ ok: true });
    expect(heard[0]).toBe('c, mixer c');
    const posts = mixer().heard('desk').length;
    const many = ['a', 'b', 'c'].map((source) => ({ type: 'source.edit', args: { source, name: `Camera ${source.toUpperCase()}` } }));
    expect(opened.dispatchAll(many)).toEqual({ ok: true, results: [{}, {}, {}] });
    expect(mixer().heard('desk').length).toBe(posts + 1);
    expect(opened.dispatch({ type: 'history.undo' })).toMatchObject({ ok: true });
    expect(opened.state.desk.show.sources.slice(0, 3).map((s) => s.name)).toEqual(['Camera a', 'Camera b', 'Camera c']);
  });

  it('never shows what was sent ahead early because of what is sent for a frame before it: that comes with it', async () => {
    const opened = await open();
    const next = opened.state.frame + 1;
    const cut = (picture: string, frame: number) =>
      opened.dispatchAll([{ type: 'picture.cut', args: { picture } }], `macro ${picture}`, { frame });
    cut('c', next + 40);
    cut('b', next + 20);
    const froms = mixer()
      .heard('desk')
      .slice(-2)
      .map(({ air, from }) => [air.onAirId, (from ?? 0) - next]);
    expect(froms).toEqual([
      ['c', 40],
      ['b', 40],
    ]);
    // A run that is told of it knows that it was late by then.
    opened.dispatch({ type: 'macro.add', args: { steps: [{ act: { kind: 'wait', amount: 9, unit: 'seconds' } }] } });
    opened.dispatch({ type: 'macro.run', args: { macro: opened.state.desk.show.automation.macros[0]?.id } });
    const run = Object.keys(opened.state.desk.air.automation.runs)[0];
    cut('c', next + 60);
    opened.dispatchAll([{ type: 'run.did', args: { run, to: 0, at: next + 45 } }], 'macro', { frame: next + 45 });
    expect(opened.state.desk.air.automation.runs[run ?? '']?.late).toBe(15);
  });

  it('changes nothing by a refusal, and makes a refusal of a fault', async () => {
    const opened = await open();
    const before = opened.state.desk;
    const posts = mixer().told.length;
    expect(opened.dispatch({ type: 'picture.cut', args: { picture: 'gone' } })).toMatchObject({
      ok: false,
      error: { code: 'unknown-picture' },
    });
    const quiet = vi.spyOn(console, 'error').mockImplementation(() => undefined);
    const trap = {
      type: 'picture.cut',
      get args(): never {
        throw new Error('trap');
      },
    };
    expect(opened.dispatch(trap)).toMatchObject({ ok: false, error: { code: 'fault' } });
    quiet.mockRestore();
    expect([opened.state.desk, mixer().told.length]).toEqual([before, posts]);
  });

  it('starts the drivers of its sources, and tells air of one that is lost', async () => {
    const opened = await open();
    expect(log).toEqual(['start a', 'start b', 'start c', 'start clip', 'start bug']);
    opened.dispatch({ type: 'source.remove', args: { source: 'c' } });
    expect(log.at(-1)).toBe('stop c');
    expect(opened.state.health.a).toEqual({ state: 'live', cause: '' });
  });

  it('keeps the frame number out of what rooms are asked for with every act', async () => {
    const opened = await open();
    const [acts, frames] = [vi.fn(), vi.fn()];
    opened.store.subscribe(acts);
    opened.frames.subscribe(frames);
    const ticks: number[] = [];
    const end = opened.onTick((frame) => ticks.push(frame));
    for (const frame of [200, 201, 202]) tick(frame);
    end();
    tick(203);
    expect([frames.mock.calls.length, ticks]).toEqual([4, [200, 201, 202]]);
    // Once a second it says how it fares; nothing else is told with a frame.
    expect(acts.mock.calls.length).toBeLessThanOrEqual(2);
    expect(opened.state.frame).toBe(203);
    expect(mixer().heard('tick-taken')).toHaveLength(4);
  });

  it('lets sound follow the mixer’s frames, and the show clock when the mixer stands still', async () => {
    const opened = await open();
    const first = opened.state.frame;
    tick(first);
    expect(sound.applied.at(-1)).toBe(first);
    const applied = sound.applied.length;
    await vi.waitFor(() => {
      (sound.events as SoundDeskEvents).beat();
      expect(sound.applied.length).toBeGreaterThan(applied + 2);
    });
    expect(sound.applied.at(-1)).toBeGreaterThan(first + 2);
  });

  it('stores every act, and opens the show as it was left', async () => {
    const opened = await open();
    opened.dispatch({ type: 'picture.cut', args: { picture: 'b' } });
    opened.dispatch({ type: 'source.edit', args: { source: 'a', name: 'Wide' } });
    await opened.close();
    expect([(await db.airs.get('show'))?.air.onAirId, (await db.shows.get('show'))?.show.sources[0]?.name]).toEqual(['b', 'Wide']);
    expect((await db.shows.get('show'))?.openSince).toBeNull();
  });

  it('opens a show that an older Bivoca has left', async () => {
    const old = fixture(4);
    const opened = await open(old.show as unknown as Show);
    expect(opened.state.desk.show.version).toBe(SHOW_VERSION);
    expect(opened.dispatch({ type: 'picture.cut', args: { picture: 'b' } })).toMatchObject({ ok: true });
  });

  it('ends what records before what it is recorded from, and every thread at last', async () => {
    const opened = await open();
    opened.dispatch({ type: 'output.startRecording' });
    await opened.close();
    expect(opened.state.desk.air.recording).toBeNull();
    expect(log.slice(-5).every((l) => l.startsWith('stop'))).toBe(true);
    expect(FakeWorker.started.every((w) => w.terminated)).toBe(true);
    // Nothing that comes late does anything.
    tick(900);
    expect(opened.state.frame).not.toBe(900);
  });
});
