/** Actions, keys as data, and a person's layouts of them. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { execute } from '../desk/execute';
import { asksForHold, findCommand } from '../desk/registry';
import { check } from '../schema/check';
import { sampleDesk } from '#tests/support/sample-show';
import { actionShort, actionWords, argsProblem, type ActionArgs, type Chosen, type Hands } from './action';
import { ACTIONS, findAction } from './actions';
import { type Binding, KEYBOARD } from './binding';
import { chordName, chordOf, chordProblem } from './chord';
import { FIRST_BINDINGS } from './first-bindings';
import { changeLayout, FIRST_HANDS, HandsError, layoutInUse, readHands, writeHands } from './hands-file';
import { asItComes, bind, bindingFor, bindingsOf, conflictsOf, FIRST_LAYOUT, keyNames, unbind } from './key-layout';
import { lampsOf } from './lamps';
import { readOldBindings } from './old-bindings';
import { ROOM_IDS, roomOfPath } from './rooms';

const chosen: Chosen = {
  room: 'desk',
  deck: 2,
  clips: ['c1', 'c2'],
  targetReel: 'reel-2',
  strip: 'a',
  bank: ['a', 'b'],
  matrix: false,
  layout: 'l',
  boxes: ['x'],
  graphic: null,
  entry: null,
  elements: [],
  graphicLane: null,
  guest: null,
  comment: null,
};
const hands = (change: Partial<Chosen> = {}): Hands => ({ desk: sampleDesk(), frame: 0, chosen: { ...chosen, ...change } });

/** The first arguments that an action takes. */
const some = (id: string): ActionArgs =>
  Object.fromEntries(
    (findAction(id)?.params ?? [])
      .filter((p) => !p.optional)
      .map((p) => [p.name, p.kind === 'word' ? (p.words[0] ?? '') : Math.max(1, p.min)]),
  );

describe('actions', () => {
  it('have identities and words of their own', () => {
    expect(new Set(ACTIONS.map((a) => a.id)).size).toBe(ACTIONS.length);
    for (const action of ACTIONS) {
      expect(argsProblem(action, some(action.id)), action.id).toBeNull();
      expect(actionWords(action, some(action.id)), action.id).not.toMatch(/[{}]/);
    }
  });

  it('are called by the names that the show gives to lanes, where it is known', () => {
    const { show } = hands().desk;
    const lane = show.lanes.find((l) => l.number !== null)!;
    const toggle = findAction('lane.toggle')!;
    expect(actionWords(toggle, { lane: lane.number! }, show)).toBe(`Lane ${lane.name} in or out`);
    expect(actionShort(toggle, { lane: lane.number! }, show)).toBe(`Lane ${lane.name}`);
    // A number that nothing has stays a number.
    expect(actionWords(toggle, { lane: 23 }, show)).toBe('Lane 23 in or out');
    expect(actionWords(toggle, { lane: lane.number! })).toBe(`Lane ${lane.number} in or out`);
  });

  it('come to commands that take their arguments, to acts, or say what is missing', () => {
    for (const action of ACTIONS) {
      const args = some(action.id);
      const meaning =
        action.takes === 'press'
          ? action.run(hands(), args)
          : action.takes === 'clicks'
            ? action.turn(hands(), args, 1)
            : action.move(hands(), args, 0.5);
      if (meaning.kind === 'act') continue;
      if (meaning.kind === 'refusal') {
        expect(meaning.text, action.id).toMatch(/\.$/);
        continue;
      }
      const spec = findCommand(meaning.type);
      expect(spec, `${action.id} → ${meaning.type}`).toBeDefined();
      if (spec) expect(check(spec.args, meaning.args), action.id).toEqual([]);
    }
  });

  it('work on the deck that is named, or on the chosen one', () => {
    const angle = findAction('replay.angle');
    if (angle?.takes !== 'press') throw new Error('no key');
    expect(angle.run(hands(), { number: 3 })).toMatchObject({ args: { deck: 2, number: 3 } });
    expect(angle.run(hands(), { number: 3, deck: 1 })).toMatchObject({ args: { deck: 1, number: 3 } });
  });

  it('say that no clip is chosen, instead of sending nonsense', () => {
    const remove = findAction('replay.remove');
    if (remove?.takes !== 'press') throw new Error('no key');
    expect(remove.run(hands({ clips: [] }), {})).toMatchObject({ kind: 'refusal' });
  });

  it('find a lane by its number wherever it lies', () => {
    const { desk } = hands();
    const moved = execute(desk, { type: 'lane.move', args: { lane: 'lane-1', index: 1 } }, { frame: 0, newId: () => 'n' });
    if (!moved.ok) throw new Error(moved.error.message);
    const toggle = findAction('lane.toggle');
    if (toggle?.takes !== 'press') throw new Error('no key');
    expect(toggle.run({ ...hands(), desk: moved.desk }, { lane: 1 })).toMatchObject({ args: { lane: 'lane-1' } });
    expect(toggle.run(hands(), { lane: 17 })).toMatchObject({ kind: 'refusal', text: expect.stringContaining('17') });
  });

  it('leave faders alone while the matrix is in view', () => {
    const by = findAction('sound.faderBy');
    if (by?.takes !== 'press') throw new Error('no key');
    expect(by.run(hands({ room: 'sound', matrix: true }), { tenths: 10 })).toMatchObject({ kind: 'refusal' });
    expect(by.run(hands({ room: 'sound' }), { tenths: 10 })).toMatchObject({ kind: 'command' });
  });

  it('start with a press and stop with a hold, in one key', () => {
    const record = findAction('output.record');
    if (record?.takes !== 'press') throw new Error('no key');
    const before = hands();
    const start = record.run(before, {});
    expect(start).toMatchObject({ type: 'output.startRecording' });
    const started = execute(before.desk, start as never, { frame: 0, newId: () => 'r' });
    if (!started.ok) throw new Error(started.error.message);
    const stop = record.run({ ...before, desk: started.desk }, {});
    expect(stop).toMatchObject({ type: 'output.stopRecording' });
    expect(asksForHold(before.desk, start as never)).toBe(false);
    expect(asksForHold(started.desk, stop as never)).toBe(true);
  });
});

describe('keys', () => {
  it('are one for one place, do something there is, and can be pressed', () => {
    const places = FIRST_BINDINGS.map((b) => `${b.device} ${b.room} ${b.control}`);
    expect(places.filter((p, i) => places.indexOf(p) !== i)).toEqual([]);
    for (const b of FIRST_BINDINGS) {
      const action = findAction(b.action);
      expect(action, b.action).toBeDefined();
      if (action) expect(argsProblem(action, b.args), `${b.control} ${b.action}`).toBeNull();
      if (b.device === KEYBOARD) expect(chordProblem(b.control)).toBeNull();
    }
  });

  it('of every room are reachable there: none hides one that means the same everywhere', () => {
    for (const room of ROOM_IDS)
      for (const b of FIRST_BINDINGS.filter((x) => x.device === KEYBOARD && x.room === 'all'))
        expect(bindingFor(FIRST_LAYOUT, room, KEYBOARD, b.control)?.action, `${room} ${b.control}`).toBe(b.action);
  });

  it('never go to black or stop an output without a hold', () => {
    for (const { action, args } of FIRST_BINDINGS) {
      const found = findAction(action);
      if (found?.takes !== 'press') continue;
      const meaning = found.run(hands(), args);
      if (meaning.kind === 'command' && /stop(Recording|Stream)|fadeToBlack|replay\.stop/.test(meaning.type))
        expect(asksForHold(hands().desk, meaning), action).toBe(true);
    }
  });

  it('go to every room', () => {
    for (const room of ROOM_IDS) expect(keyNames(FIRST_LAYOUT, 'desk', 'go', { room })).toHaveLength(1);
    expect(roomOfPath('/show/x/replay')).toBe('replay');
    expect(roomOfPath('/show/constructor')).toBe('desk');
  });

  it('are named as people say them', () => {
    const event = { code: 'Digit3', shiftKey: true, ctrlKey: false, metaKey: true, altKey: false };
    expect(chordOf(event)).toBe('Ctrl+Shift+Digit3');
    expect(chordName('Ctrl+Shift+Digit3')).toBe('Ctrl Shift 3');
    expect(chordOf({ ...event, code: 'ShiftLeft' })).toBe('');
    expect(chordProblem('Ctrl+KeyW')).toMatch(/browser/);
    expect(chordProblem('constructor')).toMatch(/no key/);
  });
});

describe('layouts of keys', () => {
  const key = (control: string, room: Binding['room'], action: string): Binding => ({ device: KEYBOARD, control, room, action, args: {} });

  it('hold what differs; a room goes before every room', () => {
    const own = bind(bind(FIRST_LAYOUT, key('KeyK', 'all', 'picture.take')), key('KeyK', 'sound', 'sound.mute'));
    expect(bindingFor(own, 'desk', KEYBOARD, 'KeyK')?.action).toBe('picture.take');
    expect(bindingFor(own, 'sound', KEYBOARD, 'KeyK')?.action).toBe('sound.mute');
    // Replay's own K stays.
    expect(bindingFor(own, 'replay', KEYBOARD, 'KeyK')?.action).toBe('replay.pause');
    expect(bindingFor(unbind(own, key('KeyK', 'sound', '')), 'sound', KEYBOARD, 'KeyK')?.action).toBe('picture.take');
    expect(bindingFor(unbind(FIRST_LAYOUT, key('Space', 'desk', '')), 'desk', KEYBOARD, 'Space')).toBeUndefined();
    expect(asItComes(unbind(FIRST_LAYOUT, key('Space', 'desk', '')), key('Space', 'desk', '')).changes).toEqual([]);
  });

  it('show conflicts before anything is changed', () => {
    const kinds = (room: Binding['room'], control: string) =>
      conflictsOf(FIRST_LAYOUT, { device: KEYBOARD, control, room }).map((c) => c.kind);
    expect(kinds('desk', 'Space')).toEqual(['taken']);
    expect(kinds('all', 'Space')).toEqual(['there', 'there', 'there']);
    expect(kinds('sound', 'F2')).toEqual(['hidden']);
    expect(kinds('desk', 'F9')).toEqual([]);
    expect(conflictsOf(FIRST_LAYOUT, { device: KEYBOARD, control: 'Space', room: 'desk' })[0]?.text).toContain('Take');
  });

  it('begin with a copy of the first one, which stays as it comes', () => {
    const changed = changeLayout(FIRST_HANDS, (l) => bind(l, key('F9', 'desk', 'picture.take')), 'mine');
    expect(changed.layoutId).toBe('mine');
    expect(changed.layouts.map((l) => l.changes.length)).toEqual([0, 1]);
    const again = changeLayout(changed, (l) => bind(l, key('F8', 'desk', 'picture.cut')), 'other');
    expect(again.layouts).toHaveLength(2);
    expect(layoutInUse(again).changes).toHaveLength(2);
  });

  it('come back from a file as they were', () => {
    const bindings = fc.array(
      fc.record({
        device: fc.constantFrom('keyboard', 'midi', 'gamepad', 'hid', 'panel'),
        control: fc.constantFrom('F9', 'Alt+KeyQ', 'Ctrl+Shift+KeyY'),
        room: fc.constantFrom(...ROOM_IDS, 'all' as const),
        action: fc.constantFrom('', 'picture.take', 'output.record'),
        args: fc.constant({}),
      }),
      { maxLength: 20 },
    );
    fc.assert(
      fc.property(bindings, fc.integer({ min: 0, max: 6 }), (changes, transitionsAtHand) => {
        const file = { ...FIRST_HANDS, transitionsAtHand, layoutId: 'x', layouts: [FIRST_LAYOUT, { id: 'x', name: 'X', changes }] };
        expect(readHands(writeHands(file))).toEqual(file);
      }),
    );
  });

  it('take over what controllers were bound to before', () => {
    const old = [
      { device: 'midi', control: 'note-1-60', role: 'press', action: 'angle-3' },
      { device: 'midi', control: 'cc-1-1', role: 'speed', action: '' },
      { device: 'hid', control: 'button-1', role: 'press', action: '' },
      { device: 'panel', control: 'cue', role: 'press', action: 'in-10' },
      { device: 'panel', control: 'x', role: 'press', action: 'constructor' },
      null,
    ];
    const read = readOldBindings(old);
    expect(read.map((b) => [b.control, b.action, b.args])).toEqual([
      ['note-1-60', 'replay.angle', { number: 3 }],
      ['cc-1-1', 'replay.speedLever', {}],
      ['button-1', '', {}],
      ['cue', 'replay.nudgeIn', { frames: -10 }],
    ]);
    for (const { action, args } of read.filter((b) => b.action !== '')) {
      const found = findAction(action);
      expect(found && argsProblem(found, args), action).toBeNull();
    }
  });

  it('that are damaged are refused with the place at fault', () => {
    const with_ = (change: object) => JSON.stringify({ ...FIRST_HANDS, layoutId: 'first', ...change });
    const binding = (change: object) =>
      with_({
        layouts: [
          {
            id: 'first',
            name: 'A',
            changes: [{ device: 'keyboard', control: 'F9', room: 'desk', action: 'picture.take', args: {}, ...change }],
          },
        ],
      });
    const faults: [string, RegExp][] = [
      ['{', /not JSON/],
      ['[]', /format mark/],
      ['null', /format mark/],
      ['{"format":"other"}', /format mark/],
      [with_({ version: 2 }), /newer/],
      [with_({ layoutId: 'constructor' }), /layoutId/],
      [with_({ layouts: 'x' }), /layouts/],
      [with_({ speeds: [0] }), /speeds/],
      [with_({ transitionsAtHand: 1e9 }), /transitionsAtHand/],
      [binding({ device: 'constructor' }), /changes\[0\]\.device/],
      [binding({ room: '__proto__' }), /changes\[0\]\.room/],
      [binding({ control: 'Ctrl+KeyW' }), /browser/],
      [binding({ action: 'constructor' }), /nothing is called/],
      [binding({ action: 'replay.angle', args: { number: 99 } }), /number/],
      [binding({ action: 'replay.jog' }), /wheel/],
      [binding({ action: 'replay.live', args: { deck: {} } }), /deck/],
      [binding({ args: { deck: 1 } }), /takes no "deck"/],
      [binding({ travel: { deadZone: 9, curve: 1, turned: false } }), /travel\.deadZone/],
      [binding({ surprise: 1 }), /surprise is not a known field/],
      [`"${'x'.repeat(3_000_000)}"`, /too large/],
    ];
    for (const [json, words] of faults) {
      expect(() => readHands(json), json.slice(0, 60)).toThrow(HandsError);
      expect(() => readHands(json), json.slice(0, 60)).toThrow(words);
    }
    fc.assert(
      fc.property(fc.json(), (json) => {
        try {
          readHands(json);
        } catch (error) {
          expect(error).toBeInstanceOf(HandsError);
        }
      }),
    );
  });
});

describe('lamps', () => {
  it('show what is recording, on air, chosen and up', () => {
    const pad = (control: string, action: string, args: ActionArgs = {}): Binding => ({
      device: 'midi',
      control,
      room: 'all',
      action,
      args,
    });
    const layout = [
      pad('note-1-1', 'output.record'),
      pad('note-1-2', 'lane.toggle', { lane: 1 }),
      pad('note-1-3', 'replay.deck', { deck: 2 }),
      pad('note-1-4', 'go', { room: 'desk' }),
      pad('note-1-5', 'picture.take'),
    ].reduce(bind, FIRST_LAYOUT);
    const now = hands();
    expect([...lampsOf(layout, 'midi', now)]).toEqual([
      ['note-1-1', false],
      ['note-1-2', false],
      ['note-1-3', true],
      ['note-1-4', true],
    ]);
    const recording = execute(now.desk, { type: 'output.startRecording' }, { frame: 0, newId: () => 'r' });
    if (!recording.ok) throw new Error(recording.error.message);
    expect(lampsOf(layout, 'midi', { ...now, desk: recording.desk }).get('note-1-1')).toBe(true);
    expect(bindingsOf(layout).length).toBe(FIRST_BINDINGS.length + 5);
  });
});
