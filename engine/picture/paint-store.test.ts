/** Paints in the mixer: asked once, kept within a bound, the last one standing in, a dead worker found out. */
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { createElement } from '#core/graphics/create';
import { type Paint, paintOf } from '#core/graphics/paint';
import { type FromGraphics, type PaintWanted } from '../graphics/messages';
import { PaintStore } from './paint-store';

class FakeImageData {
  constructor(
    readonly data: Uint8ClampedArray,
    readonly width: number,
    readonly height: number,
  ) {}
}

const RASTER = { width: 640, height: 360 };
const paint = (x: number): Paint =>
  paintOf([{ element: createElement('e', 'rectangle', { x, y: 0, width: 40, height: 40 }), mask: null, moment: null }], RASTER);
const SIZE = { width: 8, height: 8 };

function worker() {
  const asked: PaintWanted[] = [];
  const port = {
    onmessage: null as ((e: { data: FromGraphics }) => void) | null,
    postMessage: (m: PaintWanted) => asked.push(m),
    close: () => undefined,
  };
  const answer = (m: PaintWanted, change: Partial<FromGraphics> = {}) =>
    port.onmessage?.({
      data: {
        type: 'painted',
        missing: [],
        key: m.paint.key,
        width: m.width,
        height: m.height,
        pixels: new Uint8ClampedArray(m.width * m.height * 4),
        millis: 1,
        ...change,
      } as FromGraphics,
    });
  return { asked, answer, port: port as unknown as MessagePort };
}

let now = 0;
const troubles: string[] = [];
let deaths = 0;
const store = () =>
  new PaintStore(
    (message) => troubles.push(message),
    () => (deaths += 1),
    () => now,
  );

beforeEach(() => {
  vi.stubGlobal('ImageData', FakeImageData);
  now = 0;
  deaths = 0;
  troubles.length = 0;
});

describe('the store of paints', () => {
  it('asks for each paint and size once, and gives it when it has come', () => {
    const { asked, answer, port } = worker();
    const paints = store();
    paints.connect(port);
    expect(paints.find(paint(0), 'a', SIZE)).toBeNull();
    paints.want(paint(0), SIZE);
    paints.find(paint(0), 'a', SIZE);
    expect(asked).toHaveLength(1);
    paints.find(paint(0), 'a', { width: 16, height: 16 });
    expect(asked).toHaveLength(2);
    const before = paints.version(paint(0));
    answer(asked[0] as PaintWanted);
    expect(paints.find(paint(0), 'a', SIZE)?.width).toBe(8);
    // Monitors see that it has changed.
    expect(paints.version(paint(0))).not.toBe(before);
    expect(asked).toHaveLength(2);
  });

  it('asks for what only monitors show one by one, and at once for what the audience sees', () => {
    const { asked, answer, port } = worker();
    const paints = store();
    paints.connect(port);
    paints.forMonitors = true;
    for (const x of [0, 10, 20, 30]) paints.find(paint(x), 'monitor', SIZE);
    paints.forMonitors = false;
    expect(asked).toHaveLength(1);
    paints.want(paint(500), SIZE);
    // One that monitors wait for is asked for at once when it is seen on air.
    paints.want(paint(20), SIZE);
    expect(asked.map((a) => a.paint.key)).toEqual([0, 500, 20].map((x) => paint(x).key));
    for (let i = 0; i < 5; i += 1) answer(asked[i] as PaintWanted);
    expect(asked.map((a) => a.paint.key)).toEqual([0, 500, 20, 10, 30].map((x) => paint(x).key));
  });

  it('lets the last picture of a place stand in until the next one is drawn', () => {
    const { asked, answer, port } = worker();
    const paints = store();
    paints.connect(port);
    paints.find(paint(0), 'clock', SIZE);
    answer(asked[0] as PaintWanted);
    const first = paints.find(paint(0), 'clock', SIZE);
    expect(paints.find(paint(100), 'clock', SIZE)).toBe(first);
    expect(paints.find(paint(100), 'other', SIZE)).toBeNull();
    answer(asked[1] as PaintWanted);
    expect(paints.find(paint(100), 'clock', SIZE)).not.toBe(first);
  });

  it('stays within its bytes; the paints used last stay', () => {
    const { asked, answer, port } = worker();
    const paints = store();
    paints.connect(port);
    const large = { width: 2000, height: 2000 };
    for (let i = 0; i < 12; i += 1) {
      paints.want(paint(i * 100), large);
      answer(asked[i] as PaintWanted);
      paints.find(paint(0), 'a', large);
    }
    expect(paints.bytes).toBeLessThanOrEqual(128 * 1024 * 1024);
    expect(paints.find(paint(0), 'a', large)).not.toBeNull();
  });

  it('says once what cannot be drawn, and does not ask for it again', () => {
    const { asked, answer, port } = worker();
    const paints = store();
    paints.connect(port);
    paints.want(paint(0), SIZE);
    answer(asked[0] as PaintWanted, { type: 'failed', message: 'too large' } as never);
    paints.want(paint(0), SIZE);
    expect([asked.length, troubles]).toEqual([1, ['too large']]);
  });

  it('finds out that its worker is dead, and asks the next one for what never came', () => {
    const first = worker();
    const paints = store();
    paints.connect(first.port);
    paints.want(paint(0), SIZE);
    now = 5000;
    paints.watch();
    expect(deaths).toBe(0);
    now = 7000;
    paints.watch();
    paints.watch();
    expect(deaths).toBe(1);
    const second = worker();
    paints.connect(second.port);
    expect(second.asked).toHaveLength(1);
    second.answer(second.asked[0] as PaintWanted);
    now = 60_000;
    paints.watch();
    expect(deaths).toBe(1);
  });
});
