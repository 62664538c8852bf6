import { describe, expect, it } from 'vitest';
import { Material } from './material';
import { type StoredSegment } from './messages';
import { type Packet, type TrackConfig } from './segment-format';

const CONFIG: TrackConfig = { kind: 'picture', codec: 'avc1', width: 2, height: 2, description: '' };
const FRAME = 40_000;

/** A segment of `groups` groups of four frames from frame `from` on. */
const segment = (id: string, from: number, groups: number): StoredSegment => ({
  id,
  trackId: 'line',
  from: from * FRAME,
  to: (from + groups * 4) * FRAME,
  bytes: 100,
  frames: groups * 4,
  config: CONFIG,
  groups: Array.from({ length: groups }, (_, i) => ({ stamp: (from + i * 4) * FRAME, offset: i * 10 })),
});
const packet = (frame: number): Packet => ({ key: frame % 4 === 0, stamp: frame * FRAME, duration: FRAME, data: new Uint8Array(1) });

/** Frame at which the group begins that is found for a frame. */
const groupOf = (material: Material, frame: number): number | null => {
  const place = material.place('line', frame * FRAME);
  return place ? (place.segment.groups[place.index]?.stamp ?? NaN) / FRAME : null;
};

describe('material', () => {
  it('finds the group of a time over segments in any order, and nothing in a gap', () => {
    const material = new Material();
    material.take({ type: 'segments', segments: [segment('late', 100, 3), segment('early', 0, 3)] });
    expect([0, 3, 4, 11, 100, 111].map((f) => groupOf(material, f))).toEqual([0, 0, 4, 8, 100, 108]);
    expect([50, 130].map((f) => groupOf(material, f))).toEqual([null, null]);
    expect(material.place('other', 0)).toBeNull();
  });

  it('finds what lies beside a group, over the seam of two segments but not over a gap', () => {
    const material = new Material();
    material.take({ type: 'segments', segments: [segment('a', 0, 2), segment('b', 8, 2), segment('c', 100, 1)] });
    const from = (frame: number, by: 1 | -1) => {
      const place = material.place('line', frame * FRAME);
      const next = place && material.beside(place, by);
      return next ? (next.segment.groups[next.index]?.stamp ?? NaN) / FRAME : null;
    };
    expect([from(0, 1), from(4, 1), from(8, -1), from(12, -1)]).toEqual([4, 8, 4, 8]);
    expect([from(0, -1), from(12, 1), from(100, -1)]).toEqual([null, null, null]);
  });

  it('reads a segment that grows from memory, and says when a group is whole', async () => {
    const material = new Material();
    material.take({ type: 'opened', segment: { ...segment('g', 0, 0), to: 0, groups: [] } });
    for (let frame = 0; frame < 6; frame += 1) material.take({ type: 'packet', segmentId: 'g', packet: packet(frame) });
    const [first, second] = await Promise.all(
      [0, 4].map((f) => material.read(material.place('line', f * FRAME) as NonNullable<ReturnType<Material['place']>>)),
    );
    expect([first?.packets.length, first?.complete(), second?.packets.length, second?.complete()]).toEqual([4, true, 2, false]);
    material.take({ type: 'packet', segmentId: 'g', packet: packet(6) });
    expect(second?.packets.length).toBe(3);
    material.take({ type: 'closed', segment: segment('g', 0, 2) });
    expect(second?.complete()).toBe(true);
    expect(material.segmentsOf('line')).toHaveLength(1);
  });

  it('forgets what was dropped, and segments that closed empty', () => {
    const material = new Material();
    material.take({ type: 'segments', segments: [segment('a', 0, 2), segment('b', 8, 2)] });
    material.take({ type: 'dropped', ids: ['a', 'unknown'] });
    expect([groupOf(material, 2), groupOf(material, 9)]).toEqual([null, 8]);
    material.take({ type: 'opened', segment: { ...segment('c', 50, 0), groups: [] } });
    material.take({ type: 'closed', segment: { ...segment('c', 50, 0), groups: [] } });
    expect(material.segmentsOf('line').map((s) => s.id)).toEqual(['b']);
  });
});
