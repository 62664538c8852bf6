/** A panel's line to the server: it enters with a pass, and comes back by itself until the pass is no good any more. */
import { type FromPanel, PANEL_CLOSED, PANEL_VERSION, type ToPanel } from '#core/panels/panel-messages';
import { PageSocket } from '../remote/page-socket';

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
  private readonly socket: PageSocket;

  constructor(showId: string | null, secret: string, events: PanelLineEvents) {
    this.socket = new PageSocket({
      path: '/api/panel',
      silentMs: SILENT_MS,
      final: FINAL,
      opened: () => this.send({ kind: 'enter', version: PANEL_VERSION, show: showId, secret }),
      message: (text) => {
        const message = JSON.parse(text) as ToPanel;
        if (message.kind === 'entered') this.socket.entered();
        if (message.kind === 'ping') this.send({ kind: 'pong', at: message.at });
        else events.message(message);
      },
      bytes: events.bytes,
      lost: (code) => events.lost(code === PANEL_CLOSED.slow ? SLOW : LOST),
      refused: events.refused,
    });
  }

  /** Sends; false, and nothing, while the line is down. */
  send(message: FromPanel): boolean {
    return this.socket.send(JSON.stringify(message));
  }

  /** Sends bytes that may be left out: none while the line is down or much waits. */
  sendBytes(bytes: Uint8Array): void {
    if (this.socket.waiting < MOST_WAITING) this.socket.send(bytes);
  }

  close(): void {
    this.socket.close();
  }
}
