/** Timecodes as they are spoken, and lengths as they are read. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatLength, parseSpoken } from './spoken';
import { formatTimecode, parseTimecode, TimecodeError } from './timecode';

const PAL = { num: 25, den: 1 };
const NTSC = { num: 30000, den: 1001 };
const at = (code: string) => parseTimecode(code, PAL);
const from = at('11:20:33:07');
const spoken = (text: string) => formatTimecode(parseSpoken(text, from, PAL), PAL);

describe('timecodes as they are spoken', () => {
  it.each([
    ['115410', '11:54:10:00'],
    ['11541012', '11:54:10:12'],
    ['54:00', '11:54:00:00'],
    ['5400', '11:54:00:00'],
    ['11.54.10', '11:54:10:00'],
    ['11 54 10', '11:54:10:00'],
    ['11:54:10:12', '11:54:10:12'],
    ['9.5.1', '09:05:01:00'],
    ['91501', '09:15:01:00'],
    ['10', '11:20:10:00'],
    ['+10', '11:20:33:17'],
    ['-10', '11:20:32:22'],
    ['−1s', '11:20:32:07'],
    ['+1:30', '11:22:03:07'],
  ])('%s is %s', (text, code) => expect(spoken(text)).toBe(code));

  it('say what can be written when they are none', () => {
    for (const text of ['', 'half past', '1:2:3:4:5', '99:99', '24:00:00', '1234567890', '::', '+', 'constructor'])
      expect(() => parseSpoken(text, from, PAL), text).toThrow(TimecodeError);
  });

  it('in full are what they always were, at rates that drop frames too', () => {
    for (const rate of [PAL, NTSC])
      fc.assert(
        fc.property(fc.integer({ min: 0, max: 2_000_000 }), fc.integer({ min: 0, max: 2_000_000 }), (frame, other) => {
          expect(parseSpoken(formatTimecode(frame, rate), other, rate)).toBe(frame);
          expect(parseSpoken('+7', frame, rate)).toBe(frame + 7);
        }),
      );
    // The minute that has no frame 00.
    expect(formatTimecode(parseSpoken('00:01:00', 0, NTSC), NTSC)).toBe('00:01:00;02');
  });
});

it('lengths show frames unlike seconds', () => {
  expect([100, 0.5, 25 * 61 + 3, 25 * 3661].map((f) => formatLength(f, PAL))).toEqual(['0:04 00f', '0:00 01f', '1:01 03f', '1:01:01 00f']);
});
