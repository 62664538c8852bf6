/** Clocks: exact across pauses, reload and midnight. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { type Desk } from '../desk/air';
import { clockText, formatClock, readClock } from './clocks';
import { createClock } from './create';
import { createGraphicsAir } from './air';

const RATE = { num: 25, den: 1 };
const NTSC = { num: 30000, den: 1001 };

const withClock = (args: Record<string, unknown> = {}): [Desk, string] => {
  const desk = must(sampleDesk(), 'clock.add', args);
  return [desk, desk.show.graphics.clocks[0]?.id as string];
};
const says = (desk: Desk, frame: number) =>
  readClock(desk.show.graphics.clocks[0] as never, desk.air.graphics, frame, desk.show.rate).seconds;

describe('a clock', () => {
  it('runs by the frame, whatever happened in between: start, pause, seconds more and less, set', () => {
    const [added, clock] = withClock({ seconds: 90 });
    let desk = must(added, 'clock.start', { clock }, 100);
    expect(says(desk, 350)).toBe(80);
    desk = must(desk, 'clock.pause', { clock }, 350);
    expect(says(desk, 9999)).toBe(80);
    desk = must(desk, 'clock.toggle', { clock }, 1000);
    desk = must(desk, 'clock.adjust', { clock, seconds: 5 }, 1010);
    expect(says(desk, 1025)).toBe(84);
    desk = must(desk, 'clock.setTo', { clock, seconds: 10 }, 1025);
    expect(says(desk, 1050)).toBe(9);
    expect(says(must(desk, 'clock.reset', { clock }, 1100), 5000)).toBe(90);
  });

  it('is the same after a reload, as it is data', () => {
    const [added, clock] = withClock({ seconds: 90 });
    const desk = must(added, 'clock.start', { clock }, 7);
    const again = JSON.parse(JSON.stringify(desk)) as Desk;
    fc.assert(fc.property(fc.nat(100_000), (frame) => says(again, frame) === says(desk, frame)));
  });

  it('adds up: pausing anywhere loses and gains no frame', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 500 }), { minLength: 1, maxLength: 12 }), (lengths) => {
        const [added, clock] = withClock({ kind: 'up', seconds: 0 });
        let [desk, frame, ran] = [added, 0, 0];
        lengths.forEach((length, i) => {
          desk = must(desk, 'clock.toggle', { clock }, frame);
          if (i % 2 === 0) ran += length;
          frame += length;
        });
        expect(says(desk, frame)).toBeCloseTo(ran / 25, 9);
      }),
    );
  });

  it('stops, goes on below zero or hides at its end', () => {
    for (const [atEnd, text] of [
      ['stop', '0:00'],
      ['below', '−0:02'],
      ['hide', null],
    ] as const) {
      const [added, clock] = withClock({ seconds: 1 });
      const desk = must(must(added, 'clock.set', { clock, atEnd }), 'clock.start', { clock }, 0);
      const said = clockText(desk.show.graphics.clocks[0], desk.air.graphics, 'm:ss', 10, 75, RATE);
      expect(said?.text ?? null, atEnd).toBe(text);
    }
  });

  it('of the time of day meets a target over midnight, and is neither started nor stopped', () => {
    const clock = createClock('c', 'New year', { kind: 'until', seconds: 10, atEnd: 'below' });
    const at = (seconds: number, frame = 0) =>
      readClock(clock, { ...createGraphicsAir(), day: { frame: 0, millis: seconds * 1000 } }, frame, RATE).seconds;
    expect(at(86_390)).toBe(20);
    expect(at(86_390, 25 * 30)).toBe(-10);
    expect(at(86_399, 25)).toBe(10);
    expect(readClock(clock, createGraphicsAir(), 0, RATE).seconds).toBeNull();
    const [desk, id] = withClock({ kind: 'day' });
    expect(attempt(desk, 'clock.start', { clock: id })).toMatchObject({ ok: false, error: { code: 'always-runs' } });
  });

  it('is written as its format says: up what is left, down what has gone', () => {
    expect(formatClock(89.04, 'm:ss', true, RATE)).toBe('1:30');
    expect(formatClock(89.04, 'm:ss', false, RATE)).toBe('1:29');
    expect(formatClock(0, 'm:ss', true, RATE)).toBe('0:00');
    expect(formatClock(3725.5, 'h:mm:ss', false, RATE)).toBe('1:02:05');
    expect(formatClock(61.24, 'm:ss.t', true, RATE)).toBe('1:01.3');
    expect(formatClock(61.24, 'frames', false, RATE)).toBe('1:01:06');
    expect(formatClock(-0.2, 'm:ss', true, RATE)).toBe('0:00');
    expect(formatClock(15 * 3600 + 20 * 60, 'hh:mm', false, RATE)).toBe('15:20');
  });

  it('never says a second twice as long or short as others, at whole and broken rates', () => {
    for (const rate of [RATE, NTSC]) {
      const changes: number[] = [];
      let last = '';
      for (let frame = 0; frame < 600; frame += 1) {
        const text = formatClock((frame * rate.den) / rate.num, 'm:ss', false, rate);
        if (text !== last) changes.push(frame);
        last = text;
      }
      const lengths = changes.slice(1).map((f, i) => f - (changes[i] as number));
      expect(Math.max(...lengths) - Math.min(...lengths)).toBeLessThanOrEqual(1);
    }
  });
});

describe('at its end', () => {
  it('a clock shows its words, from the very frame on', () => {
    const clock = createClock('c', 'Start', { seconds: 10, atEnd: 'show', endWords: 'Now' });
    const air = { ...createGraphicsAir(), clocks: { c: { value: 0, start: 0 } } };
    const text = (frame: number) => clockText(clock, air, 'm:ss', 5, frame, RATE)?.text;
    expect([text(249), text(250), text(9999)]).toEqual(['0:01', 'Now', 'Now']);
    expect(clockText({ ...clock, endWords: '' }, air, 'm:ss', 5, 300, RATE)).toBeNull();
  });
});
