/** Elements turned in depth: where their corners land, and that the way back is the way there. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { turnedBox } from './bounds';
import { createElement } from './create';
import { after, inverseOf, project, projectionOf, projectPixels, type Projection } from './perspective';

const RASTER = { width: 1280, height: 720 };
const IDENTITY: Projection = [1, 0, 0, 0, 1, 0, 0, 0, 1];
const angle = fc.integer({ min: -75, max: 75 });
const element = (turnX: number, turnY: number, rotation = 0) =>
  createElement('e', 'rectangle', { x: 400, y: 200, width: 300, height: 100 }, { turnX, turnY, rotation });

describe('a turned element', () => {
  it('that is not turned stands where it is drawn', () => {
    const p = projectionOf(element(0, 0), RASTER);
    expect(project(p, { x: 0, y: 0 })).toEqual({ x: 400, y: 200 });
    expect(project(p, { x: 300, y: 100 })).toEqual({ x: 700, y: 300 });
  });

  it('is larger where it is nearer, and its middle stays', () => {
    const p = projectionOf(element(0, 60), RASTER);
    const high = (x: number) => (project(p, { x, y: 100 })?.y ?? 0) - (project(p, { x, y: 0 })?.y ?? 0);
    expect(high(0)).toBeGreaterThan(100);
    expect(high(300)).toBeLessThan(100);
    expect(project(p, { x: 150, y: 50 })).toEqual({ x: expect.closeTo(550, 9) as number, y: expect.closeTo(250, 9) as number });
    // By the formula: half of the width, turned, over the distance of the eye.
    const eye = 1.6 * 1280;
    const [half, away] = [150 * Math.cos(Math.PI / 3), 150 * Math.sin(Math.PI / 3)];
    expect(project(p, { x: 300, y: 50 })?.x).toBeCloseTo(550 + (half * eye) / (eye + away), 6);
  });

  it('is found again on the way back, and lies in its box', () => {
    fc.assert(
      fc.property(
        angle,
        angle,
        fc.integer({ min: -180, max: 180 }),
        fc.integer({ min: 0, max: 300 }),
        fc.integer({ min: 0, max: 100 }),
        (tx, ty, r, x, y) => {
          const e = element(tx, ty, r);
          const there = projectionOf(e, RASTER);
          const back = inverseOf(there);
          const seen = project(there, { x, y });
          expect(seen && back && project(back, seen)).toEqual({ x: expect.closeTo(x, 4) as number, y: expect.closeTo(y, 4) as number });
          expect(back && after(back, there).map((n) => n / (after(back, there)[8] as number))).toEqual(
            IDENTITY.map((n) => expect.closeTo(n, 6) as number),
          );
          const box = turnedBox(e, RASTER);
          expect(seen?.x).toBeGreaterThanOrEqual(box.x - 1e-6);
          expect(seen?.x).toBeLessThanOrEqual(box.x + box.width + 1e-6);
          expect(seen?.y).toBeGreaterThanOrEqual(box.y - 1e-6);
        },
      ),
    );
  });

  it('seen from its side has no way back', () => {
    expect(inverseOf(projectionOf(element(0, 90), RASTER))).toBeNull();
  });
});

describe('projected pixels', () => {
  const pixels = (width: number, height: number) => ({
    data: Uint8ClampedArray.from({ length: width * height * 4 }, (_, i) => (i % 4 === 3 ? 255 : (i * 7) % 256)),
    width,
    height,
  });

  it('are the same where nothing is done, and clear outside', () => {
    const source = pixels(6, 5);
    expect([...projectPixels(source, IDENTITY, 6, 5)]).toEqual([...source.data]);
    expect(projectPixels(source, [1, 0, 100, 0, 1, 0, 0, 0, 1], 6, 5).every((v) => v === 0)).toBe(true);
  });

  it('between pixels are weighted by opacity: no dark edge', () => {
    const source = { data: Uint8ClampedArray.from([200, 100, 50, 255, 0, 0, 0, 0]), width: 2, height: 1 };
    const out = projectPixels(source, [1, 0, 0.5, 0, 1, 0, 0, 0, 1], 1, 1);
    expect([...out]).toEqual([200, 100, 50, 128]);
  });
});
