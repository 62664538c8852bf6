import { createScreens } from '#core/screens/create';
import { findOutput, type Output } from '#core/screens/outputs';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { type Desk } from '#core/desk/air';
import { workingFormat } from '#core/picture/capability';
import { type TextureRef } from '#core/picture/draw';
import { FakeFrame, fakeFrame, shown, useFakeFrames } from '#tests/support/fake-frames';
import { must, sampleDesk } from '#tests/support/sample-show';
import { SharedClock } from '../time/shared-clock';
import { MixerLoop } from './mixer-loop';
import { PaintStore } from './paint-store';
import { type Renderer, refsOf } from './renderer';

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'performance'] });
  useFakeFrames();
});

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** Lets so many milliseconds pass, with everything that waits for messages in between. */
async function pass(ms: number): Promise<void> {
  for (let i = 0; i < ms; i += 1) {
    await vi.advanceTimersByTimeAsync(1);
    await new Promise((resolve) => setImmediate(resolve));
  }
}

/** A loop over the sample show: its pictures are names; drawing takes `drawMs` or throws `trouble`. */
function setup(desk: Desk = sampleDesk()) {
  const made = {
    drawMs: 0,
    screenMs: 0,
    screens: [] as string[],
    trouble: '',
    drawn: [] as string[],
    walls: 0,
    failures: [] as (string | null)[],
    ticks: [] as number[],
  };
  const renderer: Renderer = {
    description: 'names',
    async programme(plan, _raster, stamp, duration) {
      if (made.drawMs > 0) await new Promise((resolve) => setTimeout(resolve, made.drawMs));
      if (made.trouble) throw new Error(made.trouble);
      const names = refsOf(plan).map((ref: TextureRef) => (ref.kind === 'source' ? ref.id : ref.kind));
      made.drawn.push(names.join());
      return fakeFrame(names.join(), stamp, duration);
    },
    async output({ plan, size }, stamp, duration) {
      if (size.width > 4096) throw new Error('at most 4096 pixels');
      if (made.screenMs > 0) await new Promise((resolve) => setTimeout(resolve, made.screenMs));
      const names = refsOf(plan).map((ref: TextureRef) => (ref.kind === 'source' ? ref.id : ref.kind));
      made.screens.push(names.join());
      return fakeFrame(names.join(), stamp, duration);
    },
    monitors: () => {
      made.walls += 1;
      return Promise.resolve();
    },
    readyFor: () => undefined,
    resize: () => undefined,
  };
  const clock = new SharedClock();
  const loop = new MixerLoop(
    () => renderer,
    clock,
    desk.show,
    desk.air,
    workingFormat({ width: 64, height: 36 }, 25, 0, ''),
    () => undefined,
    (frame) => made.ticks.push(frame),
    (message) => made.failures.push(message),
    new PaintStore(
      () => undefined,
      () => undefined,
    ),
  );
  // Pictures come from no source here: each is there, and the same until `feed` renews it.
  const versions = new Map<string, number>();
  loop.sources.lookup = (_show, ref) => ({
    image: fakeFrame('') as VideoFrame,
    width: 64,
    height: 36,
    opaque: true,
    version: String(versions.get(ref.kind === 'source' ? ref.id : '') ?? 0),
  });
  const feed = (id: string) => versions.set(id, (versions.get(id) ?? 0) + 1);
  const taken: { number: number; stamp: number; shows: string | null; duration: number | null }[] = [];
  const sink = (id: string, kind: 'programme' | 'clean') =>
    loop.outputs.add(id, {
      output: findOutput({ screens: createScreens() }, kind) as Output,
      take: (frame: VideoFrame) => {
        const stamp = frame.timestamp;
        taken.push({ number: Math.round(stamp / 40_000), stamp, shows: shown(frame), duration: frame.duration });
        frame.close();
      },
      every: true,
      end: () => undefined,
    });
  return { made, loop, feed, taken, sink };
}

describe('the frame clock of the programme', () => {
  it('hands every frame over once, in order, with its stamp, and draws again only what has changed', async () => {
    const { made, loop, taken, sink, feed } = setup();
    sink('file', 'programme');
    void loop.run();
    await pass(1000);
    const numbers = taken.map((t) => t.number);
    expect(numbers.length).toBeGreaterThanOrEqual(23);
    expect(numbers).toEqual(numbers.map((_, i) => (numbers[0] as number) + i));
    for (const { number, stamp, duration } of taken) expect([stamp, duration]).toEqual([number * 40_000, 40_000]);
    // The first is drawn to warm up, and nobody gets it.
    expect(made.drawn).toEqual(['a', 'a']);
    feed('a');
    await pass(100);
    expect(made.drawn).toEqual(['a', 'a', 'a']);
    expect(loop.stats.dropped).toBe(0);
    expect(made.ticks).toEqual(taken.map((t) => t.number));
    loop.stop();
  });

  it('draws the outputs of a surface of one frame, together, in the time that is left', async () => {
    let desk = must(sampleDesk(), 'surface.add', { width: 1200, height: 400 });
    const surface = desk.show.screens.surfaces[0]!.id;
    for (const x of [0, 400, 800]) {
      desk = must(desk, 'screen.add', { shows: { kind: 'surface', surfaceId: surface }, raster: { width: 400, height: 400 } });
      desk = must(desk, 'surface.addScreen', {
        surface,
        outputId: desk.show.screens.outputs.at(-1)!.id,
        rect: { x, y: 0, width: 400, height: 400 },
      });
    }
    desk = must(desk, 'layer.background', { surface, content: { kind: 'source', id: 'b' } });
    desk = must(desk, 'surface.take', { surfaces: [], cut: true }, 0);
    const { made, loop, taken, sink, feed } = setup(desk);
    sink('file', 'programme');
    // Three take 45 ms, and there are 20 in each frame.
    made.screenMs = 15;
    const stamps: Record<string, number[]> = {};
    for (const output of desk.show.screens.outputs) {
      const own: number[] = (stamps[output.id] = []);
      loop.outputs.add(output.id, {
        output,
        take: (frame: VideoFrame) => void (own.push(frame.timestamp), frame.close()),
        every: false,
        end: () => undefined,
      });
    }
    void loop.run();
    for (let i = 0; i < 30; i += 1) {
      feed('b');
      await pass(40);
    }
    const [one = [], ...others] = Object.values(stamps);
    expect(one.length).toBeGreaterThan(4);
    // Fewer than the programme has, and none of it is missing.
    expect(one.length).toBeLessThan(taken.length);
    const numbers = taken.map((t) => t.number);
    expect(numbers).toEqual(numbers.map((_, i) => (numbers[0] as number) + i));
    for (const other of others) expect(other).toEqual(one);
    const rates = Object.values(loop.stats.screens);
    expect(rates.length).toBe(3);
    for (const rate of rates) expect(rate === null || (rate > 3 && rate < 25)).toBe(true);
    // A surface that stands still is not drawn again, and yet is told to be there.
    await pass(200);
    const before = made.screens.length;
    const sent = one.length;
    await pass(2300);
    expect(made.screens.length).toBe(before);
    expect(one.length).toBeGreaterThan(sent + 1);
    loop.stop();
  });

  it('gives outputs of fewer frames each so many-th of the show, and draws them no oftener', async () => {
    let desk = must(sampleDesk(), 'screen.add', { shows: { kind: 'picture', pictureId: 'a' }, raster: { width: 64, height: 36 } });
    desk = must(desk, 'screen.add', { shows: { kind: 'picture', pictureId: 'b' }, raster: { width: 64, height: 36 } });
    for (const { id } of desk.show.screens.outputs) desk = must(desk, 'screen.set', { output: id, frameStep: 5 });
    const { made, loop, feed } = setup(desk);
    const numbers: number[][] = [];
    // One is recorded, the other only looked at.
    for (const [i, output] of desk.show.screens.outputs.entries())
      loop.outputs.add(output.id, {
        output,
        take: (frame: VideoFrame) => void ((numbers[i] ??= []).push(Math.round(frame.timestamp / 40_000)), frame.close()),
        every: i === 0,
        end: () => undefined,
      });
    void loop.run();
    for (let i = 0; i < 42; i += 1) {
      feed('a');
      feed('b');
      await pass(40);
    }
    for (const own of numbers) {
      // The first may come at any frame.
      const later = own.slice(1);
      expect(later.length).toBeGreaterThan(5);
      expect(later.every((n) => n % 5 === 0)).toBe(true);
      expect(later).toEqual(later.map((_, i) => later[0]! + i * 5));
    }
    expect(made.screens.length).toBeLessThan(22);
    loop.stop();
  });

  it('goes on when one output cannot be drawn, and says which and why', async () => {
    const { made, loop, taken, sink } = setup();
    sink('file', 'programme');
    const hall: Output = { id: 'hall', name: 'Hall', shows: { kind: 'black' }, raster: { width: 7680, height: 4320 } };
    let given = 0;
    loop.outputs.add('hall', { output: hall, take: () => (given += 1), every: false, end: () => undefined });
    void loop.run();
    await pass(400);
    const numbers = taken.map((t) => t.number);
    expect(numbers.length).toBeGreaterThan(6);
    expect(numbers).toEqual(numbers.map((_, i) => (numbers[0] as number) + i));
    expect([given, made.failures.length]).toEqual([0, 1]);
    expect(made.failures[0]).toMatch(/^The output Hall cannot be drawn in 7680×4320: .+ Give it fewer pixels/);
    loop.outputs.remove('hall');
    await pass(100);
    expect(made.failures.at(-1)).toBeNull();
    loop.stop();
  });

  it('follows the desk at the next frame, and copies go to every taker', async () => {
    const desk = sampleDesk();
    const { loop, taken, sink } = setup(desk);
    sink('file', 'programme');
    sink('stream', 'programme');
    void loop.run();
    await pass(200);
    const cut = must(desk, 'picture.cut', { picture: 'c' }, loop.stats.frames);
    loop.setDesk(cut.show, cut.air);
    await pass(100);
    expect(taken.at(-1)?.shows).toBe('c');
    expect(taken.at(-2)).toEqual(taken.at(-1));
    loop.stop();
  });

  it('draws what it missed after a stall, while it is quick enough for that', async () => {
    const { made, loop, taken, sink, feed } = setup();
    sink('file', 'programme');
    void loop.run();
    await pass(2000);
    made.drawMs = 150;
    feed('a');
    await pass(45);
    made.drawMs = 0;
    await pass(500);
    const numbers = taken.map((t) => t.number);
    expect(numbers).toEqual(numbers.map((_, i) => (numbers[0] as number) + i));
    expect(loop.stats).toMatchObject({ dropped: 0 });
    expect(loop.stats.late).toBeGreaterThan(0);
    // Monitors wait while the programme catches up.
    expect(loop.stats.monitorsSkipped).toBeGreaterThan(0);
    loop.stop();
  });

  it('gives frames up at once when drawing always takes too long: its delay does not grow', async () => {
    const { made, loop, taken, sink, feed } = setup();
    sink('file', 'programme');
    made.drawMs = 100;
    void loop.run();
    for (let i = 0; i < 200; i += 1) {
      feed('a');
      await pass(10);
    }
    const numbers = taken.map((t) => t.number);
    expect(numbers).toEqual([...new Set(numbers)].sort((x, y) => x - y));
    expect(loop.stats.dropped).toBeGreaterThan(10);
    // After two seconds it is still at the present: 60 ms of delay, a drawing of 100 ms, and the frame in hand.
    expect((numbers.at(-1) as number) * 40).toBeGreaterThan(2000 - 60 - 300);
    loop.stop();
  });

  it('says once that a frame cannot be drawn, goes on, and says when frames come again', async () => {
    const { made, loop, taken, sink, feed } = setup();
    sink('file', 'programme');
    void loop.run();
    await pass(120);
    const before = taken.length;
    made.trouble = 'no memory';
    feed('a');
    await pass(400);
    expect(made.failures).toEqual(['no memory']);
    expect(taken.length).toBe(before);
    made.trouble = '';
    await pass(200);
    expect(made.failures).toEqual(['no memory', null]);
    expect(taken.length).toBeGreaterThan(before);
    loop.stop();
  });

  it('draws the clean programme only while somebody takes it and lanes lie over the programme', async () => {
    const sample = sampleDesk();
    const lane = sample.show.lanes[0]?.id;
    const on = must(must(sample, 'lane.setContent', { lane, content: { kind: 'picture', id: 'bug' } }), 'lane.show', { lane });
    const { made, loop, taken, sink } = setup(on);
    sink('file', 'programme');
    void loop.run();
    await pass(2000);
    expect(made.drawn.at(-1)).toBe('a,bug');
    const drawn = made.drawn.length;
    await pass(200);
    expect(made.drawn.length).toBe(drawn);
    sink('clean', 'clean');
    await pass(200);
    expect(made.drawn.slice(drawn)).toEqual(['a']);
    const [programme, clean] = taken.slice(-2);
    expect([programme?.shows, clean?.shows]).toEqual(['a,bug', 'a']);
    expect(programme?.number).toBe(clean?.number);
    loop.outputs.remove('clean');
    await pass(80);
    loop.stop();
  });

  it('leaves no frame open when it stops', async () => {
    const { loop, sink, feed } = setup();
    loop.sources.lookup = () => null;
    sink('file', 'programme');
    sink('clean', 'clean');
    void loop.run();
    for (let i = 0; i < 20; i += 1) {
      feed('a');
      await pass(20);
    }
    loop.stop();
    expect(FakeFrame.open).toBe(0);
  });
});
