/** Patches in few bytes, and the protocol they are sent by. */
import { applyPatches, enablePatches, type Patch } from 'immer';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { attempt, must, replayDesk } from '#tests/support/sample-show';
import { type Desk } from '../desk/air';
import { executeAll } from '../desk/execute';
import { listPatches, slimPatches } from './slim';

enablePatches();

const item = fc.nat(30).map((n) => ({ n }));

describe('a list that has changed', () => {
  it('is told by what has left and what has come, and comes out as it is', () => {
    const pool = Array.from({ length: 40 }, (_, n) => ({ n }));
    const some = fc.array(fc.nat(39), { maxLength: 30 }).map((ns) => [...new Set(ns)].map((n) => pool[n] as { n: number }));
    fc.assert(
      fc.property(some, some, fc.array(item, { maxLength: 4 }), (before, after, fresh) => {
        const to = [...after.slice(0, 5), ...fresh, ...after.slice(5)];
        const patches = listPatches(['list'], before, to);
        const root = JSON.parse(JSON.stringify({ list: before })) as { list: unknown[] };
        expect(applyPatches(root, JSON.parse(JSON.stringify(patches)) as Patch[]).list).toEqual(to);
      }),
      { numRuns: 500 },
    );
  });
});

/** A show of many clips. */
function manyClips(count: number): Desk {
  const desk = must(replayDesk(), 'clip.grab', { deck: 1, seconds: 4 }, 900);
  const [clip] = desk.show.replay.clips;
  const clips = Array.from({ length: count }, (_, i) => ({
    ...(clip as object),
    id: `c${i}`,
    number: i + 1,
  })) as Desk['show']['replay']['clips'];
  return { ...desk, show: { ...desk.show, replay: { ...desk.show.replay, clips } } };
}

describe('patches of a show of 10,000 clips', () => {
  const desk = manyClips(10_000);
  it.each([
    ['a Grab', 'clip.grab', { deck: 1, seconds: 4 }],
    ['an edit', 'clip.edit', { clip: 'c5000', name: 'Gust' }],
    ['a clip removed from the middle', 'clip.remove', { clips: ['c5000'] }],
    ['three removed', 'clip.remove', { clips: ['c10', 'c5000', 'c9990'] }],
    ['a clip moved to the end', 'clip.move', { clips: ['c10'], before: null }],
    ['a cut', 'picture.cut', {}],
    ['a rating', 'clip.set', { clips: ['c1', 'c2', 'c3'], rating: 4 }],
  ])('%s is under 2 kB, and makes the same show', (_, type, args) => {
    const outcome = attempt(desk, type, args, 1000);
    if (!outcome.ok) throw new Error(outcome.error.message);
    const slim = slimPatches(desk, outcome.desk, outcome.patches);
    const text = JSON.stringify(slim);
    expect(text.length).toBeLessThan(2000);
    expect(applyPatches(desk, JSON.parse(text) as Patch[])).toEqual(outcome.desk);
  });

  it('of several commands at once make the same show too', () => {
    const commands = [
      { type: 'clip.remove', args: { clips: ['c4', 'c5', 'c6', 'c7', 'c8', 'c9', 'c10', 'c11', 'c12', 'c13'] } },
      { type: 'clip.edit', args: { clip: 'c20', name: 'Later' } },
      { type: 'clip.move', args: { clips: ['c30'], before: 'c2' } },
    ];
    const outcome = executeAll(desk, commands, { frame: 1000, newId: () => 'new' });
    if (!outcome.ok) throw new Error(outcome.error.message);
    const text = JSON.stringify(slimPatches(desk, outcome.desk, outcome.patches));
    expect(text.length).toBeLessThan(4000);
    expect(applyPatches(desk, JSON.parse(text) as Patch[])).toEqual(outcome.desk);
  });
});
