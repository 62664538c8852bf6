import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { makeOpusTrack } from '#tests/support/cmaf';
import { Ingest, IngestError, streamFile } from './ingest';
import { readInit, readSegment } from './isobmff';
import { masterPlaylist, mediaPlaylist } from './playlist';

describe('reading CMAF', () => {
  it('finds codec, timescale, start and length', async () => {
    const { init, segments } = await makeOpusTrack(4, 1);
    const { codec, timescale } = readInit(init);
    expect(codec).toBe('opus');
    const infos = segments.map(readSegment);
    expect(infos.length).toBeGreaterThanOrEqual(3);
    let at = 0;
    for (const { start, duration } of infos) {
      expect(start / timescale).toBeCloseTo(at, 3);
      at += duration / timescale;
    }
    expect(at).toBeCloseTo(4, 2);
  });

  it('refuses anything else without running wild', async () => {
    const { init, segments } = await makeOpusTrack(2, 1);
    fc.assert(
      fc.property(fc.constantFrom(init, ...segments), fc.nat(), fc.nat(255), fc.nat(), (whole, place, value, cut) => {
        const bytes = whole.slice(0, 1 + (cut % whole.length));
        bytes[place % bytes.length] = value;
        for (const read of [readInit, readSegment]) {
          try {
            read(bytes);
          } catch (error) {
            expect(error).toBeInstanceOf(Error);
          }
        }
      }),
      { numRuns: 500 },
    );
  });
});

describe('playlists', () => {
  it('marks a hole in time as a gap', () => {
    const text = mediaPlaylist([
      { number: 3, start: 4, duration: 2 },
      { number: 4, start: 6, duration: 2 },
      { number: 7, start: 12, duration: 2 },
    ]);
    expect(text).toContain('#EXT-X-MEDIA-SEQUENCE:3');
    expect(text).toContain('#EXT-X-TARGETDURATION:4');
    expect(text.match(/#EXT-X-GAP\n#EXTINF:4\.00000,/g)).toHaveLength(1);
  });

  it('names codecs, size and the sound group', () => {
    const text = masterPlaylist(
      { timescale: 1, codec: 'avc1.42001f', width: 640, height: 360 },
      { timescale: 1, codec: 'opus', width: 0, height: 0 },
      1e6,
    );
    expect(text).toContain('CODECS="avc1.42001f,opus",RESOLUTION=640x360,AUDIO="sound"');
  });
});

describe('the intake', () => {
  let root = '';
  beforeEach(async () => {
    root = await mkdtemp(join(tmpdir(), 'bivoca-ingest-'));
  });
  afterEach(() => rm(root, { recursive: true, force: true }));
  const place = (file: string) => streamFile('pier', 'audio', file);
  const name = (i: number) => `${String(i).padStart(6, '0')}.m4s`;

  it('publishes what comes in, in order, once each, and keeps about a minute', async () => {
    const ingest = new Ingest(root);
    const { init, segments } = await makeOpusTrack(100, 2);
    await ingest.put(place('init.mp4'), init);
    for (const [i, data] of segments.entries()) await ingest.put(place(name(i + 1)), data);
    await ingest.put(place(name(segments.length)), segments.at(-1) as Uint8Array);
    const text = await ingest.playlist('pier', 'audio');
    const listed = text.match(/^\d{6}\.m4s$/gm) ?? [];
    expect(listed).toHaveLength(30);
    expect(listed.at(-1)).toBe(name(segments.length));
    expect((await readdir(join(root, 'pier', 'audio'))).filter((f) => f.endsWith('.m4s'))).toHaveLength(30);
    expect((await ingest.file(place(name(segments.length)))).byteLength).toBe(segments.at(-1)?.byteLength);
  });

  it('goes on after a restart, and asks for the init segment when it has none', async () => {
    const { init, segments } = await makeOpusTrack(6, 2);
    const first = new Ingest(root);
    await first.put(place('init.mp4'), init);
    await first.put(place(name(1)), segments[0] as Uint8Array);
    const second = new Ingest(root);
    await second.put(place(name(2)), segments[1] as Uint8Array);
    expect((await second.playlist('pier', 'audio')).match(/^\d{6}\.m4s$/gm)).toEqual([name(1), name(2)]);
    await expect(new Ingest(join(root, 'elsewhere')).put(place(name(3)), segments[2] as Uint8Array)).rejects.toMatchObject({ status: 409 });
  });

  const u32 = (n: number) => Buffer.from([n >>> 24, n >>> 16, n >>> 8, n].map((b) => b & 255));
  const box = (type: string, ...parts: Uint8Array[]) => {
    const body = Buffer.concat(parts);
    return Buffer.concat([u32(body.length + 8), Buffer.from(type), body]);
  };
  /** A media segment that begins at `start` and has `count` samples of `each`. */
  const segmentAt = (start: bigint, count = 10, each = 960) => {
    const time = Buffer.alloc(8);
    time.writeBigUInt64BE(start);
    const tfhd = box('tfhd', u32(0x20008), u32(1), u32(each));
    return box('moof', box('traf', tfhd, box('tfdt', u32(0x1000000), time), box('trun', u32(0), u32(count))));
  };

  it('keeps few streams, and lets the one that rests longest go', async () => {
    const ingest = new Ingest(root);
    const { init, segments } = await makeOpusTrack(2, 2);
    for (let i = 0; i < 8; i += 1) await ingest.put(streamFile(`s${i}`, 'audio', 'init.mp4'), init);
    await expect(ingest.put(streamFile('s8', 'audio', 'init.mp4'), init)).rejects.toMatchObject({ status: 507 });
    await ingest.put(streamFile('s0', 'audio', name(1)), segments[0] as Uint8Array);
    vi.spyOn(Date, 'now').mockReturnValue(Date.now() + 120_000);
    await ingest.put(streamFile('s9', 'audio', 'init.mp4'), init);
    expect((await readdir(root)).sort()).toEqual(['s0', 's2', 's3', 's4', 's5', 's6', 's7', 's9']);
    vi.restoreAllMocks();
    // What an earlier run has left counts too.
    await expect(new Ingest(root).put(streamFile('s10', 'audio', 'init.mp4'), init)).rejects.toMatchObject({ status: 507 });
  });

  it('refuses times that no stream has, so that playlists stay playable', async () => {
    const ingest = new Ingest(root);
    const { init } = await makeOpusTrack(2, 2);
    await ingest.put(place('init.mp4'), init);
    await expect(ingest.put(place(name(1)), segmentAt(2n ** 64n - 1n))).rejects.toMatchObject({ status: 400 });
    await expect(ingest.put(place(name(1)), segmentAt(0n, 0))).rejects.toMatchObject({ status: 400 });
    await expect(ingest.put(place(name(1)), segmentAt(0n, 30_000, 0xffffffff))).rejects.toMatchObject({ status: 400 });
    await ingest.put(place(name(1)), segmentAt(48_000n, 100));
    await expect(ingest.put(place(name(2)), segmentAt(0n, 100))).rejects.toMatchObject({ status: 409 });
    await ingest.put(place(name(2)), segmentAt(48_000n * 100_000_000n, 100));
    const text = await ingest.playlist('pier', 'audio');
    expect(text).toContain('#EXT-X-TARGETDURATION:2');
    expect(text).toContain('#EXT-X-DISCONTINUITY');
  });

  it('is not held up by boxes without end, nor by samples that are not there', () => {
    const empty = Buffer.alloc(16_000_000);
    for (let i = 0; i < empty.length; i += 8) u32(8).copy(empty, i);
    const started = performance.now();
    for (const bytes of [empty, box('moof', empty), box('moof', box('traf', empty)), segmentAt(0n, 0xffffffff)]) {
      expect(() => readSegment(bytes)).toThrow();
      expect(() => readInit(bytes)).toThrow();
    }
    expect(performance.now() - started).toBeLessThan(5000);
  });

  it('lets no codec name into a playlist that it does not know', async () => {
    const { init } = await makeOpusTrack(2, 2);
    const at = Buffer.from(init).indexOf('Opus');
    for (const codec of ['a"\n#', '",UR', 'mp4a']) {
      const forged = Buffer.from(init);
      forged.write(codec, at);
      expect(() => readInit(forged)).toThrow('codec');
    }
  });

  it('refuses what is no segment and goes on with the next', async () => {
    const ingest = new Ingest(root);
    const { init, segments } = await makeOpusTrack(4, 2);
    await expect(ingest.put(place('init.mp4'), new Uint8Array(50))).rejects.toBeInstanceOf(IngestError);
    await ingest.put(place('init.mp4'), init);
    await expect(ingest.put(place(name(1)), new Uint8Array([1, 2, 3]))).rejects.toMatchObject({ status: 400 });
    await ingest.put(place(name(1)), segments[0] as Uint8Array);
    expect(await ingest.playlist('pier', 'audio')).toContain(name(1));
  });

  it('lets no path out of its folder', () => {
    const part = fc.oneof(
      fc.string(),
      fc.constantFrom('..', '../..', '%2e%2e', 'video/../..', 'C:\\x', 'pier\0', '.', '', 'audio/', 'init.mp4/../x'),
    );
    fc.assert(
      fc.property(part, part, part, (stream, track, file) => {
        try {
          const place = streamFile(stream, track, file);
          expect(join('/intake', place.stream, place.track, place.file)).toMatch(
            /^\/intake\/[a-z0-9-]+\/(video|audio)\/(init\.mp4|\d{6}\.m4s)$/,
          );
        } catch (error) {
          expect(error).toBeInstanceOf(IngestError);
        }
      }),
    );
  });
});
