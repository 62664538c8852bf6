/** The servers of the simulated devices: real TCP, HTTP and OSC, on this machine alone. */
import { createSocket, type RemoteInfo } from 'node:dgram';
import { createServer as createHttp } from 'node:http';
import { createServer as createTcp, type Socket } from 'node:net';
import { framed, readerFor } from '#core/devices/framing';
import { decodeOsc, encodeOsc, type OscMessage } from '#core/devices/osc';
import { DEVICE_PORTS, LAMPS, Pier, type PierState, WALL_LAYOUTS } from './pier';

const HOST = '127.0.0.1';
/** Bytes of a request that are read. */
const MOST_BODY = 10_000;

export interface PierServers {
  state(): PierState;
  /** What somebody does at their page; words when it is nothing that can be done. */
  act(what: unknown): string | null;
  close(): void;
}

const bytesOf = (text: string) => framed(new TextEncoder().encode(text), 'lf');

/** Starts them behind a port of the server. One whose port is taken says so on the page, and the others go on. */
export function startPier(port: number): PierServers {
  const pier = new Pier();
  const { state } = pier;
  const trouble = (name: string) => (error: Error) => void state.trouble.push(`${name} cannot listen: ${error.message}`);
  const sockets = new Set<Socket>();

  const tcp = createTcp((socket) => {
    if (!state.power) return void socket.destroy();
    sockets.add(socket);
    const reader = readerFor('lf');
    socket.on('data', (data: Buffer) => {
      for (const line of reader.read(data)) if (state.power) socket.write(bytesOf(pier.line(new TextDecoder().decode(line))));
    });
    socket.on('error', () => socket.destroy());
    socket.on('close', () => sockets.delete(socket));
    return undefined;
  });
  tcp.maxConnections = 50;
  tcp.on('error', trouble('The row of lamps'));
  tcp.listen(port + DEVICE_PORTS.lamps, HOST);

  const http = createHttp((req, res) => {
    // Without current it hangs, as a projector does that is being switched off.
    if (!state.power) return;
    let body = '';
    req.on('data', (data: Buffer) => {
      body += data.toString();
      if (body.length > MOST_BODY) req.destroy();
    });
    req.on('end', () => {
      const { status, answer } = pier.request(req.method ?? 'GET', (req.url ?? '/').slice(0, 200), body);
      res.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(answer));
    });
  });
  http.on('error', trouble('The projector'));
  http.listen(port + DEVICE_PORTS.projector, HOST);

  const udp = createSocket('udp4');
  /** Who spoke to the wall last: presses there are told to them. */
  let last: RemoteInfo | null = null;
  const tell = (message: OscMessage, to: RemoteInfo) => void udp.send(encodeOsc(message), to.port, to.address, () => undefined);
  udp.on('message', (data, from) => {
    if (!state.power) return;
    try {
      last = from;
      for (const message of decodeOsc(data)) {
        const answer = pier.osc(message);
        if (answer) tell(answer, from);
      }
    } catch {
      // Noise on the line is no message.
    }
  });
  udp.on('error', trouble('The second wall'));
  udp.bind(port + DEVICE_PORTS.wall, HOST);

  const ACTS: Record<string, (value: unknown) => boolean> = {
    power: (value) => {
      state.power = value === true;
      if (!state.power) {
        for (const socket of sockets) socket.destroy();
        // Lamps do not remember.
        state.lamps.fill('off');
      }
      return typeof value === 'boolean';
    },
    press: (value) => {
      if (!state.power || typeof value !== 'number' || !(value >= 1 && value <= LAMPS)) return false;
      for (const socket of sockets) socket.write(bytesOf(`lamp ${value} pressed`));
      return true;
    },
    layout: (value) => {
      if (!state.power || typeof value !== 'number' || !(value >= 1 && value <= WALL_LAYOUTS)) return false;
      state.wall.layout = value;
      if (last) tell({ address: '/wall/pressed', args: [{ type: 'i', value }] }, last);
      return true;
    },
  };

  return {
    state: () => state,
    act: (what) => {
      const [entry] = Object.entries((what ?? {}) as Record<string, unknown>);
      if (!entry || !Object.hasOwn(ACTS, entry[0])) return 'There is power, press and layout.';
      return ACTS[entry[0]]?.(entry[1]) ? null : 'The simulated devices cannot do this now.';
    },
    close: () => {
      for (const socket of sockets) socket.destroy();
      tcp.close();
      http.closeAllConnections();
      http.close();
      try {
        udp.close();
      } catch {
        // It could not be opened.
      }
    },
  };
}
