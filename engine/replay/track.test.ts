import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { type FakeDisk, useFakeDisk } from '#tests/support/fake-disk';
import { type StoredSegment } from './messages';
import { scanSegment, type TrackConfig } from './segment-format';
import { SOUND_GROUP_MICROS } from './segment-writer';
import { Track } from './track';

const PICTURE: TrackConfig = { kind: 'picture', codec: 'avc1', width: 4, height: 2, description: '' };
const SOUND: TrackConfig = { kind: 'sound', codec: 'opus', sampleRate: 48_000, channels: 2, description: '' };
const FRAME = 40_000;

let disk: FakeDisk;

beforeEach(() => {
  disk = useFakeDisk();
});

afterEach(() => {
  vi.unstubAllGlobals();
});

function setup() {
  const seen = { opened: [] as string[], closed: [] as StoredSegment[], packets: 0, troubles: [] as string[] };
  const track = new Track('line', 'Line camera', 'show', {
    opened: ({ id }) => seen.opened.push(id),
    packet: () => (seen.packets += 1),
    closed: (segment) => {
      seen.closed.push(segment);
      return Promise.resolve();
    },
    trouble: (message) => seen.troubles.push(message),
  });
  /** Frames `from` to `to`, a key every `group`. */
  const put = (from: number, to: number, { group = 8, config = PICTURE, bytes = 10 } = {}) => {
    for (let f = from; f < to; f += 1)
      track.put({ key: f % group === 0, stamp: f * FRAME, duration: FRAME, data: new Uint8Array(bytes).fill(f) }, config);
  };
  return { track, seen, put };
}

/** What a file tells by itself. */
const scan = (id: string) => scanSegment(disk.bytesOf('replay', id) ?? new Uint8Array(0), SOUND_GROUP_MICROS);

describe('a recorded track', () => {
  it('is cut into segments of ten seconds, each beginning with a key and whole on disk', async () => {
    const { track, seen, put } = setup();
    put(0, 600);
    track.endSegment();
    await track.settled();
    expect(seen.closed.map((s) => [s.from / FRAME, s.to / FRAME])).toEqual([
      [0, 256],
      [256, 512],
      [512, 600],
    ]);
    expect(seen.packets).toBe(600);
    for (const segment of seen.closed) {
      expect(scan(segment.id)).toMatchObject({
        owner: { showId: 'show', trackId: 'line' },
        config: PICTURE,
        from: segment.from,
        to: segment.to,
        frames: segment.frames,
        bytes: segment.bytes,
        groups: segment.groups,
      });
      expect(segment.groups.map((g) => g.stamp % (8 * FRAME))).toEqual(segment.groups.map(() => 0));
    }
    expect(disk.open).toBe(0);
  });

  it('begins anew after a gap and with another configuration, and waits for a key', async () => {
    const { track, seen, put } = setup();
    put(3, 8);
    expect(seen.opened).toEqual([]);
    put(8, 20);
    // Half a second and more is missing, and the next pictures need one that is not there.
    put(35, 40);
    put(40, 48);
    put(48, 56, { config: { ...PICTURE, width: 8 } });
    track.endSegment();
    await track.settled();
    expect(seen.closed.map((s) => [s.from / FRAME, s.to / FRAME])).toEqual([
      [8, 20],
      [40, 48],
      [48, 56],
    ]);
    expect(seen.closed.at(-1)?.config).toMatchObject({ width: 8 });
  });

  it('of sound is found in groups of half a second, though every packet is a key', async () => {
    const { track, seen } = setup();
    for (let i = 0; i < 200; i += 1) track.put({ key: true, stamp: i * 20_000, duration: 20_000, data: new Uint8Array(3) }, SOUND);
    track.endSegment();
    await track.settled();
    expect(seen.closed[0]?.groups.map((g) => g.stamp)).toEqual([0, 5e5, 10e5, 15e5, 20e5, 25e5, 30e5, 35e5]);
    expect(scan(seen.closed[0]?.id ?? '')?.groups).toEqual(seen.closed[0]?.groups);
    expect(seen.closed[0]?.frames).toBe(0);
  });

  it('keeps what was written when the disk is full, says so once, and records again when there is room', async () => {
    vi.useFakeTimers({ toFake: ['performance'] });
    const { track, seen, put } = setup();
    const opening = () => new Promise((resolve) => setTimeout(resolve, 5));
    put(0, 8, { bytes: 1000 });
    await opening();
    disk.quota = disk.used + 5500;
    put(8, 24, { bytes: 1000 });
    await track.settled();
    const told = ['Line camera: cannot be written: the disk is full; it is tried again. The other angles go on.'];
    expect(seen.troubles).toEqual(told);
    expect(track.report()).toMatchObject({ state: 'failed', bytesPerSecond: 0 });
    const [first] = seen.closed;
    expect(first).toMatchObject({ frames: 13 });
    expect(scan(first?.id ?? '')).toMatchObject({ frames: 13, bytes: first?.bytes });
    // Still full two seconds later: nothing new to say.
    for (const from of [72, 128]) {
      vi.advanceTimersByTime(2100);
      put(from, from + 8, { bytes: 1000 });
      await opening();
      expect(track.report().state).toBe('failed');
    }
    expect(seen.troubles).toEqual(told);
    disk.quota = Infinity;
    vi.advanceTimersByTime(2100);
    put(184, 192);
    await opening();
    put(192, 200);
    track.endSegment();
    await track.settled();
    expect(seen.closed.at(-1)).toMatchObject({ from: 184 * FRAME, to: 200 * FRAME, frames: 16 });
    expect(track.report()).toMatchObject({ state: 'recording', trouble: '' });
    expect(disk.open).toBe(0);
    vi.useRealTimers();
  });

  it('says in words when the disk refuses it from the beginning', async () => {
    const { track, seen, put } = setup();
    disk.refusal = new Error('too many files are open');
    put(0, 4);
    await track.settled();
    await vi.waitFor(() =>
      expect(seen.troubles).toEqual([
        'Line camera: cannot be written: the disk refused it (too many files are open); it is tried again. The other angles go on.',
      ]),
    );
  });

  it('measures its bytes a second', async () => {
    const { track, put } = setup();
    put(0, 8, { bytes: 4000 });
    await new Promise((resolve) => setTimeout(resolve, 5));
    put(8, 250, { bytes: 4000 });
    const { bytesPerSecond } = track.report();
    expect(bytesPerSecond).toBeGreaterThan(95_000);
    expect(bytesPerSecond).toBeLessThan(105_000);
  });
});
