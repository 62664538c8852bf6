/** Random picture plans over the test pictures, and how far two pictures differ. */
import fc from 'fast-check';
import { type Mix, type PicturePlan } from '#core/picture/plan';
import { TEST_PICTURES } from './test-pictures';

const anyItem = fc.record({
  texture: fc.constantFrom(...Object.keys(TEST_PICTURES)).map((id) => ({ kind: 'source' as const, id })),
  target: fc.oneof(
    fc.constant({ x: 0, y: 0, width: 64, height: 36 }),
    fc.record({ x: fc.integer({ min: -10, max: 40 }), y: fc.integer({ min: -10, max: 20 }), width: fc.integer({ min: 8, max: 70 }), height: fc.integer({ min: 8, max: 40 }) }),
  ),
  fit: fc.constantFrom('contain' as const, 'fill' as const),
  opacity: fc.constantFrom(1, 1, 0.6, 0.25),
});
const unit = fc.double({ min: 0, max: 0.999, noNaN: true });
const anyMix: fc.Arbitrary<Mix> = fc.oneof(
  fc.record({ kind: fc.constant('dissolve' as const), position: unit }),
  fc.record({ kind: fc.constant('dip' as const), position: unit, colour: fc.constantFrom('#000000', '#e2c48d') }),
  fc.record({ kind: fc.constant('wipe' as const), position: unit, direction: fc.constantFrom('right' as const, 'left' as const, 'up' as const, 'down' as const), softness: fc.constantFrom(0, 0.1, 1) }),
);
const scene = fc.array(anyItem, { minLength: 1, maxLength: 3 });

/** A plan over a raster of 64 × 36. */
export const anyPlan: fc.Arbitrary<PicturePlan> = fc
  .record({ base: scene, mixing: fc.option(fc.record({ over: scene, mix: anyMix })), lanes: fc.array(anyItem, { maxLength: 2 }), black: fc.constantFrom(0, 0, 0, 0.4, 1) })
  .map(({ mixing, ...rest }) => ({ ...rest, over: mixing?.over ?? null, mix: mixing?.mix ?? null }));

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
