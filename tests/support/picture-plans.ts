/** Random picture plans over the test pictures, and how far two pictures differ. */
import fc from 'fast-check';
import { type DrawItem, type KeyPlan, type Mix, type PicturePlan } from '#core/picture/draw';
import { GREEN_KEY } from '#core/layout/look';
import { TEST_PICTURES } from './test-pictures';

const RASTER = { width: 64, height: 36 };

const anyTexture = fc.constantFrom(...Object.keys(TEST_PICTURES)).map((id) => ({ kind: 'source' as const, id }));
const anyTarget = fc.oneof(
  fc.constant({ x: 0, y: 0, ...RASTER }),
  fc.record({
    x: fc.integer({ min: -10, max: 40 }),
    y: fc.integer({ min: -10, max: 20 }),
    width: fc.integer({ min: 8, max: 70 }),
    height: fc.integer({ min: 8, max: 40 }),
  }),
);

/** Items without any look: as sources are drawn. */
const plainItem: fc.Arbitrary<DrawItem> = fc.record({
  texture: anyTexture,
  target: anyTarget,
  fit: fc.constantFrom('contain' as const, 'fill' as const, 'cover' as const),
  opacity: fc.constantFrom(1, 1, 0.6, 0.25),
});

const anyKey: fc.Arbitrary<KeyPlan> = fc.oneof(
  fc
    .record({
      colour: fc.constantFrom('#e63c1e', '#145ac8', '#2f8040'),
      similarity: fc.constantFrom(0.1, 0.35),
      softness: fc.constantFrom(0.2, 0.5),
      spill: fc.constantFrom(0, 0.7),
      garbageLeft: fc.constantFrom(0, 0.25),
    })
    .map((k) => ({ ...GREEN_KEY, ...k })),
  fc.record({ kind: fc.constant('luma' as const), clip: fc.constantFrom(0, 0.2, 0.4), gain: fc.constantFrom(1, 4), invert: fc.boolean() }),
  fc.record({
    kind: fc.constant('fill' as const),
    texture: fc.constant({ kind: 'source' as const, id: 'slope' }),
    premultiplied: fc.constant(false),
    invert: fc.boolean(),
  }),
);

/** Items with everything that a box can have. */
const lookItem: fc.Arbitrary<DrawItem> = fc
  .record({
    item: plainItem,
    extra: fc.record(
      {
        radius: fc.integer({ min: 2, max: 8 }),
        border: fc.record({ width: fc.integer({ min: 1, max: 4 }), colour: fc.constantFrom('#e8efe9', '#c04020') }),
        shadow: fc.record({
          x: fc.integer({ min: -4, max: 4 }),
          y: fc.integer({ min: -4, max: 4 }),
          blur: fc.integer({ min: 2, max: 6 }),
          opacity: fc.constantFrom(0.4, 0.8),
        }),
        rotation: fc.constantFrom(30, -75, 180),
        view: fc.record({
          crop: fc.record({
            left: fc.constantFrom(0, 0.25),
            top: fc.constantFrom(0, 0.2),
            right: fc.constantFrom(0, 0.1),
            bottom: fc.constant(0),
          }),
          zoom: fc.constantFrom(1, 1.5),
          panX: fc.constantFrom(-1, 0.4),
          panY: fc.constantFrom(0, 1),
        }),
        framing: fc.record({
          crop: fc.record({ left: fc.constantFrom(0, 0.2), top: fc.constant(0), right: fc.constant(0), bottom: fc.constantFrom(0, 0.2) }),
          zoom: fc.constantFrom(1, 2),
          panX: fc.constantFrom(0, 0.5),
          panY: fc.constant(0),
          aspect: fc.constantFrom(null, 4 / 3),
          mirror: fc.boolean(),
        }),
        grade: fc.record({
          lift: fc.constantFrom(0, 0.1),
          gamma: fc.constantFrom(1, 1.4),
          gain: fc.constantFrom(1, 0.8),
          saturation: fc.constantFrom(0, 1, 1.3),
          warmth: fc.constantFrom(0, 0.5),
          tint: fc.constantFrom(0, -0.5),
        }),
        key: anyKey,
        clip: fc.record({
          x: fc.integer({ min: 0, max: 20 }),
          y: fc.integer({ min: 0, max: 10 }),
          width: fc.integer({ min: 10, max: 40 }),
          height: fc.integer({ min: 10, max: 30 }),
        }),
      },
      { requiredKeys: [] },
    ),
  })
  .map(({ item, extra }) => ({ ...item, ...extra }));

const nestedItem: fc.Arbitrary<DrawItem> = fc
  .record({ item: plainItem, scene: fc.array(lookItem, { minLength: 1, maxLength: 2 }), id: fc.uuid() })
  .map(({ item, scene, id }) => ({ ...item, texture: { kind: 'scene' as const, id, scene } }));

const unit = fc.double({ min: 0, max: 0.999, noNaN: true });
const anyMix: fc.Arbitrary<Mix> = fc.oneof(
  fc.record({ kind: fc.constant('dissolve' as const), position: unit, linear: fc.boolean() }),
  fc.record({ kind: fc.constant('dip' as const), position: unit, colour: fc.constantFrom('#000000', '#e2c48d') }),
  fc.record({
    kind: fc.constant('wipe' as const),
    position: unit,
    shape: fc.constantFrom('linear' as const, 'radial' as const, 'iris' as const, 'clock' as const),
    angle: fc.constantFrom(0, 90, -135, 30),
    softness: fc.constantFrom(0.02, 0.1, 1),
  }),
  fc.record({
    kind: fc.constant('luma' as const),
    position: unit,
    softness: fc.constantFrom(0.1, 0.5),
    image: fc.constant({ kind: 'source' as const, id: 'slope' }),
  }),
  fc.record({
    kind: fc.constantFrom('push' as const, 'slide' as const),
    position: unit,
    direction: fc.constantFrom('left' as const, 'right' as const, 'up' as const, 'down' as const),
  }),
  fc.record({ kind: fc.constant('zoom' as const), position: unit }),
);

const planOf = (item: fc.Arbitrary<DrawItem>): fc.Arbitrary<PicturePlan> => {
  const scene = fc.array(item, { minLength: 1, maxLength: 3 });
  return fc
    .record({
      base: scene,
      mixing: fc.option(fc.record({ over: scene, mix: anyMix })),
      lanes: fc.array(item, { maxLength: 2 }),
      black: fc.constantFrom(0, 0, 0, 0.4, 1),
      top: fc.array(item, { maxLength: 1 }),
    })
    .map(({ mixing, ...rest }) => ({ ...rest, over: mixing?.over ?? null, mix: mixing?.mix ?? null }));
};

/** Plans of sources alone, over a raster of 64 × 36. */
export const anyPlan = planOf(plainItem);
/** Plans with every property of boxes, framings and keys, and with scenes inside scenes. */
export const anyLookPlan = planOf(fc.oneof({ weight: 4, arbitrary: lookItem }, { weight: 1, arbitrary: nestedItem }));

/** Share of colour values that differ by more than `step`, and the mean difference, in steps of 255. */
export function difference(a: ArrayLike<number>, b: ArrayLike<number>, step: number): { share: number; mean: number } {
  let over = 0;
  let sum = 0;
  for (let i = 0; i < a.length; i += 1) {
    const d = Math.abs((a[i] as number) - (b[i] as number));
    sum += d;
    if (d > step) over += 1;
  }
  return { share: over / a.length, mean: sum / a.length };
}
