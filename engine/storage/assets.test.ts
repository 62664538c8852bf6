import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { useFakeDisk } from '#tests/support/fake-disk';
import { storeAsset } from './assets';

beforeEach(() => void useFakeDisk());
afterEach(() => vi.unstubAllGlobals());

it('tells how much of a file is kept, from little to all', async () => {
  const told: number[] = [];
  await storeAsset(new Blob(Array.from({ length: 5 }, () => new Uint8Array(1e6))), 'flight.mp4', 'video/mp4', 'flight', (done) =>
    told.push(done),
  );
  expect(told.length).toBeGreaterThan(3);
  expect(told.every((share, i) => share > (told[i - 1] ?? 0))).toBe(true);
  expect(told.at(-1)).toBe(1);
});
