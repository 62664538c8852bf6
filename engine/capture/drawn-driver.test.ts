import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { createAir } from '#core/desk/air';
import { FakeWorker, useFakeWorkers } from '#tests/support/fake-worker';
import { sampleDesk } from '#tests/support/sample-show';
import { createDrawnDriver } from './drawn-driver';
import { type EngineFormat, type SourceLink } from './driver';

beforeEach(useFakeWorkers);
afterEach(() => vi.unstubAllGlobals());

const format = (): EngineFormat => ({
  clock: new SharedArrayBuffer(8),
  rate: { num: 25, den: 1 },
  frameStep: 1,
  working: { width: 64, height: 36 },
});
const link = { framePort: () => 'frames', soundPort: () => 'sound', health: () => undefined } as unknown as SourceLink;

describe('the driver of drawn sources', () => {
  it('draws all of a show in one thread, and another show, with another clock, in another', () => {
    const driver = createDrawnDriver(() => new Worker('drawn'));
    const { show } = sampleDesk();
    const [first, second] = [format(), format()];
    for (const source of show.sources.slice(0, 2)) driver(source, createAir(show), link, first);
    expect(FakeWorker.started.length).toBe(1);
    driver(show.sources[0] as never, createAir(show), link, second);
    expect(FakeWorker.started.map((w) => [w.told.map((m) => m.type), w.terminated])).toEqual([
      [['start', 'add', 'add'], true],
      [['start', 'add'], false],
    ]);
    expect((FakeWorker.started[1]?.told[0] as unknown as { clock: unknown }).clock).toBe(second.clock);
  });

  it('draws at another size when the engine works in one, and is told once', () => {
    const driver = createDrawnDriver(() => new Worker('drawn'));
    const { show } = sampleDesk();
    const here = format();
    const handles = show.sources.slice(0, 3).map((source) => driver(source, createAir(show), link, here));
    for (const handle of handles) handle.resize?.({ width: 32, height: 18 });
    expect(FakeWorker.started[0]?.told.filter((m) => m.type === 'size')).toEqual([{ type: 'size', size: { width: 32, height: 18 } }]);
  });
});
