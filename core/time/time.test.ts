import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ArithmeticError, evaluate } from './arithmetic';
import { formatBytes, formatDuration, formatTimeLeft, parseLength } from './duration';
import { COMMON_RATES, frameToMicros, microsToFrame, type Rate, secondsToFrames } from './rate';
import { formatTimecode, parseTimecode, TimecodeError } from './timecode';

const NTSC: Rate = { num: 30000, den: 1001 };
const NTSC60: Rate = { num: 60000, den: 1001 };
const PAL: Rate = { num: 25, den: 1 };
const anyRate = fc.constantFrom(...COMMON_RATES.map((c) => c.rate));

describe('rates', () => {
  it('finds the frame again from its own start, at every rate', () => {
    fc.assert(
      fc.property(anyRate, fc.integer({ min: 0, max: 60 * 86400 * 60 }), (rate, frame) => {
        expect(microsToFrame(frameToMicros(frame, rate), rate)).toBe(frame);
        expect(microsToFrame(frameToMicros(frame + 1, rate) - 1, rate)).toBe(frame);
      }),
    );
  });

  it('knows that 30000 frames of 29.97 last 1001 seconds', () => {
    expect(frameToMicros(30000, NTSC)).toBe(1001e6);
    expect(secondsToFrames(1001, NTSC)).toBe(30000);
  });
});

describe('timecode (SMPTE ST 12-1)', () => {
  it.each([
    [0, '00:00:00;00'],
    [1799, '00:00:59;29'],
    [1800, '00:01:00;02'],
    [17981, '00:09:59;29'],
    [17982, '00:10:00;00'],
    [107892, '01:00:00;00'],
  ])('counts drop-frame: frame %i is %s', (frame, text) => {
    expect(formatTimecode(frame, NTSC)).toBe(text);
    expect(parseTimecode(text, NTSC)).toBe(frame);
  });

  it('leaves out four numbers a minute at 59.94', () => {
    expect(formatTimecode(3600, NTSC60)).toBe('00:01:00;04');
  });

  it('reads back what it writes', () => {
    fc.assert(
      fc.property(anyRate, fc.integer({ min: 0, max: 24 * 86000 }), (rate, frame) => {
        expect(parseTimecode(formatTimecode(frame, rate), rate)).toBe(frame);
      }),
    );
  });

  it.each(['', '1:2', '25:00:00:00', '00:61:00:00', '00:00:00:25', '00:01:00;00'])('refuses %j with a reason', (text) => {
    expect(() => parseTimecode(text, PAL)).toThrow(TimecodeError);
  });

  it('refuses a number that drop-frame leaves out', () => {
    expect(() => parseTimecode('00:01:00;01', NTSC)).toThrow(/leaves out/);
  });
});

describe('durations', () => {
  it('writes them as people read them', () => {
    expect([0, 61, 3661, -5, NaN].map(formatDuration)).toEqual(['0:00', '1:01', '1:01:01', '0:00', '0:00']);
    expect([0, 0.01, 59.2].map(formatTimeLeft)).toEqual(['0:00', '0:01', '1:00']);
    expect([999, 1.5e6, 2.44e9].map(formatBytes)).toEqual(['1 kB', '1.5 MB', '2.4 GB']);
  });

  it('reads typed lengths', () => {
    expect(['25f', '1.5s', '1.5', '0:02', '1:00', 'x', '-1', '1:75'].map((t) => parseLength(t, PAL))).toEqual([
      25,
      38,
      38,
      50,
      1500,
      null,
      null,
      null,
    ]);
  });
});

describe('arithmetic in number fields', () => {
  it.each([
    ['1920/4', 480],
    ['100%-40', 60],
    ['(720-405)/2', 157.5],
    ['-3 + 2*4', 5],
    ['1,5*2', 3],
    ['12 ÷ 4 × 3', 9],
  ])('%s is %d', (text, value) => expect(evaluate(text)).toBe(value));

  it('takes per cent of the whole', () => expect(evaluate('50% + 10', 1280)).toBe(650));

  it.each(['', 'abc', '1/0', '2**3', '(1', '1 2', '9'.repeat(400), '('.repeat(300)])('refuses %j in plain words', (text) => {
    expect(() => evaluate(text)).toThrow(ArithmeticError);
  });

  it('agrees with JavaScript on random sums and products', () => {
    const term = fc.integer({ min: 0, max: 999 });
    fc.assert(
      fc.property(term, term, term, (a, b, c) => {
        expect(evaluate(`${a}+${b}*${c}-${a}`)).toBe(b * c);
        expect(evaluate(`(${a}+${b})*${c}`)).toBe((a + b) * c);
      }),
    );
  });
});
