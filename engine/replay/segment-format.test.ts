import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { recordedSize } from './angle-recorder';
import { headerBytes, type Packet, packetBytes, scanSegment, type TrackConfig } from './segment-format';

const PICTURE: TrackConfig = { kind: 'picture', codec: 'avc1.42001e', width: 640, height: 360, description: 'AAEC' };

const OWNER = { showId: 'show', trackId: 'line' };

function joined(parts: Uint8Array[]): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(parts.reduce((sum, p) => sum + p.length, 0));
  let at = 0;
  for (const part of parts) {
    bytes.set(part, at);
    at += part.length;
  }
  return bytes;
}

const anyPackets = fc
  .array(fc.uint8Array({ minLength: 1, maxLength: 200 }), { minLength: 1, maxLength: 40 })
  .map((data) => data.map((d, i): Packet => ({ key: i % 12 === 0, stamp: 1e12 + i * 40_000, duration: 40_000, data: d.slice() })));

describe('a segment file', () => {
  it('that is cut off at any byte reads up to its last whole packet', () => {
    fc.assert(
      fc.property(anyPackets, fc.double({ min: 0, max: 1, noNaN: true }), (packets, share) => {
        const head = headerBytes(PICTURE, OWNER);
        const bodies = packets.map(packetBytes);
        const whole = joined([head, ...bodies]);
        const cut = Math.floor(whole.length * share);
        const found = scanSegment(whole.slice(0, cut), 500_000);
        let length = head.length;
        const fits = bodies.filter((b) => (length += b.length) <= cut).length;
        if (fits === 0) {
          expect(found).toBeNull();
          return;
        }
        expect(found).toMatchObject({ owner: OWNER, config: PICTURE, frames: fits, from: 1e12, to: 1e12 + fits * 40_000 });
        expect(found?.groups.map((g) => g.stamp)).toEqual(
          packets
            .slice(0, fits)
            .filter((p) => p.key)
            .map((p) => p.stamp),
        );
        // What is found can be read again from the offsets that are noted.
        const last = found?.groups.at(-1);
        expect(scanSegment(joined([head, whole.slice(last?.offset, found?.bytes)]), 500_000)?.from).toBe(last?.stamp);
      }),
    );
  });

  it('of other bytes is none', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (bytes) => {
        expect(scanSegment(bytes.slice(), 500_000)).toBeNull();
      }),
    );
  });
});

describe('recorded size', () => {
  it('is never larger than the picture, and even', () => {
    expect(recordedSize(1920, 1080, 0)).toEqual({ width: 1920, height: 1080 });
    expect(recordedSize(1920, 1080, 360)).toEqual({ width: 640, height: 360 });
    expect(recordedSize(640, 360, 720)).toEqual({ width: 640, height: 360 });
    expect(recordedSize(853, 479, 240)).toEqual({ width: 428, height: 240 });
  });
});
