/** The door of guests against a real server: links good, forged, ended and withdrawn, one place for each, damage, floods; a guest hears only what is for them. */
import { createHash } from 'node:crypto';
import { expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { GUEST_CLOSED, GUEST_VERSION, type ToGuest } from '#core/guests/line';
import { type WayIn } from '#core/panels/way-in';
import { type ToHost } from '#core/panels/messages';
import { testServer } from '#tests/support/server';

const { at, hostLine } = testServer('guests');
const { open } = at;

const link = (id: string, secret: string, until: number | null = null): WayIn => ({
  kind: 'guest',
  id,
  name: `Name of ${id}`,
  until,
  hash: createHash('sha256').update(secret).digest('hex'),
});

async function host(links: WayIn[]) {
  const { socket, say } = await hostLine();
  const heard: ToHost[] = [];
  socket.on('message', (data) => heard.push(JSON.parse(String(data)) as ToHost));
  say({ kind: 'ways', list: links });
  return {
    socket,
    heard,
    say,
    of: (kind: 'guest-in' | 'guest-gone') =>
      heard.flatMap((m) => (m.kind === kind && 'session' in m ? [{ id: m.id, session: m.session }] : [])),
  };
}

function guest(secret: string, { device = 'one', version = GUEST_VERSION, show = 'show' } = {}) {
  const socket = new WebSocket(`ws://127.0.0.1:${at.port}/api/guest`);
  open.push(socket);
  const heard: ToGuest[] = [];
  const closed: { code: number | null } = { code: null };
  socket.on('message', (data) => {
    const message = JSON.parse(String(data)) as ToGuest;
    heard.push(message);
    if (message.kind === 'ping') socket.send('{"kind":"pong"}');
  });
  socket.on('close', (code) => (closed.code = code));
  socket.on('error', () => undefined);
  socket.on('open', () => socket.send(JSON.stringify({ kind: 'enter', version, show, secret, device })));
  return {
    socket,
    heard,
    closed,
    entered: () => heard.some((m) => m.kind === 'entered'),
    says: (message: unknown) => socket.send(JSON.stringify({ kind: 'says', message })),
  };
}

it('lets in by a link, and hands on what guest and host say, to these two alone', async () => {
  const { heard, say, of } = await host([link('vik', 'a'), link('liv', 'b')]);
  const [vik, liv] = [guest('a'), guest('b')];
  await expect
    .poll(() =>
      of('guest-in')
        .map((m) => m.id)
        .sort(),
    )
    .toEqual(['liv', 'vik']);
  expect(JSON.stringify(vik.heard)).not.toMatch(/hash/);
  vik.says({ kind: 'word', text: 'Hello <b>you</b>' });
  await expect
    .poll(() => heard.find((m) => m.kind === 'from-guest'))
    .toMatchObject({ id: 'vik', message: { kind: 'word', text: 'Hello <b>you</b>' } });
  const { session } = of('guest-in').find((m) => m.id === 'vik')!;
  say({ kind: 'to-guest', session, message: { kind: 'signal', signal: { candidate: null } } });
  await expect.poll(() => vik.heard.some((m) => m.kind === 'says')).toBe(true);
  expect(liv.heard.some((m) => m.kind === 'says')).toBe(false);
  vik.socket.close();
  await expect.poll(() => of('guest-gone')).toMatchObject([{ id: 'vik', session }]);
});

it('keeps out forged and ended links and other versions, and sends away at once whose link is withdrawn', async () => {
  const { say } = await host([link('vik', 'a'), link('old', 'c', Date.now() - 1)]);
  const [forged, ended, version, vik] = [guest('x'), guest('c'), guest('a', { version: 99 }), guest('a')];
  await expect
    .poll(() => [forged.closed.code, ended.closed.code, version.closed.code])
    .toEqual([GUEST_CLOSED.withdrawn, GUEST_CLOSED.withdrawn, GUEST_CLOSED.version]);
  await expect.poll(vik.entered).toBe(true);
  say({ kind: 'ways', list: [] });
  await expect.poll(() => vik.closed.code).toBe(GUEST_CLOSED.withdrawn);
});

it('has one place for each link: the same browser takes it over, another is told that it is taken', async () => {
  const { of } = await host([link('vik', 'a')]);
  const first = guest('a');
  await expect.poll(first.entered).toBe(true);
  const stranger = guest('a', { device: 'two' });
  await expect.poll(() => stranger.closed.code).toBe(GUEST_CLOSED.taken);
  expect(first.closed.code).toBeNull();
  const again = guest('a');
  await expect.poll(again.entered).toBe(true);
  await expect.poll(() => first.closed.code).toBe(GUEST_CLOSED.taken);
  expect(of('guest-in')).toHaveLength(2);
  expect(of('guest-gone')).toHaveLength(1);
});

it('lets wait while no window runs the show, and calls in when one does', async () => {
  const early = guest('a');
  await expect.poll(() => early.heard.some((m) => m.kind === 'waiting')).toBe(true);
  const first = await host([link('vik', 'a')]);
  await expect.poll(early.entered).toBe(true);
  first.socket.close();
  await expect.poll(() => early.heard.filter((m) => m.kind === 'waiting').length).toBe(2);
  const second = await host([link('vik', 'a')]);
  await expect.poll(() => second.of('guest-in').length).toBe(1);
  // Each call is a new one, so both ends make their connection anew.
  expect(second.of('guest-in')[0]?.session).not.toBe(first.of('guest-in')[0]?.session);
  second.say({ kind: 'guest-out', id: 'vik' });
  await expect.poll(() => early.closed.code).toBe(GUEST_CLOSED.out);
});

it('sends away what is damaged, huge, or a flood; the host hears nothing of it', async () => {
  const { heard } = await host([link('vik', 'a')]);
  for (const text of [
    'no json',
    'null',
    '[]',
    '{"kind":"constructor"}',
    '{"kind":"says","message":{"kind":"signal"}}',
    'x'.repeat(300_000),
  ]) {
    const bad = guest('a');
    await expect.poll(bad.entered).toBe(true);
    bad.socket.send(text);
    await expect.poll(() => bad.closed.code, { message: text.slice(0, 40) }).not.toBeNull();
  }
  const flood = guest('a');
  await expect.poll(flood.entered).toBe(true);
  for (let i = 0; i < 500; i += 1) flood.socket.send('{"kind":"pong"}');
  await expect.poll(() => flood.closed.code).toBe(GUEST_CLOSED.flood);
  expect(heard.filter((m) => m.kind === 'from-guest')).toEqual([]);
});
