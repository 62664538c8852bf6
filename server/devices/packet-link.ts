/** Devices that are reached by packets of UDP: texts, or OSC. */
import { createSocket, type Socket } from 'node:dgram';
import { type OscSettings, type UdpSettings } from '#core/devices/document';
import { type Outgoing } from '#core/devices/problems';
import { addressOf, DeviceError, type Link, type LinkEvents, reason, within } from './link';
import { type Carried } from './stream-link';

export class PacketLink implements Link {
  private socket: Promise<{ socket: Socket; address: string }> | null = null;
  private waiting: ((answer: string) => void) | null = null;
  private closed = false;

  constructor(
    private readonly settings: UdpSettings | (OscSettings & { carrier: 'udp' }),
    private readonly carried: Pick<Carried, 'bytes' | 'words'>,
    private readonly events: LinkEvents,
  ) {
    void this.open().catch(() => undefined);
  }

  /** The socket, bound; opened anew after an error, as the host may have another address then. */
  private open(): Promise<{ socket: Socket; address: string }> {
    this.socket ??= this.bind().catch((error: unknown) => {
      this.socket = null;
      this.events.reach(false, reason(error));
      throw new DeviceError(reason(error));
    });
    return this.socket;
  }

  private async bind(): Promise<{ socket: Socket; address: string }> {
    const { address, family } = await addressOf(this.settings.host);
    const socket = createSocket({ type: family === 6 ? 'udp6' : 'udp4' });
    socket.on('message', (data, from) => {
      // Whoever else sends to this port is not this device.
      if (from.address !== address && from.address !== `::ffff:${address}`) return;
      this.take(data);
    });
    await new Promise<void>((resolve, reject) => {
      socket.once('error', reject);
      socket.bind(this.settings.listens ?? 0, resolve);
    }).catch((error: unknown) => {
      socket.close();
      throw error;
    });
    socket.on('error', (error) => {
      this.events.reach(false, reason(error));
      this.socket = null;
      socket.close();
    });
    if (this.closed) socket.close();
    return { socket, address };
  }

  private take(data: Uint8Array): void {
    for (const text of this.carried.words(data)) {
      const waiting = this.waiting;
      this.waiting = null;
      this.events.reach(true, '');
      if (waiting) waiting(text);
      else this.events.heard(text);
    }
  }

  async send(out: Outgoing, waitMs: number, answers: boolean): Promise<string | null> {
    const bytes = this.carried.bytes(out);
    const { socket, address } = await within(this.open(), waitMs);
    const answer = answers ? new Promise<string>((resolve) => (this.waiting = resolve)) : null;
    try {
      await new Promise<void>((resolve, reject) =>
        socket.send(bytes, this.settings.port, address, (error) => (error ? reject(error) : resolve())),
      );
      if (!answer) return null;
      return await within(answer, waitMs);
    } catch (error) {
      this.events.reach(false, reason(error));
      throw error;
    } finally {
      this.waiting = null;
    }
  }

  close(): void {
    this.closed = true;
    void this.socket?.then(({ socket }) => socket.close()).catch(() => undefined);
  }
}
