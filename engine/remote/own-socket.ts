/** A line of a window that runs a show to its server, with the key that proves it: it comes back by itself. */
import { backoffMillis } from '#core/output/backoff';
import { HOST_PROTOCOL } from '#core/panels/messages';
import { fetchHostKey } from './host-key';

/** Bytes that may wait before what may be left out is. */
const MOST_BYTES_WAITING = 1_000_000;

export interface OwnSocketEvents {
  opened: () => void;
  /** A message, as the text that it is. `reply` answers it, on the connection that it came by and on no later one. */
  message: (text: string, reply: (text: string) => void) => void;
  bytes?: (bytes: Uint8Array) => void;
  /** It is down. True when it shall come back. */
  closed: (code: number) => boolean;
}

export class OwnSocket {
  private socket: WebSocket | null = null;
  private attempt = 0;
  private ended = false;

  /** `path` is where on this server. */
  constructor(
    private readonly path: string,
    private readonly events: OwnSocketEvents,
  ) {
    void this.open();
  }

  private async open(): Promise<void> {
    const key = await fetchHostKey().catch(() => null);
    if (this.ended) return;
    if (key === null) return this.later();
    const url = new URL(this.path, location.href);
    url.protocol = url.protocol.replace('http', 'ws');
    const socket = new WebSocket(url, [HOST_PROTOCOL, key]);
    this.socket = socket;
    socket.binaryType = 'arraybuffer';
    socket.onopen = () => {
      this.attempt = 0;
      this.events.opened();
    };
    const reply = (text: string) => void (socket.readyState === WebSocket.OPEN && socket.send(text));
    socket.onmessage = ({ data }: MessageEvent<string | ArrayBuffer>) =>
      typeof data === 'string' ? this.events.message(data, reply) : this.events.bytes?.(new Uint8Array(data));
    socket.onclose = ({ code }) => {
      if (this.events.closed(code) && !this.ended) this.later();
    };
  }

  private later(): void {
    this.attempt += 1;
    setTimeout(() => !this.ended && void this.open(), backoffMillis(this.attempt));
  }

  get isOpen(): boolean {
    return this.socket !== null && this.socket.readyState === WebSocket.OPEN;
  }

  /** Sends; false, and nothing, while the line is down. */
  send(text: string): boolean {
    if (!this.isOpen) return false;
    this.socket?.send(text);
    return true;
  }

  /** Sends bytes that may be left out: none while the line is down or much waits. */
  sendBytes(bytes: Uint8Array): void {
    if (this.isOpen && (this.socket?.bufferedAmount ?? 0) < MOST_BYTES_WAITING) this.socket?.send(bytes as Uint8Array<ArrayBuffer>);
  }

  close(): void {
    this.ended = true;
    this.socket?.close();
  }
}
