import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FakeAudioEncoder, FakeVideoEncoder, useFakeEncoders } from '#tests/support/fake-codecs';
import { FakeFrame, fakeFrame } from '#tests/support/fake-frames';
import { type EncodeSettings } from './messages';
import { type PacketSink, ProgrammeEncode } from './programme-encode';

const SETTINGS: EncodeSettings = {
  codec: 'h264',
  bitrate: 1e6,
  raster: { width: 64, height: 36 },
  rate: { num: 25, den: 1 },
  frameStep: 1,
  outputId: 'programme',
};
const FRAME = 40_000;
const SAMPLES = 1920;

beforeEach(() => {
  useFakeEncoders();
});

afterEach(() => {
  vi.unstubAllGlobals();
});

/** A sink that writes down what it gets. */
function sink() {
  const got = { pictures: [] as { frame: number; key: boolean; described: boolean }[], sounds: [] as number[], failures: [] as string[] };
  const taker: PacketSink = {
    video: (chunk, meta) =>
      got.pictures.push({ frame: chunk.timestamp / FRAME, key: chunk.type === 'key', described: meta.decoderConfig !== undefined }),
    audio: (chunk) => got.sounds.push(chunk.timestamp),
    failed: (message) => got.failures.push(message),
  };
  return { got, taker };
}

const frames = (encode: ProgrammeEncode, from: number, to: number) => {
  for (let f = from; f < to; f += 1) encode.frame(fakeFrame(String(f % 200), f * FRAME, FRAME));
};
const tone = (value: number, length: number) => [0, 1].map(() => new Float32Array(length).fill(value));

/** All samples of the left side that went into the encoder, with where each piece began. */
const heard = () => {
  const encoder = FakeAudioEncoder.made.at(-1);
  let next = NaN;
  const samples: number[] = [];
  for (const piece of encoder?.heard ?? []) {
    const at = Math.round((piece.timestamp * 48_000) / 1e6);
    if (!Number.isNaN(next) && Math.abs(at - next) > 1) throw new Error(`sound at ${at} follows ${next}`);
    next = at + piece.numberOfFrames;
    samples.push(...piece.data.subarray(0, piece.numberOfFrames));
  }
  return samples;
};

describe('an encode of the programme', () => {
  it('has a key picture each second, and gives every output one to begin with', async () => {
    const encode = new ProgrammeEncode(SETTINGS);
    const [first, second] = [sink(), sink()];
    encode.join(first.taker);
    for (let f = 0; f < 40; f += 10) {
      frames(encode, f, f + 10);
      await encode.flush();
    }
    encode.join(second.taker);
    frames(encode, 40, 50);
    await encode.flush();
    expect(first.got.pictures.map((p) => p.frame)).toEqual(Array.from({ length: 50 }, (_, i) => i));
    expect(second.got.pictures.map((p) => p.frame)).toEqual(Array.from({ length: 10 }, (_, i) => 40 + i));
    expect(second.got.pictures[0]).toEqual({ frame: 40, key: true, described: true });
    expect(first.got.pictures[0]?.described).toBe(true);
    encode.leave(first.taker);
    frames(encode, 50, 60);
    await encode.flush();
    expect([first.got.pictures.length, second.got.pictures.length, encode.members]).toEqual([50, 20, 1]);
    encode.close();
    expect(FakeFrame.open).toBe(0);
  });

  it('repeats the last picture where the mixer gave frames up, so that the file keeps its rate', async () => {
    const encode = new ProgrammeEncode(SETTINGS);
    const { got, taker } = sink();
    encode.join(taker);
    frames(encode, 0, 3);
    frames(encode, 7, 9);
    await encode.flush();
    expect(got.pictures.map((p) => p.frame)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8]);
    expect(encode.doubled).toBe(4);
    encode.close();
    expect(FakeFrame.open).toBe(0);
  });

  it('repeats nothing for an encoder that is itself behind', async () => {
    const encode = new ProgrammeEncode(SETTINGS);
    const { got, taker } = sink();
    encode.join(taker);
    frames(encode, 0, 10);
    frames(encode, 40, 41);
    expect(FakeVideoEncoder.made.at(-1)?.encodeQueueSize).toBe(12);
    expect(encode.doubled).toBe(2);
    await encode.flush();
    expect(got.pictures.map((p) => p.frame)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11]);
    encode.close();
    expect(FakeFrame.open).toBe(0);
  });

  it('leaves pictures out when the encoder cannot follow, instead of growing without end', async () => {
    const encode = new ProgrammeEncode(SETTINGS);
    const { got, taker } = sink();
    encode.join(taker);
    frames(encode, 0, 40);
    expect(FakeVideoEncoder.made[0]?.encodeQueueSize).toBe(12);
    await encode.flush();
    expect(got.pictures).toHaveLength(12);
    expect(FakeFrame.open).toBe(1);
    encode.close();
  });

  it('has sound without a seam from its first picture on: what is missing is silence, what comes twice is left out', () => {
    const pieces = fc.array(fc.record({ skip: fc.integer({ min: -500, max: 800 }), length: fc.integer({ min: 1, max: 600 }) }), {
      minLength: 1,
      maxLength: 20,
    });
    fc.assert(
      fc.property(pieces, fc.integer({ min: -400, max: 400 }), (list, lead) => {
        const encode = new ProgrammeEncode(SETTINGS);
        encode.sound({ sample: 0, channels: tone(9, 100) });
        frames(encode, 10, 11);
        const begin = 10 * SAMPLES;
        let [at, end] = [begin + lead, begin];
        const wanted: number[] = [];
        list.forEach(({ skip, length }, i) => {
          at += skip;
          encode.sound({ sample: at, channels: tone(i + 1, length) });
          for (let s = end; s < at; s += 1) if (at + length > end) wanted.push(0);
          for (let s = Math.max(at, end); s < at + length; s += 1) wanted.push(i + 1);
          end = Math.max(end, at + length);
          at += length;
        });
        expect(heard()).toEqual(wanted);
        encode.close();
      }),
      { numRuns: 60 },
    );
  });

  it('goes on with silence when no sound comes at all, and the sound finds its place again', () => {
    const encode = new ProgrammeEncode(SETTINGS);
    const { taker } = sink();
    encode.join(taker);
    frames(encode, 0, 1);
    encode.sound({ sample: 0, channels: tone(1, SAMPLES) });
    frames(encode, 1, 30);
    // Eight tenths of a second behind the picture are waited for; then half of that is made up.
    expect(encode.silence).toBeGreaterThan(0);
    const soFar = heard().length;
    expect(soFar).toBeGreaterThanOrEqual(30 * SAMPLES - 48_000 * 0.8 - SAMPLES);
    encode.sound({ sample: soFar + 1000, channels: tone(2, 10) });
    const all = heard();
    expect(all.slice(soFar, soFar + 1000).every((v) => v === 0)).toBe(true);
    expect(all.slice(soFar + 1000)).toEqual(new Array(10).fill(2));
    encode.close();
  });

  it('tells every output when its encoder fails, and takes no more', () => {
    const encode = new ProgrammeEncode(SETTINGS);
    const [first, second] = [sink(), sink()];
    encode.join(first.taker);
    encode.join(second.taker);
    frames(encode, 0, 2);
    FakeVideoEncoder.made[0]?.break('no memory');
    expect([first.got.failures, second.got.failures]).toEqual([['the encoder failed: no memory'], ['the encoder failed: no memory']]);
    frames(encode, 2, 4);
    encode.close();
    expect(FakeFrame.open).toBe(0);
  });
});
