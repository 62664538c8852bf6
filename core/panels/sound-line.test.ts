/** Sound of panels: what may be heard, who hears whom, and packets that are damaged. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type CrewMember, earsFrom, earsKey, isFor, mayHear, packSound, PACKET_LIMIT, talkFrom, unpackSound } from './sound-line';

describe('ears', () => {
  it('are the same for all who hear the same, in whichever order they have chosen it', () => {
    const one = {
      busId: 'programme',
      solos: [
        { id: 'a', tap: 'after' as const },
        { id: 'b', tap: 'before' as const },
      ],
    };
    expect(earsKey(one)).toBe(earsKey({ busId: 'other', solos: [...one.solos].reverse() }));
    expect(earsKey({ ...one, solos: [] })).not.toBe(earsKey({ busId: 'other', solos: [] }));
    // A bus is never taken for a solo of the same name.
    expect(earsKey({ busId: 'a after', solos: [] })).not.toBe(earsKey({ busId: 'x', solos: [{ id: 'a', tap: 'after' }] }));
  });

  it('hear the programme with any pass, and the rest with one for Sound', () => {
    const programme = { busId: 'programme', solos: [] };
    expect(mayHear({ rooms: { replay: 'work' } }, programme)).toBe(true);
    for (const ears of [
      { busId: 'guests', solos: [] },
      { busId: 'programme', solos: [{ id: 'a', tap: 'before' as const }] },
    ]) {
      expect(mayHear({ rooms: { replay: 'work' } }, ears)).toBe(false);
      expect(mayHear({ rooms: { sound: 'see' } }, ears)).toBe(true);
    }
  });

  it('are nothing else than what was sent, or none at all', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (raw) => {
        const ears = earsFrom(raw);
        if (ears) expect(earsFrom(JSON.parse(JSON.stringify(ears)))).toEqual(ears);
      }),
    );
    expect(earsFrom({ busId: 'programme', solos: [{ id: 'a', tap: 'sideways' }] })).toBeNull();
    expect(earsFrom({ busId: 'programme', solos: Array.from({ length: 99 }, () => ({ id: 'a', tap: 'after' })) })).toBeNull();
    expect([talkFrom('all'), talkFrom(null), talkFrom({}), talkFrom('../x')]).toEqual(['all', null, undefined, undefined]);
  });
});

it('what is said reaches those whom it is for, and never whoever says it, on no screen of theirs', () => {
  const id = fc.constantFrom('host', 'p1', 'p2', 'p3');
  const member = fc.record({ number: fc.nat(9), id, name: fc.constant('x'), to: fc.oneof(fc.constant(null), fc.constant('all'), id) });
  fc.assert(
    fc.property(member, member, (listener: CrewMember, speaker: CrewMember) => {
      const heard = isFor(listener, speaker);
      expect(heard).toBe(listener.id !== speaker.id && (speaker.to === 'all' || speaker.to === listener.id));
    }),
  );
});

it('packets come out as they went in; what is damaged, empty or too long is none', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('sound' as const, 'talk' as const),
      fc.nat(0xffff),
      fc.uint8Array({ minLength: 1, maxLength: 500 }),
      (kind, number, data) => {
        const packed = packSound(kind, number, data);
        expect(unpackSound(kind, packed)).toEqual({ number, data });
        expect(unpackSound(kind === 'sound' ? 'talk' : 'sound', packed)).toBeNull();
        expect(unpackSound(kind, packed.subarray(0, 4))).toBeNull();
      },
    ),
  );
  expect(unpackSound('talk', packSound('talk', 1, new Uint8Array(PACKET_LIMIT)))).toBeNull();
});
