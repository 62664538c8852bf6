/** Stands between the host window, which runs the show, and everybody who works it from elsewhere. */
import { type WebSocket } from 'ws';

/** What the host answers to a command. */
export type HostOutcome =
  | { ok: true; result: Record<string, unknown> }
  | { ok: false; error: { code: string; message: string; field?: string } };

interface HostState {
  kind: 'state';
  show: unknown;
  air: unknown;
  frame: number;
  status: unknown;
}

const ANSWER_MS = 5000;

/** No host window, or it did not answer. */
export class NoHostError extends Error {
  constructor(
    readonly status: 503 | 504,
    message: string,
  ) {
    super(message);
  }
}

export class Relay {
  private readonly hosts: WebSocket[] = [];
  private readonly panels = new Set<WebSocket>();
  private readonly waiting = new Map<number, { host: WebSocket; resolve: (outcome: HostOutcome) => void; reject: (error: Error) => void }>();
  private last: HostState | null = null;
  private nextId = 1;

  /** The host window opened last; commands go to it. */
  private get host(): WebSocket | undefined {
    return this.hosts.at(-1);
  }

  addHost(socket: WebSocket): void {
    this.hosts.push(socket);
    socket.on('message', (data) => {
      try {
        this.fromHost(socket, JSON.parse(String(data)));
      } catch {
        // A message that is not JSON comes from no host of ours.
        socket.close(1003, 'not JSON');
      }
    });
    socket.on('error', () => socket.terminate());
    socket.on('close', () => {
      this.hosts.splice(this.hosts.indexOf(socket), 1);
      for (const [id, request] of this.waiting) {
        if (request.host !== socket) continue;
        this.waiting.delete(id);
        request.reject(new NoHostError(503, 'The window that runs the show was closed.'));
      }
      if (!this.host) {
        this.last = null;
        this.tell({ kind: 'host', present: false });
      }
    });
    this.tell({ kind: 'host', present: true });
  }

  addPanel(socket: WebSocket): void {
    this.panels.add(socket);
    socket.on('close', () => this.panels.delete(socket));
    socket.on('error', () => socket.terminate());
    socket.send(JSON.stringify({ kind: 'host', present: this.host !== undefined }));
    if (this.last) socket.send(JSON.stringify(this.last));
  }

  private fromHost(socket: WebSocket, message: { kind: string; id?: number; outcome?: HostOutcome; status?: unknown }): void {
    if (message.kind === 'answer' && message.id !== undefined && message.outcome) {
      this.waiting.get(message.id)?.resolve(message.outcome);
      this.waiting.delete(message.id);
      return;
    }
    if (socket !== this.host) return;
    if (message.kind === 'state') this.last = message as unknown as HostState;
    else if (message.kind === 'status' && this.last) this.last.status = message.status;
    this.tell(message);
  }

  private tell(message: unknown): void {
    const text = JSON.stringify(message);
    for (const panel of this.panels) if (panel.readyState === panel.OPEN && panel.bufferedAmount < 4e6) panel.send(text);
  }

  /** Runs a command in the host window. @throws NoHostError */
  async command(command: unknown): Promise<HostOutcome> {
    const { host } = this;
    if (!host) throw new NoHostError(503, 'No window runs a show. Open one in Bivoca first.');
    const id = this.nextId;
    this.nextId += 1;
    return new Promise((resolve, reject) => {
      const timer = setTimeout(() => {
        this.waiting.delete(id);
        reject(new NoHostError(504, 'The window that runs the show did not answer.'));
      }, ANSWER_MS);
      this.waiting.set(id, {
        host,
        resolve: (outcome) => {
          clearTimeout(timer);
          resolve(outcome);
        },
        reject: (error) => {
          clearTimeout(timer);
          reject(error);
        },
      });
      host.send(JSON.stringify({ id, command }));
    });
  }

  /** The show and air as the host gave them last. @throws NoHostError */
  state(): HostState {
    if (!this.last) throw new NoHostError(503, 'No window runs a show. Open one in Bivoca first.');
    return this.last;
  }
}
