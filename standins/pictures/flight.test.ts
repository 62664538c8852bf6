import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SIMULATED_CAMERAS } from '#core/show/source';
import { createCameraSound } from './camera-sound';
import { flightAt } from './flight';

describe('the simulated flight', () => {
  it('is one and the same for every camera that asks for a moment, in any order', () => {
    const moments = fc.array(fc.double({ min: 0, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 20 });
    fc.assert(
      fc.property(moments, (times) => {
        const once = times.map(flightAt);
        expect([...times].reverse().map(flightAt).reverse()).toEqual(once);
      }),
    );
  });

  it('moves without a jump from frame to frame, and keeps the kite in the air', () => {
    for (let frame = 0; frame < 25 * 200; frame += 1) {
      const [a, b] = [flightAt(frame / 25), flightAt((frame + 1) / 25)];
      expect(Math.hypot(a.kite.x - b.kite.x, a.kite.y - b.kite.y, a.kite.z - b.kite.z)).toBeLessThan(3);
      expect(a.kite.z).toBeGreaterThan(5);
    }
  });
});

describe('the cameras’ sound', () => {
  it.each(SIMULATED_CAMERAS)('of %s is heard, never above full scale, and the same each time', (camera) => {
    const make = () => createCameraSound(camera)(480_000, 9600);
    const [left, right] = make();
    const peak = Math.max(...left.map(Math.abs), ...right.map(Math.abs));
    expect(peak).toBeGreaterThan(0.001);
    expect(peak).toBeLessThan(1);
    expect(make()).toEqual([left, right]);
  });
});
