/** TLS for other machines: a certificate that is kept and made anew when it must be, one port for both, plain requests only led there. */
import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { request as plainRequest } from 'node:http';
import { request } from 'node:https';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type TLSSocket } from 'node:tls';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { PANEL_CLOSED, PANEL_VERSION } from '#core/panels/panel-messages';
import { freePort } from '#tests/support/free-port';
import { certificateAt, fingerprintOf } from './certificate';
import { isEncrypted, lanAddresses, needsTls } from './guard';
import { type Running, serve } from './serve';

let root = '';
beforeAll(async () => {
  root = await mkdtemp(join(tmpdir(), 'bivoca-tls-'));
});
afterAll(() => rm(root, { recursive: true, force: true }));

describe('the certificate', () => {
  it('is kept, and made anew when it is about to end, is damaged, or the machine has another address', async () => {
    const path = join(root, 'own', 'certificate.json');
    const now = Date.now();
    const first = await certificateAt(path, ['192.0.2.7'], now);
    expect(fingerprintOf(first)).toMatch(/^([0-9A-F]{2}:){31}[0-9A-F]{2}$/);
    expect(await certificateAt(path, ['192.0.2.7'], now)).toEqual(first);
    const moved = await certificateAt(path, ['192.0.2.7', '198.51.100.2'], now);
    expect(fingerprintOf(moved)).not.toBe(fingerprintOf(first));
    const later = await certificateAt(path, ['192.0.2.7'], now + 380 * 86_400_000);
    expect(fingerprintOf(later)).not.toBe(fingerprintOf(moved));
    for (const damage of ['', '{', '{"key":1,"cert":2}', JSON.stringify({ key: 'PRIVATE KEY', cert: 'nothing' })]) {
      await writeFile(path, damage);
      expect(fingerprintOf(await certificateAt(path, ['192.0.2.7'], now))).toBeTruthy();
      expect(JSON.parse(await readFile(path, 'utf8'))).toMatchObject({ key: expect.stringContaining('PRIVATE KEY') as string });
    }
  });
});

describe('a server for other machines', () => {
  let port = 0;
  let running: Running;
  beforeAll(async () => {
    port = await freePort();
    await mkdir(join(root, 'dist'));
    await writeFile(join(root, 'dist', 'index.html'), '<title>app</title>');
    running = await serve({
      port,
      token: 'the-token',
      dist: join(root, 'dist'),
      ingestRoot: join(root, 'ingest'),
      streamKey: 'secret',
      certificatePath: join(root, 'certificate.json'),
    });
  });
  afterAll(() => running.close());

  const get = (host: string, path: string) =>
    new Promise<{ status: number; text: string; fingerprint: string }>((resolve, reject) => {
      request({ host, port, path, rejectUnauthorized: false, agent: false }, (res) => {
        const fingerprint = (res.socket as TLSSocket).getPeerCertificate().fingerprint256;
        let text = '';
        res.on('data', (c) => (text += c));
        res.on('end', () => resolve({ status: res.statusCode ?? 0, text, fingerprint }));
      })
        .on('error', reject)
        .end();
    });
  const getPlain = (host: string, path: string) =>
    new Promise<{ status: number; location: string | undefined }>((resolve, reject) => {
      plainRequest({ host, port, path, agent: false }, (res) => {
        res.resume();
        resolve({ status: res.statusCode ?? 0, location: res.headers.location });
      })
        .on('error', reject)
        .end();
    });

  it('speaks TLS with the certificate that is kept, and plainly to this machine, at one port', async () => {
    const kept = await certificateAt(join(root, 'certificate.json'), []);
    expect(await get('127.0.0.1', '/')).toMatchObject({ status: 200, text: '<title>app</title>', fingerprint: fingerprintOf(kept) });
    expect((await getPlain('127.0.0.1', '/')).status).toBe(200);
    // What is neither, and who says nothing, holds nobody up.
    const silent = connect(port, '127.0.0.1');
    const odd = connect(port, '127.0.0.1');
    odd.on('error', () => undefined);
    odd.write(Buffer.from([22, 9, 9, 0, 5, 1, 2, 3, 4, 5]));
    await new Promise((resolve) => odd.once('close', resolve));
    expect((await get('127.0.0.1', '/')).status).toBe(200);
    silent.destroy();
  });

  it('leads other machines there, and lets no panel in without a pass', async () => {
    const plain = { socket: { remoteAddress: '192.0.2.7' } } as never;
    expect([needsTls(plain, { port, token: 'x' }), needsTls(plain, { port, token: null })]).toEqual([true, false]);
    expect(isEncrypted({ socket: { encrypted: true } } as never)).toBe(true);
    // As another machine: by an address of this one in its network, where it has any.
    const [address] = lanAddresses(port);
    if (address === undefined) return;
    const { hostname } = new URL(address);
    expect(await getPlain(hostname, '/crew/x/desk?a=b')).toEqual({ status: 308, location: `${address}/crew/x/desk?a=b` });
    expect((await get(hostname, '/')).status).toBe(200);
    expect((await get(hostname, '/api/state')).status).toBe(401);
    const socket = new WebSocket(`wss://${hostname}:${port}/api/panel`, { rejectUnauthorized: false, origin: address });
    await new Promise((resolve, reject) => socket.once('open', resolve).once('error', reject));
    socket.send(JSON.stringify({ kind: 'enter', version: PANEL_VERSION + 1, show: null, secret: 'x' }));
    expect(await new Promise((resolve) => socket.once('close', resolve))).toBe(PANEL_CLOSED.version);
    const refused = new WebSocket(`ws://${hostname}:${port}/api/panel`);
    const error = await new Promise<Error>((resolve) => refused.once('error', resolve));
    expect(error.message).toMatch(/426/);
  });
});
