/** The host window's line to the server: proves whose page it is, and comes back by itself. */
import { backoffMillis } from '#core/output/backoff';
import { type FromHost, HOST_PROTOCOL, type ShowName, type ToHost } from '#core/panels/messages';
import { inParts } from '#core/panels/parts';
import { fetchHostKey } from './host-key';

/** Close code: another window runs this show now. */
const REPLACED = 4001;

/** What the line asks of the host. */
export interface HostAnswers {
  show: () => ShowName;
  /** Runs a command; resolves when it may be acknowledged. */
  command: (command: unknown) => Promise<Extract<FromHost, { kind: 'answer' }>['outcome']>;
  snapshot: () => FromHost;
  status: () => FromHost;
  connected: (connected: boolean) => void;
}

export class HostLink {
  private socket: WebSocket | null = null;
  private attempt = 0;
  private closed = false;
  /** Somebody listens at the other end: only then is anything told. */
  following = false;

  constructor(private readonly answers: HostAnswers) {
    void this.open();
  }

  private async open(): Promise<void> {
    const key = await fetchHostKey().catch(() => null);
    if (this.closed) return;
    if (key === null) return this.later();
    const url = new URL('/api/host', location.href);
    url.protocol = url.protocol.replace('http', 'ws');
    const socket = new WebSocket(url, [HOST_PROTOCOL, key]);
    this.socket = socket;
    socket.onopen = () => {
      this.attempt = 0;
      this.send({ kind: 'hello', show: this.answers.show() });
      this.answers.connected(true);
    };
    socket.onmessage = ({ data }) => void this.take(socket, JSON.parse(String(data)) as ToHost);
    socket.onclose = ({ code }) => {
      this.following = false;
      this.answers.connected(false);
      // The window that took its place goes on; two would take turns for ever.
      if (!this.closed && code !== REPLACED) this.later();
    };
  }

  private later(): void {
    this.attempt += 1;
    setTimeout(() => !this.closed && void this.open(), backoffMillis(this.attempt));
  }

  private async take(socket: WebSocket, message: ToHost): Promise<void> {
    if (message.kind === 'follow') this.following = message.on;
    if (message.kind === 'snapshot' || (message.kind === 'follow' && message.on)) return this.send(this.answers.snapshot());
    if (message.kind === 'status') return this.send(this.answers.status());
    if (message.kind !== 'command') return;
    const outcome = await this.answers.command(message.command);
    if (socket.readyState === WebSocket.OPEN) socket.send(JSON.stringify({ kind: 'answer', id: message.id, outcome } satisfies FromHost));
  }

  /** Sends a message, in parts when it is long; nothing while the line is down. */
  send(message: FromHost): void {
    if (this.socket?.readyState !== WebSocket.OPEN) return;
    for (const text of inParts(message)) this.socket.send(text);
  }

  close(): void {
    this.closed = true;
    this.socket?.close();
  }
}
