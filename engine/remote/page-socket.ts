/** The line of a page that enters with a secret: panels, guests, the audience. It comes back by itself until it is told that it never will. */
import { backoffMillis } from '#core/output/backoff';

export interface PageSocketOptions {
  /** Where on this server. */
  path: string;
  /** Milliseconds without any word after which the line is taken for dead. */
  silentMs: number;
  /** Longest wait between two tries, milliseconds; without it, as long as it has failed before. */
  longestWaitMs?: number;
  /** Of the wait, so that hundreds of pages do not all come back at the same moment: 0 for none, 1 for as much again. */
  spread?: number;
  /** Codes of a closing after which it does not come back, with the words for it. */
  final: Readonly<Record<number, string>>;
  opened: () => void;
  message: (text: string) => void;
  bytes?: (bytes: Uint8Array) => void;
  /** It is down, and comes back by itself. */
  lost: (code: number) => void;
  /** It does not come back: why, in words. */
  refused: (why: string) => void;
}

/** How often it is looked whether the other end is silent, milliseconds. */
const LOOK_MS = 1000;

export class PageSocket {
  private socket: WebSocket | null = null;
  private attempt = 0;
  private ended = false;
  private heard = performance.now();
  private readonly watch: ReturnType<typeof setInterval>;

  constructor(private readonly options: PageSocketOptions) {
    this.watch = setInterval(() => performance.now() - this.heard > options.silentMs && this.drop(), LOOK_MS);
    this.open();
  }

  private open(): void {
    const { path, final, opened, message, bytes, lost, refused, spread = 0, longestWaitMs = Infinity } = this.options;
    const url = new URL(path, location.href);
    url.protocol = url.protocol.replace('http', 'ws');
    const socket = new WebSocket(url);
    this.socket = socket;
    socket.binaryType = 'arraybuffer';
    this.heard = performance.now();
    socket.onopen = opened;
    socket.onmessage = ({ data }: MessageEvent<string | ArrayBuffer>) => {
      this.heard = performance.now();
      if (typeof data === 'string') message(data);
      else bytes?.(new Uint8Array(data));
    };
    socket.onclose = ({ code }) => {
      if (this.ended || this.socket !== socket) return;
      const why = final[code];
      if (why !== undefined) {
        this.close();
        return refused(why);
      }
      lost(code);
      this.attempt += 1;
      const wait = Math.min(longestWaitMs, backoffMillis(this.attempt)) * (1 + spread * (Math.random() - 0.5));
      setTimeout(() => !this.ended && this.open(), wait);
      return undefined;
    };
  }

  /** It has entered: the next break is the first again. */
  entered(): void {
    this.attempt = 0;
  }

  get isOpen(): boolean {
    return this.socket?.readyState === WebSocket.OPEN;
  }

  /** Bytes that wait to be sent. */
  get waiting(): number {
    return this.socket?.bufferedAmount ?? 0;
  }

  /** Sends; false, and nothing, while the line is down. */
  send(data: string | Uint8Array): boolean {
    if (!this.isOpen) return false;
    this.socket?.send(data as string | Uint8Array<ArrayBuffer>);
    return true;
  }

  /** Breaks the line, which comes back. */
  drop(): void {
    this.socket?.close();
  }

  close(): void {
    this.ended = true;
    clearInterval(this.watch);
    this.socket?.close();
  }
}
