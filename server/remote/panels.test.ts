/** Panels against a real server, with a host of core behind a socket: passes good, forged, ended and withdrawn, rights, damage, floods, many at once. */
import { createHash } from 'node:crypto';
import { readdir } from 'node:fs/promises';
import { request } from 'node:http';
import { join } from 'node:path';
import { enablePatches } from 'immer';
import { expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { type ToHost } from '#core/panels/messages';
import { type PassHash, type Rooms } from '#core/panels/pass';
import { PANEL_CLOSED, PANEL_VERSION, panelId, type ToPanel } from '#core/panels/panel-messages';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { freePort } from '#tests/support/free-port';
import { testServer } from '#tests/support/server';
import { serve } from '../serve';

enablePatches();

const { at, options, hostKey, hostLine } = testServer('panels');
const { open } = at;

const passFor = (id: string, secret: string, rooms: Rooms, until: number | null = null): PassHash => ({
  id,
  name: `Name of ${id}`,
  rooms,
  until,
  hash: createHash('sha256').update(secret).digest('hex'),
});

/** What a host answers: of a file, what is in it. */
async function answer(ask: Extract<ToHost, { kind: 'ask' }>['ask']): Promise<unknown> {
  if (ask.what !== 'take-file') return { asked: ask };
  const file = await fetch(`http://127.0.0.1:${at.port}/api/panel/files/${ask.id}`, {
    headers: { authorization: `Bearer ${await hostKey()}` },
  });
  return { name: ask.name, use: ask.use, status: file.status, bytes: (await file.arrayBuffer()).byteLength };
}

async function host(passes: PassHash[], desk = must(sampleDesk(), 'output.setStream', { key: 'hidden-key' })) {
  const { socket, say } = await hostLine();
  const asked: ToHost[] = [];
  let revision = 0;
  socket.on('message', (data) => {
    const message = JSON.parse(String(data)) as ToHost;
    asked.push(message);
    if (message.kind === 'snapshot' || (message.kind === 'follow' && message.on))
      return say({ kind: 'state', revision, ...desk, frame: 7, status: { frame: 7 } });
    if (message.kind === 'ask') {
      void answer(message.ask).then((value) => say({ kind: 'told', id: message.id, answer: { ok: true, value } }));
      return undefined;
    }
    if (message.kind !== 'command') return undefined;
    const { type, args } = message.command as { type: string; args?: Record<string, unknown> };
    const outcome = attempt(desk, type, args);
    if (outcome.ok) {
      desk = outcome.desk;
      revision += 1;
      say({ kind: 'patches', revision, frame: 8, patches: outcome.patches, ...(message.from && { of: message.from.key }) });
    }
    say({ kind: 'answer', id: message.id, outcome: outcome.ok ? { ok: true, result: outcome.result } : outcome });
    return undefined;
  });
  say({ kind: 'passes', list: passes });
  return { socket, asked, say, setPasses: (list: PassHash[]) => say({ kind: 'passes', list }), desk: () => desk };
}

function panel(secret: string | null, { show = 'show' as string | null, version = PANEL_VERSION, port = at.port } = {}) {
  const socket = new WebSocket(`ws://127.0.0.1:${port}/api/panel`);
  open.push(socket);
  const heard: ToPanel[] = [];
  const closed: { code: number | null } = { code: null };
  socket.on('message', (data) => {
    const message = JSON.parse(String(data)) as ToPanel;
    heard.push(message);
    if (message.kind === 'ping') socket.send(JSON.stringify({ kind: 'pong', at: message.at }));
  });
  socket.on('close', (code) => (closed.code = code));
  socket.on('error', () => undefined);
  if (secret !== null) socket.on('open', () => socket.send(JSON.stringify({ kind: 'enter', version, show, secret })));
  const last = <K extends ToPanel['kind']>(kind: K) => heard.findLast((m): m is Extract<ToPanel, { kind: K }> => m.kind === kind);
  let keys = 0;
  const send = async (...commands: { type: string; args?: object }[]) => {
    keys += 1;
    const key = `k${keys}`;
    socket.send(JSON.stringify({ kind: 'command', key, commands, ids: [] }));
    await expect.poll(() => heard.some((m) => m.kind === 'answer' && m.key === key), { timeout: 9000 }).toBe(true);
    return heard.find((m): m is Extract<ToPanel, { kind: 'answer' }> => m.kind === 'answer' && m.key === key)!.outcome;
  };
  return { socket, heard, closed, last, send, state: () => last('state') };
}

it('lets in by a pass, tells the state without what is secret, and takes only what the pass is for', async () => {
  const { asked, desk } = await host([passFor('p1', 'right', { desk: 'work', sound: 'see' })]);
  const runa = panel('right');
  await expect.poll(() => runa.state()).toBeTruthy();
  expect(runa.last('entered')?.pass).toEqual({ id: 'p1', name: 'Name of p1', rooms: { desk: 'work', sound: 'see' }, until: null });
  expect(JSON.stringify(runa.heard)).not.toMatch(/hidden-key|hash/);
  expect(await runa.send({ type: 'picture.cut', args: { picture: 'b' } })).toMatchObject({ ok: true });
  expect(desk().air.onAirId).toBe('b');
  expect(asked.find((m) => m.kind === 'command')).toMatchObject({ from: { by: { id: 'p1', name: 'Name of p1' }, key: 'k1' } });
  await expect.poll(() => runa.last('patches')?.of).toBe('k1');
  const before = desk();
  expect(await runa.send({ type: 'sound.setChannel', args: { channels: ['a'], muted: true } })).toMatchObject({
    ok: false,
    error: { code: 'no-right', message: expect.stringContaining('needs a pass for Sound') as string },
  });
  expect(await runa.send({ type: 'device.add', args: {} })).toMatchObject({ ok: false, error: { code: 'only-here' } });
  expect(await runa.send({ type: 'picture.take' }, { type: 'clip.grab' })).toMatchObject({ ok: false, error: { index: 1 } });
  expect(desk()).toBe(before);
  await expect.poll(() => asked.findLast((m) => m.kind === 'people'), { timeout: 9000 }).toMatchObject({ list: [{ passId: 'p1' }] });
});

it('keeps out who has a forged pass, one that has ended, or another version', async () => {
  await host([passFor('p1', 'right', { desk: 'work' }), passFor('old', 'ended', { desk: 'work' }, Date.now() - 1)]);
  const [forged, ended, version] = [panel('wrong'), panel('ended'), panel('right', { version: 999 })];
  await expect
    .poll(() => [forged.closed.code, ended.closed.code, version.closed.code])
    .toEqual([PANEL_CLOSED.withdrawn, PANEL_CLOSED.withdrawn, PANEL_CLOSED.version]);
  for (const one of [forged, ended, version]) expect(one.heard.filter((m) => m.kind !== 'waiting')).toEqual([]);
});

it('lets whoever guesses wait, and says that it is that', async () => {
  // A server of its own: what is guessed here slows the others' down.
  const other = await freePort();
  const own = await serve({ ...options(), port: other });
  const window = await hostLine(other);
  window.say({ kind: 'passes', list: [passFor('p1', 'right', { desk: 'work' })] });
  for (let i = 0; i < 5; i += 1) {
    const wrong = panel(`guess ${i}`, { port: other });
    await expect.poll(() => wrong.closed.code).toBe(PANEL_CLOSED.withdrawn);
  }
  const right = panel('right', { port: other });
  await expect.poll(() => right.closed.code).toBe(PANEL_CLOSED.slow);
  window.socket.terminate();
  await own.close();
});

it('ends at once what is withdrawn, follows rights that change, and ends on its moment', async () => {
  const one = passFor('p1', 'right', { desk: 'see' });
  const { setPasses } = await host([one]);
  const runa = panel('right');
  await expect.poll(() => runa.state()).toBeTruthy();
  expect(await runa.send({ type: 'picture.take' })).toMatchObject({ ok: false, error: { code: 'no-right' } });
  setPasses([{ ...one, rooms: { desk: 'work' } }]);
  await expect.poll(() => runa.last('entered')?.pass.rooms).toEqual({ desk: 'work' });
  expect((await runa.send({ type: 'picture.take' })).ok).toBe(true);
  setPasses([]);
  await expect.poll(() => runa.closed.code).toBe(PANEL_CLOSED.withdrawn);
  setPasses([{ ...one, until: Date.now() + 1500 }]);
  const again = panel('right');
  await expect.poll(() => again.state()).toBeTruthy();
  await expect.poll(() => again.closed.code, { timeout: 9000 }).toBe(PANEL_CLOSED.withdrawn);
});

it('waits for the window that runs the show, and goes on when that comes back', async () => {
  const runa = panel('right');
  await expect.poll(() => runa.last('waiting')).toBeTruthy();
  expect(await runa.send({ type: 'picture.take' })).toMatchObject({ ok: false, error: { code: 'failed' } });
  const first = await host([passFor('p1', 'right', { desk: 'work' })]);
  await expect.poll(() => runa.state()).toBeTruthy();
  first.socket.close();
  const waits = () => runa.heard.filter((m) => m.kind === 'waiting').length;
  await expect.poll(waits).toBe(2);
  await host([passFor('p1', 'right', { desk: 'work' })]);
  await expect.poll(() => runa.heard.filter((m) => m.kind === 'state').length).toBe(2);
  expect((await runa.send({ type: 'picture.take' })).ok).toBe(true);
  // Whoever waited with a forged pass is sent away when it can be seen that it is.
  expect(runa.closed.code).toBeNull();
});

it('sends away what is damaged, nested, huge, or more than hands can press; the host hears nothing of it', async () => {
  const { asked } = await host([passFor('p1', 'right', { desk: 'work' })]);
  for (const text of [
    'no json',
    '{"kind":"constructor"}',
    '{"kind":"enter"}',
    '[]',
    'null',
    JSON.stringify({ kind: 'command', key: '../x', commands: [{}], ids: [] }),
    JSON.stringify({ kind: 'command', key: 'k', commands: {}, ids: [] }),
    JSON.stringify({ kind: 'command', key: 'k', commands: [{}], ids: Array.from({ length: 5000 }, () => 'x') }),
    'x'.repeat(400_000),
  ]) {
    const bad = panel('right');
    await expect.poll(() => bad.state()).toBeTruthy();
    bad.socket.send(text);
    await expect.poll(() => bad.closed.code, { message: text.slice(0, 60) }).not.toBeNull();
  }
  const nested = panel('right');
  await expect.poll(() => nested.state()).toBeTruthy();
  let deep: object = {};
  for (let i = 0; i < 3000; i += 1) deep = { deep };
  expect(await nested.send({ type: 'picture.take', args: deep })).toMatchObject({ ok: false, error: { code: 'bad-argument' } });
  const flood = panel('right');
  await expect.poll(() => flood.state()).toBeTruthy();
  for (let i = 0; i < 2000; i += 1) flood.socket.send('{"kind":"snapshot"}');
  await expect.poll(() => flood.closed.code).toBe(PANEL_CLOSED.flood);
  expect(asked.filter((m) => m.kind === 'command')).toEqual([]);
});

it('is no door for more panels than it holds, and those that are in go on', async () => {
  await host([passFor('p1', 'right', { desk: 'work' })]);
  const many = Array.from({ length: 230 }, () => panel('right'));
  await expect.poll(() => many.filter((p) => p.closed.code === PANEL_CLOSED.full).length, { timeout: 15_000 }).toBe(30);
  await expect.poll(() => many.filter((p) => p.state()).length, { timeout: 15_000 }).toBe(200);
  const first = many.find((p) => p.state())!;
  expect((await first.send({ type: 'picture.cut', args: { picture: 'b' } })).ok).toBe(true);
});

it('asks the host only for what the pass may see', async () => {
  await host([passFor('p1', 'right', { replay: 'see' })]);
  const runa = panel('right');
  await expect.poll(() => runa.state()).toBeTruthy();
  const ask = async (key: string, what: object) => {
    runa.socket.send(JSON.stringify({ kind: 'ask', key, ask: what }));
    await expect.poll(() => runa.heard.some((m) => m.kind === 'told' && m.key === key)).toBe(true);
    return runa.heard.find((m): m is Extract<ToPanel, { kind: 'told' }> => m.kind === 'told' && m.key === key)!.answer;
  };
  const thumbnail = { what: 'thumbnail', trackId: 't', frame: 5, width: 100, exact: false };
  expect(await ask('a1', thumbnail)).toEqual({ ok: true, value: { asked: thumbnail } });
  expect(await ask('a2', { what: 'as-run' })).toMatchObject({ ok: false });
  // What only the server asks is no question of a panel.
  runa.socket.send(JSON.stringify({ kind: 'ask', key: 'a3', ask: { what: 'take-file', id: 'x', name: 'y' } }));
  await expect.poll(() => runa.closed.code).toBe(PANEL_CLOSED.misread);
});

it('takes files by a pass that may use them, gives them to the host alone, and keeps none', async () => {
  const url = (query = '') => `http://127.0.0.1:${at.port}/api/panel/files?show=show&name=kite.png&use=image${query}`;
  const bring = (secret: string, body: string | Uint8Array<ArrayBuffer>) =>
    fetch(url(), { method: 'POST', headers: { authorization: `Bearer ${secret}` }, body });
  expect((await bring('right', 'x')).status).toBe(503);
  await host([passFor('p1', 'right', { graphics: 'work' }), passFor('p2', 'sound', { sound: 'work', desk: 'see' })]);
  const done = await bring('right', new Uint8Array(3_000_000));
  expect([done.status, await done.json()]).toEqual([200, { name: 'kite.png', use: 'image', status: 200, bytes: 3_000_000 }]);
  expect([(await bring('wrong', 'x')).status, (await bring('sound', 'x')).status]).toEqual([401, 403]);
  // One that says how large it is is refused before it comes; one that goes away in the middle leaves nothing.
  const status = (length: number, send: boolean) =>
    new Promise<number>((resolve) => {
      const sent = request(url(), { method: 'POST', headers: { authorization: 'Bearer right', 'content-length': length } }, (res) => {
        res.resume();
        resolve(res.statusCode ?? 0);
      });
      sent.on('error', () => resolve(0));
      sent.write(Buffer.alloc(1000));
      if (send) setTimeout(() => sent.destroy(), 100);
    });
  expect(await status(900_000_000, false)).toBe(413);
  expect(await status(1_000_000, true)).toBe(0);
  await expect.poll(async () => (await readdir(join(at.root, 'uploads'))).length).toBe(0);
  for (const id of ['0'.repeat(32), '..%2f..%2fetc%2fpasswd', 'x'])
    expect(
      (await fetch(`http://127.0.0.1:${at.port}/api/panel/files/${id}`, { headers: { authorization: `Bearer ${await hostKey()}` } }))
        .status,
    ).toBe(404);
  expect((await fetch(`http://127.0.0.1:${at.port}/api/panel/files/${'0'.repeat(32)}`)).status).toBe(403);
});

it('gives identities by connection', () => {
  expect(panelId('abc', 7)).toBe('abc-7');
});
