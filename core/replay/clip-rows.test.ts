import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { placeClips } from './clip-rows';
import { type Clip } from './document';

describe('clips on the timeline', () => {
  it('lie in rows without covering each other, as far as the rows go', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ in: fc.integer({ min: 0, max: 500 }), span: fc.integer({ min: 1, max: 60 }) }), { maxLength: 30 }),
        (list) => {
          const clips = list.map((c, i) => ({ id: String(i), number: i, in: c.in, out: c.in + c.span }) as Clip);
          const placed = placeClips(clips);
          expect(placed).toHaveLength(clips.length);
          const busy = (frame: number) => clips.filter((c) => c.in <= frame && frame < c.out).length;
          for (const a of placed) {
            for (const b of placed) {
              if (a === b || a.row !== b.row || a.clip.out <= b.clip.in || b.clip.out <= a.clip.in) continue;
              // Only where more than three lie over each other.
              expect(Math.max(...[...Array(600).keys()].map(busy))).toBeGreaterThan(3);
            }
          }
        },
      ),
      { numRuns: 60 },
    );
  });
});
