/** The host window's line to the server: takes the remote's commands, gives out state. Comes back by itself. */
import { backoffMillis } from '#core/output/backoff';

/** What the server asks of the host. */
export interface HostRequest {
  id: number;
  command: unknown;
}

export class HostLink {
  private socket: WebSocket | null = null;
  private attempt = 0;
  private closed = false;

  constructor(
    private readonly answer: (command: unknown) => unknown,
    private readonly greet: () => unknown,
    private readonly onState: (connected: boolean) => void,
  ) {
    this.open();
  }

  private open(): void {
    const url = new URL('/api/host', location.href);
    url.protocol = url.protocol.replace('http', 'ws');
    const socket = new WebSocket(url);
    this.socket = socket;
    socket.onopen = () => {
      this.attempt = 0;
      this.onState(true);
      this.send(this.greet());
    };
    socket.onmessage = ({ data }) => {
      const { id, command } = JSON.parse(String(data)) as HostRequest;
      socket.send(JSON.stringify({ kind: 'answer', id, outcome: this.answer(command) }));
    };
    socket.onclose = () => {
      this.onState(false);
      if (this.closed) return;
      this.attempt += 1;
      setTimeout(() => !this.closed && this.open(), backoffMillis(this.attempt));
    };
  }

  send(message: unknown): void {
    if (this.socket?.readyState === WebSocket.OPEN) this.socket.send(JSON.stringify(message));
  }

  close(): void {
    this.closed = true;
    this.socket?.close();
  }
}
