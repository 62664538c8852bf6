/** CMAF segments made with the muxer that the app uses: for testing who reads them. */
import { EncodedAudioPacketSource, EncodedPacket, Mp4OutputFormat, NullTarget, Output } from 'mediabunny';

export interface MadeTrack {
  init: Uint8Array;
  segments: Uint8Array[];
}

const join = (...parts: Uint8Array[]) => new Uint8Array(Buffer.concat(parts));

/** An Opus track of `seconds` in packets of 20 ms, cut into segments of about `each` seconds. */
export async function makeOpusTrack(seconds: number, each: number, from = 0): Promise<MadeTrack> {
  const made: MadeTrack = { init: new Uint8Array(0), segments: [] };
  let ftyp = new Uint8Array(0);
  let moof = new Uint8Array(0);
  const format = new Mp4OutputFormat({
    fastStart: 'fragmented',
    minimumFragmentDuration: each,
    onFtyp: (data) => void (ftyp = data.slice()),
    onMoov: (data) => void (made.init = join(ftyp, data)),
    onMoof: (data) => void (moof = data.slice()),
    onMdat: (data) => void made.segments.push(join(moof, data)),
  });
  const output = new Output({ format, target: new NullTarget() });
  const source = new EncodedAudioPacketSource('opus');
  output.addAudioTrack(source);
  await output.start();
  const head = new Uint8Array([...Buffer.from('OpusHead'), 1, 2, 0x38, 1, 0x80, 0xbb, 0, 0, 0, 0, 0]);
  const meta = { decoderConfig: { codec: 'opus', sampleRate: 48_000, numberOfChannels: 2, description: head } };
  for (let i = 0; i < seconds * 50; i += 1)
    await source.add(new EncodedPacket(new Uint8Array([0xfc, 0xff, 0xfe]), 'key', from + i / 50, 0.02), meta);
  await output.finalize();
  return made;
}
