import { expect, it } from 'vitest';
import { ByteRate } from './byte-rate';

it('measures bits a second over the last seconds only', () => {
  const rate = new ByteRate();
  for (let t = 0; t <= 20; t += 1) rate.add(t < 10 ? 1000 : 5000, t);
  expect(rate.bitrate).toBeCloseTo(40_000, 6);
  expect(new ByteRate().bitrate).toBe(0);
});
