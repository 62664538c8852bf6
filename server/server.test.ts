import { mkdtemp, mkdir, rm, writeFile } from 'node:fs/promises';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { attempt, sampleDesk } from '#tests/support/sample-show';
import { makeOpusTrack } from '#tests/support/cmaf';
import { freePort } from '#tests/support/free-port';
import { judge } from './guard';
import { type Running, serve } from './serve';

let port = 0;
let root = '';
let running: Running;

beforeAll(async () => {
  port = await freePort();
  root = await mkdtemp(join(tmpdir(), 'bivoca-server-'));
  await mkdir(join(root, 'dist'));
  await writeFile(join(root, 'dist', 'index.html'), '<title>app</title>');
  running = await serve({ port, token: null, dist: join(root, 'dist'), ingestRoot: join(root, 'ingest'), streamKey: 'secret' });
});
afterAll(async () => {
  await running.close();
  await rm(root, { recursive: true, force: true });
});

/** A request with full control of path and headers. */
function ask(method: string, path: string, headers: Record<string, string> = {}, body?: Buffer | string): Promise<{ status: number; text: string; headers: Record<string, unknown> }> {
  return new Promise((resolve, reject) => {
    const req = request({ host: '127.0.0.1', port, method, path, headers: { host: `127.0.0.1:${port}`, ...headers } }, (res) => {
      let text = '';
      res.on('data', (chunk) => (text += chunk));
      res.on('end', () => resolve({ status: res.statusCode ?? 0, text, headers: res.headers }));
    });
    req.on('error', reject);
    req.end(body);
  });
}

const command = (body: unknown) => ask('POST', '/api/commands', { 'content-type': 'application/json' }, JSON.stringify(body));

/** A host window without a browser: core behind the socket. */
async function openHost(): Promise<WebSocket> {
  const socket = new WebSocket(`ws://127.0.0.1:${port}/api/host`);
  let desk = sampleDesk();
  const state = () => JSON.stringify({ kind: 'state', show: desk.show, air: desk.air, frame: 7, status: { frame: 7 } });
  socket.on('message', (data) => {
    const { id, command: sent } = JSON.parse(String(data)) as { id: number; command: { type: string; args: Record<string, unknown> } };
    const outcome = attempt(desk, sent.type, sent.args);
    if (outcome.ok) desk = outcome.desk;
    socket.send(JSON.stringify({ kind: 'answer', id, outcome: outcome.ok ? { ok: true, result: outcome.result } : { ok: false, error: outcome.error } }));
    socket.send(state());
  });
  await new Promise((resolve) => socket.once('open', resolve));
  socket.send(state());
  await expect.poll(async () => (await ask('GET', '/api/state')).status).toBe(200);
  return socket;
}

describe('the remote', () => {
  it('answers 503 while no window runs a show', async () => {
    expect((await command({ type: 'picture.cut' })).status).toBe(503);
    expect((await ask('GET', '/api/state')).status).toBe(503);
    expect(JSON.parse((await ask('GET', '/api/status')).text)).toMatchObject({ code: 'no-host' });
  });

  it('runs commands, tells state, refuses with code, message and field, and sends events', async () => {
    const host = await openHost();
    const panel = new WebSocket(`ws://127.0.0.1:${port}/api/events`);
    const heard: { kind: string; air?: { onAirId: string } }[] = [];
    panel.on('message', (data) => heard.push(JSON.parse(String(data))));
    await expect.poll(() => heard.some((m) => m.kind === 'state')).toBe(true);
    expect((await command({ type: 'picture.cut', args: {} })).status).toBe(200);
    await expect.poll(() => heard.at(-1)?.air?.onAirId).toBe('b');
    expect(JSON.parse((await ask('GET', '/api/state')).text)).toMatchObject({ frame: 7, air: { onAirId: 'b' } });
    const refused = await command({ type: 'picture.setNext', args: { source: 'gone' } });
    expect(refused.status).toBe(422);
    expect(JSON.parse(refused.text)).toEqual({ code: 'unknown-source', message: 'There is no source or layout "gone" in this show.', field: 'source' });
    host.close();
    await expect.poll(async () => (await ask('GET', '/api/state')).status).toBe(503);
    panel.close();
  });

  it.each([
    ['not JSON', '{', 400],
    ['no object', '3', 400],
    ['too large', JSON.stringify({ type: 'x', args: { x: 'y'.repeat(300_000) } }), 413],
  ])('refuses a body that is %s', async (_, body, status) => {
    const answer = await ask('POST', '/api/commands', { 'content-type': 'application/json' }, body);
    expect(answer.status).toBe(status);
    expect(JSON.parse(answer.text)).toHaveProperty('message');
  });
});

describe('the guard', () => {
  it.each([
    ['a foreign origin', { origin: 'http://elsewhere.test' }],
    ['the null origin', { origin: 'null' }],
    ['a foreign host', { host: 'rebound.test' }],
    ['the right host on a wrong port', { host: '127.0.0.1:1' }],
  ])('refuses %s on every path', async (_, headers) => {
    for (const path of ['/', '/api/state', '/live/pier/index.m3u8']) expect((await ask('GET', path, headers as never)).status).toBe(403);
  });

  it('lets its own pages and tools pass', async () => {
    for (const headers of [{}, { origin: `http://127.0.0.1:${port}` }, { origin: `http://localhost:${port}`, host: `localhost:${port}` }]) {
      expect((await ask('GET', '/', headers as never)).status).toBe(200);
    }
  });

  it('refuses a foreign page’s WebSocket', async () => {
    const socket = new WebSocket(`ws://127.0.0.1:${port}/api/host`, { headers: { origin: 'http://elsewhere.test' } });
    const error = await new Promise<Error>((resolve) => socket.once('error', resolve));
    expect(error.message).toContain('403');
  });

  it('wants the token from other machines, and not from this one', () => {
    const from = (remoteAddress: string, url: string, headers: Record<string, string> = {}) =>
      judge({ url, headers: { host: '127.0.0.1:9', ...headers }, socket: { remoteAddress } } as never, { port: 9, token: 'right' })?.status ?? 200;
    expect(from('127.0.0.1', '/')).toBe(200);
    expect(from('192.0.2.7', '/')).toBe(401);
    expect(from('192.0.2.7', '/?token=wrong')).toBe(401);
    expect(from('192.0.2.7', '/?token=right')).toBe(200);
    expect(from('192.0.2.7', '/', { cookie: 'a=1; bivoca_token=right' })).toBe(200);
    expect(from('192.0.2.7', '/', { authorization: 'Bearer right' })).toBe(200);
  });

  it('sends the headers that isolate the page', async () => {
    const { headers } = await ask('GET', '/');
    expect(headers).toMatchObject({ 'cross-origin-opener-policy': 'same-origin', 'cross-origin-embedder-policy': 'require-corp' });
    expect(String(headers['content-security-policy'])).toContain("default-src 'self'");
  });
});

describe('the streaming site', () => {
  it('wants the key, takes segments, publishes them', async () => {
    const { init, segments } = await makeOpusTrack(4, 2);
    const put = (path: string, data: Uint8Array, key = 'secret') => ask('PUT', path, { authorization: `Bearer ${key}`, 'content-type': 'video/mp4' }, Buffer.from(data));
    expect((await put('/ingest/pier/audio/init.mp4', init, 'wrong')).status).toBe(401);
    expect((await put('/ingest/pier/audio/000001.m4s', segments[0] as Uint8Array)).status).toBe(409);
    expect((await put('/ingest/pier/audio/init.mp4', init)).status).toBe(204);
    expect((await put('/ingest/pier/audio/000001.m4s', segments[0] as Uint8Array)).status).toBe(204);
    const list = await ask('GET', '/live/pier/audio/index.m3u8');
    expect(list.text).toContain('000001.m4s');
    expect((await ask('GET', '/live/pier/audio/000001.m4s')).status).toBe(200);
    expect((await ask('GET', '/live/none/index.m3u8')).status).toBe(404);
  });

  it.each(['/ingest/..%2f..%2fx/video/init.mp4', '/ingest/pier/..%2f..%2f..%2fetc/init.mp4', '/ingest/pier/video/..%2f..%2f..%2fx.mp4'])('keeps %s inside its folder', async (path) => {
    const answer = await ask('PUT', path, { authorization: 'Bearer secret' }, 'x');
    expect(answer.status).toBe(400);
  });

  it('gives the app for its own addresses, and 404 for missing files', async () => {
    expect((await ask('GET', '/show/abc/desk')).text).toContain('<title>app</title>');
    expect((await ask('GET', '/assets/none.js')).status).toBe(404);
    expect((await ask('GET', '/api/none')).status).toBe(404);
  });
});
