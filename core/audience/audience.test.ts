/** The audience: what is held back, how much is taken, shares that make a hundred, and comments and polls from the page to sheets and lanes. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { type Desk } from '../desk/air';
import { perform, type Session } from '../desk/session';
import { EMPTY_HISTORY } from '../desk/history';
import { cellsOf } from '../sheets/row';
import { MOST_INBOX } from './air';
import { heldWord, SenderLimit } from './moderation';
import { pollKey, setUpOf } from './page';
import { shares } from './rows';
import { shownComment } from './shown';

const comment = (id: string, change: Record<string, unknown> = {}) => ({
  id,
  from: 'kit',
  name: 'Kit',
  text: `Comment ${id}`,
  origin: 'audience',
  at: 1,
  ...change,
});
const heard = (desk: Desk, ...comments: ReturnType<typeof comment>[]) => must(desk, 'comment.heard', { comments });
const sheetRows = ({ show }: Desk, kind: string) => show.sheets.find((s) => s.source.kind === kind)?.rows.map(cellsOf) ?? [];

describe('words that hold back', () => {
  it('are found as whole words, whatever capitals, accents and signs are between, and nowhere else', () => {
    const words = ['drudge', 'bad luck', 'Ärger'];
    for (const [text, found] of [
      ['What a DRUDGE!', 'drudge'],
      ['drüdge', 'drudge'],
      ['drudgery is another word', ''],
      ['bad…luck, everyone', 'bad luck'],
      ['so much arger', 'Ärger'],
      ['', ''],
    ] as const)
      expect(heldWord(words, text), text).toBe(found);
    expect(heldWord(['', '   ', '!!'], 'anything at all')).toBe('');
  });

  it('are found wherever they are put into a text', () => {
    const around = fc.string({ unit: 'grapheme', maxLength: 30 });
    fc.assert(
      fc.property(around, around, (before, after) => void expect(heldWord(['halyard'], `${before} HALYARD ${after}`)).toBe('halyard')),
    );
  });
});

describe('the limit of one sender', () => {
  it('never lets more pass in any minute than it says, and nothing twice', () => {
    const steps = fc.array(fc.record({ wait: fc.integer({ min: 0, max: 30_000 }), text: fc.integer({ min: 0, max: 8 }) }), {
      maxLength: 60,
    });
    fc.assert(
      fc.property(steps, fc.integer({ min: 1, max: 6 }), (list, most) => {
        let now = 0;
        const limit = new SenderLimit(() => now);
        const passed: { at: number; text: number }[] = [];
        for (const { wait, text } of list) {
          now += wait;
          const lately = passed.filter((p) => now - p.at < 60_000);
          const refused = limit.refusal('kit', `text ${text}`, most);
          if (refused === null) passed.push({ at: now, text });
          expect(refused).toBe(lately.some((p) => p.text === text) ? 'twice' : lately.length >= most ? 'too-many' : null);
        }
      }),
    );
  });

  it('is of each sender apart', () => {
    const limit = new SenderLimit(() => 0);
    expect(limit.refusal('a', 'hello', 1)).toBeNull();
    expect(limit.refusal('b', 'hello', 1)).toBeNull();
    expect(limit.refusal('a', 'again', 1)).toBe('too-many');
  });
});

describe('shares', () => {
  it('are whole percents that make a hundred, in the order of the votes', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 1_000_000 }), { minLength: 1, maxLength: 8 }), (votes) => {
        const parts = shares(votes);
        const all = votes.reduce((a, b) => a + b, 0);
        expect(parts.reduce((a, b) => a + b, 0)).toBe(all === 0 ? 0 : 100);
        votes.forEach((v, i) => {
          if (all > 0) expect(Math.abs((parts[i] ?? 0) - (v / all) * 100)).toBeLessThan(1);
          votes.forEach((w, j) => v > w && expect(parts[i]).toBeGreaterThanOrEqual(parts[j] ?? 0));
        });
      }),
    );
    expect(shares([1, 1, 1])).toEqual([34, 33, 33]);
  });
});

describe('comments', () => {
  it('are taken as plain words, once, of nobody who is banned, and marked where a word holds them back', () => {
    let desk = must(sampleDesk(), 'audience.set', { words: ['drudge', ' drudge '] });
    desk = heard(
      desk,
      comment('1', { text: 'What a \u202edrudge\u0000' }),
      comment('1'),
      comment('2', { text: '<b>bold</b>' }),
      comment('3', { from: 'eve' }),
    );
    expect(desk.show.audience.words).toEqual(['drudge']);
    expect(desk.air.audience.inbox.map(({ text, held }) => [text, held])).toEqual([
      ['What a drudge', 'drudge'],
      ['<b>bold</b>', ''],
      ['Comment 3', ''],
    ]);
    desk = heard(must(desk, 'comment.ban', { from: 'eve', on: true }), comment('4', { from: 'eve' }));
    expect(desk.air.audience.inbox.find((c) => c.id === '3')?.hidden).toBe(true);
    expect(desk.air.audience.inbox.some((c) => c.id === '4')).toBe(false);
    desk = must(desk, 'comment.ban', { from: 'eve', on: false });
    expect(desk.air.audience.inbox.find((c) => c.id === '3')?.hidden).toBe(false);
  });

  it('give way when there are too many: hidden ones first, those with a star last', () => {
    let desk = heard(sampleDesk(), comment('star'), comment('hidden'));
    desk = must(must(desk, 'comment.star', { comment: 'star', on: true }), 'comment.hide', { comment: 'hidden', on: true });
    for (let n = 0; n < MOST_INBOX + 20; n += 50)
      desk = heard(desk, ...Array.from({ length: 50 }, (_, i) => comment(`more-${n + i}`, { at: n + i + 2 })));
    const ids = desk.air.audience.inbox.map((c) => c.id);
    expect(ids).toHaveLength(MOST_INBOX);
    expect(ids).toContain('star');
    expect(ids).not.toContain('hidden');
    expect(ids.at(-1)).toBe(`more-${MOST_INBOX + 49}`);
  });

  it('go from the queue into graphic and lane, next by next, and only what changes is another entry', () => {
    let desk = heard(sampleDesk(), comment('1'), comment('2', { name: 'Edda' }), comment('3'));
    expect(attempt(desk, 'comment.show', {})).toMatchObject({ ok: false, error: { code: 'no-comment' } });
    for (const id of ['1', '2']) desk = must(desk, 'comment.queue', { comment: id });
    expect(attempt(desk, 'comment.show', {})).toMatchObject({ ok: false, error: { code: 'no-comment-place' } });
    expect(attempt(desk, 'comment.queue', { comment: '1' })).toMatchObject({ ok: false, error: { code: 'in-queue' } });
    desk = must(desk, 'audience.setUp', { what: 'comments' });
    expect(sheetRows(desk, 'comments').map((r) => [r[0], r[1], r[2]])).toEqual([
      ['1', 'Kit', 'Comment 1'],
      ['2', 'Edda', 'Comment 2'],
    ]);
    desk = must(desk, 'comment.show', {}, 100);
    expect(shownComment(desk, 101)).toBe('1');
    desk = must(desk, 'comment.show', {}, 200);
    expect(shownComment(desk, 201)).toBe('2');
    expect(attempt(desk, 'comment.show', {})).toMatchObject({ ok: false, error: { code: 'no-comment' } });
    expect(attempt(desk, 'comment.unqueue', { comment: '2' }, 210)).toMatchObject({ ok: false, error: { code: 'in-use' } });
    desk = must(desk, 'comment.clear', {}, 210);
    expect(desk.show.audience.queue.map((c) => c.id)).toEqual(['2']);
    desk = must(desk, 'comment.out', {}, 220);
    expect(shownComment(desk, 300)).toBeNull();
    desk = must(desk, 'comment.unqueue', { comment: '2' }, 300);
    expect(sheetRows(desk, 'comments')).toEqual([]);
  });

  it('are changed by the crew in sight of everybody: what was written stays beside it', () => {
    let desk = must(heard(sampleDesk(), comment('1')), 'comment.queue', { comment: '1' });
    desk = must(desk, 'audience.setUp', { what: 'comments' });
    desk = must(desk, 'comment.edit', { comment: '1', text: 'Shorter' });
    expect(desk.show.audience.queue[0]).toMatchObject({ text: 'Shorter', written: 'Comment 1' });
    expect(sheetRows(desk, 'comments')[0]?.at(-1)).toBe('changed by the crew');
    // Where the graphic has gone, comments are shown nowhere; nothing else is lost.
    desk = must(desk, 'graphic.remove', { graphic: desk.show.audience.graphicId });
    expect(desk.show.audience.graphicId).toBeNull();
    expect(desk.show.audience.queue).toHaveLength(1);
  });

  it('that come in are no step of undo; choosing one is', () => {
    let session: Session = { desk: sampleDesk(), history: EMPTY_HISTORY };
    const act = (type: string, args: Record<string, unknown>) => {
      const done = perform(session, [{ type, args }], { frame: 10, newId: () => 'new' }, { at: 0 });
      if (!done.ok) throw new Error(done.error.message);
      session = done.session;
    };
    act('comment.heard', { comments: [comment('1')] });
    expect(session.history.past).toHaveLength(0);
    act('comment.queue', { comment: '1' });
    act('comment.heard', { comments: [comment('2')] });
    act('history.undo', {});
    expect(session.desk.show.audience.queue).toEqual([]);
    expect(session.desk.air.audience.inbox).toHaveLength(2);
  });
});

describe('polls', () => {
  const asked = () => {
    const desk = must(must(sampleDesk(), 'audience.setUp', { what: 'poll' }), 'poll.add', {
      question: 'Which kite?',
      choices: ['Red', ' Box ', ''],
    });
    return { desk, poll: desk.show.audience.polls[0]?.id ?? '' };
  };

  it('go from the page into sheet and graphic, and are closed and taken away', () => {
    let { desk } = asked();
    const { poll } = asked();
    const id = desk.show.audience.polls[0]?.id ?? poll;
    expect(setUpOf(desk).page.poll).toBeNull();
    desk = must(desk, 'poll.open', { poll: id });
    expect(setUpOf(desk).page.poll).toMatchObject({ question: 'Which kite?', choices: ['Red', 'Box'], open: true, results: null });
    desk = must(desk, 'poll.counted', { poll: id, votes: [3, 1] });
    expect(sheetRows(desk, 'poll').map((r) => r.slice(2))).toEqual([
      ['Red', '3', '75', '100', '4'],
      ['Box', '1', '25', '33.3', '4'],
    ]);
    const graphic = desk.show.graphics.list.at(-1);
    const width = graphic?.fields.find((f) => f.id === 'width-1');
    expect(graphic?.entries[0]?.values.find((v) => v.fieldId === width?.id)?.value).toEqual({ kind: 'number', number: 315 });
    desk = must(must(desk, 'poll.results', { on: true }), 'poll.close', {});
    expect(setUpOf(desk).page.poll).toMatchObject({ open: false, results: { shares: [75, 25], votes: 4 } });
    expect(attempt(desk, 'poll.close', {})).toMatchObject({ ok: false, error: { code: 'no-poll' } });
    expect(attempt(desk, 'poll.remove', { poll: id })).toMatchObject({ ok: false, error: { code: 'in-use' } });
    desk = must(must(desk, 'poll.away', {}), 'poll.remove', { poll: id });
    expect(sheetRows(desk, 'poll')).toEqual([]);
  });

  it('keep what was asked once there are votes; votes that are taken away are another round', () => {
    let { desk } = asked();
    const id = desk.show.audience.polls[0]?.id;
    for (const choices of [['One'], ['Same', 'same'], ['', ' ']])
      expect(attempt(desk, 'poll.edit', { poll: id, choices }).ok, choices.join()).toBe(false);
    desk = must(desk, 'poll.edit', { poll: id, choices: ['Red', 'Box', 'Tail'] });
    desk = must(must(desk, 'poll.open', { poll: id }), 'poll.counted', { poll: id, votes: [1, 0, 2] });
    expect(attempt(desk, 'poll.reset', { poll: id })).toMatchObject({ ok: false, error: { code: 'in-use' } });
    const first = pollKey(desk.show.audience.polls[0]!);
    desk = must(desk, 'poll.away', {});
    expect(attempt(desk, 'poll.edit', { poll: id, question: 'Other?' })).toMatchObject({ ok: false, error: { code: 'poll-voted' } });
    desk = must(desk, 'poll.reset', { poll: id });
    expect(desk.show.audience.polls[0]?.choices.map((c) => c.votes)).toEqual([0, 0, 0]);
    expect(pollKey(desk.show.audience.polls[0]!)).not.toBe(first);
  });
});
