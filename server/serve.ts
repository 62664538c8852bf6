/** Starts the server: HTTP and the WebSocket lines. */
import { randomBytes } from 'node:crypto';
import { createServer, type IncomingMessage, type RequestListener, type Server } from 'node:http';
import { createServer as createSecureServer, type Server as SecureServer } from 'node:https';
import { createServer as createNetServer, type Server as NetServer } from 'node:net';
import { join } from 'node:path';
import { type Duplex } from 'node:stream';
import { WebSocketServer } from 'ws';
import { HOST_PROTOCOL, PART_LENGTH } from '#core/panels/messages';
import { PANEL_MESSAGE_LIMIT } from '#core/panels/panel-messages';
import { startPier } from '#standins/devices/servers';
import { type AppOptions, createApp, type Secrets } from './app';
import { certificateAt } from './certificate';
import { certifiedAddresses, judge, needsTls, sameSecret } from './guard';
import { MOST_LINE_BYTES } from '#core/devices/line';
import { DeviceSession } from './devices/session';
import { Panels } from './remote/panels';
import { GUEST_MESSAGE_LIMIT } from '#core/guests/line';
import { AUDIENCE_MESSAGE_LIMIT } from '#core/audience/line';
import { AudienceDoor } from './audience/audience-door';
import { GuestDoor } from './guests/guest-door';
import { Relay } from './remote/relay';
import { targetOf } from './target';
import { Throttle } from './throttle';

export interface Running {
  server: Server;
  close: () => Promise<void>;
}

/** Bytes of one message of a host: a part with every character escaped. */
const HOST_MESSAGE_LIMIT = PART_LENGTH * 6 + 1000;
const LISTENER_MESSAGE_LIMIT = 1000;
/** Longest that a request may take to come in, milliseconds: a segment on a slow line. */
const REQUEST_MS = 60_000;
/** Pages of the audience are most of them. */
const CONNECTION_LIMIT = 5000;

function refuse(socket: Duplex, status: string): void {
  socket.end(`HTTP/1.1 ${status}\r\nConnection: close\r\n\r\n`);
}

/** TLS with the certificate that is kept. */
async function encrypted({ certificatePath, ingestRoot }: AppOptions, app: RequestListener): Promise<SecureServer> {
  const certificate = await certificateAt(certificatePath ?? join(ingestRoot, '..', 'certificate.json'), certifiedAddresses());
  return createSecureServer({ requestTimeout: REQUEST_MS, handshakeTimeout: SILENT_MS, ...certificate }, app);
}

/** First byte of a TLS connection: a handshake record (RFC 8446, section 5.1). */
const HANDSHAKE = 22;
/** A connection that says nothing for so long is ended, milliseconds. */
const SILENT_MS = 15_000;

/** One port for both: what begins as TLS is TLS, all else is plain. */
function oneDoor(plain: Server, secure: SecureServer): NetServer {
  return createNetServer((socket) => {
    socket.setTimeout(SILENT_MS, () => socket.destroy());
    socket.once('error', () => socket.destroy());
    socket.once('data', (first) => {
      socket.pause();
      socket.setTimeout(0);
      socket.unshift(first);
      // TLS takes what was read already itself, and would miss what flows before.
      if (first[0] === HANDSHAKE) return secure.emit('connection', socket);
      plain.emit('connection', socket);
      return socket.resume();
    });
  });
}

/** Listens on loopback, or on every address when there is a token. Rejects when the port is taken. */
export async function serve(options: AppOptions): Promise<Running> {
  const relay = new Relay();
  const pier = startPier(options.port);
  const secrets: Secrets = { hostKey: randomBytes(24).toString('base64url'), guesses: { token: new Throttle(), key: new Throttle() } };
  const panels = new Panels(relay, secrets.guesses.token);
  const guests = new GuestDoor(relay, secrets.guesses.token);
  const audience = new AudienceDoor(relay, secrets.guesses.token);
  const app = createApp(options, secrets, relay, pier, panels);
  const server = createServer({ requestTimeout: REQUEST_MS }, app);
  const secure = options.token === null ? null : await encrypted(options, app);
  const door: NetServer = secure ? oneDoor(server, secure) : server;
  door.maxConnections = CONNECTION_LIMIT;
  const handleProtocols = (offered: Set<string>) => (offered.has(HOST_PROTOCOL) ? HOST_PROTOCOL : false);
  const hosts = new WebSocketServer({ noServer: true, maxPayload: HOST_MESSAGE_LIMIT, handleProtocols });
  const devices = new WebSocketServer({ noServer: true, maxPayload: MOST_LINE_BYTES, handleProtocols });
  const listeners = new WebSocketServer({ noServer: true, maxPayload: LISTENER_MESSAGE_LIMIT });
  const working = new WebSocketServer({ noServer: true, maxPayload: PANEL_MESSAGE_LIMIT });
  const writing = new WebSocketServer({ noServer: true, maxPayload: AUDIENCE_MESSAGE_LIMIT });
  const visiting = new WebSocketServer({ noServer: true, maxPayload: GUEST_MESSAGE_LIMIT });

  /** True when a socket brings the secret that only pages of this server get. */
  function isOwnPage(request: IncomingMessage): boolean {
    const offered = (request.headers['sec-websocket-protocol'] ?? '').split(',').map((p) => p.trim());
    return offered.includes(HOST_PROTOCOL) && offered.some((p) => sameSecret(p, secrets.hostKey));
  }

  const upgrade = (request: IncomingMessage, socket: Duplex, head: Buffer): void => {
    // Whoever is refused may go at any moment, also while the refusal is being written.
    socket.on('error', () => socket.destroy());
    const target = targetOf(request);
    const verdict = judge(request, options, secrets.guesses.token);
    if (verdict || !target) return refuse(socket, verdict?.status === 429 ? '429 Too Many Requests' : '403 Forbidden');
    if (needsTls(request, options)) return refuse(socket, '426 Upgrade Required');
    if (target.pathname === '/api/panel') return working.handleUpgrade(request, socket, head, (ws) => panels.add(ws, request));
    if (target.pathname === '/api/guest') return visiting.handleUpgrade(request, socket, head, (ws) => guests.add(ws, request));
    if (target.pathname === '/api/audience') return writing.handleUpgrade(request, socket, head, (ws) => audience.add(ws, request));
    if (target.pathname === '/api/events')
      return listeners.handleUpgrade(request, socket, head, (ws) => relay.addListener(ws, target.params.get('show')));
    if (target.pathname !== '/api/host' && target.pathname !== '/api/devices') return refuse(socket, '404 Not Found');
    if (!isOwnPage(request)) return refuse(socket, '401 Unauthorized');
    if (target.pathname === '/api/devices') return devices.handleUpgrade(request, socket, head, (ws) => void new DeviceSession(ws));
    return hosts.handleUpgrade(request, socket, head, (ws) => relay.addHost(ws));
  };
  server.on('upgrade', upgrade);
  secure?.on('upgrade', upgrade);
  await new Promise<void>((resolve, reject) => {
    door.once('error', (error) => {
      pier.close();
      reject(error);
    });
    door.listen(options.port, options.token === null ? '127.0.0.1' : '0.0.0.0', resolve);
  });
  return {
    server,
    close: async () => {
      pier.close();
      panels.close();
      guests.close();
      audience.close();
      for (const client of [
        ...hosts.clients,
        ...devices.clients,
        ...listeners.clients,
        ...working.clients,
        ...visiting.clients,
        ...writing.clients,
      ])
        client.terminate();
      server.closeAllConnections();
      secure?.closeAllConnections();
      await new Promise<void>((resolve) => door.close(() => resolve()));
    },
  };
}
