/** Votes and comments at the window that runs the show: none is lost or counted twice, whatever comes while what was kept is being read. */
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { type AudienceSetUp } from '#core/audience/line';
import { pollKey } from '#core/audience/page';
import { execute } from '#core/desk/execute';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { AudienceControl } from './audience-control';

const ASKED = { question: 'Which?', choices: ['Red', 'Box'] };

/** A window with a poll that is open, and votes that are read when `read` says so. */
function window(kept: Record<string, Record<string, number>> = {}) {
  let desk = must(sampleDesk(), 'poll.add', ASKED);
  const poll = desk.show.audience.polls[0]!.id;
  desk = must(desk, 'poll.open', { poll });
  const told: AudienceSetUp[] = [];
  const wanted: string[] = [];
  const answers: unknown[] = [];
  let read: () => void = () => undefined;
  const ready = new Promise<void>((resolve) => (read = resolve));
  const control = new AudienceControl(
    {
      state: () => ({ desk }) as never,
      command: ({ type, args = {} }) => {
        const done = execute(desk, { type, args }, { frame: 0, newId: () => 'n' });
        if (!done.ok) return done;
        ({ desk } = done);
        control.follow(desk);
        return { ok: true, result: {} };
      },
    },
    {
      setUp: (setUp) => told.push(setUp),
      toSender: (from, message) => answers.push([from, message]),
      wantPicture: (from) => wanted.push(from),
      keepPicture: () => Promise.resolve('asset-1'),
      votes: { read: (key) => ready.then(() => kept[key] ?? {}), keep: (key, votes) => Promise.resolve(void (kept[key] = { ...votes })) },
    },
  );
  return {
    control,
    kept,
    told,
    wanted,
    answers,
    poll,
    read: async () => {
      read();
      await vi.advanceTimersByTimeAsync(600);
    },
    key: () => pollKey(desk.show.audience.polls[0]!),
    act: (type: string, args: Record<string, unknown>) => {
      const done = attempt(desk, type, args);
      if (!done.ok) throw new Error(done.error.message);
      ({ desk } = done);
      control.follow(desk);
    },
    votes: () => desk.show.audience.polls[0]!.choices.map((c) => c.votes),
    desk: () => desk,
    vote: (from: string, choice: number, key = pollKey(desk.show.audience.polls[0]!)) =>
      control.take({ comments: [], votes: [[from, key, choice]], people: 1, passed: 0 }),
  };
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it('counts what comes while the votes of before are being read, together with them', async () => {
  const { read, vote, votes, kept, key: keyOf } = window();
  const key = keyOf();
  kept[key] = { old: 1, kit: 1 };
  vote('kit', 0);
  vote('edda', 0);
  await vi.advanceTimersByTimeAsync(2000);
  expect(votes()).toEqual([0, 0]);
  await read();
  expect(votes()).toEqual([2, 1]);
  expect(kept[key]).toEqual({ old: 1, kit: 0, edda: 0 });
});

it('counts one for each, the last, and those on their way when it is closed or another is opened; none of another round', async () => {
  const { read, vote, votes, act, poll, key } = window();
  await read();
  const before = key();
  for (const choice of [0, 1, 0]) vote('kit', choice);
  act('poll.close', {});
  vote('late', 1);
  act('poll.add', { question: 'Other?', choices: ['Yes', 'No'] });
  await vi.advanceTimersByTimeAsync(600);
  expect(votes()).toEqual([1, 1]);
  act('poll.away', {});
  act('poll.reset', { poll });
  act('poll.open', { poll });
  vote('kit', 0, before);
  await vi.advanceTimersByTimeAsync(600);
  expect(votes()).toEqual([0, 0]);
});

it('tells the page when something of it has changed, and only then; an answer goes to who asked', async () => {
  const { control, told, act, answers, wanted, desk } = window();
  control.follow(desk());
  await vi.advanceTimersByTimeAsync(600);
  expect(told).toHaveLength(1);
  act('picture.cut', { picture: 'b' });
  await vi.advanceTimersByTimeAsync(600);
  expect(told).toHaveLength(1);
  act('audience.set', { open: false });
  await vi.advanceTimersByTimeAsync(600);
  expect(told.map((t) => t.page.open)).toEqual([true, false]);
  const comment = { id: 'c1', from: 'kit', name: 'Kit', text: 'When?', at: 1 };
  control.take({ comments: [comment], votes: [], people: 3, passed: 2 });
  expect(control.store.getState()).toEqual({ people: 3, passed: 2 });
  act('comment.answer', { comment: 'c1', text: 'At ten.' });
  expect(answers).toEqual([['kit', { kind: 'answer', text: 'When?', answer: 'At ten.' }]]);
  act('comment.queue', { comment: 'c1' });
  expect(wanted).toEqual(['kit']);
  await control.picture('kit', '/9j/4AAQSkZJRg==');
  expect(desk().show.audience.queue[0]?.pictureId).toBe('asset-1');
});
