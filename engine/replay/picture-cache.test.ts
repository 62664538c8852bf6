import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FakeVideoDecoder, useFakeDecoders } from '#tests/support/fake-codecs';
import { FakeFrame, shown } from '#tests/support/fake-frames';
import { Material } from './material';
import { PictureCache } from './picture-cache';
import { type Packet, type TrackConfig } from './segment-format';

const CONFIG: TrackConfig = { kind: 'picture', codec: 'avc1', width: 64, height: 36, description: '' };
const FRAME = 40_000;
const GROUP = 8;
/** Bytes of one decoded frame. */
const FRAME_BYTES = (64 * 36 * 3) / 2;

beforeEach(() => {
  useFakeDecoders();
});

afterEach(() => {
  vi.unstubAllGlobals();
});

/** Frames 0 to 79 and, after a gap, 120 to 199 of one track; frame n shows n. The segment still grows, so it is in memory. */
function material(): Material {
  const made = new Material();
  for (const [id, from, to] of [
    ['one', 0, 80],
    ['two', 120, 200],
  ] as const) {
    made.take({
      type: 'opened',
      segment: { id, trackId: 'line', from: from * FRAME, to: from * FRAME, bytes: 0, frames: 0, config: CONFIG, groups: [] },
    });
    for (let f = from; f < to; f += 1) {
      const packet: Packet = { key: f % GROUP === 0, stamp: f * FRAME, duration: FRAME, data: new Uint8Array([f]) };
      made.take({ type: 'packet', segmentId: id, packet });
    }
  }
  return made;
}

const settle = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Waits until the decoders have stood still for a while, however slow the machine is. */
async function atRest(cache: PictureCache): Promise<void> {
  for (let still = 0, before = ''; still < 5;) {
    await settle(5);
    const now = `${FakeVideoDecoder.decoded} ${cache.bytes}`;
    still = now === before ? still + 1 : 0;
    before = now;
  }
}

/** What the cache shows at a frame; null in a gap. */
async function shows(cache: PictureCache, frame: number, rate: number): Promise<string | null> {
  const found = await cache.frameAt('line', frame * FRAME + 100, rate);
  const text = shown(found);
  found?.close();
  return text;
}

describe('the decoded frames that decks keep', () => {
  it('are the very frames asked for, in any order and at any speed, within the bytes that are set; none is left open', async () => {
    const wish = fc.record({
      frame: fc.integer({ min: 0, max: 210 }),
      rate: fc.constantFrom(0, 1, -1, 4, Infinity),
      together: fc.boolean(),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(wish, { minLength: 1, maxLength: 25 }), async (wishes) => {
        FakeFrame.open = 0;
        const cache = new PictureCache(material(), 5 * GROUP * FRAME_BYTES);
        const waiting: Promise<void>[] = [];
        for (const { frame, rate, together } of wishes) {
          const stands = frame < 83 ? Math.min(frame, 79) : frame < 120 ? null : frame < 203 ? Math.min(frame, 199) : null;
          const answer = shows(cache, frame, rate).then((text) => expect(text).toBe(stands === null ? null : String(stands)));
          // Two decks may ask at once.
          if (together) waiting.push(answer);
          else await answer;
        }
        await Promise.all(waiting);
        await settle(1);
        expect(cache.bytes).toBeLessThanOrEqual(6 * GROUP * FRAME_BYTES);
        cache.close();
        await atRest(cache);
        expect(FakeFrame.open).toBe(0);
      }),
      { numRuns: 60 },
    );
  });

  it('decode no more than one frame needs for a far seek, and the neighbours once somebody steps', async () => {
    const cache = new PictureCache(material(), 1e9);
    await shows(cache, 42, 0);
    await atRest(cache);
    expect(cache.bytes / FRAME_BYTES).toBe(3);
    await shows(cache, 43, 0);
    await atRest(cache);
    // The group, and the ones before and after it.
    expect(cache.bytes / FRAME_BYTES).toBe(3 * GROUP);
    const before = FakeVideoDecoder.made;
    expect(await shows(cache, 39, 0)).toBe('39');
    expect(await shows(cache, 48, 0)).toBe('48');
    await atRest(cache);
    expect(FakeVideoDecoder.made).toBeLessThanOrEqual(before + 1);
    cache.close();
  });

  it('reach about a second ahead of a deck that plays, either way, up to a gap, and no further than there is room', async () => {
    const held = async (limitGroups: number, frame: number, rate: number) => {
      const cache = new PictureCache(material(), limitGroups * GROUP * FRAME_BYTES);
      // Where its size is known: from the second frame on.
      for (const f of [frame, frame + 1]) {
        await shows(cache, f, rate);
        await atRest(cache);
      }
      const groups = cache.bytes / FRAME_BYTES / GROUP;
      cache.close();
      return groups;
    };
    expect(await held(100, 16, 1)).toBe(4);
    expect(await held(100, 60, -1)).toBe(4);
    expect(await held(100, 72, 1)).toBe(1);
    expect(await held(100, 16, 4)).toBeLessThanOrEqual(1);
  });

  it('of a deck that plays are not pushed out by what lies ahead of it in a small cache', async () => {
    const cache = new PictureCache(material(), 3 * GROUP * FRAME_BYTES);
    const before = FakeVideoDecoder.decoded;
    for (let f = 0; f < 80; f += 1) {
      expect(await shows(cache, f, 1)).toBe(String(f));
      await settle(1);
    }
    // Hardly anything is decoded twice.
    expect(FakeVideoDecoder.decoded - before).toBeLessThan(80 + 4 * GROUP);
    cache.close();
  });

  it('use decoders again instead of making one for every group', async () => {
    const cache = new PictureCache(material(), 1e9);
    for (let f = 0; f < 80; f += 1) expect(await shows(cache, f, 1)).toBe(String(f));
    await atRest(cache);
    expect(FakeVideoDecoder.made).toBeLessThanOrEqual(4);
    cache.close();
  });

  it('show the frame of a group that still grows as soon as it is there', async () => {
    const growing = new Material();
    growing.take({
      type: 'opened',
      segment: { id: 'g', trackId: 'line', from: 0, to: 0, bytes: 0, frames: 0, config: CONFIG, groups: [] },
    });
    const put = (f: number) =>
      growing.take({
        type: 'packet',
        segmentId: 'g',
        packet: { key: f % GROUP === 0, stamp: f * FRAME, duration: FRAME, data: new Uint8Array([f]) },
      });
    [0, 1, 2].forEach(put);
    const cache = new PictureCache(growing, 1e9);
    expect(await shows(cache, 2, Infinity)).toBe('2');
    [3, 4].forEach(put);
    expect(await shows(cache, 4, Infinity)).toBe('4');
    await atRest(cache);
    // A standing deck has given its decoder back; what comes later is decoded anew.
    await shows(cache, 3, 0);
    await atRest(cache);
    [5, 6].forEach(put);
    expect(await shows(cache, 6, 0)).toBe('6');
    cache.close();
    await atRest(cache);
    expect(FakeFrame.open).toBe(0);
  });

  it('that cannot be decoded are a gap or the last one that could, and nobody waits for ever', async () => {
    FakeVideoDecoder.damaged.add(20);
    const cache = new PictureCache(material(), 1e9);
    expect(await shows(cache, 19, Infinity)).toBe('19');
    expect(await shows(cache, 22, 0)).toBe('19');
    FakeVideoDecoder.damaged.add(32);
    expect(await shows(cache, 33, 0)).toBeNull();
    expect(await shows(cache, 50, 0)).toBe('50');
    cache.close();
    await atRest(cache);
    expect(FakeFrame.open).toBe(0);
    expect(FakeVideoDecoder.alive).toBeLessThanOrEqual(4);
  });
});
