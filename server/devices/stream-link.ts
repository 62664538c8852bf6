/** Devices on a connection that stays: TCP with ends of lines or OSC in frames, and WebSockets. It is opened anew when it breaks. */
import { connect, type Socket } from 'node:net';
import { WebSocket } from 'ws';
import { backoffMillis } from '#core/output/backoff';
import { type OscSettings, type SocketSettings, type TcpSettings } from '#core/devices/document';
import { framed, type FrameReader, readerFor } from '#core/devices/framing';
import { MOST_ANSWER } from '#core/devices/line';
import { type Outgoing } from '#core/devices/problems';
import { DeviceError, type Link, lineOf, type LinkEvents, reason, within } from './link';

/** An open connection of any kind. */
interface Open {
  write(bytes: Uint8Array): void;
  end(): void;
}

/** What comes over a connection. */
interface OpenEvents {
  message: (bytes: Uint8Array) => void;
  closed: (error: unknown) => void;
}

/** How a connection is opened, what goes over it and what comes. */
export interface Carried {
  open(events: OpenEvents): Promise<Open>;
  bytes(out: Outgoing): Uint8Array;
  words(bytes: Uint8Array): string[];
}

/** Bytes that may wait to be written. */
const MOST_UNSENT = 1_000_000;

function tcp(settings: TcpSettings | OscSettings): Carried['open'] {
  const how = settings.kind === 'tcp' ? settings.ending : settings.carrier;
  return (events) =>
    new Promise((resolve, reject) => {
      const socket: Socket = connect({ host: settings.host.replace(/^\[|\]$/g, ''), port: settings.port, noDelay: true, keepAlive: true });
      const reader: FrameReader = readerFor(how);
      socket.once('connect', () =>
        resolve({
          write: (bytes) => {
            if (socket.writableLength > MOST_UNSENT) throw new DeviceError('it does not take what is sent to it');
            socket.write(framed(bytes, how));
          },
          end: () => socket.destroy(),
        }),
      );
      socket.on('data', (chunk: Buffer) => {
        for (const message of reader.read(chunk)) events.message(message);
      });
      socket.on('error', (error) => {
        reject(error);
        events.closed(error);
      });
      socket.on('close', () => {
        reject(new DeviceError('it closed the connection'));
        events.closed(new DeviceError('it closed the connection'));
      });
    });
}

function webSocket({ address }: SocketSettings): Carried['open'] {
  return (events) =>
    new Promise((resolve, reject) => {
      const socket = new WebSocket(address, { maxPayload: MOST_ANSWER * 4, followRedirects: false, perMessageDeflate: false });
      socket.once('open', () =>
        resolve({
          write: (bytes) => {
            if (socket.bufferedAmount > MOST_UNSENT) throw new DeviceError('it does not take what is sent to it');
            socket.send(Buffer.from(bytes).toString('utf8'));
          },
          end: () => socket.terminate(),
        }),
      );
      socket.on('message', (data) => events.message(data as Buffer));
      socket.on('error', (error) => {
        reject(error);
        events.closed(error);
      });
      socket.on('close', () => {
        reject(new DeviceError('it closed the connection'));
        events.closed(new DeviceError('it closed the connection'));
      });
    });
}

/** The way of a TCP or WebSocket device. */
export const openerFor = (settings: TcpSettings | OscSettings | SocketSettings): Carried['open'] =>
  settings.kind === 'websocket' ? webSocket(settings) : tcp(settings);

const encoder = new TextEncoder();
/** What is said as text. */
export const asText: Pick<Carried, 'bytes' | 'words'> = { bytes: ({ text }) => encoder.encode(text), words: (bytes) => [lineOf(bytes)] };

export class StreamLink implements Link {
  private opened: Promise<Open> | null = null;
  private waiting: ((answer: string) => void) | null = null;
  private attempt = 0;
  private closed = false;
  private again: NodeJS.Timeout | undefined;

  constructor(
    private readonly carried: Carried,
    private readonly events: LinkEvents,
    /** How long a connection may take, milliseconds. */
    private readonly openMs: number,
  ) {
    // Opened at once, so that it is heard before anything is sent.
    void this.connection().catch(() => undefined);
  }

  private connection(): Promise<Open> {
    if (this.opened) return this.opened;
    let broken = false;
    const gone = (error: unknown) => {
      if (broken || this.closed) return;
      broken = true;
      if (this.opened === opening) this.opened = null;
      this.events.reach(false, reason(error));
      this.attempt += 1;
      clearTimeout(this.again);
      this.again = setTimeout(() => void this.connection().catch(() => undefined), backoffMillis(this.attempt));
    };
    const raw = this.carried.open({ message: (bytes) => this.take(bytes), closed: gone });
    const opening: Promise<Open> = within(raw, this.openMs, 'it did not answer in time').then(
      (open) => {
        this.attempt = 0;
        if (this.closed) open.end();
        else this.events.reach(true, '');
        return open;
      },
      (error: unknown) => {
        // One that opens after all is not wanted any more.
        void raw.then((late) => late.end()).catch(() => undefined);
        gone(error);
        throw new DeviceError(reason(error));
      },
    );
    this.opened = opening;
    return opening;
  }

  private take(bytes: Uint8Array): void {
    for (const text of this.carried.words(bytes)) {
      const waiting = this.waiting;
      this.waiting = null;
      if (waiting) waiting(text);
      else this.events.heard(text);
    }
  }

  async send(out: Outgoing, waitMs: number, answers: boolean): Promise<string | null> {
    const bytes = this.carried.bytes(out);
    const open = await this.connection();
    const answer = answers ? new Promise<string>((resolve) => (this.waiting = resolve)) : null;
    try {
      open.write(bytes);
      return answer && (await within(answer, waitMs));
    } finally {
      this.waiting = null;
    }
  }

  close(): void {
    this.closed = true;
    clearTimeout(this.again);
    void this.opened?.then((open) => open.end()).catch(() => undefined);
  }
}
