/** What rooms do themselves: there is something for every action that asks for it. */
import { describe, expect, it, vi } from 'vitest';
import { ACTIONS } from '#core/control/actions';

vi.stubGlobal('window', { addEventListener: () => undefined, location: { pathname: '/' } });
vi.stubGlobal('localStorage', { getItem: () => null, setItem: () => undefined });

describe('acts', () => {
  it('are there for every action that is one, and for nothing else', async () => {
    const { ACTS } = await import('./acts');
    const wanted = new Set(['nothing', 'talk.end', 'crew.end']);
    for (const action of ACTIONS) {
      if (action.takes !== 'press') continue;
      // An act is told by its own name; what needs a show to be told is a command.
      try {
        const meaning = action.run({} as never, {});
        if (meaning.kind === 'act') wanted.add(meaning.id);
      } catch {
        continue;
      }
    }
    expect(Object.keys(ACTS).sort()).toEqual([...wanted].sort());
  });
});
