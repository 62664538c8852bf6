import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must, replayDesk } from '#tests/support/sample-show';
import { budgetState, mergeSpans, protectedSpans, toDrop } from './retention';
import { gapsOf, lastAtOrBefore, missingOf, runsOf, type Segment, segmentAt } from './timeline';

const SECOND = 1e6;

/** Segments of a track one after another, with gaps of some seconds between. */
const anyTrack = (trackId: string) =>
  fc
    .array(
      fc.record({
        gap: fc.constantFrom(0, 0, 0, 2, 30),
        seconds: fc.integer({ min: 1, max: 10 }),
        bytes: fc.integer({ min: 1, max: 4e6 }),
      }),
      { maxLength: 25 },
    )
    .map((parts) => {
      let at = 0;
      return parts.map(({ gap, seconds, bytes }, i): Segment => {
        const from = at + gap * SECOND;
        at = from + seconds * SECOND;
        return { id: `${trackId}-${i}`, trackId, from, to: at, bytes, frames: seconds * 25 };
      });
    });

describe('the timeline', () => {
  it('finds the segment of a time as a search through all of them does', () => {
    fc.assert(
      fc.property(anyTrack('a'), fc.integer({ min: 0, max: 400 * SECOND }), (segments, time) => {
        const found = segmentAt(segments, time);
        const slow = segments.filter((s) => s.from <= time && time < s.to).at(-1);
        if (slow) expect(found).toBe(slow);
        else if (found) expect(time - found.to).toBeLessThan(150_000);
      }),
    );
  });

  it('finds the last at or before, the first of all numbers as well as the last', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 100 })), fc.integer({ min: -5, max: 105 }), (list, time) => {
        const sorted = [...list].sort((a, b) => a - b);
        expect(lastAtOrBefore(sorted, time, (n) => n)).toBe(sorted.findLastIndex((n) => n <= time));
      }),
    );
  });

  it('shows runs and gaps that fill a window between them', () => {
    fc.assert(
      fc.property(anyTrack('a'), (segments) => {
        const runs = runsOf(segments);
        const window = { from: 0, to: 500 * SECOND };
        const gaps = gapsOf(runs, window);
        const length = (list: { from: number; to: number }[]) => list.reduce((sum, r) => sum + r.to - r.from, 0);
        expect(length(runs) + length(gaps)).toBe(window.to);
        for (const gap of gaps) expect(runs.some((r) => r.from < gap.to && r.to > gap.from)).toBe(false);
      }),
    );
  });

  it('misses what was recorded and is not held, and nothing that never was', () => {
    fc.assert(
      fc.property(
        anyTrack('a'),
        fc.nat(24),
        fc.integer({ min: 0, max: 300 }),
        fc.integer({ min: 1, max: 60 }),
        (segments, lost, at, length) => {
          const told = runsOf(segments);
          const window = { from: at * SECOND, to: (at + length) * SECOND };
          expect(missingOf(told, told, window)).toEqual([]);
          const gone = segments[lost];
          const missing = missingOf(told, runsOf(segments.filter((s) => s !== gone)), window);
          const expected = gone && { from: Math.max(gone.from, window.from), to: Math.min(gone.to, window.to) };
          expect(missing).toEqual(expected && expected.to > expected.from ? [expected] : []);
        },
      ),
    );
  });
});

describe('retention', () => {
  const spans = fc
    .array(fc.record({ from: fc.integer({ min: 0, max: 200 }), length: fc.integer({ min: 1, max: 20 }) }), { maxLength: 8 })
    .map((list) => mergeSpans(list.map(({ from, length }) => ({ from: from * SECOND, to: (from + length) * SECOND }))));

  it('never drops what a clip uses, and drops no more than the budget asks', () => {
    fc.assert(
      fc.property(anyTrack('a'), anyTrack('b'), spans, fc.integer({ min: 1, max: 60 }), (a, b, kept, megabytes) => {
        const all = [...a, ...b];
        const budget = { kind: 'gigabytes' as const, value: megabytes / 1000 };
        const dropped = toDrop(all, kept, budget, 0);
        const overlaps = (s: Segment) => kept.some((k) => k.from < s.to && k.to > s.from);
        expect(dropped.filter(overlaps)).toEqual([]);
        const bytes = (list: Segment[]) => list.reduce((sum, s) => sum + s.bytes, 0);
        const rest = all.filter((s) => !dropped.includes(s));
        // Either it fits now, or everything that is left is used.
        expect(bytes(rest) <= megabytes * 1e6 || rest.every(overlaps)).toBe(true);
        // The last one dropped was needed, and nothing older that could go was spared.
        const last = dropped.at(-1);
        if (last) {
          expect(bytes(rest) + last.bytes).toBeGreaterThan(megabytes * 1e6);
          expect(rest.filter((s) => s.to < last.to && !overlaps(s))).toEqual([]);
        }
      }),
    );
  });

  it('by hours drops what is older, but for clips', () => {
    const segment = (from: number): Segment => ({
      id: String(from),
      trackId: 'a',
      from: from * 3600e6,
      to: (from + 0.1) * 3600e6,
      bytes: 1,
      frames: 1,
    });
    const dropped = toDrop([0, 1, 2, 3].map(segment), [{ from: 0, to: 60e6 }], { kind: 'hours', value: 1.5 }, 3.2 * 3600e6);
    expect(dropped.map((s) => s.id)).toEqual(['1']);
  });

  it('protects clips, play-outs, look-back and what the decks stand on', () => {
    let desk = must(replayDesk(), 'clip.grab', { deck: 1, seconds: 4 }, 500);
    expect(protectedSpans(desk.show, desk.air, 500)).toEqual([{ from: 16 * SECOND, to: 20 * SECOND }]);
    desk = must(desk, 'deck.goTo', { deck: 2, frame: 2500 }, 9000);
    desk = must(desk, 'mark.in', { deck: 1, frame: 6000 }, 9000);
    expect(protectedSpans(desk.show, desk.air, 9000)).toEqual([
      { from: 16 * SECOND, to: 20 * SECOND },
      { from: 80 * SECOND, to: 120 * SECOND },
      { from: 240 * SECOND, to: 260 * SECOND },
    ]);
  });

  it('says how long the budget lasts at the measured rate', () => {
    const segments: Segment[] = [{ id: 'x', trackId: 'a', from: 0, to: SECOND, bytes: 400e6, frames: 25 }];
    expect(budgetState(segments, { kind: 'gigabytes', value: 1 }, 1e6)).toMatchObject({
      usedBytes: 400e6,
      limitBytes: 1e9,
      secondsLeft: 600,
      overfull: false,
    });
    expect(budgetState(segments, { kind: 'gigabytes', value: 0.2 }, 1e6).overfull).toBe(true);
    expect(budgetState(segments, { kind: 'hours', value: 1 }, 1e6)).toMatchObject({ limitBytes: 3600e6, secondsLeft: 3200 });
  });
});
