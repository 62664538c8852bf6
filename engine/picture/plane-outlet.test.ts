import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { type FromViewer, PlaneOutlet, type PlanesMessage } from './plane-outlet';

/** A frame of two grey pixels. */
function frame(stamp: number) {
  const made = {
    closed: false,
    timestamp: stamp,
    codedWidth: 2,
    codedHeight: 1,
    visibleRect: { width: 2, height: 1 },
    format: 'I420',
    colorSpace: { toJSON: () => ({ matrix: 'bt709' }) },
    allocationSize: () => 4,
    copyTo: (into: ArrayBuffer) => {
      new Uint8Array(into).set([stamp, stamp, 128, 128]);
      return Promise.resolve([{ offset: 0, stride: 2 }]);
    },
    close: () => (made.closed = true),
  };
  return made;
}

function setup(limit: number) {
  const sent: PlanesMessage[] = [];
  const port = {
    onmessage: null as ((event: { data: FromViewer }) => void) | null,
    postMessage: (message: PlanesMessage) => sent.push(message),
    close: vi.fn(),
  };
  const gone = vi.fn();
  const outlet = new PlaneOutlet(port as unknown as MessagePort, limit, gone);
  const send = (made: ReturnType<typeof frame>) => outlet.send({ frame: made as unknown as VideoFrame });
  return { sent, port, gone, outlet, send, say: (data: FromViewer) => port.onmessage?.({ data }) };
}

beforeEach(() => void vi.useFakeTimers({ toFake: ['performance'] }));
afterEach(() => void vi.useRealTimers());
const settle = () => new Promise((resolve) => setImmediate(resolve));

describe('pictures for another window', () => {
  it('go out as their bytes, each frame closed, and no more than are taken', async () => {
    const { sent, send, say } = setup(2);
    const frames = [1, 2, 3].map(frame);
    frames.forEach(send);
    await settle();
    expect(sent.map((m) => [...new Uint8Array(m.planes)])).toEqual([
      [1, 1, 128, 128],
      [2, 2, 128, 128],
    ]);
    expect(sent[0]?.init).toMatchObject({ format: 'I420', codedWidth: 2, codedHeight: 1, timestamp: 1, colorSpace: { matrix: 'bt709' } });
    expect(frames.every((f) => f.closed)).toBe(true);
    say('taken');
    send(frame(4));
    await settle();
    expect(sent.map((m) => m.init.timestamp)).toEqual([1, 2, 4]);
  });

  it('end when the window says so, or takes nothing for ten seconds', async () => {
    const said = setup(2);
    said.say('end');
    said.say('end');
    expect(said.gone).toHaveBeenCalledTimes(1);
    const silent = setup(1);
    silent.send(frame(1));
    await settle();
    vi.advanceTimersByTime(9000);
    silent.send(frame(2));
    expect(silent.gone).not.toHaveBeenCalled();
    vi.advanceTimersByTime(2000);
    silent.send(frame(3));
    expect(silent.gone).toHaveBeenCalledTimes(1);
  });

  it('are left out where a frame cannot be copied', async () => {
    const { sent, send } = setup(1);
    const broken = frame(1);
    broken.copyTo = () => Promise.reject(new Error('lost'));
    send(broken);
    await settle();
    send(frame(2));
    await settle();
    expect([broken.closed, sent.map((m) => m.init.timestamp)]).toEqual([true, [2]]);
  });
});
