import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FIRST_PICTURE_STEP, STEPS, workingFormat } from './capability';
import { FIRST_PACE, govern, type LoadSample, type Pace } from './governor';

const GOOD: LoadSample = { frames: 25, late: 0, dropped: 0, cost: 0.3, recording: false };
const BAD: LoadSample = { ...GOOD, late: 8, dropped: 1 };

const seconds = (from: Pace, sample: LoadSample, count: number): Pace =>
  Array.from({ length: count }).reduce<Pace>((pace) => govern(pace, sample), from);

describe('the working format', () => {
  it('is the show’s own raster and rate, without a word, until something must give', () => {
    expect(workingFormat({ width: 1920, height: 1080 }, 50, 0, '')).toMatchObject({
      raster: { width: 1920, height: 1080 },
      frameStep: 1,
      notice: '',
    });
  });

  it('gives up monitors first, then Next, then size, then rate; keeps the proportions, and says what and why', () => {
    const all = STEPS.map((_, step) =>
      workingFormat({ width: 1920, height: 1080 }, 50, step, 'This machine was late with 12 % of its frames'),
    );
    all.forEach((format, i) => {
      const before = all[i - 1] ?? format;
      expect(format.raster.width / format.raster.height).toBeCloseTo(16 / 9, 1);
      expect(format.raster.width * format.raster.height).toBeLessThanOrEqual(before.raster.width * before.raster.height);
      expect(i < FIRST_PICTURE_STEP).toBe(format.raster.width === 1920 && format.frameStep === 1);
      if (i > 0) expect(format.notice).toMatch(/^This machine was late with 12 % of its frames: working with /);
    });
    expect(all.at(-1)?.notice).toContain('480×270, 25 frames a second');
    // Nothing gets too small to be seen.
    expect(workingFormat({ width: 160, height: 90 }, 10, 5, 'x').raster).toEqual({ width: 160, height: 90 });
  });
});

describe('the governor', () => {
  it('leaves a machine alone that keeps up, and one bad second too', () => {
    expect(seconds(FIRST_PACE, GOOD, 1000).step).toBe(0);
    expect(govern(seconds(FIRST_PACE, GOOD, 5), BAD).step).toBe(0);
  });

  it('steps down while frames are late, one step at a time, and up again when it is quiet', () => {
    const down = seconds(FIRST_PACE, BAD, 4);
    expect([down.step, down.reason]).toEqual([1, 'This machine was late with 35 % of its frames']);
    expect(seconds(FIRST_PACE, BAD, 100).step).toBe(STEPS.length - 1);
    const up = seconds(down, GOOD, 20);
    expect([up.step, up.reason]).toEqual([0, '']);
  });

  it('never changes the raster of a recording, in either direction', () => {
    expect(seconds(FIRST_PACE, { ...BAD, recording: true }, 500).step).toBe(FIRST_PICTURE_STEP - 1);
    const small = seconds(FIRST_PACE, BAD, 100);
    expect(seconds(small, { ...GOOD, cost: 0.01, recording: true }, 500).step).toBe(small.step);
  });

  it('does not make pictures smaller where that would not help, nor larger where they would not fit', () => {
    expect(seconds(FIRST_PACE, { ...BAD, cost: 0.1 }, 500).step).toBe(FIRST_PICTURE_STEP - 1);
    const half = { ...FIRST_PACE, step: FIRST_PICTURE_STEP + 1, reason: 'x' };
    expect(seconds(half, { ...GOOD, cost: 0.5 }, 500).step).toBe(half.step);
    expect(seconds(half, { ...GOOD, cost: 0.2 }, 40).step).toBeLessThan(half.step);
  });

  it('waits longer after each step up that did not hold, so that it does not go to and fro', () => {
    let pace = FIRST_PACE;
    let ups = 0;
    for (let s = 0; s < 3600; s += 1) {
      const before = pace.step;
      pace = govern(pace, pace.step === 0 ? BAD : GOOD);
      if (pace.step < before) ups += 1;
    }
    expect(ups).toBeLessThan(25);
  });

  it('stays among its steps whatever is measured', () => {
    const sample = fc.record({
      frames: fc.nat(60),
      late: fc.nat(60),
      dropped: fc.nat(60),
      cost: fc.double({ min: 0, max: 5, noNaN: true }),
      recording: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(sample, { maxLength: 200 }), (samples) => {
        let pace = FIRST_PACE;
        for (const s of samples) {
          const next = govern(pace, s);
          expect(Math.abs(next.step - pace.step)).toBeLessThanOrEqual(1);
          expect(STEPS[next.step]).toBeDefined();
          expect(next.reason === '').toBe(next.step === 0);
          const changes =
            STEPS[next.step]?.scale !== STEPS[pace.step]?.scale || STEPS[next.step]?.frameStep !== STEPS[pace.step]?.frameStep;
          expect(changes && s.recording).toBe(false);
          pace = next;
        }
      }),
    );
  });
});
