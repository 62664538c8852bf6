/** What the room Replay works out by itself. */
import { describe, expect, it } from 'vitest';
import { behindText } from './words';

const RATE = { num: 25, den: 1 };

describe('times as operators read them', () => {
  it('say how far behind', () => {
    expect([310, 0, 25 * 3725].map((f) => behindText(f, RATE))).toEqual(['−0:12.4', '−0:00.0', '−1:02:05.0']);
  });
});
