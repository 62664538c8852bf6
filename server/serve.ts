/** Starts the server: HTTP and the two WebSocket lines. */
import { createServer, type Server } from 'node:http';
import { WebSocketServer } from 'ws';
import { type AppOptions, createApp } from './app';
import { judge } from './guard';
import { Relay } from './remote/relay';

export interface Running {
  server: Server;
  close: () => Promise<void>;
}

const MESSAGE_LIMIT = 16 * 1024 * 1024;

/** Listens on loopback, or on every address when there is a token. Rejects when the port is taken. */
export async function serve(options: AppOptions): Promise<Running> {
  const relay = new Relay();
  const server = createServer(createApp(options, relay));
  const sockets = new WebSocketServer({ noServer: true, maxPayload: MESSAGE_LIMIT });
  server.on('upgrade', (request, socket, head) => {
    const { pathname } = new URL(request.url ?? '/', 'http://x');
    const known = pathname === '/api/host' || pathname === '/api/events';
    if (judge(request, options) || !known) {
      socket.end('HTTP/1.1 403 Forbidden\r\nConnection: close\r\n\r\n');
      return;
    }
    sockets.handleUpgrade(request, socket, head, (ws) => (pathname === '/api/host' ? relay.addHost(ws) : relay.addPanel(ws)));
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(options.port, options.token === null ? '127.0.0.1' : '0.0.0.0', resolve);
  });
  return {
    server,
    close: async () => {
      for (const client of sockets.clients) client.terminate();
      server.closeAllConnections();
      await new Promise<void>((resolve) => server.close(() => resolve()));
    },
  };
}
