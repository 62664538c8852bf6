/** The line of the window that runs a show to the server's devices: it comes back by itself. */
import { type FromDevices, type Reached } from '#core/devices/line';
import { type Outgoing } from '#core/devices/problems';
import { backoffMillis } from '#core/output/backoff';
import { HOST_PROTOCOL } from '#core/panels/messages';
import { fetchHostKey } from '../remote/host-key';

/** What became of something that was sent. */
export interface SendResult {
  ok: boolean;
  millis: number;
  tries: number;
  answer: string | null;
  message: string;
}

export interface DeviceLineEvents {
  heard: (deviceId: string, text: string) => void;
  state: (state: Extract<FromDevices, { kind: 'state' }>) => void;
  /** The server is there, or is not. */
  connected: (connected: boolean) => void;
}

const failed = (message: string): SendResult => ({ ok: false, millis: 0, tries: 0, answer: null, message });

export class DeviceLine {
  private socket: WebSocket | null = null;
  private list: readonly Reached[] = [];
  private opening = false;
  private attempt = 0;
  private closed = false;
  private keys = 0;
  private readonly waiting = new Map<number, (result: SendResult) => void>();

  constructor(private readonly events: DeviceLineEvents) {}

  /** The devices that are to be reached; the first opens the line. */
  set(list: readonly Reached[]): void {
    this.list = list;
    if (this.socket && this.socket.readyState === WebSocket.OPEN) this.socket.send(JSON.stringify({ kind: 'devices', list }));
    else if (list.length > 0 && !this.opening) void this.open();
  }

  private async open(): Promise<void> {
    this.opening = true;
    const key = await fetchHostKey().catch(() => null);
    if (this.closed) return;
    if (key === null) return this.later();
    const url = new URL('/api/devices', location.href);
    url.protocol = url.protocol.replace('http', 'ws');
    const socket = new WebSocket(url, [HOST_PROTOCOL, key]);
    this.socket = socket;
    socket.onopen = () => {
      this.attempt = 0;
      this.opening = false;
      socket.send(JSON.stringify({ kind: 'devices', list: this.list }));
      this.events.connected(true);
    };
    socket.onmessage = ({ data }) => this.take(JSON.parse(String(data)) as FromDevices);
    socket.onclose = () => {
      for (const resolve of this.waiting.values()) resolve(failed('The server went away before it was answered.'));
      this.waiting.clear();
      if (this.closed) return;
      this.events.connected(false);
      this.later();
    };
  }

  private later(): void {
    this.opening = true;
    this.attempt += 1;
    setTimeout(() => !this.closed && void this.open(), backoffMillis(this.attempt));
  }

  private take(message: FromDevices): void {
    if (message.kind === 'heard') return this.events.heard(message.deviceId, message.text);
    if (message.kind === 'state') return this.events.state(message);
    const resolve = this.waiting.get(message.key);
    this.waiting.delete(message.key);
    return resolve?.(message);
  }

  /** Sends to a device, and tells what became of it. Never rejects. */
  send(deviceId: string, { method, path, text }: Outgoing): Promise<SendResult> {
    const { socket } = this;
    if (socket?.readyState !== WebSocket.OPEN) return Promise.resolve(failed('The server is not there.'));
    this.keys += 1;
    const key = this.keys;
    return new Promise((resolve) => {
      this.waiting.set(key, resolve);
      socket.send(JSON.stringify({ kind: 'send', key, deviceId, method, path, text }));
    });
  }

  close(): void {
    this.closed = true;
    this.socket?.close();
  }
}
