import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FakeFrame, fakeFrame, shown, useFakeFrames } from '#tests/support/fake-frames';
import { type FrameMessage } from '../picture/messages';
import { SharedClock } from '../time/shared-clock';
import { pumpFrames } from './frame-pump';

let controller: ReadableStreamDefaultController<VideoFrame> | null = null;

beforeEach(() => {
  useFakeFrames();
  vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval', 'performance'] });
  vi.stubGlobal(
    'MediaStreamTrackProcessor',
    class {
      readable = new ReadableStream<VideoFrame>({ start: (c) => void (controller = c) });
    },
  );
});

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const settle = () => new Promise((resolve) => setTimeout(resolve));

/** Sends a frame that the device took at `captured`, microseconds by its own clock. */
async function send(shows: string, captured: number): Promise<void> {
  controller?.enqueue(fakeFrame(shows, captured));
  await settle();
}

function setup() {
  const clock = new SharedClock();
  const taken: { shows: string | null; stamp: number }[] = [];
  let silences = 0;
  const ended = { port: false, track: false };
  const port = {
    postMessage: ({ frame, stamp }: FrameMessage) => {
      taken.push({ shows: shown(frame), stamp });
      frame.close();
    },
    close: () => (ended.port = true),
  } as unknown as MessagePort;
  const track = { stop: () => (ended.track = true) } as unknown as MediaStreamVideoTrack;
  const stop = pumpFrames(track, port, clock.memory, () => (silences += 1));
  return { taken, stop, clock, ended, silences: () => silences };
}

describe('frames of a device', () => {
  it('are handed on with the show time at which they were taken, though they come unevenly', async () => {
    const { taken } = setup();
    const begin = performance.now();
    // Each 40 ms after the other by the device; held up for 0, 15, 30 … ms on the way.
    for (const [i, wait] of [0, 15, 30, 5, 20, 0].entries()) {
      vi.advanceTimersByTime(begin + i * 40 + wait - performance.now());
      await send(String(i), 7e6 + i * 40_000);
    }
    expect(taken.map((t) => t.shows)).toEqual(['0', '1', '2', '3', '4', '5']);
    taken.slice(1).forEach(({ stamp }, i) => expect(stamp - (taken[i]?.stamp ?? NaN)).toBeCloseTo(40_000, 0));
  });

  it('that stop coming are told of once, and again after one has come', async () => {
    const { silences } = setup();
    await send('one', 0);
    vi.advanceTimersByTime(1900);
    expect(silences()).toBe(0);
    vi.advanceTimersByTime(10_000);
    expect(silences()).toBe(1);
    await send('two', 40_000);
    vi.advanceTimersByTime(3000);
    expect(silences()).toBe(2);
  });

  it('are missed in a hidden page too, whose timers go once a second, but not after a pause of the page itself', async () => {
    const { silences } = setup();
    await send('one', 0);
    const real = performance.now.bind(performance);
    let skipped = 0;
    vi.spyOn(performance, 'now').mockImplementation(() => real() + skipped);
    /** The watch looks again so many milliseconds after it looked last. */
    const look = (after: number) => {
      skipped += after - 250;
      vi.advanceTimersByTime(250);
    };
    for (let i = 0; i < 2; i += 1) look(5000);
    expect(silences()).toBe(0);
    for (let i = 0; i < 3; i += 1) look(1010);
    expect(silences()).toBe(1);
    vi.restoreAllMocks();
  });

  it('are none of a track that was stopped or has ended: nobody is told, and none stays open', async () => {
    const { taken, stop, silences, ended } = setup();
    await send('one', 0);
    stop();
    // The device is let go with the frame that is on its way.
    expect(ended).toEqual({ port: true, track: false });
    await send('late', 40_000);
    expect(ended.track).toBe(true);
    vi.advanceTimersByTime(10_000);
    const other = setup();
    controller?.close();
    await settle();
    vi.advanceTimersByTime(10_000);
    expect([taken.length, silences(), other.silences(), FakeFrame.open]).toEqual([1, 0, 0, 0]);
    expect(other.ended.port).toBe(true);
  });

  it('need not come for a device to be let go', async () => {
    const { stop, ended } = setup();
    stop();
    await vi.waitFor(() => expect(ended.track).toBe(true), 5000);
  });
});
