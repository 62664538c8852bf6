/** What works on blocks of samples, against the plainest way to do the same. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { diceFrom } from '#tests/support/dice';
import { Limiter } from '../limiter';
import { DelayLine } from './delay-line';
import { ANYWHERE, HowlWatch, IN_LOOP } from './howl';
import { add, scale } from './ramp';
import { BLOCK } from './stereo';

const RATE = 48_000;
const noise = (seed: number, length: number, amplitude = 1) => {
  const dice = diceFrom(seed);
  return Float32Array.from({ length }, () => (dice() * 2 - 1) * amplitude);
};
const seeds = fc.integer({ min: 1, max: 2 ** 31 - 1 });
const gains = fc.oneof(fc.constantFrom(0, 1), fc.double({ min: -2, max: 2, noNaN: true }));

describe('gains over a block', () => {
  it('scale and add sample by sample, also in place, and leave what lies behind alone', () => {
    fc.assert(
      fc.property(seeds, gains, gains, fc.boolean(), fc.integer({ min: 0, max: BLOCK }), (seed, start, end, steady, count) => {
        const last = steady ? start : end;
        const at = (i: number) => (start === last ? start : start + ((last - start) / count) * (i + 1));
        const [from, to] = [noise(seed, BLOCK), noise(seed + 1, BLOCK)];
        const [scaled, added, inPlace] = [to.slice(), to.slice(), from.slice()];
        scale(from, scaled, count, start, last);
        scale(inPlace, inPlace, count, start, last);
        add(from, added, count, start, last);
        for (let i = 0; i < BLOCK; i += 1) {
          const [f, t] = [from[i] as number, to[i] as number];
          expect(scaled[i]).toBeCloseTo(i < count ? f * at(i) : t, 5);
          expect(inPlace[i]).toBeCloseTo(i < count ? f * at(i) : f, 5);
          expect(added[i]).toBeCloseTo(i < count ? t + f * at(i) : t, 5);
        }
      }),
      { numRuns: 120 },
    );
  });
});

describe('a delay line', () => {
  it('gives what was written so many samples before, at every place it is read, and when it grows', () => {
    fc.assert(
      fc.property(
        seeds,
        fc.array(fc.tuple(fc.integer({ min: 1, max: BLOCK }), fc.integer({ min: 0, max: 3000 })), { minLength: 1, maxLength: 40 }),
        (seed, blocks) => {
          const line = new DelayLine();
          const written: number[] = [];
          const signal = noise(seed, blocks.length * BLOCK);
          let longest = 0;
          for (const [count, delay] of blocks) {
            longest = Math.max(longest, delay);
            line.fit(longest);
            const block = signal.subarray(written.length, written.length + count);
            line.write(block, block, count);
            written.push(...block);
            for (const read of [delay, Math.floor(delay / 2), 0]) {
              const [left, right] = [new Float32Array(BLOCK), new Float32Array(BLOCK)];
              line.read(read, left, right, count);
              for (let i = 0; i < count; i += 1) {
                const want = written[written.length - count + i - read] ?? 0;
                expect([left[i], right[i]]).toEqual([want, want]);
              }
            }
          }
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('a limiter that has nothing to do', () => {
  const LOOKAHEAD = 240;
  const run = (limiter: Limiter, signal: Float32Array) => {
    const out = new Float32Array(signal.length);
    for (let i = 0; i < signal.length; i += BLOCK)
      limiter.process([signal.subarray(i, i + BLOCK)], [out.subarray(i, i + BLOCK)], Math.min(BLOCK, signal.length - i));
    return out;
  };

  it('hands sound on to the very bit, late by its look-ahead', () => {
    const signal = noise(5, BLOCK * 20, 0.5);
    const out = run(new Limiter(0.9, LOOKAHEAD, 1, RATE), signal);
    expect(out.subarray(LOOKAHEAD)).toEqual(signal.subarray(0, signal.length - LOOKAHEAD));
  });

  it('turns a peak down that comes after it, without a jump where it wakes', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: BLOCK * 10 }), (place) => {
        const signal = new Float32Array(BLOCK * 20).fill(0.5);
        signal[place] = 2;
        const out = run(new Limiter(0.9, LOOKAHEAD, 1, RATE), signal);
        expect(Math.max(...out)).toBeLessThanOrEqual(Math.fround(0.9));
        for (let i = LOOKAHEAD + 1; i < out.length; i += 1) {
          if (i - LOOKAHEAD === place || i - LOOKAHEAD - 1 === place) continue;
          expect(Math.abs((out[i] as number) - (out[i - 1] as number))).toBeLessThan(0.004);
        }
      }),
      { numRuns: 20 },
    );
  });

  it('comes to rest some seconds after it worked, and is exact again', () => {
    const limiter = new Limiter(0.5, LOOKAHEAD, 1, RATE);
    run(limiter, noise(9, BLOCK * 10, 1));
    expect(limiter.gain).toBeLessThan(0.9);
    run(limiter, new Float32Array(BLOCK * 1500));
    expect(limiter.gain).toBe(1);
    const signal = noise(11, BLOCK * 8, 0.4);
    expect(run(limiter, signal).subarray(LOOKAHEAD)).toEqual(signal.subarray(0, signal.length - LOOKAHEAD));
  });

  it('makes silence of what is no number', () => {
    const signal = new Float32Array(BLOCK * 4).fill(0.1);
    signal[10] = Number.NaN;
    signal[200] = Infinity;
    for (const value of run(new Limiter(0.9, LOOKAHEAD, 1, RATE), signal)) expect(Number.isFinite(value)).toBe(true);
  });
});

describe('the watch for howls', () => {
  const sine = Float32Array.from({ length: RATE }, (_, i) => 0.7 * Math.sin((2 * Math.PI * 1000 * i) / RATE));
  /** Seconds until it is certain; null when it never is. */
  const caught = (signal: Float32Array, gain: (second: number) => number, limits: typeof IN_LOOP) => {
    const watch = new HowlWatch(RATE);
    for (let i = 0; i + BLOCK <= signal.length; i += BLOCK) {
      const block = signal.subarray(i, i + BLOCK);
      const hz = watch.process(block, block, BLOCK, gain(i / RATE), limits);
      if (hz !== null) return { at: (i + BLOCK) / RATE, hz };
    }
    return null;
  };

  it('is sure of a tone that pushes the limiter, within the time that is granted', () => {
    expect(caught(sine, () => 0.5, IN_LOOP)?.at).toBeLessThan(0.25);
    const anywhere = caught(sine, () => 0.5, ANYWHERE);
    expect(anywhere?.at).toBeGreaterThan(0.28);
    expect(Math.abs((anywhere?.hz ?? 0) - 1000)).toBeLessThan(20);
  });

  it('leaves alone what leaves the limiter alone, and counts from when it no longer does', () => {
    expect(caught(sine, () => 1, IN_LOOP)).toBeNull();
    const late = caught(sine, (second) => (second < 0.5 ? 1 : 0.5), IN_LOOP);
    expect(late?.at).toBeGreaterThan(0.68);
    expect(late?.at).toBeLessThan(0.76);
  });
});
