import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must, sampleDesk } from '#tests/support/sample-show';
import { microsToFrame, type Rate } from '../time/rate';
import { resumedAir, resumeMicros } from './resume';

const rates: Rate[] = [
  { num: 25, den: 1 },
  { num: 30_000, den: 1001 },
  { num: 60, den: 1 },
];

describe('the moment at which a show goes on', () => {
  it('is never behind what was saved, nor behind the time that has passed, and never goes back', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...rates),
        fc.nat(10 ** 8),
        fc.integer({ min: -(10 ** 9), max: 10 ** 9 }),
        fc.nat(10 ** 9),
        (rate, saved, passed, later) => {
          const epoch = 1_700_000_000_000;
          const micros = resumeMicros(epoch, saved, epoch + passed, rate);
          expect(micros).toBeGreaterThanOrEqual(passed * 1000);
          expect(microsToFrame(micros, rate)).toBeGreaterThan(saved);
          expect(resumeMicros(epoch, saved, epoch + passed + later, rate)).toBeGreaterThanOrEqual(micros);
        },
      ),
    );
  });
});

describe('the air that a show goes on with', () => {
  it('has what was on air, and nothing that ended with the window', () => {
    const left = must(must(must(sampleDesk(), 'picture.cut', {}, 10), 'output.startRecording'), 'output.startStream');
    const air = resumedAir(left.show, { ...left.air, lost: { a: 'unplugged' } });
    expect(air).toMatchObject({ onAirId: 'b', nextId: 'a', recording: null, stream: null, lost: {} });
    expect(air.sound).toMatchObject({ talkback: null, lostDevices: {} });
    // The stored air is not touched, and going on twice is going on once.
    expect(left.air.recording).not.toBeNull();
    expect(resumedAir(left.show, air)).toEqual(air);
  });
});
