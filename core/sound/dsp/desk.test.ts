import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must, sampleDesk } from '#tests/support/sample-show';
import { levelAt } from '#tests/support/levels';
import { blockOf, runDesk, sine } from '#tests/support/sound';
import { type Desk } from '../../desk/air';
import { deskConfig } from '../desk-config';
import { planSound } from '../plan';
import { bandCoefficients, Biquad, highPassCoefficients, responseDb } from './biquad';
import { BLOCK } from './stereo';
import { compressedDb, CompressorProcessor, GateProcessor } from './dynamics';
import { DelayLine } from './delay-line';
import { DeskProcessor } from './desk-processor';

const RATE = 48_000;

/** Gain in dB that a processor gives a steady sine. */
function gainOf(hz: number, amplitude: number, process: (l: Float32Array, r: Float32Array) => void): number {
  const out: number[] = [];
  for (let at = 0; at < RATE; at += BLOCK) {
    const left = blockOf(sine(hz, amplitude), at);
    const right = left.slice();
    process(left, right);
    if (at > RATE / 2) out.push(...left);
  }
  return 20 * Math.log10(levelAt(out, hz) / amplitude);
}

describe('filters', () => {
  it('have the response their formulas promise, measured with sines', () => {
    for (const [kind, hz, db] of [
      ['bell', 1000, 9],
      ['low-shelf', 200, -6],
      ['high-shelf', 6000, 4],
    ] as const) {
      const c = bandCoefficients(kind, hz, db, 1, RATE);
      for (const at of [60, 200, 1000, 3000, 9000]) {
        const filter = new Biquad(c);
        expect(gainOf(at, 0.2, (l, r) => filter.process(l, r, BLOCK))).toBeCloseTo(responseDb(c, at, RATE), 1);
      }
    }
    expect(responseDb(bandCoefficients('bell', 1000, 9, 1, RATE), 1000, RATE)).toBeCloseTo(9, 6);
    expect(responseDb(bandCoefficients('low-shelf', 200, -6, 0.7, RATE), 20, RATE)).toBeCloseTo(-6, 1);
  });

  it('take 3 dB at the corner of the high-pass, and 12 dB an octave below', () => {
    const c = highPassCoefficients(100, RATE);
    expect(responseDb(c, 100, RATE)).toBeCloseTo(-3.01, 2);
    expect(responseDb(c, 25, RATE) - responseDb(c, 12.5, RATE)).toBeCloseTo(12, 0);
  });

  it('recover from a fault in their input', () => {
    const filter = new Biquad(highPassCoefficients(100, RATE));
    const bad = new Float32Array(BLOCK).fill(NaN);
    filter.process(bad, bad.slice(), BLOCK);
    expect(gainOf(2000, 0.5, (l, r) => filter.process(l, r, BLOCK))).toBeCloseTo(0, 1);
  });
});

describe('dynamics', () => {
  const settings = { on: true, thresholdDb: -20, ratio: 4, attackMs: 1, releaseMs: 50, kneeDb: 6, makeUpDb: 0 };

  it('compresses by its ratio above the threshold, not below, and bends smoothly between', () => {
    expect(compressedDb(-40, settings)).toBe(-40);
    expect(compressedDb(-4, settings)).toBeCloseTo(-16, 9);
    fc.assert(
      fc.property(fc.double({ min: -60, max: 10, noNaN: true }), fc.double({ min: 0.001, max: 5, noNaN: true }), (db, step) => {
        const rise = compressedDb(db + step, settings) - compressedDb(db, settings);
        expect(rise).toBeGreaterThanOrEqual(step / 4 - 1e-9);
        expect(rise).toBeLessThanOrEqual(step + 1e-9);
      }),
    );
  });

  it('does so to sound', () => {
    const loud = new CompressorProcessor(RATE);
    // A sine of −4 dBFS peak: 12 dB less is wanted.
    expect(gainOf(1000, 10 ** (-4 / 20), (l, r) => loud.process(l, r, BLOCK, settings))).toBeCloseTo(-12, 0);
    const soft = new CompressorProcessor(RATE);
    expect(gainOf(1000, 0.01, (l, r) => soft.process(l, r, BLOCK, settings))).toBeCloseTo(0, 2);
  });

  it('gates what stays under the threshold, and lets through what is above', () => {
    const gate = { on: true, thresholdDb: -40, rangeDb: -30, attackMs: 1, holdMs: 10, releaseMs: 20 };
    const closed = new GateProcessor(RATE);
    expect(gainOf(1000, 0.003, (l, r) => closed.process(l, r, BLOCK, gate))).toBeCloseTo(-30, 0);
    const open = new GateProcessor(RATE);
    expect(gainOf(1000, 0.1, (l, r) => open.process(l, r, BLOCK, gate))).toBeCloseTo(0, 1);
  });
});

describe('the delay line', () => {
  it('gives back what was written so many samples before, also after it grew', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 3000 }), fc.integer({ min: 0, max: 20 }), (delay, growAt) => {
        const line = new DelayLine();
        line.fit(growAt > 0 ? 10 : delay);
        const [l, r] = [new Float32Array(BLOCK), new Float32Array(BLOCK)];
        for (let block = 0; block < 60; block += 1) {
          if (block === growAt) line.fit(delay);
          const x = Float32Array.from({ length: BLOCK }, (_, i) => block * BLOCK + i + 1);
          line.write(x, x, BLOCK);
          if (block * BLOCK < growAt * BLOCK + delay + 1024) continue;
          line.read(delay, l, r, BLOCK);
          expect(l[0]).toBe(block * BLOCK + 1 - delay);
          expect(r[BLOCK - 1]).toBe(block * BLOCK + BLOCK - delay);
        }
      }),
      { numRuns: 40 },
    );
  });
});

/** Three sources with a tone each, all open. */
const TONES: Record<string, number> = { a: 400, b: 1000, c: 2500 };
function openDesk(): Desk {
  let desk = sampleDesk();
  for (const channel of ['a', 'b', 'c']) desk = must(desk, 'sound.follow', { channel, on: false });
  return desk;
}

describe('the desk', () => {
  it('brings each source into the programme at its fader, and leaves muted ones out', () => {
    let desk = must(openDesk(), 'sound.setFader', { channel: 'b', db: -10 });
    desk = must(desk, 'sound.mute', { channel: 'c', on: true });
    const { buses } = runDesk(desk, TONES);
    expect(20 * Math.log10(levelAt(buses.programme?.left ?? [], 400) / 0.1)).toBeCloseTo(0, 1);
    expect(20 * Math.log10(levelAt(buses.programme?.left ?? [], 1000) / 0.1)).toBeCloseTo(-10, 1);
    expect(levelAt(buses.programme?.left ?? [], 2500)).toBeLessThan(1e-5);
  });

  it('gives a guest everything but themself', () => {
    const desk = must(openDesk(), 'listener.add', { name: 'Wind analyst', kind: 'guest', ownIds: ['b'] });
    const bus = desk.show.sound.buses[1]?.id ?? '';
    const { buses } = runDesk(desk, TONES);
    expect(levelAt(buses[bus]?.left ?? [], 400)).toBeCloseTo(0.1, 3);
    expect(levelAt(buses[bus]?.left ?? [], 2500)).toBeCloseTo(0.1, 3);
    expect(levelAt(buses[bus]?.left ?? [], 1000)).toBeLessThan(1e-5);
    expect(levelAt(buses.programme?.left ?? [], 1000)).toBeCloseTo(0.1, 3);
  });

  it('sends before the fader what is sent so, and buses into buses', () => {
    let desk = must(openDesk(), 'sound.addBus', { name: 'Sub' });
    const sub = desk.show.sound.buses[1]?.id;
    desk = must(desk, 'sound.addBus', { name: 'Far' });
    const far = desk.show.sound.buses[2]?.id ?? '';
    desk = must(desk, 'sound.setSend', { from: 'a', bus: sub, on: true, tap: 'before', levelDb: -6 });
    desk = must(desk, 'sound.setFader', { channel: 'a', db: -60 });
    desk = must(desk, 'sound.setSend', { from: sub, bus: far, on: true });
    desk = must(desk, 'sound.setBus', { bus: sub, faderDb: -6 });
    const { buses } = runDesk(desk, TONES);
    expect(20 * Math.log10(levelAt(buses[far]?.left ?? [], 400) / 0.1)).toBeCloseTo(-12, 1);
    expect(levelAt(buses.programme?.left ?? [], 400)).toBeLessThan(1e-5);
  });

  it('places mono sounds and balances stereo ones', () => {
    let desk = must(openDesk(), 'sound.setChannel', { channels: ['a'], pick: 'mono', pan: -1 });
    desk = must(desk, 'sound.setChannel', { channels: ['b'], pan: 1 });
    const { programme } = runDesk(desk, TONES).buses;
    expect(levelAt(programme?.right ?? [], 400)).toBeLessThan(1e-5);
    expect(levelAt(programme?.left ?? [], 400)).toBeCloseTo(0.1 * Math.SQRT2, 3);
    expect(levelAt(programme?.left ?? [], 1000)).toBeLessThan(1e-5);
    expect(levelAt(programme?.right ?? [], 1000)).toBeCloseTo(0.1, 3);
  });

  it('delays a channel by its milliseconds', () => {
    const desk = must(openDesk(), 'sound.setChannel', { channels: ['a'], delayMs: 100 });
    const impulse = (at: number) => (at === 4800 ? 0.5 : 0);
    const early = runDesk(desk, {}, { feeds: { b: impulse } }).buses.programme?.left ?? [];
    const late = runDesk(desk, {}, { feeds: { a: impulse } }).buses.programme?.left ?? [];
    const first = (x: readonly number[]) => x.findIndex((v) => Math.abs(v) > 0.1);
    expect(first(late) - first(early)).toBe(4800);
  });

  it('lets live inputs wait in a picture bus, and not in a live one', () => {
    let desk = must(sampleDesk(), 'sound.addChannel', {
      name: 'Mic',
      feed: { kind: 'device', deviceId: 'd', deviceLabel: 'D', first: 2, stereo: false },
    });
    const mic = desk.show.sound.inputs[0]?.id;
    desk = must(desk, 'sound.addBus', { name: 'Room', timing: 'live' });
    const room = desk.show.sound.buses[1]?.id ?? '';
    desk = must(desk, 'sound.setSend', { from: mic, bus: room, on: true });
    const { buses } = runDesk(desk, {}, { sides: { 'input d 1': [() => 0, (at) => (at === 4800 ? 0.5 : 0)] } });
    const first = (x: readonly number[] = []) => x.findIndex((v) => Math.abs(v) > 0.1);
    expect(first(buses.programme?.left) - first(buses[room]?.left)).toBe(130 * 48);
  });

  it('keeps talkback out of every other bus', () => {
    let desk = must(openDesk(), 'listener.add', { name: 'Producer', kind: 'producer', ownIds: ['c'] });
    desk = must(desk, 'talkback.set', { channel: 'c' });
    desk = must(desk, 'listener.add', { name: 'Guest', kind: 'guest', ownIds: ['b'] });
    const guest = desk.show.sound.buses[2]?.id ?? '';
    // Even where the guest's bus feeds the programme by hand.
    desk = must(desk, 'sound.setSend', { from: guest, bus: 'programme', on: true });
    expect(levelAt(runDesk(desk, TONES).buses[guest]?.left ?? [], 2500)).toBeLessThan(1e-5);
    const talking = runDesk(must(desk, 'talkback.start', { to: 'guests' }), TONES).buses;
    expect(levelAt(talking[guest]?.left ?? [], 2500)).toBeCloseTo(0.1, 3);
    expect(levelAt(talking[guest]?.left ?? [], 400)).toBeCloseTo(0.1 * 10 ** (-12 / 20), 3);
    expect(levelAt(talking.programme?.left ?? [], 2500)).toBeLessThan(1e-5);
  });

  it('lets the ears hear a solo, before its fader too, and changes no mix', () => {
    let desk = must(openDesk(), 'sound.setFader', { channel: 'b', db: -60 });
    desk = must(desk, 'sound.solo', { channel: 'b', tap: 'before' });
    const { ears, buses } = runDesk(desk, TONES);
    expect(levelAt(ears.left, 1000)).toBeCloseTo(0.1, 3);
    expect(levelAt(ears.left, 400)).toBeLessThan(1e-5);
    expect(levelAt(buses.programme?.left ?? [], 400)).toBeCloseTo(0.1, 3);
  });

  it('measures the loudness of the channel that is looked at, before its fader', () => {
    const desk = must(openDesk(), 'sound.setFader', { channel: 'b', db: -60 });
    const { processor } = runDesk(desk, {}, { seconds: 0.01 });
    processor.watch('b');
    runDesk(desk, { b: 1000 }, { processor, seconds: 4 });
    expect(processor.loudness().b?.shortTerm).toBeCloseTo(-20, 0.7);
    expect(processor.loudness().programme?.shortTerm).toBeLessThan(-70);
    processor.watch(null);
    expect(processor.loudness().b).toBeUndefined();
  });

  it('fades in its own time when its picture comes', () => {
    let desk = must(sampleDesk(), 'sound.setChannel', { channels: ['b'], inFrames: 25, outFrames: 0 });
    const before = runDesk(desk, TONES);
    desk = must(desk, 'picture.cut', { picture: 'b' });
    const { buses } = runDesk(desk, TONES, { processor: before.processor, seconds: 1.2 });
    const x = buses.programme?.left ?? [];
    // Halfway through the second it is halfway up.
    expect(levelAt(x.slice(22_000, 26_000), 1000)).toBeCloseTo(0.05, 2);
    expect(levelAt(x.slice(53_000, 57_000), 1000)).toBeCloseTo(0.1, 3);
    // The camera before has no fade of its own: it is gone at once.
    expect(levelAt(x.slice(2000, 6000), 400)).toBeLessThan(1e-3);
  });

  it('never exceeds full scale, whatever is routed and whatever comes in', () => {
    const ids = ['a', 'b', 'c', 'clip'];
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            from: fc.integer({ min: 0, max: 6 }),
            bus: fc.integer({ min: 0, max: 3 }),
            levelDb: fc.double({ min: -20, max: 12, noNaN: true }),
            tap: fc.constantFrom('after' as const, 'before' as const),
          }),
          { maxLength: 12 },
        ),
        fc.constantFrom(0.1, 1, 8, NaN, Infinity),
        (sends, amplitude) => {
          let desk = openDesk();
          for (const name of ['One', 'Two', 'Three']) desk = must(desk, 'sound.addBus', { name });
          const buses = desk.show.sound.buses.map((b) => b.id);
          for (const { from, bus, ...send } of sends) {
            const start = [...ids, ...buses.slice(1)][from] as string;
            if (start !== buses[bus]) desk = must(desk, 'sound.setSend', { from: start, bus: buses[bus], on: true, ...send, anyway: true });
          }
          const run = runDesk(desk, TONES, { amplitude, seconds: 0.2 });
          for (const { left, right } of Object.values(run.buses))
            for (const v of [...left, ...right]) expect(Math.abs(v)).toBeLessThanOrEqual(1);
        },
      ),
      { numRuns: 25 },
    );
  });

  it('catches a bus that feeds back, turns it down and says so', () => {
    let desk = must(openDesk(), 'sound.addBus', { name: 'Room', timing: 'live' });
    const room = desk.show.sound.buses[1]?.id ?? '';
    desk = must(desk, 'sound.setSend', { from: 'a', bus: room, on: true, levelDb: 6 });
    const processor = new DeskProcessor(RATE);
    const config = deskConfig(desk.show, desk.air);
    processor.configure({ ...config, buses: config.buses.map((b) => ({ ...b, looped: b.id === room })) });
    processor.setGains({ ...planSound(desk.show, desk.air, 0), held: [] });
    // Loudspeaker to microphone: 20 ms through the air, no quieter, with a little noise to begin with.
    const line = new DelayLine();
    line.fit(960);
    const mic = { left: new Float32Array(BLOCK), right: new Float32Array(BLOCK) };
    let loudAt = -1;
    let caughtAt = -1;
    let after = 0;
    for (let at = 0; at < RATE * 4; at += BLOCK) {
      for (let i = 0; i < BLOCK; i += 1) {
        mic.left[i] = (mic.left[i] as number) + 1e-3 * Math.sin((at + i) * 0.11);
        mic.right[i] = mic.left[i] as number;
      }
      const howls = processor.process(new Map([['a', mic]]), BLOCK);
      const out = processor.outOf(room) as { left: Float32Array; right: Float32Array };
      const peak = Math.max(...out.left.map(Math.abs));
      if (peak > 0.5 && loudAt < 0) loudAt = at;
      if (howls.length > 0 && caughtAt < 0) caughtAt = at;
      if (at > RATE * 3.5) after = Math.max(after, peak);
      line.write(out.left, out.right, BLOCK);
      line.read(960 - BLOCK, mic.left, mic.right, BLOCK);
    }
    expect(loudAt).toBeGreaterThan(0);
    expect((caughtAt - loudAt) / RATE).toBeGreaterThan(0);
    expect((caughtAt - loudAt) / RATE).toBeLessThan(0.5);
    expect(after).toBeLessThan(0.05);
  });

  it('holds a tone that pushes the limiter, says so once, and turns nothing down where no loop is known', () => {
    const { howls, buses } = runDesk(openDesk(), {}, { feeds: { a: sine(1000, 2) }, seconds: 2 });
    expect(howls).toEqual([{ busId: 'programme', hz: expect.closeTo(1000, -2) as number, held: false }]);
    expect(Math.max(...(buses.programme?.left.slice(-4800) ?? []))).toBeCloseTo(10 ** (-1 / 20), 2);
  });

  it('takes no loud tone and no dense music for a howl', () => {
    const desk = openDesk();
    for (const feeds of [
      { a: sine(1000, 0.5) },
      { a: (t: number) => 0.6 * Math.sin(t * 0.05) * Math.sin(t * 0.0007) + 0.5 * Math.sin(t * 0.31) * Math.sin(t * 0.0011) },
    ]) {
      expect(runDesk(desk, {}, { feeds, seconds: 2 }).howls).toEqual([]);
    }
  });
});
