/** The line of the window that runs a show to the server's devices: it comes back by itself. */
import { type FromDevices, type Reached, type ToDevices } from '#core/devices/line';
import { type Outgoing } from '#core/devices/problems';
import { OwnSocket } from '../remote/own-socket';

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
  /** Opened with the first device. */
  private line: OwnSocket | null = null;
  private list: readonly Reached[] = [];
  private keys = 0;
  private readonly waiting = new Map<number, (result: SendResult) => void>();

  constructor(private readonly events: DeviceLineEvents) {}

  /** The devices that are to be reached. */
  set(list: readonly Reached[]): void {
    this.list = list;
    if (!this.line && list.length > 0) this.line = this.open();
    this.say({ kind: 'devices', list: [...list] });
  }

  private say(message: ToDevices): boolean {
    return this.line?.send(JSON.stringify(message)) ?? false;
  }

  private open(): OwnSocket {
    return new OwnSocket('/api/devices', {
      opened: () => {
        this.say({ kind: 'devices', list: [...this.list] });
        this.events.connected(true);
      },
      message: (text) => this.take(JSON.parse(text) as FromDevices),
      closed: () => {
        for (const resolve of this.waiting.values()) resolve(failed('The server went away before it was answered.'));
        this.waiting.clear();
        this.events.connected(false);
        return true;
      },
    });
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
    this.keys += 1;
    const key = this.keys;
    return new Promise((resolve) => {
      if (this.say({ kind: 'send', key, deviceId, method, path, text })) this.waiting.set(key, resolve);
      else resolve(failed('The server is not there.'));
    });
  }

  close(): void {
    this.line?.close();
  }
}
