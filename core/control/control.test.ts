import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must, sampleDesk } from '#tests/support/sample-show';
import { type Hands } from './action';
import { type Binding } from './binding';
import { type ControlEvent, ControlReader, gather, relativeClicks } from './control';
import { type HidField, HidReader } from './hid-report';
import { levelOf, PickUp, PLAIN_TRAVEL, shuttleRate, STICK_TRAVEL } from './lever';

const hands = (): Hands => ({
  desk: sampleDesk(),
  frame: 0,
  chosen: {
    room: 'desk',
    deck: 2,
    clips: [],
    targetReel: '',
    strip: null,
    bank: ['a'],
    matrix: false,
    layout: null,
    boxes: [],
    graphic: null,
    entry: null,
    elements: [],
    graphicLane: null,
    guest: null,
    comment: null,
  },
});
const bound = (control: string, action: string, more: Partial<Binding> = {}): Binding => ({
  device: 'midi',
  control,
  room: 'all',
  action,
  args: {},
  ...more,
});

describe('controls', () => {
  it('a jog steps a frame for every click, and takes hold when it is touched; letting go does nothing', () => {
    const reader = new ControlReader();
    const jog = bound('jog', 'replay.jog');
    expect(reader.read(jog, { kind: 'wheel', id: 'jog', clicks: -3 }, hands())?.meaning).toEqual({
      kind: 'command',
      type: 'deck.step',
      args: { deck: 2, frames: -3 },
    });
    expect(reader.read({ ...jog, args: { deck: 1 } }, { kind: 'touch', id: 'jog', held: true }, hands())?.meaning).toMatchObject({
      args: { deck: 1, frames: 0 },
    });
    expect(reader.read(jog, { kind: 'touch', id: 'jog', held: false }, hands())).toBeNull();
  });

  it('a button does its work once when pressed, and again only after it was let go', () => {
    const reader = new ControlReader();
    const take = bound('note-1-60', 'picture.take');
    const event = (pressed: boolean): ControlEvent => ({ kind: 'button', id: 'note-1-60', pressed });
    expect(reader.read(take, event(true), hands())).toMatchObject({ pressed: true, meaning: { type: 'picture.take' } });
    expect(reader.read(take, event(true), hands())).toBeNull();
    expect(reader.read(take, event(false), hands())).toMatchObject({ pressed: false, meaning: { kind: 'act', id: 'nothing' } });
    const talk = bound('note-1-61', 'talk.guests');
    reader.read(talk, { kind: 'button', id: 'note-1-61', pressed: true }, hands());
    expect(reader.read(talk, { kind: 'button', id: 'note-1-61', pressed: false }, hands())?.meaning).toMatchObject({ id: 'talk.end' });
  });

  it('is let go under the binding it was pressed under, though another room is open by then', () => {
    const reader = new ControlReader();
    const event = (pressed: boolean): ControlEvent => ({ kind: 'button', id: 'note-1-9', pressed });
    expect(reader.read(bound('note-1-9', 'talk.guests'), event(true), hands())?.meaning).toMatchObject({ id: 'talk.guests' });
    expect(reader.read(undefined, event(false), hands())?.meaning).toMatchObject({ id: 'talk.end' });
    // And it can be pressed again.
    expect(reader.read(bound('note-1-9', 'picture.take'), event(true), hands())?.meaning).toMatchObject({ type: 'picture.take' });
  });

  it('a controller with two values is a button; what moves on past the middle presses no second time', () => {
    const reader = new ControlReader();
    const take = bound('cc-1-20', 'picture.take');
    const values = [0, 80, 100, 127, 40, 64].map((value) => reader.read(take, { kind: 'value', id: 'cc-1-20', value }, hands())?.pressed);
    expect(values).toEqual([undefined, true, undefined, undefined, false, true]);
  });

  it('levers reach both ends of the bar, of a fader and of the speed', () => {
    const reader = new ControlReader();
    const at = (action: string, value: number, more: Partial<Binding> = {}) =>
      reader.read(bound('cc-1-1', action, more), { kind: 'value', id: 'cc-1-1', value }, hands())?.meaning;
    expect([0, 127].map((v) => at('picture.bar', v))).toMatchObject([{ args: { position: 0 } }, { args: { position: 1 } }]);
    expect([0, 127].map((v) => at('sound.fader', v, { args: { strip: 1 } }))).toMatchObject([
      { type: 'sound.setFader', args: { channel: 'a', db: -60 } },
      { args: { db: 12 } },
    ]);
    expect([0, 127].map((v) => at('replay.speedLever', v))).toMatchObject([{ args: { speed: 1 } }, { args: { speed: 200 } }]);
    expect([0, 64, 127].map((v) => at('replay.shuttle', v))).toMatchObject([
      { args: { rate: -16 } },
      { args: { rate: 0 } },
      { args: { rate: 16 } },
    ]);
    expect(at('sound.fader', 10, { args: { strip: 9 } })).toMatchObject({ kind: 'refusal' });
  });

  it('a fader takes hold only where the thing stands', () => {
    const reader = new ControlReader();
    let now = hands();
    const fader = bound('cc-1-7', 'sound.fader', { args: { strip: 1 }, pickUp: true });
    const move = (value: number) => {
      const read = reader.read(fader, { kind: 'value', id: 'cc-1-7', value }, now);
      if (read?.meaning.kind === 'command') now = { ...now, desk: must(now.desk, read.meaning.type, read.meaning.args) };
      return read !== null;
    };
    const db = () => now.desk.show.sources.find((s) => s.id === 'a')?.sound.faderDb;
    const first = db();
    expect([0, 20, 60].map(move)).toEqual([false, false, false]);
    expect(db()).toBe(first);
    // Passing it takes hold, and from then on it follows.
    expect([127, 110, 90].map(move)).toEqual([true, true, true]);
    expect(db()).toBeLessThan(0);
    // Moved by another hand: let go.
    now = { ...now, desk: must(now.desk, 'sound.setFader', { channel: 'a', db: 6 }) };
    expect(move(85)).toBe(false);
    expect(db()).toBe(6);
  });

  it('a shuttle is at rest around its middle, the same both ways, and never slower the further it is pushed', () => {
    const rate = (place: number) => shuttleRate(levelOf(place, 'both', STICK_TRAVEL));
    expect([0, 0.05, -0.05].map(rate).every((r) => r === 0)).toBe(true);
    expect([1, -1].map(rate)).toEqual([16, -16]);
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (a, b) => {
        expect(rate(Math.max(a, b))).toBeGreaterThanOrEqual(rate(Math.min(a, b)));
        expect(rate(-a) + rate(a)).toBe(0);
      }),
    );
  });

  it('travel reaches its ends, never turns back, and holds still in its dead zone', () => {
    const travel = fc.record({
      deadZone: fc.double({ min: 0, max: 0.5, noNaN: true }),
      curve: fc.double({ min: 1, max: 4, noNaN: true }),
      turned: fc.boolean(),
    });
    const place = fc.double({ min: -1, max: 1, noNaN: true });
    fc.assert(
      fc.property(travel, place, place, fc.constantFrom('one' as const, 'both' as const), (t, a, b, span) => {
        const [low, high] = [Math.min(a, b), Math.max(a, b)].map((p) => levelOf(p, span, t)) as [number, number];
        expect(t.turned ? low >= high : low <= high).toBe(true);
        expect(levelOf(t.turned ? (span === 'both' ? -1 : 0) : 1, span, t)).toBeCloseTo(1);
        const rest = t.turned && span === 'one' ? 1 - t.deadZone / 2 : t.deadZone / 2;
        expect(Math.abs(levelOf(rest, span, t))).toBeLessThan(1e-9);
      }),
    );
    expect(levelOf(Number.NaN, 'one', PLAIN_TRAVEL)).toBe(0);
  });

  it('pick-up never makes a thing jump', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { maxLength: 30 }),
        (start, moves) => {
          const pickUp = new PickUp();
          let present = start;
          let before: number | null = null;
          for (const level of moves) {
            const holds = pickUp.takes(level, present);
            // Held, or taken hold of in passing: never set without the lever having been there.
            if (holds && before === null) expect(Math.abs(level - present)).toBeLessThanOrEqual(0.02 + 1e-9);
            if (holds) present = level;
            before = level;
          }
        },
      ),
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
