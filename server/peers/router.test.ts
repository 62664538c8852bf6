/** WHIP and WHEP against a real server: keys good, forged, ended and of other sources, offers that are none, sessions of others. */
import { createHash } from 'node:crypto';
import { expect, it } from 'vitest';
import { type ServerAsk } from '#core/panels/asks';
import { type ToHost } from '#core/panels/messages';
import { type WayIn } from '#core/panels/way-in';
import { testServer } from '#tests/support/server';

const { at, hostLine } = testServer('peers');

const way = (kind: WayIn['kind'], id: string, secret: string, until: number | null = null): WayIn => ({
  kind,
  id,
  name: id,
  until,
  hash: createHash('sha256').update(secret).digest('hex'),
});

/** A window that answers each offer with a description that names what was asked. */
async function host() {
  const { socket, say } = await hostLine();
  const asked: ServerAsk[] = [];
  socket.on('message', (data) => {
    const message = JSON.parse(String(data)) as ToHost;
    if (message.kind !== 'ask') return;
    asked.push(message.ask as ServerAsk);
    const refused = message.ask.what === 'peer-offer' && message.ask.sdp.includes('s=refuse');
    say({
      kind: 'told',
      id: message.id,
      answer: refused ? { ok: false, message: 'The show has no such source.' } : { ok: true, value: { sdp: 'v=0\r\ns=answer\r\n' } },
    });
  });
  say({
    kind: 'ways',
    list: [way('encoder', 'bridge', 'k1'), way('encoder', 'old', 'k2', 5), way('viewer', 'all', 'k3'), way('guest', 'vik', 'k4')],
  });
  return { asked };
}

const call = (path: string, key: string | null, change: RequestInit & { headers?: Record<string, string> } = {}) =>
  fetch(`http://127.0.0.1:${at.port}/api/${path}`, {
    method: 'POST',
    body: 'v=0\r\ns=offer\r\n',
    ...change,
    headers: { 'Content-Type': 'application/sdp', ...(key !== null && { Authorization: `Bearer ${key}` }), ...change.headers },
  });

it('answers an offer with a description and the address of its session, which whoever has begun it ends', async () => {
  const { asked } = await host();
  const answer = await call('whip/show/bridge', 'k1');
  expect([answer.status, answer.headers.get('content-type')?.split(';')[0]]).toEqual([201, 'application/sdp']);
  expect(await answer.text()).toContain('s=answer');
  expect(asked[0]).toMatchObject({ what: 'peer-offer', way: 'encoder', id: 'bridge' });
  const place = (answer.headers.get('location') ?? '').replace('/api/', '');
  const fragment = { method: 'PATCH', headers: { 'Content-Type': 'application/trickle-ice-sdpfrag' } };
  const late = 'a=mid:0\r\na=candidate:1 1 udp 1 192.0.2.1 9 typ host\r\n';
  expect((await call(place, 'k1', { ...fragment, body: late })).status).toBe(204);
  expect(asked[1]).toMatchObject({ what: 'peer-candidates', candidates: [{ sdpMid: '0' }] });
  expect((await call(place, 'k1', { ...fragment, body: 'nothing of the kind' })).status).toBe(415);
  expect((await call(place, 'k3', { method: 'DELETE', body: null })).status).toBe(404);
  expect((await call(place, 'k1', { method: 'DELETE', body: null })).status).toBe(200);
  expect(asked.at(-1)).toMatchObject({ what: 'peer-end' });
  expect((await call(place, 'k1', { method: 'DELETE', body: null })).status).toBe(404);
});

it('gives the programme to viewers by a key of theirs', async () => {
  const { asked } = await host();
  expect((await call('whep/show', 'k3')).status).toBe(201);
  expect(asked[0]).toMatchObject({ what: 'peer-offer', way: 'viewer', id: 'all' });
});

it('refuses in words what has no key, a key of something else, or is no offer', async () => {
  const { asked } = await host();
  for (const [path, key, status] of [
    ['whip/show/bridge', null, 401],
    ['whip/show/bridge', 'wrong', 401],
    ['whip/show/constructor', 'k3', 401],
    ['whip/show/old', 'k2', 401],
    ['whep/show', 'k4', 401],
    ['whip/other/bridge', 'k1', 503],
  ] as const) {
    const answer = await call(path, key);
    expect(answer.status, path).toBe(status);
    expect(((await answer.json()) as { message: string }).message.length, path).toBeGreaterThan(10);
    // Not so many at once that guesses are slowed down.
    if (asked.length > 0) throw new Error(`${path} came to the window.`);
  }
});

it('takes no offer that is none or too large, no other method, and hands on what the window refuses', async () => {
  const { asked } = await host();
  expect((await call('whip/show/bridge', 'k1', { body: '{}', headers: { 'Content-Type': 'application/json' } })).status).toBe(415);
  expect((await call('whip/show/bridge', 'k1', { body: 'no description' })).status).toBe(415);
  expect((await call('whip/show/bridge', 'k1', { body: `v=0\r\n${'a'.repeat(200_000)}` })).status).toBe(413);
  expect((await call('whip/show/bridge', 'k1', { method: 'GET', body: null })).status).toBe(405);
  expect((await call('whip/show/bridge', null, { method: 'OPTIONS', body: null })).headers.get('accept-post')).toBe('application/sdp');
  expect(asked).toEqual([]);
  const refused = await call('whip/show/bridge', 'k1', { body: 'v=0\r\ns=refuse\r\n' });
  expect([refused.status, ((await refused.json()) as { message: string }).message]).toEqual([422, 'The show has no such source.']);
});
