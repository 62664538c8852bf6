/** The process in which damaged media files are read: says which it is at, so that one that hangs is known. */
import {
  ALL_FORMATS,
  BlobSource,
  BufferTarget,
  EncodedPacket,
  EncodedVideoPacketSource,
  Input,
  Mp4OutputFormat,
  Output,
  WebMOutputFormat,
} from 'mediabunny';
import { scanContainer } from '#engine/media/container-scan';
import { diceFrom } from '../support/dice';
import { damageBytes, pick } from './mutate';

async function made(webm: boolean): Promise<Uint8Array> {
  const output = new Output({
    format: webm ? new WebMOutputFormat() : new Mp4OutputFormat({ fastStart: 'fragmented' }),
    target: new BufferTarget(),
  });
  const source = new EncodedVideoPacketSource('vp8');
  output.addVideoTrack(source);
  await output.start();
  for (let i = 0; i < 100; i += 1) {
    await source.add(new EncodedPacket(new Uint8Array(400).fill(i), i % 25 === 0 ? 'key' : 'delta', i / 25, 0.04), {
      decoderConfig: { codec: 'vp8', codedWidth: 64, codedHeight: 36 },
    });
  }
  await output.finalize();
  return new Uint8Array((output.target as BufferTarget).buffer as ArrayBuffer);
}

const [seed = 1, from = 0] = process.argv.slice(2).map(Number);
const files = [await made(true), await made(false)];
for (let i = from; ; i += 1) {
  const dice = diceFrom(seed + i * 7919 + 1);
  for (let k = 0; k < 8; k += 1) dice();
  const bytes = damageBytes(dice, pick(dice, files));
  process.send?.(i);
  // Lets the message out before the file may hold everything up.
  await new Promise((resolve) => setImmediate(resolve));
  const { sound, tail } = scanContainer({ size: bytes.length, read: (at, length) => bytes.subarray(at, at + length) });
  if (sound === 0) continue;
  try {
    const input = new Input({ source: new BlobSource(new Blob([bytes.slice(0, sound), ...(tail ? [tail] : [])])), formats: ALL_FORMATS });
    await input.getPrimaryVideoTrack();
    await input.computeDuration();
    input.dispose();
  } catch {
    // Said in words of our own: engine/media/media-trouble.ts.
  }
}
