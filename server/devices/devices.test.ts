/** Devices through the server: the simulated ones, and ones that hang, flood, die, answer garbage, or want to lead elsewhere. */
import { createServer, type Server as HttpServer } from 'node:http';
import { type AddressInfo, createServer as createTcp, type Server, type Socket } from 'node:net';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { WebSocketServer, WebSocket } from 'ws';
import { createDevice } from '#core/devices/create';
import { type DeviceSettings } from '#core/devices/document';
import { type FromDevices, type Reached, type ToDevices } from '#core/devices/line';
import { HOST_PROTOCOL } from '#core/panels/messages';
import { type PierServers, startPier } from '#standins/devices/servers';
import { DEVICE_PORTS } from '#standins/devices/pier';
import { freePort } from '#tests/support/free-port';
import { serve } from '../serve';
import { DeviceSession } from './session';

let pier: PierServers;
let base = 0;
let door: WebSocketServer;
let client: WebSocket;
let told: FromDevices[] = [];
const open: (() => void)[] = [];

beforeAll(async () => {
  base = await freePort();
  pier = startPier(base);
  door = new WebSocketServer({ port: 0, host: '127.0.0.1' });
  await new Promise((resolve) => door.once('listening', resolve));
  door.on('connection', (socket) => void new DeviceSession(socket));
  client = new WebSocket(`ws://127.0.0.1:${(door.address() as AddressInfo).port}`);
  client.on('message', (data) => told.push(JSON.parse(String(data as Buffer)) as FromDevices));
  await new Promise((resolve) => client.once('open', resolve));
});
afterAll(() => {
  client.terminate();
  door.close();
  pier.close();
});
afterEach(() => {
  say({ kind: 'devices', list: [] });
  told = [];
  for (const close of open.splice(0)) close();
});

const say = (message: ToDevices) => client.send(JSON.stringify(message));
const device = (settings: DeviceSettings, change: Partial<Reached> = {}): Reached => ({ ...createDevice('d', 'D', settings), ...change });
const set = (...list: Reached[]) => say({ kind: 'devices', list });
let keys = 0;
const send = (text: string, path = '', method = 'POST', deviceId = 'd') => {
  keys += 1;
  say({ kind: 'send', key: keys, deviceId, method, path, text });
  return keys;
};
async function until<T>(ask: () => T | undefined | false, what: string): Promise<T> {
  for (const end = Date.now() + 30_000; Date.now() < end;) {
    const value = ask();
    if (value) return value;
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
  throw new Error(`Waited in vain for ${what}: ${JSON.stringify(told)}`);
}
const done = (key: number) =>
  until(() => told.find((t): t is Extract<FromDevices, { kind: 'done' }> => t.kind === 'done' && t.key === key), `the end of ${key}`);
const heard = () => told.flatMap((t) => (t.kind === 'heard' ? [t.text] : []));

/** A TCP server of the test's own. */
async function tcp(each: (socket: Socket) => void): Promise<number> {
  const sockets = new Set<Socket>();
  const server: Server = createTcp((socket) => {
    sockets.add(socket);
    socket.on('error', () => undefined);
    each(socket);
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  open.push(() => {
    for (const socket of sockets) socket.destroy();
    server.close();
  });
  return (server.address() as AddressInfo).port;
}
async function http(answer: Parameters<typeof createServer>[1]): Promise<string> {
  const server: HttpServer = createServer(answer as never);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  open.push(() => {
    server.closeAllConnections();
    server.close();
  });
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
}
const tcpTo = (port: number): DeviceSettings => ({ kind: 'tcp', host: '127.0.0.1', port, ending: 'lf' });

describe('the simulated devices', () => {
  it('take lines over TCP, answer them, and say what is pressed; they are away without current and come back', async () => {
    set(device(tcpTo(base + DEVICE_PORTS.lamps), { answers: true }));
    expect(await done(send('lamp 3 air'))).toMatchObject({ ok: true, answer: 'ok' });
    expect(pier.state().lamps[2]).toBe('air');
    expect(await done(send('lamp 99 air'))).toMatchObject({ ok: true, answer: 'error: lamps have numbers from 1 to 8' });
    pier.act({ press: 5 });
    await until(() => heard().includes('lamp 5 pressed'), 'the press');
    pier.act({ power: false });
    await until(() => told.some((t) => t.kind === 'state' && t.reach === 'away'), 'the loss');
    expect(await done(send('lamp 3 off'))).toMatchObject({ ok: false, tries: 2 });
    pier.act({ power: true });
    const from = told.length;
    await until(() => told.slice(from).some((t) => t.kind === 'state' && t.reach === 'reached'), 'the return');
    expect(await done(send('lamp 3 off'))).toMatchObject({ ok: true });
  });

  it('take HTTP and OSC, by packets, and are heard', async () => {
    set(device({ kind: 'http', address: `http://127.0.0.1:${base + DEVICE_PORTS.projector}` }));
    expect(await done(send('{"open":false}', '/shutter', 'PUT'))).toMatchObject({ ok: true, answer: '200 {"shutter":"closed"}' });
    expect(pier.state().shutter).toBe(false);
    expect(await done(send('{}', '/shutter'))).toMatchObject({ ok: false, message: expect.stringContaining('400') as string });
    set(device({ kind: 'osc', host: 'localhost', port: base + DEVICE_PORTS.wall, carrier: 'udp', listens: null }));
    expect(await done(send('4', '/wall/layout'))).toMatchObject({ ok: true, answer: null });
    await until(() => heard().includes('/wall/is 4'), 'the wall');
    expect(pier.state().wall.layout).toBe(4);
    set(device({ kind: 'osc', host: '127.0.0.1', port: base + DEVICE_PORTS.wall, carrier: 'udp', listens: null }, { answers: true }));
    expect(await done(send('"score 3"', '/wall/cell/2'))).toMatchObject({ ok: true, answer: '/wall/cell 2' });
  });
});

describe('a device that is not well', () => {
  it('and hangs holds no other up, is tried again, and what waits too long is given up', async () => {
    const port = await tcp(() => undefined);
    set(device(tcpTo(port), { answers: true, waitSeconds: 0.2, retries: 1 }), {
      ...device(tcpTo(base + DEVICE_PORTS.lamps), { answers: true }),
      id: 'lamps',
    });
    const hanging = Array.from({ length: 130 }, (_, i) => send(`x ${i}`));
    const other = await done(send('lamp 1 air', '', 'POST', 'lamps'));
    expect(other).toMatchObject({ ok: true });
    expect(other.millis).toBeLessThan(2000);
    expect(await done(hanging[0]!)).toMatchObject({ ok: false, tries: 2, message: 'it did not answer in time' });
    expect(await done(hanging.at(-1)!)).toMatchObject({ ok: false, message: expect.stringContaining('100 messages wait') as string });
    expect(await done(hanging[60]!)).toMatchObject({ ok: false, message: expect.stringContaining('waited') as string });
  });

  it('and hangs by HTTP is given up in time, also while garbage is collected', async () => {
    setFlagsFromString('--expose_gc');
    const collect = runInNewContext('gc') as () => void;
    const address = await http(() => undefined);
    set(device({ kind: 'http', address }, { answers: true, waitSeconds: 0.5, retries: 1 }));
    const key = send('{}', '/shutter');
    const collecting = setInterval(collect, 50);
    expect(await done(key)).toMatchObject({ ok: false, tries: 2, message: 'it did not answer in time' });
    clearInterval(collecting);
  });

  it('and is slow to answer once is reached again when it answers', async () => {
    let answers = false;
    const port = await tcp((socket) => socket.on('data', () => void (answers && socket.write('ok\n'))));
    set(device(tcpTo(port), { answers: true, waitSeconds: 0.2, retries: 0 }));
    const reach = () => told.flatMap((t) => (t.kind === 'state' ? [t.reach] : [])).at(-1);
    expect(await done(send('one'))).toMatchObject({ ok: false });
    expect(reach()).toBe('away');
    answers = true;
    expect(await done(send('two'))).toMatchObject({ ok: true, answer: 'ok' });
    await until(() => reach() === 'reached', 'that it is reached');
  });

  it('and floods, answers garbage, gigabytes or without end is bounded', async () => {
    const port = await tcp((socket) => {
      for (let i = 0; i < 1000; i += 1) socket.write(`line ${i}\n`);
      socket.write(Buffer.from([0xff, 0x00, 0x1b, 0x5b, 0x0a]));
      const endless = () => {
        while (socket.write(Buffer.alloc(60_000, 65)));
      };
      socket.on('drain', endless);
      endless();
    });
    set(device(tcpTo(port)));
    await until(() => told.some((t) => t.kind === 'state' && t.message.includes('the rest is not heard')), 'the bound');
    expect(heard().length).toBeLessThanOrEqual(400);
    // Whoever floods is still written to.
    expect(await done(send('still here'))).toMatchObject({ ok: true });
    const address = await http((_req, res) => {
      res.writeHead(200);
      const endless = setInterval(() => res.write('x'.repeat(100_000)), 1);
      res.on('close', () => clearInterval(endless));
    });
    set(device({ kind: 'http', address }));
    const { answer } = await done(send('', '/', 'GET'));
    expect(answer?.length).toBeLessThan(5000);
  });

  it('and sends on, or is to be led elsewhere by a path, is not followed', async () => {
    let elsewhere = 0;
    const other = await http((_req, res) => {
      elsewhere += 1;
      res.end('here');
    });
    const address = await http((_req, res) => res.writeHead(302, { location: `${other}/x` }).end());
    set(device({ kind: 'http', address }, { retries: 0 }));
    expect(await done(send('', '/', 'GET'))).toMatchObject({ ok: false, message: expect.stringContaining('sends on') as string });
    const host = new URL(other).host;
    for (const path of [`//${host}/`, `@${host}/`, `\\\\${host}`, `http://${host}/`]) await done(send('', path, 'GET'));
    expect(elsewhere).toBe(0);
  });

  it('is reached by WebSockets, and by OSC in frames over TCP', async () => {
    const server = new WebSocketServer({ port: 0, host: '127.0.0.1' });
    await new Promise((resolve) => server.once('listening', resolve));
    server.on('connection', (socket) => socket.on('message', (data) => socket.send(`echo ${String(data as Buffer)}`)));
    open.push(() => server.close());
    set(device({ kind: 'websocket', address: `ws://127.0.0.1:${(server.address() as AddressInfo).port}/x` }, { answers: true }));
    expect(await done(send('hello'))).toMatchObject({ ok: true, answer: 'echo hello' });
    for (const carrier of ['tcp-length', 'tcp-slip'] as const) {
      // What comes back byte for byte is the same message.
      const port = await tcp((socket) => socket.pipe(socket));
      set(device({ kind: 'osc', host: '127.0.0.1', port, carrier, listens: null }, { answers: true }));
      expect(await done(send('1 0.5 "two words"', '/a/b'))).toMatchObject({ ok: true, answer: '/a/b 1 0.5 "two words"' });
    }
  });

  it('says why in words when nobody is there, or what is sent is no message', async () => {
    const free = await freePort();
    set(device(tcpTo(free), { retries: 0, answers: true }));
    expect(await done(send('x'))).toMatchObject({ ok: false, message: 'nobody listens at this port' });
    set(device({ kind: 'osc', host: '127.0.0.1', port: free, carrier: 'udp', listens: null }, { retries: 0 }));
    expect(await done(send('"open', '/x'))).toMatchObject({ ok: false, message: 'A text has no closing quote.' });
    expect(await done(send('x', '', 'POST', 'constructor'))).toMatchObject({
      ok: false,
      message: expect.stringContaining('does not know') as string,
    });
  });
});

describe('the door to devices', () => {
  it('opens for pages of this server alone, and closes on what is no message', async () => {
    const port = await freePort();
    const running = await serve({ port, token: null, dist: '.', ingestRoot: '/nowhere', streamKey: 'x' });
    const knock = (protocols: string[]) =>
      new Promise<string>((resolve) => {
        const socket = new WebSocket(`ws://127.0.0.1:${port}/api/devices`, protocols);
        socket.on('error', (error) => resolve(error.message));
        socket.on('open', () => socket.send('{"kind":"send"}'));
        socket.on('close', (code) => resolve(String(code)));
      });
    expect(await knock([HOST_PROTOCOL, 'forged'])).toContain('401');
    const response = await fetch(`http://127.0.0.1:${port}/api/host-key`, { headers: { 'sec-fetch-site': 'same-origin' } });
    const { key } = (await response.json()) as { key?: string };
    expect(await knock([HOST_PROTOCOL, key ?? ''])).toBe('1003');
    await running.close();
  });
});
