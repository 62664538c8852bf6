import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boxUnder, findWindows } from './find-windows';

const WIDTH = 320;
const HEIGHT = 180;

/** Opaque artwork with openings cut by a function of the pixel: alpha 0 to 255. */
function artwork(alphaOf: (x: number, y: number) => number, width = WIDTH, height = HEIGHT): Uint8Array {
  const alpha = new Uint8Array(width * height);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) alpha[y * width + x] = Math.round(Math.min(255, Math.max(0, alphaOf(x, y))));
  return alpha;
}

const inside = (x: number, y: number, r: { x: number; y: number; width: number; height: number }) =>
  x >= r.x && y >= r.y && x < r.x + r.width && y < r.y + r.height;

/** Distance of a pixel’s centre from a rounded rectangle, negative inside. */
function rounded(px: number, py: number, r: { x: number; y: number; width: number; height: number }, radius: number): number {
  const qx = Math.abs(px + 0.5 - r.x - r.width / 2) - r.width / 2 + radius;
  const qy = Math.abs(py + 0.5 - r.y - r.height / 2) - r.height / 2 + radius;
  return Math.hypot(Math.max(qx, 0), Math.max(qy, 0)) + Math.min(Math.max(qx, qy), 0) - radius;
}

describe('finding windows', () => {
  it('finds every one of separate openings, exactly', () => {
    // One opening in each cell of a grid, with at least a pixel of artwork between.
    const cell = fc.record({
      x: fc.integer({ min: 1, max: 20 }),
      y: fc.integer({ min: 1, max: 20 }),
      width: fc.integer({ min: 12, max: 50 }),
      height: fc.integer({ min: 12, max: 34 }),
    });
    fc.assert(
      fc.property(fc.array(fc.option(cell), { minLength: 12, maxLength: 12 }), (cells) => {
        const openings = cells.flatMap((c, i) => (c ? [{ ...c, x: c.x + (i % 4) * 80, y: c.y + Math.floor(i / 4) * 60 }] : []));
        const found = findWindows(
          artwork((x, y) => (openings.some((r) => inside(x, y, r)) ? 0 : 255)),
          WIDTH,
          HEIGHT,
        );
        const order = (a: { x: number; y: number }, b: { x: number; y: number }) => a.y - b.y || a.x - b.x;
        expect(found.map((f) => f.rect).sort(order)).toEqual([...openings].sort(order));
        expect(found.every((f, i) => i === 0 || f.area <= (found[i - 1]?.area ?? 0))).toBe(true);
      }),
      { numRuns: 60 },
    );
  });

  it('gives rounded and soft-edged openings their full rectangle', () => {
    const r = { x: 40, y: 30, width: 200, height: 110 };
    expect(
      findWindows(
        artwork((x, y) => 127.5 + rounded(x, y, r, 24) * 255),
        WIDTH,
        HEIGHT,
      )[0]?.rect,
    ).toEqual(r);
    // An edge that is 8 pixels soft is cut where half of it shows.
    expect(
      findWindows(
        artwork((x, y) => 127.5 + (rounded(x, y, r, 24) * 255) / 8),
        WIDTH,
        HEIGHT,
      )[0]?.rect,
    ).toEqual(r);
  });

  it('takes openings of any shape, and those that touch by a corner for two', () => {
    const disc = findWindows(
      artwork((x, y) => (Math.hypot(x + 0.5 - 160, y + 0.5 - 90) < 60 ? 0 : 255)),
      WIDTH,
      HEIGHT,
    );
    expect(disc.map((f) => f.rect)).toEqual([{ x: 100, y: 30, width: 120, height: 120 }]);
    const [a, b] = [
      { x: 20, y: 20, width: 40, height: 40 },
      { x: 60, y: 60, width: 40, height: 40 },
    ];
    expect(
      findWindows(
        artwork((x, y) => (inside(x, y, a) || inside(x, y, b) ? 0 : 255)),
        WIDTH,
        HEIGHT,
      ),
    ).toHaveLength(2);
    // A U is one opening, although its arms begin apart.
    const u = findWindows(
      artwork((x, y) =>
        inside(x, y, { x: 20, y: 20, width: 20, height: 100 }) ||
        inside(x, y, { x: 80, y: 20, width: 20, height: 100 }) ||
        inside(x, y, { x: 20, y: 100, width: 80, height: 20 })
          ? 0
          : 255,
      ),
      WIDTH,
      HEIGHT,
    );
    expect(u.map((f) => f.rect)).toEqual([{ x: 20, y: 20, width: 80, height: 100 }]);
  });

  it('leaves specks and noise out, and keeps what touches the edge', () => {
    const r = { x: 0, y: 50, width: 120, height: 80 };
    let seed = 1;
    const noisy = artwork((x, y) => {
      seed = (Math.imul(seed, 1664525) + 1013904223) | 0;
      const speck = seed >>> 24 < 3;
      return inside(x, y, r) ? (speck ? 90 : 0) : speck ? 0 : 255;
    });
    const found = findWindows(noisy, WIDTH, HEIGHT);
    expect(found).toHaveLength(1);
    // A speck of the noise may lie against the opening and widen it by its own pixel.
    expect(Math.abs((found[0]?.rect.width ?? 0) - 120)).toBeLessThanOrEqual(2);
    expect(found[0]).toMatchObject({ touchesEdge: true, rect: { x: 0 } });
  });

  it('says that artwork without openings has none', () => {
    expect(
      findWindows(
        artwork(() => 255),
        WIDTH,
        HEIGHT,
      ),
    ).toEqual([]);
    expect(findWindows(new Uint8Array(0), 0, 0)).toEqual([]);
  });

  it('reads alpha from RGBA too', () => {
    const rgba = new Uint8Array(WIDTH * HEIGHT * 4).fill(255);
    for (let y = 10; y < 60; y += 1) for (let x = 10; x < 90; x += 1) rgba[(y * WIDTH + x) * 4 + 3] = 0;
    expect(findWindows(rgba, WIDTH, HEIGHT, { step: 4 })[0]?.rect).toEqual({ x: 10, y: 10, width: 80, height: 50 });
  });

  it('lays a box under an opening that covers it with just the bleed', () => {
    const side = fc.integer({ min: 1, max: 900 });
    fc.assert(
      fc.property(fc.record({ x: side, y: side, width: side, height: side }), fc.integer({ min: 0, max: 20 }), (w, bleed) => {
        const size = { width: 3840, height: 2160 };
        const raster = { width: 1280, height: 720 };
        const box = boxUnder(w, size, raster, bleed);
        const [x0, x1] = [w.x / 3, (w.x + w.width) / 3];
        expect(box.x <= x0 - bleed + 1e-9 && box.x > x0 - bleed - 1).toBe(true);
        expect(box.x + box.width >= x1 + bleed - 1e-9 && box.x + box.width < x1 + bleed + 1).toBe(true);
      }),
    );
  });
});
