/** Commands as a host runs them: alone, several as one, and through the history. */
import { describe, expect, it } from 'vitest';
import { sampleDesk } from '#tests/support/sample-show';
import { type Command } from '../commands/command';
import { executeAll, MOST_TOGETHER } from './execute';
import { EMPTY_HISTORY } from './history';
import { perform, type Session } from './session';

const START: Session = { desk: sampleDesk(), history: EMPTY_HISTORY };
let ids = 0;
const context = { frame: 5, newId: () => `s-${(ids += 1)}` };

function after(session: Session, commands: Command[], at = 0, gesture?: string): Session {
  const done = perform(session, commands, context, { at, gesture });
  if (!done.ok) throw new Error(done.error.message);
  return done.session;
}

const rename = (source: string, name: string): Command => ({ type: 'source.edit', args: { source, name } });
const names = ({ desk }: Session) => desk.show.sources.slice(0, 3).map((s) => s.name);

describe('several commands', () => {
  it('are one change and one step of undo; each sees what those before it did', () => {
    const both = after(START, [
      rename('a', 'Wide'),
      { type: 'source.pin', args: { source: 'a', number: null } },
      { type: 'source.pin', args: { source: 'b', number: 1 } },
    ]);
    expect([names(both)[0], both.desk.show.sources[1]?.number, both.history.past.length]).toEqual(['Wide', 1, 1]);
    expect(after(both, [{ type: 'history.undo' }]).desk.show).toEqual(START.desk.show);
  });

  it('are all refused when one is, and it is said which', () => {
    const done = perform(START, [rename('a', 'Wide'), rename('gone', 'x')], context, { at: 0 });
    expect(done).toMatchObject({ ok: false, error: { code: 'unknown-source', field: 'source', index: 1 } });
    expect(perform(START, [rename('a', '')], context, { at: 0 })).toMatchObject({ ok: false, error: { code: 'bad-argument' } });
  });

  it('are at most so many, and never undo among them', () => {
    const many = Array.from({ length: MOST_TOGETHER + 1 }, () => rename('a', 'x'));
    expect(executeAll(START.desk, many, context)).toMatchObject({ ok: false, error: { code: 'too-many' } });
    expect(perform(START, [rename('a', 'x'), { type: 'history.undo' }], context, { at: 0 })).toMatchObject({
      ok: false,
      error: { code: 'alone', index: 1 },
    });
  });

  it('are taken back by whoever did them; another is asked first, and told whose they are', () => {
    const runa = { id: 'pass-1', name: 'Runa Eide' };
    const done = perform(START, [rename('a', 'Wide')], context, { at: 0, elsewhere: true, by: runa });
    if (!done.ok) throw new Error(done.error.message);
    const undone = (by?: typeof runa, anyway?: boolean) =>
      perform(done.session, [{ type: 'history.undo', args: anyway ? { anyway } : {} }], context, { at: 1, ...(by && { by }) });
    expect(undone()).toMatchObject({ ok: false, error: { code: 'anothers', message: expect.stringContaining('by Runa Eide') as string } });
    expect(undone({ id: 'pass-2', name: 'Odd' })).toMatchObject({ ok: false, error: { code: 'anothers' } });
    expect([undone(runa).ok, undone(undefined, true).ok]).toEqual([true, true]);
    // Edits of two people are never one step.
    const both = perform(done.session, [rename('a', 'Wider')], context, { at: 2 });
    expect(both.ok && both.session.history.past.length).toBe(2);
  });

  it('of one gesture are one step of undo however long it takes; of two, two', () => {
    let session = START;
    for (let i = 0; i < 5; i += 1) session = after(session, [rename('a', `A${i}`), rename('b', `B${i}`)], i * 9000, 'first');
    session = after(session, [rename('a', 'Z')], 50_000, 'second');
    expect(session.history.past.length).toBe(2);
    session = after(session, [{ type: 'history.undo' }]);
    expect(names(session).slice(0, 2)).toEqual(['A4', 'B4']);
    session = after(session, [{ type: 'history.undo' }]);
    expect(session.desk.show).toEqual(START.desk.show);
    expect(names(after(session, [{ type: 'history.redo' }])).slice(0, 2)).toEqual(['A4', 'B4']);
  });
});

describe('undo and redo', () => {
  it('are commands like others: checked, with what they undid as their result, and refused in words', () => {
    const done = perform(after(START, [rename('a', 'Wide')]), [{ type: 'history.undo' }], context, { at: 0 });
    expect(done).toMatchObject({ ok: true, results: [{ title: 'Edit a source' }] });
    expect(perform(START, [{ type: 'history.undo', args: { twice: true } }], context, { at: 0 })).toMatchObject({
      ok: false,
      error: { code: 'bad-argument', field: 'twice' },
    });
    expect(perform(START, [{ type: 'history.redo' }], context, { at: 0 })).toMatchObject({ ok: false, error: { code: 'nothing-to-redo' } });
  });
});
