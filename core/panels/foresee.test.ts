/** What a panel foresees is what the host comes to; what changes air is not seen before; what the host refuses changes nothing. */
import { describe, expect, it } from 'vitest';
import { must, sampleDesk } from '#tests/support/sample-show';
import { type Command } from '../commands/command';
import { executeAll } from '../desk/execute';
import { foresee, type SentCommand, withSent } from './foresee';
import { panelId, panelIdNumber } from './panel-messages';

const desk = sampleDesk();
const at = (nextId = 0) => ({ session: 'abc', key: 'k', frame: 10, nextId });
const ok = (found: ReturnType<typeof foresee>) => {
  if (!found.ok) throw new Error(found.error.message);
  return found;
};
/** As a host does it, with the identities that came along. */
function asHost({ commands, ids }: SentCommand) {
  let i = 0;
  const done = executeAll(desk, commands, { frame: 10, newId: () => ids[i++] ?? 'host' });
  if (!done.ok) throw new Error(done.error.message);
  return done;
}

describe('a panel', () => {
  it('comes to the same show as the host, with the same identities', () => {
    const commands: Command[] = [
      { type: 'layout.add', args: { name: 'One' } },
      { type: 'layout.add', args: { name: 'Two' } },
      { type: 'source.edit', args: { source: 'a', name: 'Other' } },
    ];
    const found = ok(foresee(desk, commands, at(3)));
    expect(found.sent.foreseen).toBe(true);
    expect(found.desk.show).toEqual(asHost(found.sent).desk.show);
    expect(found.results).toEqual(asHost(found.sent).results);
    expect(found.sent.ids[0]).toBe(panelId('abc', 3));
    expect(found.nextId).toBe(3 + found.sent.ids.length);
    expect(withSent(desk, [found.sent], 10).show).toEqual(found.desk.show);
  });

  it('sees what changes air only when the host has done it, and undo not before', () => {
    const cut = ok(foresee(desk, [{ type: 'picture.cut', args: { picture: 'b' } }], at()));
    expect([cut.sent.foreseen, cut.desk]).toEqual([false, desk]);
    const both = ok(
      foresee(
        desk,
        [
          { type: 'source.edit', args: { source: 'a', name: 'X' } },
          { type: 'picture.cut', args: { picture: 'b' } },
        ],
        at(),
      ),
    );
    expect([both.sent.foreseen, both.desk]).toEqual([false, desk]);
    const undo = ok(foresee(desk, [{ type: 'history.undo' }], at()));
    expect([undo.sent.foreseen, undo.desk, undo.results]).toEqual([false, desk, [{}]]);
  });

  it('is refused at once as the host would refuse it', () => {
    const commands = [{ type: 'source.edit', args: { source: 'gone', name: 'X' } }];
    const host = executeAll(desk, commands, { frame: 10, newId: () => 'x' });
    expect(foresee(desk, commands, at())).toEqual({ ok: false, error: host.ok ? null : host.error });
    expect(foresee(desk, [{ type: 'nothing.at-all' }], at())).toMatchObject({ ok: false, error: { code: 'unknown-command' } });
  });

  it('puts what was sent on top of what has come since, and leaves out what no longer can be', () => {
    const name = ok(foresee(desk, [{ type: 'source.edit', args: { source: 'a', name: 'Mine' } }], at())).sent;
    const other = must(desk, 'source.edit', { source: 'b', name: 'Theirs' });
    const both = withSent(other, [name], 10);
    expect(both.show.sources.filter((s) => ['a', 'b'].includes(s.id)).map((s) => s.name)).toEqual(['Mine', 'Theirs']);
    const gone = must(must(desk, 'picture.cut', { picture: 'b' }), 'source.remove', { source: 'a', force: true });
    expect(withSent(gone, [name], 10)).toBe(gone);
  });
});

describe('identities of a connection', () => {
  it('are known by their number; others are none', () => {
    expect(panelIdNumber('abc', panelId('abc', 12))).toBe(12);
    for (const id of ['abc-', 'abc--1', 'abc-1.5', 'abc-01', 'abd-1', 'abc-1e3', 'abc', '', 'abc-9007199254740993'])
      expect([id, panelIdNumber('abc', id)]).toEqual([id, null]);
  });
});
