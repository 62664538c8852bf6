import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { ALL_FORMATS, BufferSource, EncodedPacketSink, Input } from 'mediabunny';
import { useFakeEncoders } from '#tests/support/fake-codecs';
import { fakeFrame } from '#tests/support/fake-frames';
import { type EncodeSettings } from './messages';
import { ProgrammeEncode } from './programme-encode';
import { Streamer } from './streamer';

const SETTINGS: EncodeSettings = {
  codec: 'h264',
  bitrate: 1e6,
  raster: { width: 64, height: 36 },
  rate: { num: 25, den: 1 },
  frameStep: 1,
  outputId: 'programme',
};

interface Put {
  path: string;
  key: string;
  bytes: Uint8Array;
}

/** A destination that answers with the statuses of a list, then with 201. */
let world: { puts: Put[]; answers: (number | 'away')[] };

beforeEach(() => {
  useFakeEncoders();
  world = { puts: [], answers: [] };
  vi.stubGlobal('fetch', async (url: string, { body, headers }: { body: Uint8Array; headers: Record<string, string> }) => {
    const answer = world.answers.shift() ?? 201;
    if (answer === 'away') throw new TypeError('failed to fetch');
    world.puts.push({ path: url.replace('http://there/ingest/pier/', ''), key: headers.Authorization ?? '', bytes: body.slice() });
    return Promise.resolve(new Response(null, { status: answer }));
  });
});

afterEach(() => {
  vi.unstubAllGlobals();
});

/** Streams `seconds` of the programme, beginning in the middle of the show. */
async function stream(streamer: Streamer, seconds: number): Promise<void> {
  const encode = new ProgrammeEncode(SETTINGS);
  encode.join(streamer);
  for (let f = 0; f < seconds * 25; f += 1) {
    const frame = 1000 + f;
    encode.frame(fakeFrame(String(f % 100), frame * 40_000, 40_000));
    encode.sound({ sample: frame * 1920, channels: [new Float32Array(1920), new Float32Array(1920)] });
    if (f % 10 === 9) await encode.flush();
  }
  await encode.flush();
  encode.close();
}

/** Packets of a track's init and media segments, read as one file. */
async function read(track: 'video' | 'audio') {
  const bytes = Buffer.concat(world.puts.filter((p) => p.path.startsWith(track)).map((p) => p.bytes));
  const input = new Input({ source: new BufferSource(bytes), formats: ALL_FORMATS });
  const found = await (track === 'video' ? input.getPrimaryVideoTrack() : input.getPrimaryAudioTrack());
  if (!found) throw new Error(`no ${track} track`);
  const packets = [];
  for await (const packet of new EncodedPacketSink(found).packets()) packets.push({ at: packet.timestamp, type: packet.type });
  return packets;
}

const paths = (track: string) => world.puts.map((p) => p.path).filter((p) => p.startsWith(track));

describe('the stream', () => {
  it('puts pictures and sound as segments of about two seconds that play from 0 on, whatever the show’s time is', async () => {
    const streamer = new Streamer('id', 'http://there/ingest/pier/', 'kites', () => undefined);
    await stream(streamer, 7);
    await streamer.close();
    expect(streamer.error).toBe('');
    expect(paths('video')).toEqual(['video/init.mp4', ...[1, 2, 3, 4].map((n) => `video/00000${n}.m4s`)]);
    expect(new Set(world.puts.map((p) => p.key))).toEqual(new Set(['Bearer kites']));
    const [pictures, sounds] = await Promise.all([read('video'), read('audio')]);
    expect(pictures).toHaveLength(175);
    pictures.forEach(({ at, type }, i) => {
      expect(at).toBeCloseTo(i / 25, 4);
      if (i % 50 === 0) expect(type).toBe('key');
    });
    expect(sounds.map((p) => p.at)[0]).toBeCloseTo(0, 4);
    expect(sounds.at(-1)?.at).toBeCloseTo(7 - 0.04, 3);
    expect(streamer.status()).toMatchObject({ id: 'id', state: 'ending', queued: 0, dropped: 0, trouble: '' });
    expect(streamer.status().seconds).toBeCloseTo(7, 3);
  });

  it('sends the beginning again to a destination that was set up anew, and then the segment that was refused', async () => {
    const streamer = new Streamer('id', 'http://there/ingest/pier', 'kites', () => undefined);
    // Both inits and the first segments are taken, the fifth put is answered with “begin anew”.
    world.answers = [201, 201, 201, 201, 409];
    await stream(streamer, 7);
    await streamer.close();
    const refused = world.puts[4] as Put;
    const track = refused.path.split('/')[0] ?? '';
    expect(world.puts.slice(4, 7).map((p) => p.path)).toEqual([refused.path, `${track}/init.mp4`, refused.path]);
    expect(world.puts[5]?.bytes).toEqual(world.puts.find((p) => p.path === `${track}/init.mp4`)?.bytes);
    expect(streamer.error).toBe('');
  });

  it('keeps what the destination misses while it is away, says so, and loses nothing', async () => {
    const streamer = new Streamer('id', 'http://there/ingest/pier', 'kites', () => undefined);
    world.answers = [201, 201, 'away', 500];
    await stream(streamer, 5);
    await vi.waitFor(() => expect(streamer.status().trouble).toMatch(/The destination (does not answer|answered 500)\./));
    await vi.waitFor(() => expect(streamer.status().queued).toBe(0), 20_000);
    await streamer.close();
    expect(await read('video')).toHaveLength(125);
    expect(streamer.status()).toMatchObject({ dropped: 0, lostSeconds: 0 });
    expect(streamer.status().reconnects).toBeGreaterThan(0);
  });

  it('says what to check when it is refused, and goes on once it is let in', async () => {
    const streamer = new Streamer('id', 'http://there/ingest/pier', 'wrong', () => undefined);
    world.answers = [401, 403];
    await stream(streamer, 3);
    expect(streamer.status()).toMatchObject({
      state: 'retrying',
      trouble: 'The destination refused the stream (401). Check address and key; trying again all the same.',
    });
    await vi.waitFor(() => expect(streamer.status()).toMatchObject({ state: 'live', trouble: '', queued: 0 }), 20_000);
    await streamer.close();
    expect(await read('video')).toHaveLength(75);
  });
});
