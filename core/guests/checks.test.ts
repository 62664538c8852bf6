/** What is told of a guest's sound and picture: hums, echoes and light that are known, and none where there is none. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { diceFrom } from '#tests/support/dice';
import { echoOf, humOf, lightOf } from './checks';

const HERTZ = 48_000 / 16_384;

/** A spectrum with a floor that wavers, and tones at some levels. */
function spectrum(floor: number, tones: readonly (readonly [hz: number, db: number])[], seed = 5): number[] {
  const dice = diceFrom(seed);
  const bins = Array.from({ length: 600 }, () => floor + (dice() - 0.5) * 8);
  for (const [hz, db] of tones) bins[Math.round(hz / HERTZ)] = db;
  return bins;
}

describe('a hum', () => {
  it('is told with its mains, by several harmonics at once', () => {
    for (const mains of [50, 60]) {
      const tones = [1, 2, 3, 4].map((n) => [mains * n, -55 - n * 2] as const);
      expect(humOf(spectrum(-90, tones), HERTZ)).toBe(mains);
    }
  });

  it('is none of a voice, of one tone, of noise, or of silence', () => {
    expect(
      humOf(
        spectrum(-90, [
          [100, -30],
          [200, -34],
          [300, -40],
          [400, -44],
        ]),
        HERTZ,
      ),
    ).toBeNull();
    expect(humOf(spectrum(-90, [[50, -40]]), HERTZ)).toBeNull();
    expect(humOf(new Array(600).fill(-Infinity), HERTZ)).toBeNull();
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1e6 }),
        fc.integer({ min: -120, max: -20 }),
        (seed, floor) => void expect(humOf(spectrum(floor, [], seed), HERTZ)).toBeNull(),
      ),
    );
  });
});

describe('an echo', () => {
  const talk = (seed: number) => {
    const dice = diceFrom(seed);
    let level = -40;
    return Array.from({ length: 200 }, () => (level = dice() < 0.25 ? -60 + dice() * 45 : level));
  };

  it('is told with its delay, whatever is lost on the way', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1e6 }),
        fc.integer({ min: 3, max: 25 }),
        fc.integer({ min: -20, max: 0 }),
        (seed, lag, lost) => {
          const sent = talk(seed);
          const back = sent.map((_, i) => (sent[i - lag] ?? -60) + lost);
          expect(echoOf(sent, back, 2, 25)).toBe(lag);
        },
      ),
    );
  });

  it('is none of somebody who says something else, nor of silence', () => {
    let taken = 0;
    for (let seed = 1; seed <= 200; seed += 1) if (echoOf(talk(seed), talk(seed + 5000), 2, 25) !== null) taken += 1;
    expect(taken).toBe(0);
    expect(echoOf(talk(1), new Array(200).fill(-60), 2, 25)).toBeNull();
    expect(echoOf([], [], 2, 25)).toBeNull();
  });
});

it('tells light that is too little or too much', () => {
  expect(lightOf([])).toBe('');
  expect(lightOf(new Array(100).fill(20))).toBe('dark');
  expect(lightOf(new Array(100).fill(120))).toBe('');
  expect(lightOf(new Array(100).fill(240))).toBe('bright');
  expect(lightOf([...(new Array(60).fill(60) as number[]), ...(new Array(40).fill(255) as number[])])).toBe('bright');
});
