import { brotliCompressSync } from 'node:zlib';
import { mkdtemp, mkdir, rm, writeFile } from 'node:fs/promises';
import { request } from 'node:http';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { applyPatches, enablePatches } from 'immer';
import { afterAll, beforeAll, describe, expect, it, onTestFinished } from 'vitest';
import { WebSocket } from 'ws';
import { type FromHost, HOST_PROTOCOL, type ToHost, type ToListener } from '#core/panels/messages';
import { inParts } from '#core/panels/parts';
import { type Desk } from '#core/desk/air';
import { attempt, sampleDesk } from '#tests/support/sample-show';
import { makeOpusTrack } from '#tests/support/cmaf';
import { freePort } from '#tests/support/free-port';
import { judge } from './guard';
import { type Running, serve } from './serve';
import { Throttle } from './throttle';
import { keepServing, type Watchdog } from './watchdog';

enablePatches();

let port = 0;
let root = '';
let running: Running;

/** A file of a build. */
const CODE = `const word = '${'kite '.repeat(400)}';`;

beforeAll(async () => {
  port = await freePort();
  root = await mkdtemp(join(tmpdir(), 'bivoca-server-'));
  await mkdir(join(root, 'dist'));
  await writeFile(join(root, 'dist', 'index.html'), '<title>app</title>');
  await mkdir(join(root, 'dist', 'assets'));
  await writeFile(join(root, 'dist', 'assets', 'app-1.js'), CODE);
  await writeFile(join(root, 'dist', 'assets', 'app-1.js.br'), brotliCompressSync(CODE));
  running = await serve({ port, token: null, dist: join(root, 'dist'), ingestRoot: join(root, 'ingest'), streamKey: 'secret' });
});
afterAll(async () => {
  await running.close();
  await rm(root, { recursive: true, force: true });
});

/** A request with full control of path and headers. */
function ask(
  method: string,
  path: string,
  headers: Record<string, string> = {},
  body?: Buffer | string,
): Promise<{ status: number; text: string; headers: Record<string, unknown> }> {
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

/** The secret that the server gives to its own pages. */
const hostKey = async () =>
  (JSON.parse((await ask('GET', '/api/host-key', { 'sec-fetch-site': 'same-origin' })).text) as { key: string }).key;

const say = (socket: WebSocket, message: FromHost) => inParts(message).forEach((text) => socket.send(text));

/** A host window without a browser: core behind the socket. */
async function openHost(id = 'show', desk = sampleDesk()): Promise<{ socket: WebSocket; asked: ToHost[]; close: () => Promise<void> }> {
  const socket = new WebSocket(`ws://127.0.0.1:${port}/api/host`, [HOST_PROTOCOL, await hostKey()]);
  const asked: ToHost[] = [];
  let revision = 0;
  const state = () => say(socket, { kind: 'state', revision, ...desk, frame: 7, status: { frame: 7 } });
  socket.on('message', (data) => {
    const message = JSON.parse(String(data)) as ToHost;
    asked.push(message);
    if (message.kind === 'snapshot' || (message.kind === 'follow' && message.on)) return state();
    if (message.kind === 'status') return say(socket, { kind: 'status', frame: 7, status: { frame: 7 } });
    if (message.kind !== 'command') return;
    const command = message.command as { type: string; args?: Record<string, unknown> };
    const outcome = attempt(desk, command.type, command.args);
    if (outcome.ok) {
      desk = outcome.desk;
      revision += 1;
      say(socket, { kind: 'patches', revision, frame: 8, patches: outcome.patches });
    }
    return say(socket, {
      kind: 'answer',
      id: message.id,
      outcome: outcome.ok ? { ok: true, result: outcome.result } : { ok: false, error: outcome.error },
    });
  });
  await new Promise((resolve, reject) => socket.once('open', resolve).once('error', reject));
  say(socket, { kind: 'hello', show: { id, name: desk.show.name } });
  await expect.poll(async () => (await ask('GET', `/api/state?show=${id}`)).status).toBe(200);
  // From here on: what was asked for that look is not a test's.
  asked.length = 0;
  return {
    socket,
    asked,
    close: async () => {
      socket.close();
      await expect.poll(async () => (await ask('GET', '/api/shows')).text).not.toContain(`"${id}"`);
    },
  };
}

/** A listener that keeps its own copy of the state, as a panel does. */
function listen(query = '') {
  const socket = new WebSocket(`ws://127.0.0.1:${port}/api/events${query}`);
  const heard: { desk: Desk | null; revision: number; last: Extract<ToListener, { kind: 'host' }> | null } = {
    desk: null,
    revision: -1,
    last: null,
  };
  socket.on('message', (data) => {
    const message = JSON.parse(String(data)) as ToListener;
    if (message.kind === 'host') heard.last = message;
    if (message.kind === 'state') heard.desk = { show: message.show, air: message.air };
    if (message.kind === 'patches' && heard.desk) heard.desk = applyPatches(heard.desk, message.patches);
    if (message.kind === 'state' || message.kind === 'patches') heard.revision = message.revision;
  });
  return { socket, heard };
}

const onAir = async (show: string) =>
  (JSON.parse((await ask('GET', `/api/state?show=${show}`)).text) as { air: { onAirId: string } }).air.onAirId;

describe('the remote', () => {
  it('answers 503 while no window runs a show', async () => {
    expect((await command({ type: 'picture.cut' })).status).toBe(503);
    expect((await ask('GET', '/api/state')).status).toBe(503);
    expect(JSON.parse((await ask('GET', '/api/status')).text)).toMatchObject({ code: 'no-host' });
  });

  it('runs commands, tells state, refuses with code, message and field, and sends events', async () => {
    const host = await openHost();
    const panel = listen();
    await expect.poll(() => panel.heard.desk?.air.onAirId).toBe('a');
    expect((await command({ type: 'picture.cut', args: {} })).status).toBe(200);
    await expect.poll(() => panel.heard.desk?.air.onAirId).toBe('b');
    expect(JSON.parse((await ask('GET', '/api/state')).text)).toMatchObject({ frame: 8, revision: 1, air: { onAirId: 'b' } });
    const refused = await command({ type: 'picture.setNext', args: { picture: 'gone' } });
    expect(refused.status).toBe(422);
    expect(JSON.parse(refused.text)).toEqual({
      code: 'unknown-picture',
      message: 'There is no picture "gone" in this show.',
      field: 'picture',
    });
    await host.close();
    await expect.poll(async () => (await ask('GET', '/api/state')).status).toBe(503);
    expect(panel.heard.last?.present).toBe(false);
    panel.socket.close();
  });

  it('takes only a window that proves to be its own page, and says so to the others', async () => {
    expect((await ask('GET', '/api/host-key')).status).toBe(403);
    expect((await ask('GET', '/api/host-key', { 'sec-fetch-site': 'cross-site' })).status).toBe(403);
    for (const offered of [[], [HOST_PROTOCOL], [HOST_PROTOCOL, 'a-guess'], [await hostKey()]]) {
      const socket = new WebSocket(`ws://127.0.0.1:${port}/api/host`, offered);
      expect((await new Promise<Error>((resolve) => socket.once('error', resolve))).message).toContain('401');
    }
    expect((await ask('GET', '/api/shows')).text).toBe('[]');
  });

  it('knows shows by their identity: each command reaches the one that is meant', async () => {
    const [kites, boats] = [await openHost('kites'), await openHost('boats')];
    const one = await command({ type: 'picture.cut', args: { picture: 'c' } });
    expect([one.status, JSON.parse(one.text)]).toMatchObject([409, { code: 'several-shows', shows: [{ id: 'boats' }, { id: 'kites' }] }]);
    const at = (show: string, source: string) =>
      ask(
        'POST',
        `/api/commands?show=${show}`,
        { 'content-type': 'application/json' },
        JSON.stringify({ type: 'picture.cut', args: { picture: source } }),
      );
    expect((await at('kites', 'b')).status).toBe(200);
    expect((await at('boats', 'c')).status).toBe(200);
    expect([await onAir('kites'), await onAir('boats'), (await at('none', 'b')).status]).toEqual(['b', 'c', 404]);
    const panels = [listen(), listen('?show=kites')];
    await expect
      .poll(() => panels.map(({ heard }) => [heard.last?.present, heard.last?.shows.length]))
      .toEqual([
        [false, 2],
        [true, 2],
      ]);
    // What is left is the only one again, and nothing of the closed show is given out.
    await boats.close();
    expect([(await ask('GET', '/api/state?show=boats')).status, await onAir('kites'), (await ask('GET', '/api/state')).status]).toEqual([
      404,
      'b',
      200,
    ]);
    await expect.poll(() => panels[0]?.heard.desk?.air.onAirId).toBe('b');
    panels.forEach((p) => p.socket.close());
    await kites.close();
  });

  it('lets no window answer for another', async () => {
    const [first, second] = [await openHost('first'), await openHost('second')];
    first.socket.removeAllListeners('message');
    const asked = ask('POST', '/api/commands?show=first', { 'content-type': 'application/json' }, '{"type":"picture.cut"}');
    for (let id = 0; id < 50; id += 1) say(second.socket, { kind: 'answer', id, outcome: { ok: true, result: { forged: true } } });
    const early = await Promise.race([asked, new Promise<null>((resolve) => setTimeout(() => resolve(null), 300))]);
    expect(early).toBeNull();
    first.socket.terminate();
    expect((await asked).status).toBe(503);
    await second.close();
  });

  it('sends patches of a show of 20,000 clips, and never a message that is too large', async () => {
    const clip = { name: 'x'.repeat(700), notes: 'y'.repeat(100) };
    const desk = sampleDesk();
    const large = {
      ...desk,
      show: {
        ...desk.show,
        replay: { ...desk.show.replay, clips: Array.from({ length: 20_000 }, (_, i) => ({ ...clip, id: `c${i}` })) as never },
      },
    };
    const host = await openHost('large', large);
    const panel = listen();
    await expect.poll(() => panel.heard.desk?.show.replay.clips.length, { timeout: 20_000 }).toBe(20_000);
    for (let i = 0; i < 40; i += 1) expect((await command({ type: 'picture.cut', args: { picture: i % 2 ? 'a' : 'b' } })).status).toBe(200);
    await expect.poll(() => panel.heard.revision).toBe(40);
    expect([
      panel.heard.desk?.air.onAirId,
      panel.socket.readyState,
      host.socket.readyState,
      host.asked.filter((m) => m.kind === 'snapshot').length,
    ]).toEqual(['a', 1, 1, 0]);
    panel.socket.close();
    await host.close();
  });

  it('asks for a snapshot when a revision was missed, and listeners end up with the host’s state', async () => {
    const host = await openHost('gap');
    const panel = listen();
    await expect.poll(() => panel.heard.desk?.air.onAirId).toBe('a');
    say(host.socket, { kind: 'patches', revision: 9, frame: 8, patches: [{ op: 'replace', path: ['air', 'onAirId'], value: 'wrong' }] });
    await expect.poll(() => host.asked.filter((m) => m.kind === 'snapshot').length).toBe(1);
    expect((await command({ type: 'picture.cut', args: { picture: 'c' } })).status).toBe(200);
    await expect.poll(() => panel.heard.desk?.air.onAirId).toBe('c');
    panel.socket.close();
    await host.close();
  });

  it.each([
    ['not JSON', '{', 400],
    ['no object', '3', 400],
    ['too large', JSON.stringify({ type: 'x', args: { x: 'y'.repeat(300_000) } }), 413],
    ['an empty list', '[]', 400],
    ['nested without end', `{"type":"x","args":${'['.repeat(100_000)}${']'.repeat(100_000)}}`, 400],
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
    const socket = new WebSocket(`ws://127.0.0.1:${port}/api/host`, [HOST_PROTOCOL, await hostKey()], {
      headers: { origin: 'http://elsewhere.test' },
    });
    const error = await new Promise<Error>((resolve) => socket.once('error', resolve));
    expect(error.message).toContain('403');
  });

  const from = (remoteAddress: string, url: string, headers: Record<string, string> = {}, guesses = new Throttle()) =>
    judge({ url, headers: { host: '127.0.0.1:9', ...headers }, socket: { remoteAddress } } as never, { port: 9, token: 'right' }, guesses)
      ?.status ?? 200;

  it('wants the token from other machines, and not from this one', () => {
    expect(from('127.0.0.1', '/api/state')).toBe(200);
    expect(from('192.0.2.7', '/api/state')).toBe(401);
    expect(from('192.0.2.7', '//')).toBe(401);
    expect(from('192.0.2.7', '/?token=wrong')).toBe(401);
    expect(from('192.0.2.7', '/?token=right')).toBe(200);
    expect(from('192.0.2.7', '/', { cookie: 'a=1; bivoca_token=right' })).toBe(200);
    expect(from('192.0.2.7', '/', { authorization: 'Bearer right' })).toBe(200);
  });

  it('gives other machines the app and the door of panels without it, and nothing else', () => {
    const get = (url: string, method = 'GET') =>
      judge(
        { url, method, headers: { host: '127.0.0.1:9' }, socket: { remoteAddress: '192.0.2.7' } } as never,
        { port: 9, token: 'right' },
        new Throttle(),
      )?.status ?? 200;
    for (const url of ['/', '/crew/show/desk', '/assets/app.js', '/api/panel']) expect([url, get(url)]).toEqual([url, 200]);
    for (const url of [
      '/api/state',
      '/api/host-key',
      '/api',
      '/api/panel/x',
      '/live/pier/index.m3u8',
      '/watch',
      '/simulated/wind.json',
      '/?token=wrong',
    ])
      expect([url, get(url)]).toEqual([url, 401]);
    expect(get('/', 'POST')).toBe(401);
  });

  it('slows guessing down to less than one try a minute, for the guesser alone', () => {
    let now = 0;
    const guesses = new Throttle(() => now);
    let heard = 0;
    for (; now < 600_000; now += 60) if (from('192.0.2.7', `/?token=${now}`, {}, guesses) === 401) heard += 1;
    // Ten minutes of a try every 60 ms: 10,000 tries, of which these were looked at.
    expect(heard).toBeLessThan(25);
    expect([from('192.0.2.7', '/?token=right', {}, guesses), from('192.0.2.8', '/?token=right', {}, guesses)]).toEqual([429, 200]);
    now += 60_000;
    expect(from('192.0.2.7', '/?token=right', {}, guesses)).toBe(200);
    for (let i = 0; i < 20; i += 1) guesses.wrong(`2001:db8:1:2::${i}`);
    expect(guesses.waitOf('2001:db8:1:2:ffff::1')).toBeGreaterThan(0);
  });

  it('answers on port 80 as browsers ask there', () => {
    const at80 = (headers: Record<string, string>) =>
      judge({ url: '/', headers, socket: { remoteAddress: '127.0.0.1' } } as never, { port: 80, token: null }, new Throttle());
    expect([at80({ host: '127.0.0.1' }), at80({ host: 'localhost', origin: 'http://localhost' }), at80({ host: '127.0.0.1:80' })]).toEqual([
      null,
      null,
      null,
    ]);
    expect(at80({ host: 'elsewhere.test' })?.status).toBe(403);
  });

  it('sends the headers that isolate the page', async () => {
    const { headers } = await ask('GET', '/');
    expect(headers).toMatchObject({ 'cross-origin-opener-policy': 'same-origin', 'cross-origin-embedder-policy': 'require-corp' });
    expect(String(headers['content-security-policy'])).toContain("default-src 'self'");
  });
});

describe('requests of any shape', () => {
  /** Bytes straight onto a connection; what comes back before it ends. */
  const raw = (bytes: string, reset = false) =>
    new Promise<string>((resolve) => {
      const socket = connect(port, '127.0.0.1');
      let text = '';
      socket.on('data', (data) => (text += String(data)));
      socket.on('error', () => undefined);
      socket.on('close', () => resolve(text));
      socket.write(bytes, () => reset && socket.resetAndDestroy());
      setTimeout(() => socket.end(), 200);
    });
  const head = () => `Host: 127.0.0.1:${port}\r\n`;
  const upgrade =
    'Connection: Upgrade\r\nUpgrade: websocket\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Key: dGhlIHNhbXBsZSBub25jZQ==\r\n';

  const longPath = `/${'x'.repeat(9000)}`;
  it('refuses addresses that are too long to read', async () => {
    expect(await raw(`GET ${longPath} HTTP/1.1\r\n${head()}\r\n`)).toContain('400');
  });

  it.each([
    '//',
    '///x',
    '/\\',
    '/%',
    '/%00',
    '*',
    'http://127.0.0.1/',
    '/?token=%',
    '/api/state?show=%ff',
    '/api/state?show[]=a&show[]=b',
    '/live/%2e%2e/index.m3u8',
    '/constructor',
    '/__proto__',
  ])('leaves the server up: %s', async (path) => {
    for (const lines of ['', upgrade]) {
      await raw(`GET ${path} HTTP/1.1\r\n${head()}${lines}\r\n`);
      await raw(`GET ${path} HTTP/1.1\r\n${head()}${lines}Origin: http://elsewhere.test\r\n\r\n`, true);
    }
    expect((await ask('GET', '/')).status).toBe(200);
  });

  it('outlives upgrades that are refused and reset at once', async () => {
    await Promise.all(Array.from({ length: 60 }, () => raw(`GET /api/host HTTP/1.1\r\n${head()}${upgrade}\r\n`, true)));
    expect((await ask('GET', '/')).status).toBe(200);
  });

  it('gives its pages also from below a folder whose name begins with a dot', async () => {
    const hidden = join(root, '.hidden', 'dist');
    await mkdir(hidden, { recursive: true });
    for (const name of ['index.html', 'watch.html']) await writeFile(join(hidden, name), '<title>hidden</title>');
    const other = await freePort();
    const second = await serve({ port: other, token: null, dist: hidden, ingestRoot: join(root, 'ingest2'), streamKey: 'secret' });
    for (const path of ['/', '/show/x/desk', '/watch']) expect((await fetch(`http://127.0.0.1:${other}${path}`)).status).toBe(200);
    await second.close();
  });

  it('comes back by itself when its process ends, with the same address', async () => {
    const own = await freePort();
    const said: string[] = [];
    let watchdog: Watchdog | undefined;
    await new Promise<void>((resolve, reject) => {
      watchdog = keepServing(
        { port: own, token: null, dist: join(root, 'dist'), ingestRoot: join(root, 'ingest3'), streamKey: 'secret' },
        { ready: resolve, refused: reject, again: (m) => said.push(m) },
      );
      onTestFinished(watchdog.stop);
    });
    process.kill(watchdog?.pid() as number, 'SIGKILL');
    await expect.poll(() => said.length, { timeout: 60_000 }).toBe(1);
    await expect
      .poll(
        () =>
          fetch(`http://127.0.0.1:${own}/`).then(
            (r) => r.status,
            () => 0,
          ),
        { timeout: 60_000 },
      )
      .toBe(200);
    expect(said[0]).toContain('SIGKILL');
  });
});

describe('the streaming site', () => {
  it('wants the key, takes segments, publishes them', async () => {
    const { init, segments } = await makeOpusTrack(4, 2);
    const put = (path: string, data: Uint8Array, key = 'secret') =>
      ask('PUT', path, { authorization: `Bearer ${key}`, 'content-type': 'video/mp4' }, Buffer.from(data));
    expect((await put('/ingest/pier/audio/init.mp4', init, 'wrong')).status).toBe(401);
    expect((await put('/ingest/pier/audio/000001.m4s', segments[0] as Uint8Array)).status).toBe(409);
    expect((await put('/ingest/pier/audio/init.mp4', init)).status).toBe(204);
    expect((await put('/ingest/pier/audio/000001.m4s', segments[0] as Uint8Array)).status).toBe(204);
    const list = await ask('GET', '/live/pier/audio/index.m3u8');
    expect(list.text).toContain('000001.m4s');
    expect((await ask('GET', '/live/pier/audio/000001.m4s')).status).toBe(200);
    expect((await ask('GET', '/live/none/index.m3u8')).status).toBe(404);
    // Viewers ask whether anything still comes.
    expect((JSON.parse((await ask('GET', '/live/pier/state')).text) as { idleSeconds: number }).idleSeconds).toBeLessThan(60);
    expect(JSON.parse((await ask('GET', '/live/constructor/state')).text)).toEqual({ idleSeconds: null });
  });

  it('reads no body before the key is right, and bounds what it reads at once', async () => {
    const begin = (headers: Record<string, string>) =>
      new Promise<number>((resolve) => {
        const req = request(
          {
            host: '127.0.0.1',
            port,
            method: 'PUT',
            path: '/ingest/pier/video/000001.m4s',
            headers: { host: `127.0.0.1:${port}`, ...headers },
          },
          (res) => {
            resolve(res.statusCode ?? 0);
            req.destroy();
          },
        );
        req.on('error', () => resolve(-1));
        // The body never ends: whoever waits for it before answering never answers.
        req.write(Buffer.alloc(1000));
        setTimeout(() => resolve(0), 2500);
      });
    expect(await begin({ authorization: 'Bearer wrong' })).toBe(401);
    expect(await begin({ authorization: 'Bearer secret', 'content-length': '33000000' })).toBe(413);
    const many = await Promise.all(Array.from({ length: 12 }, () => begin({ authorization: 'Bearer secret' })));
    expect([many.filter((s) => s === 0).length, many.filter((s) => s === 503).length]).toEqual([4, 8]);
  });

  it.each(['/ingest/..%2f..%2fx/video/init.mp4', '/ingest/pier/..%2f..%2f..%2fetc/init.mp4', '/ingest/pier/video/..%2f..%2f..%2fx.mp4'])(
    'keeps %s inside its folder',
    async (path) => {
      const answer = await ask('PUT', path, { authorization: 'Bearer secret' }, 'x');
      expect(answer.status).toBe(400);
    },
  );

  it('gives files of the build as they were compressed to whoever takes that, to be kept for good', async () => {
    const asked = (accepts: string) => fetch(`http://127.0.0.1:${port}/assets/app-1.js`, { headers: { 'Accept-Encoding': accepts } });
    const [small, plain] = [await asked('gzip, br'), await asked('identity')];
    expect([small, plain].map((a) => a.headers.get('content-encoding'))).toEqual(['br', null]);
    for (const answer of [small, plain]) {
      expect(await answer.text()).toBe(CODE);
      expect(answer.headers.get('content-type')).toContain('javascript');
      expect(answer.headers.get('cache-control')).toContain('immutable');
      expect(answer.headers.get('vary')).toContain('Accept-Encoding');
    }
  });

  it('gives the app for its own addresses, and 404 for missing files', async () => {
    expect((await ask('GET', '/show/abc/desk')).text).toContain('<title>app</title>');
    expect((await ask('GET', '/assets/none.js')).status).toBe(404);
    expect((await ask('GET', '/api/none')).status).toBe(404);
  });
});
