/** The board of sound devices, with devices that are only told of: what is opened, wired, missed and tried again. */
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { createSound, type Pair, type Sound } from '#core/sound/document';
import { type BoardHost, DeviceBoard, type DeviceState } from './device-board';
import { type OpenDevice, type SoundDeviceDriver } from './device-driver';

/** A device that counts how often it is opened, and can be pulled. */
class FakeDevice {
  opened: number[] = [];
  closed = 0;
  present = true;
  lost: (cause: string) => void = () => undefined;

  constructor(
    readonly deviceId: string,
    readonly pairs: number,
  ) {}

  open(pairs: number, onLost: (cause: string) => void): OpenDevice {
    if (!this.present) throw new Error('it is not plugged in');
    this.opened.push(pairs);
    this.lost = onLost;
    return {
      note: '',
      pairs: this.pairs,
      pair: (pair) => {
        if (pair > this.pairs) throw new Error(`it has ${this.pairs * 2} outputs`);
        return { name: `${this.deviceId} ${pair}` } as unknown as AudioNode;
      },
      index: () => 0,
      close: () => {
        this.closed += 1;
      },
    };
  }

  pull(): void {
    this.present = false;
    this.lost('it was unplugged');
  }
}

let devices: FakeDevice[];
let board: DeviceBoard;
/** Wires as they are: "bus to device pair", or "key from device pair". */
let wires: string[];
let states: DeviceState[];
let reports: string[];
const mediaDevices = new EventTarget();

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('navigator', { mediaDevices });
  devices = [new FakeDevice('desk', 4), new FakeDevice('booth', 1)];
  [wires, states, reports] = [[], [], []];
  const take = (wire: string) => {
    wires.push(wire);
    return () => {
      wires.splice(wires.indexOf(wire), 1);
    };
  };
  const find = (deviceId: string) => {
    const found = devices.find((d) => d.deviceId === deviceId);
    if (!found) throw new Error('it is not plugged in');
    return found;
  };
  const driver: SoundDeviceDriver = {
    list: () => Promise.resolve([]),
    owns: () => true,
    openInput: async (_, deviceId, __, pairs, onLost) => Promise.resolve(find(deviceId).open(pairs, onLost)),
    openOutput: async (_, deviceId, __, pairs, onLost) => Promise.resolve(find(deviceId).open(pairs, onLost)),
  };
  const named = (node: AudioNode) => (node as unknown as { name: string }).name;
  const host: BoardHost = {
    context: {} as AudioContext,
    feed: (key, node) => take(`${key} from ${named(node)}`),
    bus: (busId) => {
      const ends = new Map<AudioNode, () => void>();
      const node = {
        connect: (to: AudioNode) => ends.set(to, take(`${busId} to ${named(to)}`)),
        disconnect: (to: AudioNode) => ends.get(to)?.(),
      };
      return { node: node as unknown as AudioNode, output: 1 };
    },
    state: (list) => {
      states = list;
    },
    report: (deviceId, cause) => reports.push(`${deviceId}: ${cause}`),
  };
  board = new DeviceBoard([driver], host);
});

afterEach(() => {
  board.close();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const at = (deviceId: string, pair: number): Pair => ({ deviceId, deviceLabel: deviceId, pair });

function soundWith(patches: [bus: string, to: Pair][], inputs: Pair[] = []): Sound {
  const sound = createSound();
  sound.patches = patches.map(([busId, to], i) => ({ id: `p${i}`, busId, to }));
  sound.inputs = inputs.map(
    (from, i) =>
      ({
        id: `in${i}`,
        feed: { kind: 'device', deviceId: from.deviceId, deviceLabel: from.deviceLabel, first: from.pair * 2 - 1, stereo: true },
      }) as Sound['inputs'][0],
  );
  return sound;
}

async function reconcile(sound: Sound): Promise<void> {
  board.reconcile(sound);
  await vi.advanceTimersByTimeAsync(0);
}

const stateOf = (deviceId: string, side: 'input' | 'output' = 'output') => states.find((s) => s.deviceId === deviceId && s.side === side);

describe('the board of sound devices', () => {
  it('opens what the show names, plugs it in, and tells how many pairs there are', async () => {
    await reconcile(
      soundWith(
        [
          ['room', at('desk', 1)],
          ['ear', at('desk', 2)],
        ],
        [at('booth', 1)],
      ),
    );
    expect(wires.toSorted()).toEqual(['ear to desk 2', 'input booth 1 from booth 1', 'room to desk 1']);
    expect(stateOf('desk')).toMatchObject({ state: 'live', note: '', pairs: 4 });
    expect(stateOf('booth', 'input')).toMatchObject({ state: 'live', pairs: 1 });
    expect(reports).toEqual([]);
  });

  it('changes only what has changed, and lets go of what nobody names any more', async () => {
    await reconcile(
      soundWith([
        ['room', at('desk', 2)],
        ['ear', at('booth', 1)],
      ]),
    );
    await reconcile(
      soundWith([
        ['room', at('desk', 1)],
        ['ear', at('booth', 1)],
      ]),
    );
    expect(wires.toSorted()).toEqual(['ear to booth 1', 'room to desk 1']);
    expect(devices.map((d) => d.opened)).toEqual([[2], [1]]);
    await reconcile(soundWith([['room', at('desk', 1)]]));
    expect(wires).toEqual(['room to desk 1']);
    expect(devices[1]?.closed).toBe(1);
    expect(stateOf('booth')).toBeUndefined();
  });

  it('opens a device anew when more of its pairs are wanted', async () => {
    await reconcile(soundWith([['room', at('desk', 1)]]));
    await reconcile(
      soundWith([
        ['room', at('desk', 1)],
        ['ear', at('desk', 3)],
      ]),
    );
    expect(devices[0]).toMatchObject({ opened: [1, 3], closed: 1 });
    expect(wires.toSorted()).toEqual(['ear to desk 3', 'room to desk 1']);
  });

  it('says which pair a device does not have, and plays the others', async () => {
    await reconcile(
      soundWith([
        ['room', at('booth', 1)],
        ['ear', at('booth', 2)],
      ]),
    );
    expect(stateOf('booth')).toMatchObject({ state: 'lost', note: 'it has 2 outputs', pairs: 1 });
    expect(wires).toEqual(['room to booth 1']);
  });

  it('misses a device that is pulled, plays on with the rest, and takes it up again when it is back', async () => {
    await reconcile(
      soundWith([
        ['room', at('desk', 1)],
        ['ear', at('booth', 1)],
      ]),
    );
    devices[1]?.pull();
    expect(stateOf('booth')).toMatchObject({ state: 'lost', note: 'it was unplugged' });
    expect(wires).toEqual(['room to desk 1']);
    expect(reports).toEqual(['booth: it was unplugged']);
    // It is tried again after a while, and missed in words of its own.
    await vi.advanceTimersByTimeAsync(4100);
    expect(stateOf('booth')?.note).toBe('it is not plugged in');
    if (devices[1]) devices[1].present = true;
    mediaDevices.dispatchEvent(new Event('devicechange'));
    await vi.advanceTimersByTimeAsync(4100);
    expect(stateOf('booth')).toMatchObject({ state: 'live', note: '' });
    expect(wires.toSorted()).toEqual(['ear to booth 1', 'room to desk 1']);
    expect(reports.at(-1)).toBe('booth: ');
  });

  it('waits for a device that was never there', async () => {
    const [desk] = devices as [FakeDevice];
    desk.present = false;
    await reconcile(soundWith([['room', at('desk', 1)]]));
    expect(stateOf('desk')).toMatchObject({ state: 'lost', note: 'it is not plugged in', pairs: 0 });
    desk.present = true;
    await vi.advanceTimersByTimeAsync(4100);
    expect(stateOf('desk')).toMatchObject({ state: 'live', pairs: 4 });
    expect(wires).toEqual(['room to desk 1']);
  });

  it('closes everything at the end, and opens nothing afterwards', async () => {
    await reconcile(soundWith([['room', at('desk', 1)]], [at('booth', 1)]));
    board.close();
    expect(wires).toEqual([]);
    expect(devices.map((d) => d.closed)).toEqual([1, 1]);
    await vi.advanceTimersByTimeAsync(10_000);
    expect(devices.map((d) => d.opened.length)).toEqual([1, 1]);
  });
});
