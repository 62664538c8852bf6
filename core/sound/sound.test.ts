import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must, sampleDesk } from '#tests/support/sample-show';
import { dbToGain, faderGain, gainToDb } from './level';
import { Limiter } from './limiter';
import { advanceMeter, restingMeter } from './meter';
import { planSound } from './plan';

describe('levels', () => {
  it('goes from dB to factor and back', () => {
    expect(dbToGain(-20)).toBeCloseTo(0.1, 12);
    fc.assert(
      fc.property(fc.double({ min: -59, max: 12, noNaN: true }), (db) => {
        expect(gainToDb(dbToGain(db))).toBeCloseTo(db, 9);
      }),
    );
    expect(faderGain(-60)).toBe(0);
  });
});

describe('the sound plan', () => {
  it('hears only what is on air when sound follows picture, with equal power on the way', () => {
    const desk = must(sampleDesk(), 'picture.take', {}, 0);
    const { channels } = planSound(desk.show, desk.air, 10);
    expect(channels.a).toBeCloseTo(Math.SQRT1_2, 9);
    expect(channels.b).toBeCloseTo(Math.SQRT1_2, 9);
    expect(channels.c).toBe(0);
    expect(planSound(desk.show, desk.air, 20).channels).toMatchObject({ a: 0, b: 1 });
  });

  it('keeps a source open that does not follow, and none that is muted', () => {
    let desk = must(sampleDesk(), 'sound.follow', { channel: 'c', on: false });
    expect(planSound(desk.show, desk.air, 0).channels.c).toBe(1);
    desk = must(desk, 'sound.mute', { channel: 'c' });
    expect(planSound(desk.show, desk.air, 0).channels.c).toBe(0);
  });

  it('takes the programme down with the picture to black', () => {
    let desk = must(sampleDesk(), 'picture.setBlackLength', { frames: 10 });
    desk = must(desk, 'picture.fadeToBlack', {}, 0);
    expect([0, 5, 10].map((f) => planSound(desk.show, desk.air, f).buses.programme)).toEqual([1, 0.5, 0]);
  });

  it('is silent for a clip that stands', () => {
    let desk = must(sampleDesk(), 'picture.cut', { picture: 'clip' }, 0);
    expect(planSound(desk.show, desk.air, 10).channels.clip).toBe(1);
    desk = must(desk, 'media.pause', { source: 'clip' }, 10);
    expect(planSound(desk.show, desk.air, 11).channels.clip).toBe(0);
  });
});

describe('the limiter', () => {
  const run = (signal: number[], ceiling: number, lookahead = 32, block = 16) => {
    const limiter = new Limiter(ceiling, lookahead, 1, 48_000);
    const out: number[] = [];
    for (let at = 0; at < signal.length; at += block) {
      const input = Float32Array.from({ length: block }, (_, i) => signal[at + i] ?? 0);
      const output = new Float32Array(block);
      limiter.process([input], [output], block);
      out.push(...output);
    }
    return { out, limiter };
  };

  it('never lets a sample above the ceiling, whatever comes', () => {
    const sample = fc.oneof(fc.double({ min: -20, max: 20, noNaN: true }), fc.constantFrom(0, 1, -1, NaN, Infinity, -1e30));
    fc.assert(
      fc.property(fc.array(sample, { minLength: 1, maxLength: 400 }), fc.double({ min: 0.05, max: 1, noNaN: true }), (signal, ceiling) => {
        for (const value of run(signal, ceiling).out) expect(Math.abs(value)).toBeLessThanOrEqual(Math.fround(ceiling) + 1e-6);
      }),
    );
  });

  it('leaves what is below the ceiling as it is, only later', () => {
    const signal = Array.from({ length: 320 }, (_, i) => Math.fround(0.5 * Math.sin(i / 5)));
    const { out } = run(signal, 0.9);
    for (let i = 32; i < 320; i += 1) expect(out[i]).toBeCloseTo(signal[i - 32] as number, 5);
  });

  it('has turned down before the peak comes, without a step', () => {
    const signal = Array.from({ length: 640 }, (_, i) => (i < 320 ? 0.5 : 2) * (i % 2 ? 1 : -1));
    const { out } = run(signal, 1);
    const gains = out.slice(33, 352 + 60).map((v, i) => Math.abs(v) / Math.abs(signal[i + 1] as number));
    for (let i = 1; i < gains.length; i += 1) expect(Math.abs((gains[i] as number) - (gains[i - 1] as number))).toBeLessThan(0.05);
    expect(Math.abs(out[400] as number)).toBeLessThanOrEqual(1 + 1e-6);
  });

  it('lets go again after the peak', () => {
    const { limiter } = run([...Array<number>(64).fill(4), ...Array<number>(48_000).fill(0)], 1);
    expect(limiter.gain).toBeGreaterThan(0.99);
  });
});

describe('the meter', () => {
  it('rises at once, falls 20 dB in 1.7 s, holds the peak for 1.5 s', () => {
    let m = advanceMeter(restingMeter(), -6, 10);
    expect([m.level, m.peak]).toEqual([-6, -6]);
    m = advanceMeter(m, -60, 11.4);
    expect(m.level).toBeCloseTo(-6 - (20 / 1.7) * 1.4, 6);
    expect(m.peak).toBe(-6);
    m = advanceMeter(m, -60, 11.7);
    expect(m.level).toBeCloseTo(-26, 6);
    expect(m.peak).toBeLessThan(-20);
  });

  it('takes silence for the floor', () => expect(advanceMeter(restingMeter(), -Infinity, 1).level).toBe(-60));
});
