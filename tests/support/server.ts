/** A server of ours with a page to serve, for tests that come in by its doors. */
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, beforeAll, expect } from 'vitest';
import { WebSocket } from 'ws';
import { type Running, serve } from '#server/serve';
import { type FromHost, HOST_PROTOCOL } from '#core/panels/messages';
import { freePort } from './free-port';

/** Runs while the tests of this file do. Sockets in `open` are closed after each of them, and hosts are gone before the next begins. */
export function testServer(name: string) {
  const at = { port: 0, root: '', open: [] as WebSocket[] };
  const options = () => ({
    port: at.port,
    token: null,
    dist: join(at.root, 'dist'),
    ingestRoot: join(at.root, 'ingest'),
    streamKey: 'secret',
  });
  let running: Running;
  beforeAll(async () => {
    at.port = await freePort();
    at.root = await mkdtemp(join(tmpdir(), `bivoca-${name}-`));
    await mkdir(join(at.root, 'dist'));
    await writeFile(join(at.root, 'dist', 'index.html'), '<title>app</title>');
    running = await serve(options());
  });
  afterEach(async () => {
    for (const socket of at.open.splice(0)) socket.terminate();
    await expect.poll(async () => (await fetch(`http://127.0.0.1:${at.port}/api/shows`)).json()).toEqual([]);
  });
  afterAll(async () => {
    await running.close();
    await rm(at.root, { recursive: true, force: true });
  });

  async function hostKey(port = at.port): Promise<string> {
    const told = await fetch(`http://127.0.0.1:${port}/api/host-key`, { headers: { 'sec-fetch-site': 'same-origin' } });
    return ((await told.json()) as { key: string }).key;
  }

  /** The line of a window that runs the show `show`, open and introduced. */
  async function hostLine(port = at.port) {
    const socket = new WebSocket(`ws://127.0.0.1:${port}/api/host`, [HOST_PROTOCOL, await hostKey(port)]);
    at.open.push(socket);
    const say = (message: FromHost) => socket.send(JSON.stringify(message));
    await new Promise((resolve, reject) => socket.once('open', resolve).once('error', reject));
    say({ kind: 'hello', show: { id: 'show', name: 'Sample' } });
    return { socket, say };
  }

  return { at, options, hostKey, hostLine };
}
