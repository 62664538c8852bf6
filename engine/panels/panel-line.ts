/** A panel's line to the server: it enters with a pass, and comes back by itself until the pass is no good any more. */
import { backoffMillis } from '#core/output/backoff';
import { type FromPanel, PANEL_CLOSED, PANEL_VERSION, type ToPanel } from '#core/panels/panel-messages';

export interface PanelLineEvents {
  message: (message: ToPanel) => void;
  /** Pictures and meters. */
  bytes: (bytes: Uint8Array) => void;
  /** It is down, and comes back by itself: why, in words. */
  lost: (why: string) => void;
  /** It does not come back: why, in words. */
  refused: (why: string) => void;
}

/** Milliseconds without any word after which the line is taken for dead: the server asks every two seconds. */
const SILENT_MS = 7000;

/** Bytes that may wait before what may be left out is. */
const MOST_WAITING = 100_000;

const LOST = 'The server does not answer. What is seen here stands still.';
const SLOW = 'Too many wrong passes came from this address: the server waits before it looks at another. This page tries again by itself.';

const FINAL: Readonly<Record<number, string>> = {
  [PANEL_CLOSED.withdrawn]: 'This pass is not known here, has ended or was withdrawn. Ask whoever runs the show for another.',
  [PANEL_CLOSED.version]: 'This page is of another version than the server: load it anew.',
  [PANEL_CLOSED.flood]: 'More was sent from here than anybody can press. Load the page anew.',
};

export class PanelLine {
  private socket: WebSocket | null = null;
  private attempt = 0;
  private ended = false;
  private heard = performance.now();
  private readonly watch = setInterval(() => performance.now() - this.heard > SILENT_MS && this.socket?.close(), 1000);

  constructor(
    private readonly showId: string | null,
    private readonly secret: string,
    private readonly events: PanelLineEvents,
  ) {
    this.open();
  }

  private open(): void {
    const url = new URL('/api/panel', location.href);
    url.protocol = url.protocol.replace('http', 'ws');
    const socket = new WebSocket(url);
    this.socket = socket;
    socket.binaryType = 'arraybuffer';
    this.heard = performance.now();
    socket.onopen = () => {
      socket.send(JSON.stringify({ kind: 'enter', version: PANEL_VERSION, show: this.showId, secret: this.secret } satisfies FromPanel));
    };
    socket.onmessage = ({ data }) => {
      this.heard = performance.now();
      if (data instanceof ArrayBuffer) return this.events.bytes(new Uint8Array(data));
      const message = JSON.parse(String(data)) as ToPanel;
      if (message.kind === 'entered') this.attempt = 0;
      if (message.kind === 'ping') this.send({ kind: 'pong', at: message.at });
      else this.events.message(message);
      return undefined;
    };
    socket.onclose = ({ code }) => {
      if (this.ended || this.socket !== socket) return;
      const why = FINAL[code];
      if (why !== undefined) {
        this.close();
        return this.events.refused(why);
      }
      this.events.lost(code === PANEL_CLOSED.slow ? SLOW : LOST);
      this.attempt += 1;
      setTimeout(() => !this.ended && this.open(), backoffMillis(this.attempt));
      return undefined;
    };
  }

  /** Sends; false, and nothing, while the line is down. */
  send(message: FromPanel): boolean {
    if (this.socket?.readyState !== WebSocket.OPEN) return false;
    this.socket.send(JSON.stringify(message));
    return true;
  }

  /** Sends bytes that may be left out: none while the line is down or much waits. */
  sendBytes(bytes: Uint8Array): void {
    if (this.socket?.readyState === WebSocket.OPEN && this.socket.bufferedAmount < MOST_WAITING)
      this.socket.send(bytes as Uint8Array<ArrayBuffer>);
  }

  close(): void {
    this.ended = true;
    clearInterval(this.watch);
    this.socket?.close();
  }
}
