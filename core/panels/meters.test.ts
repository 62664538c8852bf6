/** Levels come to a panel as they are at the host, to a hundredth of a dB; of another order they are none. */
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { packMeters, unpackMeters } from './meters';

const db = fc.double({ min: -300, max: 300, noNaN: true });
const side = fc.record({ level: db, peak: db });

it('come as they are, by their identities', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(side, side), { maxLength: 40 }), fc.nat(0xffff), (sides, version) => {
      const ids = sides.map((_, i) => `c${i}`);
      const back = unpackMeters(packMeters(version, sides), { version, ids }, 5)!;
      sides.forEach((pair, i) =>
        pair.forEach(({ level, peak }, j) => {
          const found = back.get(`c${i}`)![j]!;
          expect(Math.abs(found.level - level) <= 0.0051 && Math.abs(found.peak - peak) <= 0.0051).toBe(true);
        }),
      );
      expect(unpackMeters(packMeters(version, sides), { version: (version + 1) % 0x10000, ids }, 5)).toBeNull();
      expect(unpackMeters(packMeters(version, sides), { version, ids: [...ids, 'more'] }, 5)).toBeNull();
    }),
  );
  expect(
    unpackMeters(
      packMeters(1, [
        [
          { level: -Infinity, peak: NaN },
          { level: 900, peak: 0 },
        ],
      ]),
      { version: 1, ids: ['a'] },
      0,
    )!.get('a'),
  ).toMatchObject([
    { level: -300, peak: -300 },
    { level: 300, peak: 0 },
  ]);
});
