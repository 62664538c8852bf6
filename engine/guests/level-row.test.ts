import fc from 'fast-check';
import { expect, it } from 'vitest';
import { BLOCK_SECONDS, LevelRow, type Newest } from './level-row';

const RATE = 48_000;
const BLOCK = BLOCK_SECONDS * RATE;

/** A sound whose blocks are each of one height, as an analyser gives it at a time. */
const sound = (heights: readonly number[], now: number, fftSize = 16_384): Newest => ({
  fftSize,
  getFloatTimeDomainData: (into) => {
    for (let i = 0; i < fftSize; i += 1) into[i] = heights[Math.floor((Math.round(now * RATE) - fftSize + i) / BLOCK)] ?? 0;
  },
});
const heights = fc.array(fc.double({ min: 0.01, max: 1, noNaN: true }), { minLength: 60, maxLength: 60 });
const db = (height: number) => 20 * Math.log10(Math.fround(height));

it('has every block once, however unevenly it is looked at', () => {
  fc.assert(
    fc.property(heights, fc.array(fc.integer({ min: 1, max: 13_000 }), { minLength: 5, maxLength: 40 }), (list, steps) => {
      const row = new LevelRow();
      let at = 20_000;
      const first = Math.floor(at / BLOCK) - 1;
      for (const step of [0, ...steps]) {
        at += step;
        row.hear(sound(list, at / RATE), at / RATE, RATE);
      }
      const end = Math.floor(at / BLOCK);
      expect(row.levels).toHaveLength(end - first);
      row.levels.forEach((level, i) => expect(level).toBeCloseTo(db(list[first + i] ?? 0) === -Infinity ? -60 : db(list[first + i]!), 3));
    }),
  );
});

it('stays even where it was not looked at for too long, keeps eight seconds, and begins anew', () => {
  const row = new LevelRow();
  const loud = Array.from({ length: 4000 }, () => 0.5);
  row.hear(sound(loud, 1), 1, RATE);
  row.hear(sound(loud, 3), 3, RATE);
  expect(row.levels).toHaveLength(51);
  for (const level of row.levels) expect(level).toBeCloseTo(-6.02, 2);
  for (let now = 3; now < 30; now += 0.3) row.hear(now < 20 ? sound(loud, now) : null, now, RATE);
  expect([row.levels.length, row.levels.at(-1)]).toEqual([200, -60]);
  // Away for longer than is kept: what was before tells nothing of now.
  row.hear(sound(loud, 100), 100, RATE);
  expect(row.levels.length).toBeLessThanOrEqual(200);
  row.clear();
  expect(row.levels).toEqual([]);
});
