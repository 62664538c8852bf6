import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cropDrag, handlePlace, HANDLES, isOn, panDrag, resized, resizeDrag, turnDrag, turnedDelta } from './handles';

const rect = fc.record({
  x: fc.integer({ min: -200, max: 900 }),
  y: fc.integer({ min: -200, max: 900 }),
  width: fc.integer({ min: 20, max: 800 }),
  height: fc.integer({ min: 20, max: 800 }),
});
const by = fc.integer({ min: -500, max: 500 });
const handle = fc.constantFrom(...HANDLES);

describe('handles of the stage', () => {
  it('move only their own sides', () => {
    fc.assert(
      fc.property(rect, handle, by, by, (r, h, dx, dy) => {
        const out = resized(r, h, dx, dy, false);
        if (!h.includes('w')) expect(out.x).toBe(r.x);
        else expect(out.x + out.width).toBeCloseTo(r.x + r.width, 9);
        if (!h.includes('n')) expect(out.y).toBe(r.y);
        else expect(out.y + out.height).toBeCloseTo(r.y + r.height, 9);
        if (!/[we]/.test(h)) expect(out.width).toBe(r.width);
        expect(Math.min(out.width, out.height)).toBeGreaterThanOrEqual(4);
      }),
    );
  });

  it('keep proportions when they are locked', () => {
    fc.assert(
      fc.property(rect, handle, by, by, (r, h, dx, dy) => {
        const out = resized(r, h, dx, dy, true);
        expect(out.width / out.height).toBeCloseTo(r.width / r.height, 6);
      }),
    );
  });

  it('follow the hand exactly when there is nothing to snap to', () => {
    fc.assert(
      fc.property(rect, fc.integer({ min: 0, max: 300 }), fc.integer({ min: 0, max: 300 }), (r, dx, dy) => {
        const { rect: out } = resizeDrag(r, 'se', dx, dy, { locked: false, rotation: 0, guides: [], reach: 6 });
        const [before, after] = [handlePlace('se', r), handlePlace('se', out)];
        expect([after.x - before.x, after.y - before.y]).toEqual([dx, dy]);
      }),
    );
  });

  it('leave the other corner of a turned box where it is seen', () => {
    fc.assert(
      fc.property(
        rect,
        fc.integer({ min: -180, max: 180 }),
        fc.integer({ min: 0, max: 200 }),
        fc.integer({ min: 0, max: 200 }),
        (r, rotation, dx, dy) => {
          const { rect: out } = resizeDrag(r, 'se', dx, dy, { locked: false, rotation, guides: [], reach: 6 });
          // Where the top left corner is seen: turned about the middle of the box.
          const corner = (b: typeof r) => {
            const p = turnedDelta(-b.width / 2, -b.height / 2, -rotation);
            return [b.x + b.width / 2 + p.x, b.y + b.height / 2 + p.y] as const;
          };
          corner(out).forEach((v, i) => expect(v).toBeCloseTo(corner(r)[i] as number, 6));
        },
      ),
    );
  });

  it('crop from the dragged side, never so far that nothing is left', () => {
    const share = fc.double({ min: 0, max: 0.45, noNaN: true });
    fc.assert(
      fc.property(fc.record({ left: share, top: share, right: share, bottom: share }), handle, by, by, (crop, h, dx, dy) => {
        const out = cropDrag(crop, h, dx, dy, { width: 400, height: 300 });
        expect(out.left + out.right).toBeLessThanOrEqual(0.95 + 1e-9);
        expect(Math.min(out.left, out.top, out.right, out.bottom)).toBeGreaterThanOrEqual(0);
        if (!h.includes('w')) expect(out.left).toBe(crop.left);
      }),
    );
  });

  it('turn to where the hand is, and pan no further than the picture goes', () => {
    const r = { x: 100, y: 100, width: 40, height: 20 };
    expect([turnDrag(r, { x: 120, y: 0 }), turnDrag(r, { x: 500, y: 110 }), turnDrag(r, { x: 0, y: 110 })]).toEqual([0, 90, -90]);
    expect([panDrag(0, 10, 100), panDrag(0.9, -50, 100), panDrag(-0.9, 50, 100)]).toEqual([-0.2, 1, -1]);
  });

  it('finds a turned box where it is seen', () => {
    const r = { x: 0, y: 0, width: 100, height: 10 };
    expect(isOn({ x: 50, y: 45 }, r, 0)).toBe(false);
    expect(isOn({ x: 50, y: 45 }, r, 90)).toBe(true);
    const d = turnedDelta(3, 4, 30);
    expect(Math.hypot(d.x, d.y)).toBeCloseTo(5, 9);
  });
});
