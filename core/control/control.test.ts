import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type ControlBinding, type ControlEvent, FIRST_BINDINGS, gather, meaningOf, relativeClicks, shuttleRate } from './control';
import { type HidField, HidReader } from './hid-report';

const jog: ControlBinding = { device: 'panel', control: 'jog', role: 'jog', action: '' };

describe('controls', () => {
  it('a jog steps a frame for every click, and takes hold when it is touched; letting go does nothing', () => {
    expect(meaningOf(jog, { kind: 'wheel', id: 'jog', clicks: -3 }, 2)).toEqual({
      kind: 'command',
      type: 'deck.step',
      args: { deck: 2, frames: -3 },
    });
    expect(meaningOf(jog, { kind: 'touch', id: 'jog', held: true }, 1)).toMatchObject({ type: 'deck.step', args: { frames: 0 } });
    expect(meaningOf(jog, { kind: 'touch', id: 'jog', held: false }, 1)).toBeNull();
  });

  it('a button does its work when pressed, not when let go', () => {
    const binding: ControlBinding = { device: 'midi', control: 'note-1-60', role: 'press', action: 'grab-1' };
    expect(meaningOf(binding, { kind: 'button', id: 'note-1-60', pressed: true }, 1)).toEqual({ kind: 'action', id: 'grab-1' });
    expect(meaningOf(binding, { kind: 'button', id: 'note-1-60', pressed: false }, 1)).toBeNull();
  });

  it('a shuttle is at rest around its middle, the same both ways, and never slower the further it is pushed', () => {
    expect([0, 0.05, -0.05].map(shuttleRate).every((r) => r === 0)).toBe(true);
    expect([1, -1].map(shuttleRate)).toEqual([16, -16]);
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (a, b) => {
        expect(shuttleRate(Math.max(a, b))).toBeGreaterThanOrEqual(shuttleRate(Math.min(a, b)));
        expect(shuttleRate(-a) + shuttleRate(a)).toBe(0);
      }),
    );
  });

  it('endless encoders count both ways', () => {
    expect([1, 3, 127, 125, 0].map(relativeClicks)).toEqual([1, 3, -1, -3, 0]);
  });

  it('fast clicks are gathered, and none is lost', () => {
    const events = fc.array(
      fc.oneof(
        fc.record({ kind: fc.constant('wheel' as const), id: fc.constant('jog'), clicks: fc.integer({ min: -5, max: 5 }) }),
        fc.record({ kind: fc.constant('button' as const), id: fc.constant('x'), pressed: fc.boolean() }),
      ),
    );
    fc.assert(
      fc.property(events, (list) => {
        const clicks = (es: readonly ControlEvent[]) => es.reduce((sum, e) => sum + (e.kind === 'wheel' ? e.clicks : 0), 0);
        const out = gather(list);
        expect(clicks(out)).toBe(clicks(list));
        expect(out.filter((e) => e.kind === 'button')).toEqual(list.filter((e) => e.kind === 'button'));
      }),
    );
  });

  it('nothing is bound twice at first', () => {
    const keys = FIRST_BINDINGS.map((b) => `${b.device} ${b.control}`);
    expect(new Set(keys).size).toBe(keys.length);
  });
});

describe('HID reports', () => {
  const field = (change: Partial<HidField>): HidField => ({
    usages: [],
    isAbsolute: true,
    isConstant: false,
    reportSize: 8,
    reportCount: 1,
    logicalMinimum: 0,
    logicalMaximum: 255,
    ...change,
  });
  const report = (...bytes: number[]) => new DataView(new Uint8Array(bytes).buffer);
  /** Four buttons, four bits of padding, a relative dial, an absolute axis. */
  const device = () =>
    new HidReader([
      field({ usageMinimum: 0x90001, reportSize: 1, reportCount: 4, logicalMaximum: 1 }),
      field({ isConstant: true, reportSize: 4 }),
      field({ usages: [0x10037], isAbsolute: false, logicalMinimum: -127, logicalMaximum: 127 }),
      field({ usages: [0x10030], logicalMinimum: -100, logicalMaximum: 100 }),
    ]);

  it('tell buttons, a dial and an axis from their own description', () => {
    const reader = device();
    expect(reader.read(report(0, 0, 0))).toEqual([{ kind: 'lever', id: 'axis-48', value: 0 }]);
    expect(reader.read(report(0b0101, 0xfe, 100))).toEqual([
      { kind: 'button', id: 'button-1', pressed: true },
      { kind: 'button', id: 'button-3', pressed: true },
      { kind: 'wheel', id: 'dial', clicks: -2 },
      { kind: 'lever', id: 'axis-48', value: 1 },
    ]);
    expect(reader.read(report(0b0001, 0, 100))).toEqual([{ kind: 'button', id: 'button-3', pressed: false }]);
  });

  it('count an absolute wheel over its end', () => {
    const reader = new HidReader([field({ usages: [0x10038] })]);
    reader.read(report(254));
    expect([1, 250].map((n) => reader.read(report(n)))).toEqual([
      [{ kind: 'wheel', id: 'wheel', clicks: 3 }],
      [{ kind: 'wheel', id: 'wheel', clicks: -7 }],
    ]);
  });

  it('that are too short or nonsense do no harm', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 6 }), (bytes) => {
        for (const event of device().read(new DataView(bytes.slice().buffer)))
          if (event.kind === 'lever') expect(Number.isFinite(event.value)).toBe(true);
      }),
    );
  });
});
