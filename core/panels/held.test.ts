/** Who has what in hand, by what they do. */
import { describe, expect, it } from 'vitest';
import { handled, heldByOther, HOLD_MS, Holds } from './held';

const MARA = { id: 'p1', name: 'Mara' };
const ODD = { id: 'p2', name: 'Odd' };

describe('what is in hand', () => {
  it('is what an edit that goes on names, and the deck that is worked; a cut is no such thing', () => {
    expect(handled({ type: 'sound.setFader', args: { channel: 'a', db: -3 } })).toEqual(['a']);
    expect(handled({ type: 'deck.step', args: { deck: 2, frames: 1 } })).toEqual(['deck 2']);
    expect(handled({ type: 'picture.cut', args: { picture: 'a' } })).toEqual([]);
    expect(handled({ type: 'constructor' })).toEqual([]);
    expect(handled({ type: 'deck.step', args: {} })).toEqual([]);
  });

  it('stays so for a moment, then is nobody’s; whoever takes it over has it', () => {
    const holds = new Holds();
    holds.touch([{ type: 'sound.setFader', args: { channel: 'a', db: -3 } }], MARA, 0);
    expect(holds.changed(10)).toEqual([{ id: 'a', by: 'p1', name: 'Mara' }]);
    // As it was: nothing is to be told.
    holds.touch([{ type: 'sound.setFader', args: { channel: 'a', db: -4 } }], MARA, 1000);
    expect(holds.changed(HOLD_MS + 10)).toBeNull();
    holds.touch([{ type: 'sound.setFader', args: { channel: 'a', db: -5 } }], ODD, HOLD_MS + 20);
    const list = holds.changed(HOLD_MS + 30) ?? [];
    expect([heldByOther(list, 'a', 'p1'), heldByOther(list, 'a', 'p2'), heldByOther(list, 'b', 'p1')]).toEqual(['Odd', null, null]);
    expect(holds.changed(2 * HOLD_MS + 20)).toEqual([]);
  });

  it('is never more than can be told', () => {
    const holds = new Holds();
    for (let i = 0; i < 1000; i += 1) holds.touch([{ type: 'sound.setFader', args: { channel: `c${i}`, db: 0 } }], MARA, 0);
    expect(holds.changed(1)?.length).toBeLessThanOrEqual(100);
  });
});
