import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FakeAudioEncoder, FakeVideoEncoder, useFakeEncoders } from '#tests/support/fake-codecs';
import { useFakeDisk } from '#tests/support/fake-disk';
import { FakeFrame, fakeFrame } from '#tests/support/fake-frames';
import { AngleRecorder, GROUP_MICROS } from './angle-recorder';
import { type Packet } from './segment-format';
import { SoundRecorder } from './sound-recorder';
import { Track } from './track';

const FORMAT = { height: 0, bitrate: 1e6, framerate: 25 };
const FRAME = 40_000;

beforeEach(() => {
  useFakeDisk();
  useFakeEncoders();
  vi.useFakeTimers({ toFake: ['performance'] });
});

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

function track() {
  const seen = { packets: [] as Packet[], opened: 0, troubles: [] as string[], widths: [] as number[] };
  const made = new Track('line', 'Line camera', 'show', {
    opened: ({ config }) => {
      seen.opened += 1;
      if (config.kind === 'picture') seen.widths.push(config.width);
    },
    packet: (_id, packet) => seen.packets.push(packet),
    closed: () => Promise.resolve(),
    trouble: (message) => seen.troubles.push(message),
  });
  return { made, seen };
}

describe('the recorder of an angle', () => {
  const put = (recorder: AngleRecorder, from: number, to: number) => {
    for (let f = from; f < to; f += 1) recorder.frame(fakeFrame(String(f), 0, 0), f * FRAME);
  };

  it('encodes each frame once at its stamp, in groups so short that any frame is near a key', async () => {
    const { made, seen } = track();
    const recorder = new AngleRecorder(made, FORMAT);
    for (let f = 0; f < 50; f += 5) {
      put(recorder, f, f + 5);
      // The same frame again, as a source that stands still hands it over.
      put(recorder, f + 4, f + 5);
      await recorder.flush();
    }
    expect(seen.packets.map((p) => p.stamp / FRAME)).toEqual(Array.from({ length: 50 }, (_, i) => i));
    const keys = seen.packets.filter((p) => p.key).map((p) => p.stamp);
    expect(keys[0]).toBe(0);
    keys.slice(1).forEach((stamp, i) => expect(stamp - (keys[i] as number)).toBeLessThanOrEqual(GROUP_MICROS));
    expect(made.status).toMatchObject({ frames: 50, missed: 0 });
    recorder.close();
    expect(FakeFrame.open).toBe(0);
  });

  it('leaves frames out that its encoder cannot take, and counts them', async () => {
    const { made, seen } = track();
    const recorder = new AngleRecorder(made, FORMAT);
    put(recorder, 0, 20);
    await recorder.flush();
    expect(seen.packets).toHaveLength(6);
    expect(made.status).toMatchObject({ frames: 6, missed: 14 });
    expect(FakeFrame.open).toBe(0);
  });

  it('begins a new segment with a key picture when its size is set anew', async () => {
    const { made, seen } = track();
    const recorder = new AngleRecorder(made, FORMAT);
    put(recorder, 0, 4);
    await recorder.flush();
    recorder.setFormat({ ...FORMAT, height: 18 });
    put(recorder, 4, 8);
    await recorder.flush();
    expect(seen.widths).toEqual([64, 32]);
    expect(seen.packets[4]?.key).toBe(true);
  });

  it('says that its encoder failed, waits two seconds, and begins anew', async () => {
    const { made, seen } = track();
    const recorder = new AngleRecorder(made, FORMAT);
    put(recorder, 0, 3);
    await recorder.flush();
    FakeVideoEncoder.made[0]?.break('the driver was reset');
    expect(seen.troubles).toEqual(['Line camera: its encoder failed (the driver was reset); it is tried again. The other angles go on.']);
    put(recorder, 3, 6);
    expect(FakeVideoEncoder.made).toHaveLength(1);
    vi.advanceTimersByTime(2100);
    put(recorder, 60, 63);
    await recorder.flush();
    expect(seen.packets.slice(3).map((p) => [p.stamp / FRAME, p.key])).toEqual([
      [60, true],
      [61, false],
      [62, false],
    ]);
    expect([seen.opened, seen.troubles.length]).toEqual([2, 1]);
    expect(FakeFrame.open).toBe(0);
  });
});

describe('the recorder of a sound', () => {
  const chunk = (sample: number, length: number, value = 1) => ({
    sample,
    channels: [0, 1].map(() => new Float32Array(length).fill(value)),
  });
  /** First sample and length of all that was encoded. */
  const pieces = () =>
    (FakeAudioEncoder.made.at(-1)?.heard ?? []).map((d) => [Math.round((d.timestamp * 48) / 1000), d.numberOfFrames, d.data[0]]);

  it('fills short holes with silence, leaves out what comes twice, and lets a long hole be a gap', () => {
    const { made } = track();
    const recorder = new SoundRecorder(made);
    recorder.chunk(chunk(48_000, 480));
    recorder.chunk(chunk(48_580, 480));
    recorder.chunk(chunk(48_960, 480));
    recorder.chunk(chunk(96_000, 480));
    // Time has jumped back: a new beginning too.
    recorder.chunk(chunk(60_000, 480));
    expect(pieces()).toEqual([
      [48_000, 480, 1],
      [48_480, 100, 0],
      [48_580, 480, 1],
      [49_060, 380, 1],
      [96_000, 480, 1],
      [60_000, 480, 1],
    ]);
  });

  it('records one channel on both sides, and says when its encoder fails', async () => {
    const { made, seen } = track();
    const recorder = new SoundRecorder(made);
    recorder.chunk({ sample: 0, channels: [new Float32Array(480).fill(0.5)] });
    await recorder.flush();
    expect([...(FakeAudioEncoder.made[0]?.heard[0]?.data ?? [])].filter((v) => v === 0.5)).toHaveLength(960);
    expect(seen.packets).toMatchObject([{ key: true, stamp: 0, duration: 10_000 }]);
    FakeAudioEncoder.made[0]?.break('no memory');
    recorder.chunk(chunk(480, 480));
    expect(FakeAudioEncoder.made).toHaveLength(1);
    expect(seen.troubles).toEqual(['Line camera: its sound encoder failed (no memory); it is tried again. The other angles go on.']);
    vi.advanceTimersByTime(2100);
    recorder.chunk(chunk(96_000, 480));
    expect(pieces()).toEqual([[96_000, 480, 1]]);
    recorder.close();
  });
});
