/** The door of the audience against a real server: links, comments and votes that are gathered, limits, bans, damage, answers to one alone. */
import { createHash } from 'node:crypto';
import { expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { AUDIENCE_CLOSED, AUDIENCE_VERSION, type AudienceBatch, type AudienceSetUp, type ToVisitor } from '#core/audience/line';
import { type ToHost } from '#core/panels/messages';
import { type WayIn } from '#core/panels/way-in';
import { testServer } from '#tests/support/server';

const { at, hostLine } = testServer('audience');

const way = (secret: string): WayIn => ({
  kind: 'audience',
  id: 'all',
  name: 'Sample',
  until: null,
  hash: createHash('sha256').update(secret).digest('hex'),
});
const setUp = (change: Partial<AudienceSetUp> = {}, poll: AudienceSetUp['page']['poll'] = null): AudienceSetUp => ({
  page: { show: 'Sample', open: true, poll },
  perMinute: 3,
  banned: [],
  ...change,
});
const POLL = { key: 'kite.0', question: 'Which?', choices: ['Red', 'Box'], open: true, results: null };

async function host(told = setUp()) {
  const { socket, say } = await hostLine();
  const batches: AudienceBatch[] = [];
  const pictures: unknown[] = [];
  socket.on('message', (data) => {
    const message = JSON.parse(String(data)) as ToHost;
    if (message.kind === 'from-audience') batches.push(message.batch);
    if (message.kind === 'sender-picture') pictures.push([message.from, message.picture]);
  });
  say({ kind: 'ways', list: [way('in')] });
  say({ kind: 'audience', setUp: told });
  return {
    say,
    pictures,
    comments: () => batches.flatMap((b) => b.comments),
    votes: () => batches.flatMap((b) => b.votes),
    people: () => batches.at(-1)?.people ?? 0,
    passed: () => batches.at(-1)?.passed ?? 0,
  };
}

let visits = 0;

/** A page of a browser of its own. */
function visitor(who: string, { secret = 'in', version = AUDIENCE_VERSION } = {}) {
  const socket = new WebSocket(`ws://127.0.0.1:${at.port}/api/audience`);
  at.open.push(socket);
  const heard: ToVisitor[] = [];
  const closed: { code: number | null } = { code: null };
  socket.on('message', (data) => heard.push(JSON.parse(String(data)) as ToVisitor));
  socket.on('close', (code) => (closed.code = code));
  socket.on('error', () => undefined);
  const says = (message: unknown) => socket.send(JSON.stringify(message));
  visits += 1;
  const device = `${who} ${visits}`;
  socket.on('open', () => says({ kind: 'enter', version, show: 'show', secret, device }));
  return {
    socket,
    heard,
    closed,
    says,
    page: () => heard.flatMap((m) => (m.kind === 'page' ? [m.page] : [])).at(-1),
    refusals: () => heard.flatMap((m) => (m.kind === 'comment' ? [m.refused] : [])),
    in: () => expect.poll(() => heard.some((m) => m.kind === 'page')).toBe(true),
  };
}

it('gathers comments with name and sender, and tells each what became of theirs', async () => {
  const { comments, people } = await host();
  const [kit, edda] = [visitor('kit'), visitor('edda')];
  await Promise.all([kit.in(), edda.in()]);
  kit.says({ kind: 'me', name: 'Kit\u202e', picture: null });
  for (const text of ['One', 'one', 'Two', 'Three', 'Four']) kit.says({ kind: 'comment', text });
  edda.says({ kind: 'comment', text: '<script>alert(1)</script>' });
  await expect.poll(() => comments().length).toBe(4);
  expect(kit.refusals()).toEqual([null, 'twice', null, null, 'too-many']);
  const own = comments().filter((c) => c.name === 'Kit');
  expect(own.map((c) => c.text)).toEqual(['One', 'Two', 'Three']);
  expect(new Set(own.map((c) => c.from)).size).toBe(1);
  expect(comments().find((c) => c.name === '')?.from).not.toBe(own[0]?.from);
  await expect.poll(people).toBe(2);
});

it('takes nothing while comments are closed, and of nobody who is banned', async () => {
  const { say, comments } = await host();
  const kit = visitor('kit');
  await kit.in();
  kit.says({ kind: 'comment', text: 'Well flown' });
  await expect.poll(() => comments().length).toBe(1);
  const from = comments()[0]?.from ?? '';
  say({ kind: 'audience', setUp: setUp({ banned: [from] }) });
  await expect
    .poll(() => {
      kit.says({ kind: 'comment', text: 'Again' });
      return kit.refusals();
    })
    .toContain('banned');
  say({ kind: 'audience', setUp: { ...setUp(), page: { show: 'Sample', open: false, poll: null } } });
  await expect.poll(() => kit.page()?.open).toBe(false);
  kit.says({ kind: 'comment', text: 'Still here' });
  await expect.poll(() => kit.refusals().at(-1)).toBe('closed');
});

it('hands votes on, the last of each, and none for a poll that is not open', async () => {
  const { say, votes } = await host(setUp({}, POLL));
  const [kit, edda] = [visitor('kit'), visitor('edda')];
  await Promise.all([kit.in(), edda.in()]);
  expect(kit.page()?.poll).toEqual(POLL);
  for (const choice of [0, 1, 0, 7]) kit.says({ kind: 'vote', poll: POLL.key, choice });
  edda.says({ kind: 'vote', poll: POLL.key, choice: 1 });
  edda.says({ kind: 'vote', poll: 'other.0', choice: 0 });
  await expect.poll(() => votes().length).toBe(2);
  expect(
    votes()
      .map(([, poll, choice]) => [poll, choice])
      .sort(),
  ).toEqual([
    [POLL.key, 0],
    [POLL.key, 1],
  ]);
  say({ kind: 'audience', setUp: setUp({}, { ...POLL, open: false }) });
  await expect.poll(() => kit.page()?.poll?.open).toBe(false);
  kit.says({ kind: 'vote', poll: POLL.key, choice: 1 });
  kit.says({ kind: 'comment', text: 'Too late' });
  await expect.poll(() => kit.refusals().length).toBe(1);
  expect(votes()).toHaveLength(2);
});

it('gives the picture of a sender when it is asked for, and an answer to them alone', async () => {
  const { say, comments, pictures } = await host();
  const [kit, edda] = [visitor('kit'), visitor('edda')];
  await Promise.all([kit.in(), edda.in()]);
  kit.says({ kind: 'me', name: 'Kit', picture: '/9j/4AAQSkZJRg==' });
  kit.says({ kind: 'comment', text: 'Which heat?' });
  await expect.poll(() => comments().length).toBe(1);
  const from = comments()[0]?.from ?? '';
  say({ kind: 'want-picture', from });
  say({ kind: 'want-picture', from: 'nobody' });
  await expect
    .poll(() => pictures)
    .toEqual([
      [from, '/9j/4AAQSkZJRg=='],
      ['nobody', null],
    ]);
  say({ kind: 'to-sender', from, message: { kind: 'answer', text: 'Which heat?', answer: 'Heat 4' } });
  await expect.poll(() => kit.heard.at(-1)).toEqual({ kind: 'answer', text: 'Which heat?', answer: 'Heat 4' });
  expect(edda.heard.some((m) => m.kind === 'answer')).toBe(false);
});

it('closes what is no page of ours: wrong links, other versions, damage, floods; others go on', async () => {
  const { comments } = await host();
  const good = visitor('kit');
  await good.in();
  const bad = [
    [visitor('x', { secret: 'wrong' }), AUDIENCE_CLOSED.withdrawn],
    [visitor('x', { version: 99 }), AUDIENCE_CLOSED.version],
  ] as const;
  for (const [{ closed }, code] of bad) await expect.poll(() => closed.code).toBe(code);
  for (const text of ['{', 'null', '{"kind":"constructor"}', `{"kind":"comment","text":${'['.repeat(2000)}`]) {
    const { socket, closed } = visitor('y');
    await expect.poll(() => socket.readyState).toBe(WebSocket.OPEN);
    socket.send(text);
    await expect.poll(() => closed.code).toBe(AUDIENCE_CLOSED.misread);
  }
  const flood = visitor('z');
  await flood.in();
  for (let i = 0; i < 60; i += 1) flood.says({ kind: 'comment', text: `Flood ${i}` });
  await expect.poll(() => flood.closed.code).toBe(AUDIENCE_CLOSED.flood);
  good.says({ kind: 'comment', text: 'Still here' });
  await expect.poll(() => comments().some((c) => c.text === 'Still here')).toBe(true);
});

it('waits where no window runs the show, goes on when one does, and ends when the link is withdrawn', async () => {
  const kit = visitor('kit');
  await expect.poll(() => kit.heard.some((m) => m.kind === 'waiting')).toBe(true);
  const { say } = await host();
  await kit.in();
  say({ kind: 'ways', list: [] });
  await expect.poll(() => kit.closed.code).toBe(AUDIENCE_CLOSED.withdrawn);
});

it('lets no more through than anybody reads, and says how many were passed over', async () => {
  const { comments, passed } = await host(setUp({ perMinute: 60 }));
  const people = Array.from({ length: 30 }, (_, i) => visitor(`many-${i}`));
  await Promise.all(people.map((p) => p.in()));
  for (let n = 0; n < 20; n += 1) for (const p of people) p.says({ kind: 'comment', text: `Comment ${n}` });
  await expect.poll(passed, { timeout: 8000 }).toBeGreaterThan(100);
  expect(comments().length).toBeLessThan(250);
});
