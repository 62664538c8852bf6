import { describe, expect, it } from 'vitest';
import { KeepLast } from './keep-last';

describe('results for the last inputs', () => {
  it('are worked out once, and again only for inputs that were forgotten', () => {
    const kept = new KeepLast<number>(2);
    let made = 0;
    const make = () => (made += 1);
    const [a, b, c] = [{}, {}, {}];
    expect([kept.get([a], make), kept.get([b], make), kept.get([a], make)]).toEqual([1, 2, 1]);
    // c pushes out b, which was asked for longest ago.
    expect([kept.get([c], make), kept.get([a], make), kept.get([b], make)]).toEqual([3, 1, 4]);
  });

  it('are for the very same inputs, all of them', () => {
    const kept = new KeepLast<string>();
    const [a, b] = [{}, {}];
    expect([kept.get([a, a], () => 'aa'), kept.get([a, b], () => 'ab'), kept.get([a, a], () => 'none')]).toEqual(['aa', 'ab', 'aa']);
  });
});
