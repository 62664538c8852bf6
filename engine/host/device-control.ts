/** Sends to devices what air says, on its frame, and tells what is heard of them. Nothing ever waits for a device. */
import { type Desk } from '#core/desk/air';
import { type Device, MOST_SAID } from '#core/devices/document';
import { isListenedTo } from '#core/devices/heard';
import { fillerAt, hasHoles } from '#core/devices/holes';
import { type Reached } from '#core/devices/line';
import { type Outgoing, sayProblem } from '#core/devices/problems';
import { saidWords } from '#core/devices/said';
import { type ActLog } from '#core/log/act-log';
import { framesPerSecond } from '#core/time/rate';
import { type DeviceStatus } from '../client/state';
import { DeviceLine, type DeviceLineEvents, type SendResult } from '../devices/device-line';
import { type MidiPortNames, MidiPorts } from '../devices/midi-ports';
import { type Follower, type HostAccess } from './follower';

/** A message that follows its holes is not sent more often than this, milliseconds. */
const FOLLOW_MS = 100;

/** One that failed is tried again after this, where nothing tells that its device is back, milliseconds. */
const AGAIN_MS = 15_000;

/** What the outside gives; another one in tests. */
export interface DeviceOutside {
  line: (events: DeviceLineEvents) => Pick<DeviceLine, 'set' | 'send' | 'close'>;
  midi: (heard: (deviceId: string, text: string) => void) => Pick<MidiPorts, 'set' | 'send' | 'close' | 'names'>;
}

const OUTSIDE: DeviceOutside = { line: (events) => new DeviceLine(events), midi: (heard) => new MidiPorts(heard) };

const NOTHING: DeviceStatus = { reach: 'unknown', message: '', waiting: 0, last: null };

export class DeviceControl implements Follower {
  private readonly line: Pick<DeviceLine, 'set' | 'send' | 'close'>;
  private readonly midi: Pick<MidiPorts, 'set' | 'send' | 'close' | 'names'>;
  private devices: readonly Device[] | null = null;
  /** Number of what was sent last: what was sent before this window opened is not sent again. */
  private last: number;
  private status: Record<string, DeviceStatus> = {};
  private readonly timers = new Set<ReturnType<typeof setTimeout>>();
  /** What following messages said last, and when, by their identity. */
  private readonly said = new Map<string, { key: string; at: number; ok: boolean }>();
  private following: { device: Device; id: string; name: string; out: Outgoing }[] = [];

  constructor(
    private readonly access: HostAccess,
    private readonly log: ActLog,
    outside: DeviceOutside = OUTSIDE,
  ) {
    this.last = access.state().desk.air.devices.last;
    this.line = outside.line({
      heard: (id, text) => this.hear(id, text),
      state: ({ deviceId, reach, message, waiting }) => this.reached(deviceId, { reach, message, waiting }),
      connected: (connected) => {
        // What could not be sent is sent now.
        if (connected) this.sayAnew(() => true);
        else this.serverGone();
      },
    });
    this.midi = outside.midi((id, text) => this.hear(id, text));
  }

  midiPorts(): Promise<MidiPortNames> {
    return this.midi.names();
  }

  follow({ show, air }: Desk): void {
    if (show.devices !== this.devices) this.setDevices(show.devices);
    if (air.devices.last === this.last) return;
    const { frame } = this.access.state();
    for (const sent of air.devices.sent) {
      if (sent.number <= this.last) continue;
      const device = show.devices.find((d) => d.id === sent.deviceId);
      const send = () => device && void this.send(device, sent.name, sent, sent.frame);
      // Steps of macros are known some frames before theirs.
      const ms = ((sent.frame - frame - 1) * 1000) / framesPerSecond(show.rate);
      if (ms < 10) send();
      else {
        const timer = setTimeout(() => {
          this.timers.delete(timer);
          send();
        }, ms);
        this.timers.add(timer);
      }
    }
    this.last = air.devices.last;
  }

  private setDevices(devices: readonly Device[]): void {
    this.devices = devices;
    const on = devices.filter((d) => d.on);
    const reached: Reached[] = on
      .filter((d) => d.settings.kind !== 'midi')
      .map(({ id, settings, answers, waitSeconds, retries }) => ({ id, settings, answers, waitSeconds, retries }));
    this.line.set(reached);
    void this.midi.set(new Map(on.flatMap((d) => (d.settings.kind === 'midi' ? [[d.id, d.settings.port] as const] : []))));
    this.following = on.flatMap((device) =>
      device.messages.filter((m) => m.follows && hasHoles(m.path + m.text)).map((m) => ({ device, id: m.id, name: m.name, out: m })),
    );
    const rest = Object.fromEntries(Object.entries(this.status).filter(([id]) => on.some((d) => d.id === id)));
    this.status = rest;
    this.access.set({ devices: rest });
  }

  private set(id: string, change: Partial<DeviceStatus>): void {
    this.status = { ...this.status, [id]: { ...(this.status[id] ?? NOTHING), ...change } };
    this.access.set({ devices: this.status });
  }

  private reached(id: string, { reach, message, waiting }: Pick<DeviceStatus, 'reach' | 'message' | 'waiting'>): void {
    const before = this.status[id]?.reach;
    this.set(id, { reach, message, waiting });
    // It may have forgotten what it was told, as a lamp has without current.
    if (reach === 'reached' && before === 'away') this.sayAnew((device) => device.id === id);
    if (reach !== 'away' || before === 'away') return;
    const name = this.devices?.find((d) => d.id === id)?.name ?? 'A device';
    this.access.notify('caution', `${name} is away: ${message}. Nothing else waits for it.`, ({ show }) => {
      const device = show.devices.find((d) => d.id === id);
      return !device?.on || this.status[id]?.reach !== 'away';
    });
  }

  /** Messages that follow their holes are sent anew to these devices. */
  private sayAnew(to: (device: Device) => boolean): void {
    for (const { device, id } of this.following) if (to(device)) this.said.delete(id);
  }

  private serverGone(): void {
    for (const device of this.devices ?? [])
      if (device.on && device.settings.kind !== 'midi')
        this.set(device.id, { reach: 'unknown', message: 'The server is not there.', waiting: 0 });
  }

  private hear(id: string, text: string): void {
    this.log.add(this.access.state().frame, 'heard', id, text);
    this.tellHeard(id, text);
  }

  private tellHeard(id: string, text: string): void {
    // An act is told to mixer, disk and panels: a device that talks all the time must not cost them that for nothing.
    if (isListenedTo(this.access.state().desk.show, id))
      this.access.command({ type: 'device.heard', args: { device: id, text: text.slice(0, MOST_SAID) } });
  }

  /** Sends, and tells what became of it; true when it was sent. */
  private async send(device: Device, name: string, out: Outgoing, frame: number): Promise<boolean> {
    const { settings } = device;
    const words = saidWords(settings.kind, out);
    const line = this.log.add(frame, 'sent', device.id, words);
    const result: SendResult = await (settings.kind === 'midi' ? this.midi.send(settings.port, out.text) : this.line.send(device.id, out));
    const { ok, answer, message, millis, tries } = result;
    this.log.resolve(line, ok ? (answer ?? '') : message, !ok);
    // On a line where it may speak at any time, what it says just then is taken for its answer: who waits for it must not miss it.
    if (ok && answer) this.tellHeard(device.id, answer);
    if (!this.devices?.some((d) => d.id === device.id && d.on)) return ok;
    this.set(device.id, { last: { name, words, ok, answer: ok ? (answer ?? '') : message, millis, tries } });
    if (settings.kind === 'midi') this.reached(device.id, { reach: ok ? 'reached' : 'away', message: ok ? '' : message, waiting: 0 });
    return ok;
  }

  tick(desk: Desk, frame: number): void {
    if (this.following.length === 0) return;
    const now = performance.now();
    const fill = fillerAt(desk, frame + 1);
    for (const { device, id, name, out } of this.following) {
      const before = this.said.get(id);
      if (before && now - before.at < FOLLOW_MS) continue;
      const [path, text] = [fill(out.path), fill(out.text)];
      const key = `${path.text}\n${text.text}`;
      if (before?.key === key && (before.ok || now - before.at < AGAIN_MS)) continue;
      const mine = { key, at: now, ok: true };
      this.said.set(id, mine);
      const filled = { method: out.method, path: path.text, text: text.text };
      if (path.faults.length + text.faults.length > 0 || sayProblem(device.settings.kind, filled) !== null) continue;
      void this.send(device, name, filled, frame + 1).then((ok) => (mine.ok = ok));
    }
  }

  close(): void {
    for (const timer of this.timers) clearTimeout(timer);
    this.line.close();
    this.midi.close();
  }
}
