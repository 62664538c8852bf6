/** Where an image layer of an animation is, so that a live picture can stand for it. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Lottie, type Raw, readLottie } from './lottie';
import { partsOf } from './parts';
import { eased, valueAt } from './property';
import { trackOf, trackPlace } from './track';

const still = (k: unknown) => ({ a: 0, k });
const transform = (change: Raw = {}): Raw => ({
  o: still(100),
  r: still(0),
  a: still([0, 0]),
  s: still([100, 100]),
  p: still([0, 0]),
  ...change,
});
const LINEAR = { o: { x: 0, y: 0 }, i: { x: 1, y: 1 } };
const keys = (...list: [number, number[]][]) => ({ a: 1, k: list.map(([t, s]) => ({ t, s, ...LINEAR })) });
const image = (ks: Raw, change: Raw = {}): Raw => ({ ty: 2, nm: 'Face', refId: 'face', ip: 0, op: 100, st: 0, sr: 1, ks, ...change });
const FACE = { id: 'face', w: 40, h: 20, p: 'data:image/png;base64,AA==' };
const doc = (layers: Raw[], assets: Raw[] = [], change: Raw = {}): Lottie =>
  readLottie({ v: '5.7', fr: 25, ip: 0, op: 100, w: 640, h: 360, layers, assets: [FACE, ...assets], ...change });
const at = (d: Lottie, frame: number) => {
  const track = trackOf(d, FACE);
  if (typeof track === 'string') throw new Error(track);
  return trackPlace(track, frame);
};

describe('a property at a frame', () => {
  it('is eased as the curve says: against the curve worked out densely', () => {
    const handles = fc.tuple(
      fc.double({ min: 0, max: 1, noNaN: true }),
      fc.double({ min: -1, max: 2, noNaN: true }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      fc.double({ min: -1, max: 2, noNaN: true }),
    );
    fc.assert(
      fc.property(handles, fc.double({ min: 0.01, max: 0.99, noNaN: true }), ([x1, y1, x2, y2], t) => {
        const on = (a: number, b: number) => 3 * (1 - t) ** 2 * t * a + 3 * (1 - t) * t ** 2 * b + t ** 3;
        // Where the curve is nearly upright, a little of x is much of y.
        const near = Math.abs(eased(on(x1, x2), [x1, y1, x2, y2]) - on(y1, y2));
        const slope = Math.abs(eased(on(x1, x2) + 1e-4, [x1, y1, x2, y2]) - eased(on(x1, x2) - 1e-4, [x1, y1, x2, y2]));
        return near < 1e-3 + slope;
      }),
    );
  });

  it('holds, runs and goes along paths by their length', () => {
    expect(
      valueAt(
        {
          a: 1,
          k: [
            { t: 0, s: [5], h: 1 },
            { t: 10, s: [9] },
          ],
        },
        9.9,
        [0],
      ),
    ).toEqual([5]);
    expect(valueAt(keys([0, [0, 10]], [10, [10, 0]]), 2.5, [0]).map((n) => Math.round(n * 1000) / 1000)).toEqual([2.5, 7.5]);
    expect(valueAt(undefined, 3, [7])).toEqual([7]);
    expect(valueAt(still(4), 3, [7])).toEqual([4]);
    // Handles bunched at one end: by the length of the way it still goes evenly.
    const path = {
      a: 1,
      k: [
        { t: 0, s: [0, 0], to: [0, 0], ti: [-90, 0], ...LINEAR },
        { t: 10, s: [100, 0] },
      ],
    };
    expect(valueAt(path, 5, [0])[0]).toBeCloseTo(50, 0);
  });
});

describe('the place of an image layer', () => {
  it('is that of its transform, about its anchor', () => {
    const place = at(
      doc([image(transform({ p: still([100, 50]), a: still([20, 10]), s: still([200, 100]), r: still(90), o: still(50) }))]),
      3,
    );
    expect(place).toEqual({ x: 100, y: 50, width: 80, height: 20, rotation: 90, opacity: 0.5 });
  });

  it('is carried by what it hangs on and by the composition that it stands in, with its time', () => {
    const hung = at(
      doc([
        image(transform({ p: still([10, 0]) }), { parent: 7 }),
        { ty: 3, ind: 7, ip: 0, op: 100, st: 0, ks: transform({ p: still([100, 100]), r: still(90) }) },
      ]),
      0,
    );
    // Ten to the right of what is turned by a quarter is ten below it.
    expect([Math.round(hung?.x ?? 0), Math.round(hung?.y ?? 0), hung?.rotation]).toEqual([90, 130, 90]);
    const inside = { id: 'in', layers: [image(transform({ p: keys([0, [0, 0]], [50, [100, 0]]) }))] };
    const comp = { ty: 0, nm: 'In', refId: 'in', w: 640, h: 360, ip: 0, op: 100, st: 10, sr: 1, ks: transform({ s: still([50, 50]) }) };
    const nested = doc([comp], [inside]);
    expect(at(nested, 10)?.x).toBeCloseTo(10, 1);
    expect(at(nested, 35)?.x).toBeCloseTo(35, 0);
    const stretched = doc([{ ...comp, sr: 2, st: 0 }], [inside]);
    expect(at(stretched, 50)?.x).toBeCloseTo(35, 0);
    const remapped = doc([{ ...comp, tm: still(1) }], [inside]);
    expect(at(remapped, 80)?.x).toBeCloseTo(35, 0);
  });

  it('is within a quarter of a pixel of where it is, however it moves; in a track of few places', () => {
    const number = fc.integer({ min: -300, max: 300 });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 30 }), number, number), { minLength: 2, maxLength: 6 }),
        fc.integer({ min: 0, max: 100 }),
        (moves, frame) => {
          let t = 0;
          const way = keys(...moves.map(([wait, x, y]): [number, number[]] => [(t += wait), [x, y]]));
          const d = doc([image(transform({ p: way, a: still([20, 10]) }))]);
          const place = at(d, frame);
          const [x = 0, y = 0] = valueAt(way, frame, [0, 0]);
          // A key between two whole frames rounds the corner off.
          return Math.abs((place?.x ?? 0) - x) < 0.6 && Math.abs((place?.y ?? 0) - y) < 0.6;
        },
      ),
    );
    const straight = trackOf(doc([image(transform({ p: keys([0, [0, 0]], [100, [300, 0]]) }))]), FACE);
    expect((straight as number[]).length / 7).toBeLessThan(5);
  });

  it('turns the short way, and is clear while its layer is not there', () => {
    const turning = doc([image(transform({ r: keys([0, [170]], [20, [190]]) }))]);
    expect(at(turning, 10)?.rotation).toBeCloseTo(180, 0);
    const late = doc([image(transform(), { ip: 30, op: 60 })]);
    expect([29, 30, 59, 60].map((f) => at(late, f)?.opacity)).toEqual([0, 1, 1, 0]);
  });

  it('is not offered where a live picture would be wrong, and says why', () => {
    const why = (layers: Raw[], assets: Raw[] = []) => trackOf(doc(layers, assets), FACE);
    const plain = image(transform());
    expect(why([plain, plain])).toBe('several layers show it');
    expect(why([image(transform(), { masksProperties: [{}] })])).toMatch(/masked/);
    expect(why([image(transform(), { tt: 1 })])).toMatch(/masked/);
    expect(why([image(transform({ s: still([-100, 100]) }))])).toMatch(/mirrored/);
    // Uneven, but upright: that is fine.
    expect(
      why([image(transform({ s: still([100, 30]) }), { parent: 2 }), { ty: 3, ind: 2, ip: 0, op: 9, ks: transform() }]),
    ).toBeInstanceOf(Array);
    const leaning = [
      image(transform({ r: still(45) }), { parent: 2 }),
      { ty: 3, ind: 2, ip: 0, op: 9, ks: transform({ s: still([100, 30]) }) },
    ];
    expect(why(leaning)).toMatch(/leans/);
    const comp = { ty: 0, refId: 'in', ip: 0, op: 100, st: 0, ks: transform() };
    const small = { ...comp, w: 30, h: 30 };
    expect(why([small], [{ id: 'in', layers: [plain] }])).toMatch(/cuts it off/);
    expect(why([comp], [{ id: 'in', layers: [plain, { ty: 1, nm: 'Under', ip: 0, op: 100 }] }])).toMatch(/under it/);
    const parts = partsOf(doc([image(transform(), { tt: 1 })]));
    expect(parts.filter((p) => p.kind !== 'flag').map((p) => [p.kind, p.noWindow])).toEqual([['image', 'it is masked, or a mask']]);
  });

  it('never throws, whatever stands in the transforms', () => {
    const odd = fc.anything({ maxDepth: 3 });
    fc.assert(
      fc.property(fc.record({ p: odd, s: odd, r: odd, a: odd, o: odd }), odd, (ks, tm) => {
        const inside = { id: 'in', layers: [image(ks)] };
        const d = { ...doc([]), layers: [{ ty: 0, refId: 'in', ip: 0, op: 100, tm, ks }], assets: [FACE, inside] } as unknown as Lottie;
        const track = trackOf(d, FACE);
        return typeof track === 'string' || track.every(Number.isFinite);
      }),
    );
  });
});
