/** The stream's key reaches no panel, however it is told. */
import { applyPatches, enablePatches } from 'immer';
import { describe, expect, it } from 'vitest';
import { must, sampleDesk } from '#tests/support/sample-show';
import { type Change, type Snapshot } from './messages';
import { withoutSecrets } from './withhold';

enablePatches();

describe('what a panel is told', () => {
  const desk = must(sampleDesk(), 'output.setStream', { key: 'top-secret-key' });

  it('is the state without the key of the stream, and the state itself where there is none', () => {
    const state: Snapshot = { kind: 'state', revision: 1, ...desk, frame: 0, status: {} };
    const told = withoutSecrets(state);
    expect(JSON.stringify(state)).toContain('top-secret-key');
    expect(JSON.stringify(told)).not.toContain('top-secret-key');
    expect(told.show.output.stream).toEqual({ ...desk.show.output.stream, key: '' });
    expect(withoutSecrets(told)).toBe(told);
  });

  it.each([
    [[], { show: desk.show, air: desk.air }],
    [['show'], desk.show],
    [['show', 'output'], desk.show.output],
    [['show', 'output', 'stream'], desk.show.output.stream],
    [['show', 'output', 'stream', 'key'], 'top-secret-key'],
  ] as [string[], unknown][])('is no patch with it, at %j', (path, value) => {
    const change: Change = { kind: 'patches', revision: 2, frame: 0, patches: [{ op: 'replace', path, value }] };
    const told = withoutSecrets(change);
    expect(JSON.stringify(told)).not.toContain('top-secret-key');
    const after = applyPatches({ show: desk.show, air: desk.air }, told.patches);
    expect(after.show.output.stream.key).toBe('');
  });

  it('is every other patch as it is', () => {
    const change: Change = { kind: 'patches', revision: 2, frame: 0, patches: [{ op: 'replace', path: ['show', 'name'], value: 'X' }] };
    expect(withoutSecrets(change)).toBe(change);
    const removed: Change = { ...change, patches: [{ op: 'remove', path: ['show', 'output', 'stream'] }] };
    expect(withoutSecrets(removed)).toBe(removed);
  });
});
