import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type PicturePlan, type TextureRef } from '../draw';
import { rasterise } from '#tests/support/reference-rasteriser';
import { rgbaOf, TEST_PICTURES, type TestPicture, yuvOf } from '#tests/support/test-pictures';
import { anyLookPlan, anyPlan, difference } from '#tests/support/picture-plans';
import { conversion } from '../colour';
import { SoftMixer } from './compose';
import { allocate } from './memory';
import { convertColour, createPlanes, fillFromRgba, fillFromYuv, fillInked, inkOf, type Planes, releasePlanes, toYuv } from './planes';

const RASTER = { width: 64, height: 36 };

/** R′G′B′ of BT.709 limited planes, pixel by pixel. */
function toRgba(p: Planes): Uint8ClampedArray {
  const out = new Uint8ClampedArray(p.width * p.height * 4);
  for (let i = 0; i < p.width * p.height; i += 1) {
    const c = (Math.floor(i / p.width) >> 1) * ((p.width + 1) >> 1) + ((i % p.width) >> 1);
    const y = (((p.y[i] as number) - 16) * 255) / 219;
    const cb = (((p.u[c] as number) - 128) * 255) / 224;
    const cr = (((p.v[c] as number) - 128) * 255) / 224;
    out.set([y + 1.5748 * cr, y - 0.1873 * cb - 0.4681 * cr, y + 1.8556 * cb, 255], i * 4);
  }
  return out;
}

function planesOf(picture: TestPicture): Planes {
  const planes = createPlanes(picture.width, picture.height, !picture.opaque);
  const { width, height, layout } = picture;
  if (layout === 'rgba') fillFromRgba(planes, { data: rgbaOf(picture), stride: width * 4, red: 0 });
  else {
    const luma = { offset: 0, stride: width };
    const size = width * height;
    const chroma =
      layout === 'i420'
        ? [
            { offset: size, stride: width / 2 },
            { offset: size + size / 4, stride: width / 2 },
          ]
        : [{ offset: size, stride: width }];
    fillFromYuv(planes, yuvOf(picture), [luma, ...chroma]);
  }
  return planes;
}

const known = new Map(Object.entries(TEST_PICTURES).map(([name, picture]) => [name, planesOf(picture)]));

const idOf = (ref: TextureRef) => (ref.kind === 'source' ? ref.id : '');
const mixer = new SoftMixer(
  RASTER,
  (ref) => known.get(idOf(ref)) ?? null,
  (ref) => TEST_PICTURES[idOf(ref)] ?? null,
);

/** The reference picture as planes. */
function reference(plan: PicturePlan): Planes {
  const planes = createPlanes(RASTER.width, RASTER.height);
  fillFromRgba(planes, { data: rasterise(plan, RASTER, (ref) => TEST_PICTURES[idOf(ref)] ?? null), stride: RASTER.width * 4, red: 0 });
  return planes;
}

describe('the software mixer', () => {
  it.each([
    ['sources', anyPlan, 100, { mean: 1.2, share: 0.03, chroma: 10, few: 0 }],
    // Keys and masks of enlarged pictures: here alpha is scaled, in the reference the colour is scaled and
    // then keyed. Several such layers in one plan may add up, so a few plans may be further off.
    ['boxes, framings, keys and all mixes', anyLookPlan, 200, { mean: 4, share: 0.08, chroma: 16, few: 2 }],
  ])('draws what the reference draws: %s', (_, plans, numRuns, limit) => {
    const off: string[] = [];
    fc.sample(plans, { numRuns, seed: 99 }).forEach((plan, i) => {
      const [want, got] = [reference(plan), mixer.draw(plan, RASTER)];
      const luma = difference(want.y, got.y, 24);
      const chroma = difference(want.u, got.u, 40).mean + difference(want.v, got.v, 40).mean;
      // Chroma is scaled at its half size, so strong edges of colour are softer than the reference's; areas agree.
      if (luma.mean >= limit.mean || luma.share >= limit.share || chroma >= limit.chroma) {
        off.push(
          `plan ${i}: luma ${luma.mean.toFixed(2)}, ${(luma.share * 100).toFixed(1)} %, chroma ${chroma.toFixed(2)}: ${JSON.stringify(plan)}`,
        );
      }
      releasePlanes(want);
    });
    expect(off.slice(limit.few)).toEqual([]);
  });

  it('hands a full picture on without touching it', () => {
    const plan: PicturePlan = {
      base: [{ texture: { kind: 'source', id: 'video' }, target: { x: 0, y: 0, ...RASTER }, fit: 'contain', opacity: 1 }],
      over: null,
      mix: null,
      lanes: [],
      black: 0,
    };
    expect(mixer.draw(plan, RASTER)).toBe(known.get('video'));
  });

  it('passes over what is clear, and draws the same', () => {
    // A spot in a clear picture, where it is known to be.
    const rgba = new Uint8Array(40 * 24 * 4);
    for (let y = 9; y < 14; y += 1) for (let x = 22; x < 31; x += 1) rgba.set([200, 40, 60 + y, 255 - x * 4], (y * 40 + x) * 4);
    const [plain, inked] = [createPlanes(40, 24, true), createPlanes(40, 24, true)];
    fillFromRgba(plain, { data: rgba, stride: 160, red: 0 });
    fillInked(inked, rgba, inkOf(rgba, 40, 24));
    expect(inked.ink).toEqual({ left: 22, top: 9, right: 31, bottom: 14 });
    const mixerOf = (spot: Planes) =>
      new SoftMixer(
        RASTER,
        (ref) => (idOf(ref) === 'spot' ? spot : (known.get(idOf(ref)) ?? null)),
        (ref) => (idOf(ref) === 'spot' ? { width: 40, height: 24 } : (TEST_PICTURES[idOf(ref)] ?? null)),
      );
    const [all, part] = [mixerOf(plain), mixerOf(inked)];
    const place = fc.record({
      x: fc.double({ min: -30, max: 60, noNaN: true }),
      y: fc.double({ min: -20, max: 30, noNaN: true }),
      width: fc.double({ min: 4, max: 120, noNaN: true }),
      height: fc.double({ min: 4, max: 80, noNaN: true }),
    });
    fc.assert(
      fc.property(place, fc.constantFrom(1, 0.5), fc.constantFrom(0, 20), (target, opacity, rotation) => {
        const plan: PicturePlan = {
          base: [{ texture: { kind: 'source', id: 'video' }, target: { x: 0, y: 0, ...RASTER }, fit: 'fill', opacity: 1 }],
          over: null,
          mix: null,
          lanes: [{ texture: { kind: 'source', id: 'spot' }, target, fit: 'fill', opacity, ...(rotation > 0 && { rotation }) }],
          black: 0,
        };
        expect(part.draw(plan, RASTER).bytes).toEqual(all.draw(plan, RASTER).bytes);
      }),
      { numRuns: 800 },
    );
    [all, part].forEach((m) => m.dispose());
    [plain, inked].forEach(releasePlanes);
  });

  it('never writes into a source’s own planes', () => {
    const before = [...known.values()].map((p) => p.bytes.slice());
    fc.sample(anyPlan, { numRuns: 60, seed: 5 }).forEach((plan) => mixer.draw(plan, RASTER));
    [...known.values()].forEach((p, i) => expect(p.bytes).toEqual(before[i]));
  });
});

describe('planes', () => {
  it('puts white, black and grey where BT.709 limited range has them', () => {
    expect([toYuv(255, 255, 255), toYuv(0, 0, 0)]).toEqual([
      [235, 128, 128],
      [16, 128, 128],
    ]);
    const [, u, v] = toYuv(128, 128, 128);
    expect([u, v]).toEqual([128, 128]);
  });

  it('comes back to the colour it came from, within 3 steps', () => {
    const byte = fc.integer({ min: 0, max: 255 });
    fc.assert(
      fc.property(byte, byte, byte, (r, g, b) => {
        const planes = createPlanes(2, 2);
        fillFromRgba(planes, { data: new Uint8Array([r, g, b, 255, r, g, b, 255, r, g, b, 255, r, g, b, 255]), stride: 8, red: 0 });
        [r, g, b].forEach((want, i) => expect(Math.abs((toRgba(planes)[i] as number) - want)).toBeLessThanOrEqual(3));
      }),
    );
  });

  it('converts the same by the kernel as pixel by pixel, in both orders', () => {
    fc.assert(
      fc.property(
        fc.uint8Array({ minLength: 16 * 4 * 4, maxLength: 16 * 4 * 4 }),
        fc.constantFrom(0 as const, 2 as const),
        (pixels, red) => {
          const piece = allocate(pixels.length);
          piece.bytes.set(pixels);
          const [slow, quick] = [createPlanes(16, 4), createPlanes(16, 4)];
          fillFromRgba(slow, { data: pixels, stride: 64, red });
          fillFromRgba(quick, { data: piece.bytes, pointer: piece.pointer, stride: 64, red });
          expect(quick.bytes).toEqual(slow.bytes);
          [slow, quick].forEach(releasePlanes);
        },
      ),
    );
  });

  it('are the same when just what has ink is looked at, whatever was in them before', () => {
    const side = fc.integer({ min: 1, max: 13 });
    const spots = fc.array(fc.tuple(fc.nat(12), fc.nat(12), fc.uint8Array({ minLength: 4, maxLength: 4 })), { maxLength: 5 });
    fc.assert(
      fc.property(side, side, spots, (width, height, list) => {
        const data = new Uint8Array(width * height * 4);
        for (const [x, y, pixel] of list) if (x < width && y < height && pixel[3] !== 0) data.set(pixel, (y * width + x) * 4);
        const [all, part] = [createPlanes(width, height, true), createPlanes(width, height, true)];
        part.bytes.fill(77);
        fillFromRgba(all, { data, stride: width * 4, red: 0 });
        fillInked(part, data, inkOf(data, width, height));
        expect([part.bytes, part.alpha]).toEqual([all.bytes, all.alpha]);
        [all, part].forEach(releasePlanes);
      }),
    );
  });

  it('reads odd sizes, BGRA and padded rows', () => {
    const planes = createPlanes(3, 3, true);
    const data = new Uint8Array(3 * 16);
    for (let y = 0; y < 3; y += 1) for (let x = 0; x < 3; x += 1) data.set([0, 0, 255, 200], y * 16 + x * 4);
    fillFromRgba(planes, { data, stride: 16, red: 2 });
    expect([...planes.y]).toEqual(Array(9).fill(toYuv(255, 0, 0)[0]));
    expect([...(planes.alpha ?? [])]).toEqual(Array(9).fill(200));
  });

  it.each([
    ['BT.601 limited', 0.299, 0.114, false],
    ['BT.601 full', 0.299, 0.114, true],
    ['BT.709 full', 0.2126, 0.0722, true],
  ])('brings %s to BT.709 limited', (_, kr, kb, full) => {
    const kg = 1 - kr - kb;
    const scale = full ? { y: 255, c: 255, y0: 0 } : { y: 219, c: 224, y0: 16 };
    const { matrix, offset } = conversion(kr === 0.299 ? 'smpte170m' : 'bt709', full);
    const byte = fc.integer({ min: 0, max: 255 });
    fc.assert(
      fc.property(byte, byte, byte, (r, g, b) => {
        const planes = createPlanes(20, 2);
        const luma = (kr * r + kg * g + kb * b) / 255;
        planes.y.fill(Math.round(scale.y0 + luma * scale.y));
        planes.u.fill(Math.min(255, Math.round(128 + ((b / 255 - luma) / (2 * (1 - kb))) * scale.c)));
        planes.v.fill(Math.min(255, Math.round(128 + ((r / 255 - luma) / (2 * (1 - kr))) * scale.c)));
        convertColour(planes, matrix, offset);
        const want = toYuv(r, g, b);
        // In the vector part and in the remainder of the row alike.
        for (const place of [0, 17]) expect(Math.abs((planes.y[place] as number) - want[0])).toBeLessThanOrEqual(3);
        for (const place of [0, 9]) {
          expect(Math.abs((planes.u[place] as number) - want[1])).toBeLessThanOrEqual(3);
          expect(Math.abs((planes.v[place] as number) - want[2])).toBeLessThanOrEqual(3);
        }
        releasePlanes(planes);
      }),
    );
  });
});
