/** A short run of `npm run fuzz`. */
import { describe, expect, it } from 'vitest';
import { KINDS } from './kinds';
import { fuzzMedia } from './media';
import { fuzz } from './run';

/** Inputs of each kind, and the seconds that they may take. */
const COUNT = 300;
const MS = 8000;

describe('damaged inputs', () => {
  it.each(Object.keys(KINDS))('of the kind %s: none is taken in silence, none is not caught, none holds anything up', async (name) => {
    const { ran, faults } = await fuzz(name, 11, COUNT, MS);
    expect(faults).toEqual([]);
    expect(ran).toBeGreaterThan(20);
  });

  it('of media files hold no reader up', async () => {
    const { ran, hung } = await fuzzMedia(11, COUNT, MS);
    expect(hung).toEqual([]);
    expect(ran).toBeGreaterThan(20);
  });
});
