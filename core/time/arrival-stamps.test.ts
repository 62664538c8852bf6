import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ArrivalStamps } from './arrival-stamps';

/** Frames of a device at 25 a second, each held up for so many microseconds, by a clock that runs `pace` times as fast as show time. */
function stamps(heldUp: number[], { pace = 1, begins = 5e6 } = {}) {
  const made = new ArrivalStamps();
  return heldUp.map((wait, i) => {
    const taken = i * 40_000;
    return { taken, now: taken + wait, stamp: made.stamp(begins + taken * pace, taken + wait) };
  });
}

const differences = (list: number[]) => list.slice(1).map((v, i) => v - (list[i] as number));

describe('stamps of frames that arrive unevenly', () => {
  it('are as even as the device took them, once one came quickly', () => {
    const jitter = fc.array(fc.integer({ min: 3000, max: 39_000 }), { minLength: 20, maxLength: 200 });
    fc.assert(
      fc.property(jitter, (waits) => {
        const list = stamps([3000, ...waits]);
        // The quickest came first, and comes again in every window.
        const steady = stamps([3000, ...waits].map((w, i) => (i % 20 === 0 ? 3000 : w)));
        for (const d of differences(steady.map((s) => s.stamp))) expect(d).toBeCloseTo(40_000, 3);
        for (const { now, stamp } of list) expect(stamp).toBeLessThanOrEqual(now);
      }),
    );
  });

  it('never go back and never lie ahead, whatever the device says', () => {
    const anything = fc.array(fc.record({ captured: fc.integer({ min: 0, max: 1e9 }), after: fc.integer({ min: 1, max: 3e6 }) }), {
      minLength: 1,
      maxLength: 60,
    });
    fc.assert(
      fc.property(anything, (frames) => {
        const made = new ArrivalStamps();
        let [now, last] = [0, -Infinity];
        for (const { captured, after } of frames) {
          now += after;
          const stamp = made.stamp(captured, now);
          expect(stamp).toBeLessThanOrEqual(now);
          expect(stamp).toBeGreaterThan(last);
          last = stamp;
        }
      }),
    );
  });

  it('follow a device whose clock drifts, and one that begins anew, within seconds', () => {
    const waits = Array.from({ length: 2500 }, (_, i) => (i % 10 === 0 ? 4000 : 20_000));
    for (const pace of [1.0005, 0.9995]) {
      for (const { now, stamp } of stamps(waits, { pace }).slice(-100)) expect(Math.abs(now - stamp)).toBeLessThan(24_000);
    }
    const made = new ArrivalStamps();
    for (let i = 0; i < 100; i += 1) made.stamp(9e9 + i * 40_000, i * 40_000 + 4000);
    const later = Array.from({ length: 200 }, (_, i) => ({
      now: 4e6 + i * 40_000 + 4000,
      stamp: made.stamp(i * 40_000, 4e6 + i * 40_000 + 4000),
    }));
    expect(later.slice(-50).map(({ now, stamp }) => now - stamp)).toEqual(new Array(50).fill(0));
  });
});
