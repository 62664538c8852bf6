import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { align, ALIGNMENTS, around, distribute, guidesFor, snapMove, snapResize } from './arrange';
import { starterBoxes, STARTERS } from './starters';

const rect = fc.record({
  x: fc.integer({ min: -300, max: 1500 }),
  y: fc.integer({ min: -300, max: 900 }),
  width: fc.integer({ min: 1, max: 900 }),
  height: fc.integer({ min: 1, max: 600 }),
});
const RASTER = { width: 1280, height: 720 };

describe('arranging boxes', () => {
  it('aligns without changing sizes, and twice is once', () => {
    fc.assert(
      fc.property(fc.array(rect, { minLength: 1, maxLength: 9 }), fc.constantFrom(...ALIGNMENTS), (rects, how) => {
        const frame = around(rects);
        const once = align(rects, how, frame);
        expect(once.map((r) => [r.width, r.height])).toEqual(rects.map((r) => [r.width, r.height]));
        const twice = align(once, how, frame);
        once.forEach((r, i) => {
          expect(twice[i]?.x).toBeCloseTo(r.x, 9);
          expect(twice[i]?.y).toBeCloseTo(r.y, 9);
        });
      }),
    );
  });

  it('makes gaps equal and leaves the outermost in place', () => {
    fc.assert(
      fc.property(fc.array(rect, { minLength: 3, maxLength: 9 }), (rects) => {
        const done = distribute(rects, 'across');
        const order = rects
          .map((r, i) => ({ middle: r.x + r.width / 2, i }))
          .sort((a, b) => a.middle - b.middle)
          .map((o) => done[o.i] as (typeof done)[0]);
        const gaps = order.slice(1).map((r, i) => r.x - (order[i] as (typeof done)[0]).x - (order[i] as (typeof done)[0]).width);
        gaps.forEach((gap) => expect(gap).toBeCloseTo(gaps[0] ?? 0, 6));
        const first = rects.reduce((a, b) => (b.x + b.width / 2 < a.x + a.width / 2 ? b : a));
        expect(order[0]?.x).toBeCloseTo(first.x, 9);
      }),
    );
  });

  it('snaps a moved box by no more than the reach, and then onto a guide', () => {
    fc.assert(
      fc.property(rect, rect, fc.integer({ min: 1, max: 20 }), (moving, other, reach) => {
        const guides = guidesFor(RASTER, [other]);
        const { rect: out, held } = snapMove(moving, guides, reach);
        expect(Math.abs(out.x - moving.x)).toBeLessThanOrEqual(reach + 1e-9);
        expect([out.width, out.height]).toEqual([moving.width, moving.height]);
        for (const g of held) {
          const places =
            g.axis === 'x' ? [out.x, out.x + out.width / 2, out.x + out.width] : [out.y, out.y + out.height / 2, out.y + out.height];
          expect(places.some((p) => Math.abs(p - g.at) < 1e-6)).toBe(true);
        }
      }),
    );
  });

  it('snaps the dragged side only', () => {
    const { rect: out } = snapResize(
      { x: 100, y: 100, width: 538, height: 200 },
      { left: false, right: true, top: false, bottom: false },
      guidesFor(RASTER, []),
      6,
    );
    expect(out).toEqual({ x: 100, y: 100, width: 540, height: 200 });
  });
});

describe('starters', () => {
  it.each(STARTERS)('%s: boxes inside the raster, none empty, none over another but in front of a full one', (starter) => {
    const even = fc.integer({ min: 32, max: 2000 }).map((n) => n * 2);
    fc.assert(
      fc.property(even, even, fc.integer({ min: 0, max: 400 }), fc.integer({ min: 0, max: 400 }), (width, height, margin, gap) => {
        const boxes = starterBoxes(starter, { width, height }, { margin, gap });
        for (const b of boxes) {
          expect(b.width >= 1 && b.height >= 1 && b.x >= 0 && b.x + b.width <= width).toBe(true);
          expect(Number.isInteger(b.x) && Number.isInteger(b.width)).toBe(true);
        }
        const small = boxes.filter((b) => b.width < width);
        small.forEach((a, i) =>
          small
            .slice(i + 1)
            .forEach((b) =>
              expect(a.x + a.width <= b.x || b.x + b.width <= a.x || a.y + a.height <= b.y || b.y + b.height <= a.y).toBe(true),
            ),
        );
      }),
    );
  });
});
