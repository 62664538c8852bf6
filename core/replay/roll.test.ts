import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Roll, type RollItem } from './air';
import { itemFrames, overlap, rollPlace, runningFrames, totalFrames } from './roll';

const anyItem = fc
  .record({ in: fc.integer({ min: 0, max: 5000 }), span: fc.integer({ min: 1, max: 400 }), speed: fc.integer({ min: 1, max: 200 }) })
  .map(({ in: from, span, speed }): RollItem => ({ clipId: 'c', name: 'Clip', angleId: 'a', in: from, out: from + span, speed }));
const anyRoll = fc
  .record({ items: fc.array(anyItem, { minLength: 1, maxLength: 6 }), joinFrames: fc.integer({ min: 0, max: 40 }) })
  .map(({ items, joinFrames }): Roll => ({ items, index: 0, joinFrames, after: 'hold', runOn: 0 }));
const start = (roll: Roll) => (roll.items[0] as RollItem).in;

describe('running times', () => {
  it('are those that a stopwatch shows', () => {
    expect(runningFrames(100, 100)).toBe(100);
    expect(runningFrames(100, 50)).toBe(200);
    expect(runningFrames(100, 200)).toBe(50);
    expect(runningFrames(1, 33)).toBe(4);
    const item = (from: number, out: number, speed: number): RollItem => ({ clipId: 'c', name: '', angleId: 'a', in: from, out, speed });
    expect(totalFrames([item(0, 100, 100), item(0, 50, 50)], 0)).toBe(200);
    expect(totalFrames([item(0, 100, 100), item(0, 50, 50)], 12)).toBe(188);
    // A dissolve is never longer than half of the shorter piece.
    expect(overlap(item(0, 10, 100), item(0, 500, 100), 40)).toBe(5);
  });

  it('fall by one frame with every frame, and end at zero on the last', () => {
    fc.assert(
      fc.property(anyRoll, (roll) => {
        const total = totalFrames(roll.items, roll.joinFrames);
        for (let at = 0; at <= total + 3; at += Math.max(1, Math.floor(total / 200))) {
          const { left, ended } = rollPlace(roll, start(roll), at);
          expect(left).toBeCloseTo(Math.max(0, total - at), 6);
          expect(ended).toBe(at >= total);
        }
        expect(rollPlace(roll, start(roll), total).left).toBe(0);
        expect(rollPlace(roll, start(roll), total - 1).left).toBeCloseTo(1, 6);
      }),
      { numRuns: 90 },
    );
  });
});

describe('a play-out', () => {
  it('shows only what lies in its clips, every clip in its turn', () => {
    fc.assert(
      fc.property(anyRoll, (roll) => {
        const total = totalFrames(roll.items, roll.joinFrames);
        const seen: number[] = [];
        for (let at = 0; at < total; at += 1) {
          const { index, position, incoming } = rollPlace(roll, start(roll), at);
          const item = roll.items[index] as RollItem;
          expect(position).toBeGreaterThanOrEqual(item.in);
          expect(position).toBeLessThan(item.out);
          if (seen.at(-1) !== index) seen.push(index);
          if (!incoming) continue;
          const next = roll.items[incoming.index] as RollItem;
          expect(incoming.position).toBeGreaterThanOrEqual(next.in);
          expect(incoming.position).toBeLessThan(next.out);
          expect(incoming.share).toBeGreaterThanOrEqual(0);
          expect(incoming.share).toBeLessThan(1);
        }
        expect(seen).toEqual(roll.items.map((_, i) => i));
      }),
      { numRuns: 30 },
    );
  });

  it('goes on where it was, from whatever place it is anchored anew', () => {
    fc.assert(
      fc.property(anyRoll, fc.double({ min: 0, max: 1, noNaN: true }), fc.nat(300), (roll, share, more) => {
        const at = Math.floor(totalFrames(roll.items, roll.joinFrames) * share);
        const here = rollPlace(roll, start(roll), at);
        const whole = rollPlace(roll, start(roll), at + more);
        const parts = rollPlace({ ...roll, index: here.index }, here.position, more);
        if (here.ended) return;
        expect(parts.index).toBe(whole.index);
        expect(parts.position).toBeCloseTo(whole.position, 5);
        expect(parts.left).toBeCloseTo(whole.left, 5);
      }),
    );
  });

  it('that loops is at the same place a round later, and never ends', () => {
    fc.assert(
      fc.property(anyRoll, fc.nat(2000), (made, at) => {
        const roll: Roll = { ...made, after: 'loop' };
        const round = roll.items.reduce(
          (sum, item, i) => sum + itemFrames(item) - overlap(item, roll.items[(i + 1) % roll.items.length] as RollItem, roll.joinFrames),
          0,
        );
        const [a, b] = [rollPlace(roll, start(roll), at + round), rollPlace(roll, start(roll), at + 2 * round)];
        expect(b.index).toBe(a.index);
        expect(b.position).toBeCloseTo(a.position, 5);
        expect(a.ended).toBe(false);
      }),
    );
  });

  it('holds its last frame, or runs on as long as it was told', () => {
    const item: RollItem = { clipId: 'c', name: '', angleId: 'a', in: 100, out: 150, speed: 100 };
    const roll: Roll = { items: [item], index: 0, joinFrames: 0, after: 'hold', runOn: 0 };
    expect(rollPlace(roll, 100, 400).position).toBe(149);
    const on = { ...roll, runOn: 25 };
    expect([50, 60, 75, 400].map((n) => rollPlace(on, 100, n).position)).toEqual([149, 160, 175, 175]);
    expect(rollPlace(on, 100, 60).runningOn).toBe(true);
    expect(rollPlace(on, 100, 60).left).toBe(0);
  });
});
