import {
  BlobSource,
  BufferTarget,
  EncodedPacket,
  EncodedVideoPacketSource,
  Input,
  ALL_FORMATS,
  Mp4OutputFormat,
  Output,
  WebMOutputFormat,
} from 'mediabunny';
import { describe, expect, it } from 'vitest';
import { type Scan, scanContainer } from './container-scan';

/** Four seconds of pictures that say nothing, as a recorder of ours writes them. */
async function made(webm: boolean, streaming = false): Promise<Uint8Array<ArrayBuffer>> {
  const output = new Output({
    format: webm ? new WebMOutputFormat({ appendOnly: streaming }) : new Mp4OutputFormat({ fastStart: 'fragmented' }),
    target: new BufferTarget(),
  });
  const source = new EncodedVideoPacketSource('vp8');
  output.addVideoTrack(source);
  await output.start();
  for (let i = 0; i < 100; i += 1)
    await source.add(new EncodedPacket(new Uint8Array(400).fill(i + 1), i % 25 === 0 ? 'key' : 'delta', i / 25, 0.04), {
      decoderConfig: { codec: 'vp8', codedWidth: 64, codedHeight: 36 },
    });
  await output.finalize();
  return new Uint8Array((output.target as BufferTarget).buffer as ArrayBuffer);
}

const scan = (bytes: Uint8Array): Scan =>
  scanContainer({ size: bytes.length, read: (from, length) => bytes.subarray(from, from + length) });

/** Seconds that a demuxer finds in what is whole. */
async function seconds(bytes: Uint8Array<ArrayBuffer>): Promise<number> {
  const { sound, tail } = scan(bytes);
  const input = new Input({ source: new BlobSource(new Blob([bytes.slice(0, sound), ...(tail ? [tail] : [])])), formats: ALL_FORMATS });
  return input.computeDuration();
}

/** `bytes`, followed by zeros from `from` on. */
function zeroed(bytes: Uint8Array, from: number, size = bytes.length): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(size);
  out.set(bytes.subarray(0, from));
  return out;
}

describe('the structure of media files', () => {
  it('is whole in files as muxers write them', async () => {
    for (const bytes of [await made(true), await made(true, true), await made(false)]) {
      expect(scan(bytes)).toMatchObject({ sound: bytes.length, damage: null });
      expect(await seconds(bytes)).toBeCloseTo(4, 1);
    }
    expect(scan(new Uint8Array([1, 2, 3]))).toMatchObject({ sound: 3, damage: null });
  });

  it('ends where a file turns to zeros: what was written before is read, in no time', async () => {
    const webm = await made(true);
    const started = performance.now();
    expect(scan(zeroed(webm, 500, 50_000_000)).damage).toMatch(/damaged from byte \d+ on/);
    const half = zeroed(webm, webm.length / 2, 50_000_000);
    expect(scan(half).sound).toBeLessThanOrEqual(webm.length / 2 + 500);
    expect(await seconds(half)).toBeGreaterThan(1);
    expect(performance.now() - started).toBeLessThan(2000);
  });

  it('ends at the last whole picture of a file that was cut off, which plays as long as it is', async () => {
    for (const [bytes, cuts] of [
      [await made(true), [0.3, 0.5, 0.77, 0.98]],
      [await made(true, true), [0.3, 0.6, 0.9]],
    ] as const) {
      for (const cut of cuts) {
        const found = await seconds(bytes.slice(0, Math.round(bytes.length * cut)));
        expect(found).toBeGreaterThan(4 * cut - 1.2);
        expect(found).toBeLessThan(4 * cut + 0.3);
      }
    }
  });

  it('says of a file with a damaged head that nothing of it is whole', async () => {
    const webm = await made(true);
    expect(scan(zeroed(webm, 20))).toMatchObject({ sound: 0, damage: 'its head is damaged' });
  });
});
