/** A copy of a show for a window that is not its host, on this machine or another: kept up by what the server tells, with a way to send commands. */
import { type Command } from '#core/commands/command';
import { backoffMillis } from '#core/output/backoff';
import { type Copy, followed } from '#core/panels/copy';
import { type HostOutcome, type ToListener } from '#core/panels/messages';
import { FrameGuess } from './frame-guess';

export interface ShownCopy {
  /** Null until a show is heard of. */
  copy: Copy | null;
  /** Why there is nothing new, in words; null while all is well. */
  trouble: string | null;
}

/** Milliseconds without any word after which the line is taken for dead: figures come every second. */
const SILENT_MS = 6000;

export class ShowCopy {
  private socket: WebSocket | null = null;
  private attempt = 0;
  private closed = false;
  private heard = performance.now();
  private state: ShownCopy = { copy: null, trouble: 'Looking for the show…' };
  private readonly guess = new FrameGuess();
  private readonly watch = setInterval(() => performance.now() - this.heard > SILENT_MS && this.socket?.close(), 1000);

  constructor(
    private readonly showId: string | null,
    private readonly changed: (state: ShownCopy) => void,
  ) {
    this.open();
  }

  private open(): void {
    const url = new URL('/api/events', location.href);
    url.protocol = url.protocol.replace('http', 'ws');
    if (this.showId !== null) url.searchParams.set('show', this.showId);
    const token = new URLSearchParams(location.search).get('token');
    if (token !== null) url.searchParams.set('token', token);
    const socket = new WebSocket(url);
    this.socket = socket;
    this.heard = performance.now();
    socket.onmessage = ({ data }) => this.hear(socket, JSON.parse(String(data)) as ToListener);
    socket.onclose = () => {
      if (this.closed || this.socket !== socket) return;
      this.set({ trouble: 'The server does not answer. What is seen here stands still.' });
      this.attempt += 1;
      setTimeout(() => !this.closed && this.open(), backoffMillis(this.attempt));
    };
  }

  private set(change: Partial<ShownCopy>): void {
    this.state = { ...this.state, ...change };
    this.changed(this.state);
  }

  private hear(socket: WebSocket, message: ToListener): void {
    this.heard = performance.now();
    if (message.kind === 'host') {
      this.attempt = 0;
      const many = this.showId === null && message.shows.length > 1;
      const trouble = many ? 'Several shows are open: open this window from the one that is meant.' : 'No window runs the show.';
      // Another host counts its revisions anew.
      this.set({ copy: message.present ? null : this.state.copy, trouble: message.present ? null : trouble });
      return;
    }
    if (message.kind === 'status') {
      this.guess.told(message.frame);
      return;
    }
    this.guess.told(message.frame);
    const { copy, changed, missed } = followed(this.state.copy, message);
    if (missed) socket.send('{"kind":"snapshot"}');
    if (changed) this.set({ copy, trouble: null });
  }

  /** The frame that is on air now, as far as can be told: it goes on between what is told. */
  frame(): number {
    const { copy, trouble } = this.state;
    if (!copy) return 0;
    return this.guess.now(copy.show.rate, trouble === null);
  }

  /** Sends a command; the answer is that of the show, or of the server. */
  async send(command: Command): Promise<HostOutcome> {
    const query = new URLSearchParams();
    if (this.showId !== null) query.set('show', this.showId);
    const token = new URLSearchParams(location.search).get('token');
    if (token !== null) query.set('token', token);
    try {
      const response = await fetch(`/api/commands?${query.toString()}`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(command),
        signal: AbortSignal.timeout(8000),
      });
      const body = (await response.json()) as Record<string, unknown>;
      if (response.ok) return { ok: true, result: body };
      return {
        ok: false,
        error: { code: 'failed', message: typeof body.message === 'string' ? body.message : 'The show did not take it.' },
      };
    } catch {
      return { ok: false, error: { code: 'no-answer', message: 'The server did not answer: nothing was done.' } };
    }
  }

  close(): void {
    this.closed = true;
    clearInterval(this.watch);
    this.socket?.close();
  }
}
