import { describe, expect, it } from 'vitest';
import { causeOf } from './cause';

describe('why something failed, for people', () => {
  it('is what an error says, but for what only the makers of a library understand', () => {
    expect(causeOf(new Error('the disk is full'))).toBe('the disk is full');
    expect(causeOf('away')).toBe('away');
    for (const text of [
      'Assertion failed.',
      'Internal error, please report this',
      'undefined is not a function',
      "Cannot read properties of undefined (reading 'x')",
      'Maximum call stack size exceeded',
      '',
    ]) {
      expect(causeOf(new Error(text))).toBe('something in it failed that should not');
    }
  });
});
