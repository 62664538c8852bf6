/** The keys of the app: none means two things. */
import { describe, expect, it } from 'vitest';
import { execute } from '#core/desk/execute';
import { findCommand } from '#core/desk/registry';
import { sampleDesk } from '#tests/support/sample-show';
import { bindingFor, DESK_KEYS, keyName } from './keymap';

const press = (code: string, keys: Partial<Record<'shiftKey' | 'ctrlKey' | 'altKey' | 'metaKey', boolean>> = {}) =>
  bindingFor({ code, shiftKey: false, ctrlKey: false, altKey: false, metaKey: false, ...keys });

describe('the keys of the Desk', () => {
  it('are unlike one another, and each is a command that takes its arguments', () => {
    expect(new Set(DESK_KEYS.map(keyName)).size).toBe(DESK_KEYS.length);
    for (const { type, args } of DESK_KEYS) {
      if (type.startsWith('history.')) continue;
      expect(findCommand(type)).toBeDefined();
      const outcome = execute(sampleDesk(), { type, args: args ?? {} }, { frame: 0, newId: () => 'x' });
      if (!outcome.ok) expect(outcome.error.code).not.toBe('bad-argument');
    }
  });

  it('sets Next by number, and cuts straight to air only with Shift', () => {
    expect(press('Digit3')).toMatchObject({ type: 'picture.setNextByNumber', args: { number: 3 } });
    expect(press('Digit0', { shiftKey: true })).toMatchObject({ type: 'picture.cutByNumber', args: { number: 10 } });
    expect(press('Digit3', { ctrlKey: true })).toBeUndefined();
  });

  it('never stops an output or goes to black by a bare key', () => {
    for (const k of DESK_KEYS.filter(({ type }) => /stop|fadeToBlack/.test(type))) expect(k.hold).toBe(true);
    expect(press('KeyB')).toBeUndefined();
  });
});
