/** What the room Replay works out by itself. */
import { describe, expect, it } from 'vitest';
import { findCommand } from '#core/desk/registry';
import { check } from '#core/schema/check';
import { argsFor, REPLAY_ACTIONS } from './actions';
import { REPLAY_KEYS, replayKeyFor } from './keys';
import { behindText, lengthText } from './words';

const RATE = { num: 25, den: 1 };

describe('the keys of Replay', () => {
  it('are bound to one action each, and every action is one there is', () => {
    const places = REPLAY_KEYS.map((k) => [k.code, k.shift, k.ctrl, k.alt].join());
    expect(new Set(places).size).toBe(places.length);
    for (const key of REPLAY_KEYS)
      expect(
        REPLAY_ACTIONS.some((a) => a.id === key.action),
        key.action,
      ).toBe(true);
  });

  it('send commands that their arguments satisfy', () => {
    for (const action of REPLAY_ACTIONS) {
      if (!action.type || action.type.startsWith('history.')) continue;
      const spec = findCommand(action.type);
      const args = argsFor(action, { deck: 2, clips: ['c1', 'c2'], target: 'reel-2' });
      expect(spec && args && check(spec.args, args), action.id).toEqual([]);
    }
  });

  it('of clips say that none is chosen, instead of sending nonsense', () => {
    const remove = REPLAY_ACTIONS.find((a) => a.id === 'remove');
    expect(remove && argsFor(remove, { deck: 1, clips: [], target: 'x' })).toBeNull();
  });

  it('are told by their place on the keyboard', () => {
    const event = { code: 'KeyG', shiftKey: true, ctrlKey: false, metaKey: false, altKey: false };
    expect(replayKeyFor(event)?.action).toBe('grab-2');
    expect(replayKeyFor({ ...event, code: 'F9' })).toBeUndefined();
  });

  it('reach everything frequent', () => {
    for (const id of [
      'toggle',
      'step',
      'live',
      'mark-in',
      'mark-out',
      'make-clip',
      'grab-1',
      'cue',
      'roll',
      'to-air',
      'look-back',
      'return',
      'copy',
      'move',
      'gang',
      'other-deck',
    ])
      expect(
        REPLAY_KEYS.some((k) => k.action === id),
        id,
      ).toBe(true);
  });
});

describe('times as operators read them', () => {
  it('say how far behind, and how long', () => {
    expect([310, 0, 25 * 3725].map((f) => behindText(f, RATE))).toEqual(['−0:12.4', '−0:00.0', '−1:02:05.0']);
    expect([100, 0.5, 25 * 61 + 3].map((f) => lengthText(f, RATE))).toEqual(['0:04:00', '0:00:01', '1:01:03']);
  });
});
