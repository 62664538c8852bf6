/** The devices of one show, for as long as the window that runs it is there. */
import { type WebSocket } from 'ws';
import { deviceSettingsClass, MOST_DEVICES } from '#core/devices/document';
import { type FromDevices, type Reached, type ToDevices } from '#core/devices/line';
import { rightSettings } from '#core/devices/address';
import { type Outgoing } from '#core/devices/problems';
import { check } from '#core/schema/check';
import { isRecord } from '#core/schema/record';
import { between } from '../bounds';
import { Post } from './post';

/** A device as it was told, in bounds; null when it is none. */
function reachedOf(raw: unknown): Reached | null {
  if (!isRecord(raw) || typeof raw.id !== 'string' || !isRecord(raw.settings)) return null;
  const of = deviceSettingsClass(raw.settings);
  if (!of || check(of, raw.settings).length > 0) return null;
  const righted = rightSettings(raw.settings as unknown as Reached['settings']);
  if (!righted.ok) return null;
  return {
    id: raw.id,
    settings: righted.settings,
    answers: raw.answers === true,
    waitSeconds: between(raw.waitSeconds, 0.1, 30),
    retries: Math.round(between(raw.retries, 0, 5)),
  };
}

const isSend = (raw: Record<string, unknown>): raw is Record<string, unknown> & Outgoing & { key: number; deviceId: string } =>
  typeof raw.key === 'number' && [raw.deviceId, raw.method, raw.path, raw.text].every((t) => typeof t === 'string' && t.length < 100_000);

export class DeviceSession {
  private posts = new Map<string, Post>();

  constructor(private readonly socket: WebSocket) {
    socket.on('message', (data) => {
      try {
        this.take(JSON.parse(String(data as Buffer)));
      } catch {
        socket.close(1003, 'This message cannot be read.');
      }
    });
    socket.on('error', () => socket.terminate());
    socket.on('close', () => this.close());
  }

  private tell(message: FromDevices): void {
    if (this.socket.readyState === this.socket.OPEN) this.socket.send(JSON.stringify(message));
  }

  private take(raw: unknown): void {
    if (!isRecord(raw)) throw new Error('no message');
    const kind = raw.kind as ToDevices['kind'];
    if (kind === 'devices' && Array.isArray(raw.list)) return this.set(raw.list.slice(0, MOST_DEVICES).flatMap((d) => reachedOf(d) ?? []));
    if (kind !== 'send' || !isSend(raw)) throw new Error('no message');
    const post = this.posts.get(raw.deviceId);
    const { key, deviceId, method, path, text } = raw;
    if (post) return post.send({ kind, key, deviceId, method, path, text });
    return this.tell({ kind: 'done', key, ok: false, millis: 0, tries: 0, answer: null, message: 'The server does not know this device.' });
  }

  /** Devices that are as they were keep their connections. */
  private set(list: readonly Reached[]): void {
    const next = new Map<string, Post>();
    for (const device of list) {
      const before = this.posts.get(device.id);
      if (before && JSON.stringify(before.device) === JSON.stringify(device)) next.set(device.id, before);
      else next.set(device.id, new Post(device, (message) => this.tell(message)));
    }
    for (const post of this.posts.values()) if (next.get(post.device.id) !== post) post.close();
    this.posts = next;
  }

  private close(): void {
    for (const post of this.posts.values()) post.close();
    this.posts.clear();
  }
}
