/** Passes: every domain of commands against every right, and what is refused in which words. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ROOM_IDS, type RoomId } from '../control/rooms';
import { COMMANDS } from '../desk/registry';
import { isValid, maySee, mayWork, passFrom, passWords, type Pass, type Rooms, roomsFrom } from './pass';
import { refusedBy, roomsOfCommand } from './rights';

const pass = (rooms: Rooms, until: number | null = null): Pass => ({ id: 'p', name: 'Runa', rooms, until });
const domains = [...new Set(COMMANDS.map((c) => c.type.split('.')[0] ?? ''))];

describe('the rights of a pass', () => {
  it.each(domains)('commands of %s are sent with a room that works them, and with no other and no look', (domain) => {
    for (const spec of COMMANDS.filter((c) => c.type.startsWith(`${domain}.`))) {
      const rooms = roomsOfCommand(spec.type);
      if (spec.atHost || spec.fromEngine) {
        expect(rooms).toEqual([]);
        const everything = pass(Object.fromEntries(ROOM_IDS.map((r) => [r, 'work'])) as Rooms);
        expect(refusedBy(everything, [{ type: spec.type }])).toMatchObject({ code: 'only-here' });
        continue;
      }
      expect(rooms.length, `${spec.type} is worked in no room`).toBeGreaterThan(0);
      for (const room of ROOM_IDS) {
        expect(refusedBy(pass({ [room]: 'see' }), [{ type: spec.type }])).toMatchObject({ code: 'no-right' });
        const refusal = refusedBy(pass({ [room]: 'work' }), [{ type: spec.type }]);
        if (rooms.includes(room)) expect(refusal).toBeNull();
        else expect(refusal?.message).toContain(spec.title);
      }
    }
  });

  it('keep all of several commands back for one that is not allowed, and say which', () => {
    const replay = pass({ replay: 'work', desk: 'see' });
    const commands = [{ type: 'clip.grab' }, { type: 'sound.setChannel' }, { type: 'picture.cut' }];
    expect(refusedBy(replay, commands)).toMatchObject({ code: 'no-right', index: 1 });
    expect(refusedBy(replay, commands.slice(0, 1))).toBeNull();
    expect(refusedBy(replay, [{ type: 'sound.setChannel' }])?.message).toBe(
      '“Set channels” needs a pass for Sound; this one is for Replay; Desk to look at. Whoever runs the show can give it.',
    );
  });

  it('take back steps of others only where they work every room: a step may be of any', () => {
    const undo = (anyway: boolean) => [{ type: 'history.undo', args: { anyway } }];
    const all = Object.fromEntries(ROOM_IDS.map((r) => [r, 'work'])) as Rooms;
    expect([refusedBy(pass({ replay: 'work' }), undo(false)), refusedBy(pass(all), undo(true))]).toEqual([null, null]);
    expect(refusedBy(pass({ ...all, sound: 'see' }), undo(true))).toMatchObject({ code: 'no-right' });
  });

  it('throw at nothing that anybody sends, and allow nothing that is no command', () => {
    const one = pass({ desk: 'work' });
    fc.assert(
      fc.property(fc.anything(), (raw) => {
        const refusal = refusedBy(one, [raw]);
        expect(refusal === null || typeof refusal.message === 'string').toBe(true);
      }),
    );
    for (const type of ['constructor', '__proto__', 'constructor.name', 'toString.call', '']) {
      expect(roomsOfCommand(type)).toEqual([]);
      // The host refuses it by its name.
      expect(refusedBy(one, [{ type }])).toBeNull();
    }
  });

  it('end on their moment', () => {
    expect([isValid(pass({}, 1000), 999), isValid(pass({}, 1000), 1000), isValid(pass({}), 1e15)]).toEqual([true, false, true]);
  });

  it('are said by their rooms', () => {
    expect(passWords(pass({}))).toBe('no room');
    expect(passWords(pass({ desk: 'see' }))).toBe('Desk to look at');
    expect(passWords(pass({ sound: 'work', desk: 'work', output: 'see' }))).toBe('Desk, Sound; Output to look at');
    expect([maySee(pass({ desk: 'see' }), 'desk'), mayWork(pass({ desk: 'see' }), 'desk'), maySee(pass({}), 'desk')]).toEqual([
      true,
      false,
      false,
    ]);
  });
});

describe('what a host tells of a pass', () => {
  const hash = 'a'.repeat(64);
  it('is a pass when it is whole, and none otherwise', () => {
    const whole = { id: 'p', name: 'Runa', rooms: { desk: 'work' }, until: null, hash };
    expect(passFrom(whole)).toEqual(whole);
    for (const bad of [
      { id: '../x' },
      { id: 7 },
      { name: 3 },
      { until: 'soon' },
      { until: NaN },
      { hash: 'a' },
      { rooms: { desk: 'all' } },
      { rooms: { nowhere: 'see' } },
      { rooms: null },
      { rooms: [] as unknown },
    ])
      expect([bad, passFrom({ ...whole, ...bad })]).toEqual([bad, null]);
    fc.assert(fc.property(fc.anything(), (raw) => (passFrom(raw), roomsFrom(raw), true)));
  });

  it('has every room that it had', () => {
    const some = fc
      .subarray([...ROOM_IDS])
      .chain((ids) => fc.tuple(fc.constant(ids), fc.array(fc.constantFrom('see', 'work'), { minLength: 9, maxLength: 9 })));
    fc.assert(
      fc.property(some, ([ids, rights]) => {
        const rooms = Object.fromEntries(ids.map((id: RoomId, i) => [id, rights[i]]));
        expect(roomsFrom(JSON.parse(JSON.stringify(rooms)))).toEqual(rooms);
      }),
    );
  });
});
