/** Keeps the sound devices open that the show names, plugs buses and inputs into them, and says what is wrong with any. */
import { causeOf } from '#core/schema/cause';
import { type Pair, type Sound } from '#core/sound/document';
import { inputKey } from '#core/sound/desk-config';
import { type OpenDevice, type SoundDeviceDriver, type SoundDeviceInfo } from './device-driver';

/** Tries again after so many milliseconds. */
const RETRY_MS = 2000;

export interface DeviceState {
  deviceId: string;
  label: string;
  side: 'input' | 'output';
  state: 'opening' | 'live' | 'lost';
  /** Why it is lost, or what should be known of it. */
  note: string;
  /** Pairs that it has; 0 while that is not known. */
  pairs: number;
}

interface Side {
  key: string;
  side: 'input' | 'output';
  deviceId: string;
  label: string;
  /** Pairs in use. */
  pairs: Set<number>;
  open: OpenDevice | null;
  opening: boolean;
  retryAt: number;
  /** Connections as they are: by pair, or by pair and bus. */
  wires: Map<string, () => void>;
}

export interface BoardHost {
  context: AudioContext;
  /** Connects a node to an input of the desk under a key; returns how to end it. */
  feed(key: string, node: AudioNode, output: number): () => void;
  /** The desk's node and its output for a bus; null while the bus is not there. */
  bus(busId: string): { node: AudioNode; output: number } | null;
  state(states: DeviceState[]): void;
  /** A device has gone or come back: cause, or empty. */
  report(deviceId: string, cause: string): void;
}

export class DeviceBoard {
  private readonly sides = new Map<string, Side>();
  private readonly states = new Map<string, DeviceState>();
  private sound: Sound | null = null;
  private closed = false;
  private readonly timer: ReturnType<typeof setInterval>;
  private readonly changed = () => this.retry();

  constructor(
    private readonly drivers: readonly SoundDeviceDriver[],
    private readonly host: BoardHost,
  ) {
    this.timer = setInterval(() => this.retry(), RETRY_MS);
    navigator.mediaDevices?.addEventListener('devicechange', this.changed);
  }

  async list(): Promise<SoundDeviceInfo[]> {
    return (await Promise.all(this.drivers.map((d) => d.list()))).flat();
  }

  /** Opens and connects what the show wants, and lets go of what it does not. */
  reconcile(sound: Sound): void {
    if (sound === this.sound) return;
    this.sound = sound;
    for (const driver of this.drivers) driver.obey?.(sound);
    const wanted = new Map<string, { side: 'input' | 'output'; deviceId: string; label: string; pairs: Set<number> }>();
    const want = (side: 'input' | 'output', { deviceId, deviceLabel, pair }: Pair) => {
      const key = `${side} ${deviceId}`;
      const entry = wanted.get(key) ?? { side, deviceId, label: deviceLabel, pairs: new Set<number>() };
      entry.pairs.add(pair);
      wanted.set(key, entry);
    };
    for (const { feed } of sound.inputs) if (feed.kind === 'device') want('input', { ...feed, pair: Math.ceil(feed.first / 2) });
    for (const { to } of sound.patches) want('output', to);
    for (const [key, side] of this.sides) if (!wanted.has(key)) this.drop(side);
    for (const [key, entry] of wanted) {
      const known = this.sides.get(key);
      if (known) {
        // More channels than it was opened with: it is opened anew.
        const grown = Math.max(...entry.pairs) > Math.max(...known.pairs);
        known.pairs = entry.pairs;
        if (grown && known.open) this.shut(known);
      } else this.sides.set(key, { ...entry, key, open: null, opening: false, retryAt: 0, wires: new Map() });
    }
    for (const side of this.sides.values()) {
      if (side.open) this.wire(side);
      else void this.open(side);
    }
    this.tell();
  }

  private driverOf(deviceId: string): SoundDeviceDriver | undefined {
    return this.drivers.find((d) => d.owns(deviceId));
  }

  private async open(side: Side): Promise<void> {
    if (side.opening || side.open || this.closed) return;
    side.opening = true;
    if (!this.states.has(side.key)) this.set(side, 'opening', '');
    const driver = this.driverOf(side.deviceId);
    const pairs = Math.max(1, ...side.pairs);
    const lost = (cause: string) => {
      if (this.sides.get(side.key) !== side || !side.open) return;
      this.shut(side);
      side.retryAt = performance.now() + RETRY_MS;
      this.set(side, 'lost', cause);
    };
    try {
      if (!driver) throw new Error('nothing here can open it');
      const opened = await (side.side === 'input'
        ? driver.openInput(this.host.context, side.deviceId, side.label, pairs, lost)
        : driver.openOutput(this.host.context, side.deviceId, side.label, pairs, lost));
      if (this.closed || this.sides.get(side.key) !== side) return opened.close();
      side.open = opened;
      this.set(side, 'live', opened.note);
      this.wire(side);
    } catch (error) {
      side.retryAt = performance.now() + RETRY_MS;
      this.set(side, 'lost', causeOf(error));
    } finally {
      side.opening = false;
    }
  }

  /** Connects what is wanted of an open side, and disconnects the rest. */
  private wire(side: Side): void {
    const { open, wires, deviceId } = side;
    if (!open || !this.sound) return;
    const wanted = new Map<string, () => () => void>();
    if (side.side === 'input') {
      for (const pair of side.pairs)
        wanted.set(String(pair), () => this.host.feed(inputKey(deviceId, pair), open.pair(pair), open.index(pair)));
    } else {
      for (const { busId, to } of this.sound.patches) {
        if (to.deviceId !== deviceId) continue;
        const bus = this.host.bus(busId);
        if (!bus) continue;
        wanted.set(`${busId} ${to.pair} ${bus.output}`, () => {
          const target = open.pair(to.pair);
          const index = open.index(to.pair);
          bus.node.connect(target, bus.output, index);
          return () => bus.node.disconnect(target, bus.output, index);
        });
      }
    }
    for (const [key, end] of wires) {
      if (wanted.has(key)) continue;
      end();
      wires.delete(key);
    }
    const faults: string[] = [];
    for (const [key, make] of wanted) {
      if (wires.has(key)) continue;
      try {
        wires.set(key, make());
      } catch (error) {
        faults.push(causeOf(error));
      }
    }
    this.set(side, faults.length > 0 ? 'lost' : 'live', faults[0] ?? open.note);
  }

  private shut(side: Side): void {
    for (const end of side.wires.values()) end();
    side.wires.clear();
    side.open?.close();
    side.open = null;
  }

  private drop(side: Side): void {
    this.shut(side);
    this.sides.delete(side.key);
    this.states.delete(side.key);
    this.host.report(side.deviceId, '');
  }

  private retry(): void {
    for (const side of this.sides.values()) if (!side.open && performance.now() >= side.retryAt) void this.open(side);
  }

  private set({ key, side, deviceId, label, open }: Side, state: DeviceState['state'], note: string): void {
    const before = this.states.get(key);
    const pairs = open?.pairs ?? before?.pairs ?? 0;
    if (before?.state === state && before.note === note && before.pairs === pairs) return;
    this.states.set(key, { deviceId, label, side, state, note, pairs });
    if (state !== 'opening' && (before?.state === 'lost' || state === 'lost')) this.host.report(deviceId, state === 'lost' ? note : '');
    this.tell();
  }

  private tell(): void {
    this.host.state([...this.states.values()]);
  }

  /** Lets the operator hear a pair of outputs where a device is; null for none. */
  listen(deviceId: string, pair: number | null, ears: AudioNode): void {
    this.driverOf(deviceId)?.listen?.(pair, ears);
  }

  close(): void {
    this.closed = true;
    clearInterval(this.timer);
    navigator.mediaDevices?.removeEventListener('devicechange', this.changed);
    for (const side of [...this.sides.values()]) this.drop(side);
  }
}
