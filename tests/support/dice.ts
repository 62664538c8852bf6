/** Random numbers that can be repeated: a stream of 0 to 1. */
export type Dice = () => number;

/** xorshift32 (Marsaglia 2003); `seed` is not 0. */
export function diceFrom(seed: number): Dice {
  let state = seed;
  return () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) / 2 ** 32;
  };
}
