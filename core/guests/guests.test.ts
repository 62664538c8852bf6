/** Guests: who may be seen and heard, seats and casts, the gathered views, who speaks, what they are told. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Desk } from '../desk/air';
import { picturesWithin } from '../desk/pictures';
import { showProblems } from '../desk/validate';
import { sceneOf } from '../picture/scene';
import { tallyOf } from '../picture/tally';
import { planSound } from '../sound/plan';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { HOLDS_SECONDS } from './let-in';
import { arrangement, gathered } from './gathered';
import { standingOf } from './standing';
import { FOR_MS, HOLD_MS, WhoSpeaks } from './who-speaks';

/** A desk with guests who are there, of whom the first `admitted` are admitted. */
function withGuests(count: number, admitted: number): { desk: Desk; ids: string[]; sources: string[] } {
  let desk = must(must(sampleDesk(), 'seat.add', { name: 'Guest 1' }), 'seat.add', { name: 'Guest 2' });
  for (let i = 0; i < count; i += 1) desk = must(desk, 'guest.add', { name: `Guest ${i}`, title: 'Judge' });
  const ids = desk.show.guests.list.map((g) => g.id);
  for (const guest of ids) desk = must(desk, 'guest.report', { guest, line: 'in', said: 'x' }, 10);
  for (const guest of ids.slice(0, admitted)) desk = must(desk, 'guest.admit', { guest }, 20);
  return { desk, ids, sources: desk.show.guests.list.map((g) => g.sourceId) };
}

/** What textures a picture is drawn from, through all that is in it. */
function texturesOf(desk: Desk, id: string, frame: number): string[] {
  const walk = (scene: ReturnType<typeof sceneOf>): string[] =>
    scene.flatMap(({ texture: t }) =>
      t.kind === 'scene' ? walk(t.scene) : [t.kind === 'source' ? `source ${t.id}` : t.kind === 'seat' ? `card ${t.name}` : t.kind],
    );
  return walk(sceneOf(desk.show, desk.air, id, frame));
}
const heard = (desk: Desk, id: string) => planSound(desk.show, desk.air, 100).channels[id];

describe('a guest', () => {
  it('brings sources, and a mix of all but themself; and goes with all of it', () => {
    const { desk, ids, sources } = withGuests(2, 0);
    expect(showProblems(desk.show)).toEqual([]);
    const listener = desk.show.sound.listeners.at(-1)!;
    expect([listener.kind, listener.rule, listener.ownIds, listener.talkback]).toEqual(['guest', 'all-but-self', [sources[1]], true]);
    const gone = must(desk, 'guest.remove', { guest: ids[1] });
    expect([gone.show.sources.length, gone.show.sound.listeners.length, gone.show.sound.buses.length]).toEqual([
      desk.show.sources.length - 2,
      desk.show.sound.listeners.length - 1,
      desk.show.sound.buses.length - 1,
    ]);
    expect(gone.air.guests.now[ids[1]!]).toBeUndefined();
    expect(showProblems(gone.show)).toEqual([]);
    // A routing that does not know them leaves no name of somebody who is not there.
    const routing = { format: 'bivoca-routing', version: 1, buses: [], sends: [], listeners: [], patches: [] };
    const routed = must(desk, 'sound.importRouting', { routing, devices: [], anyway: true });
    expect(routed.show.guests.list.map((g) => g.listenerId)).toEqual([null, null]);
    expect(showProblems(routed.show)).toEqual([]);
    // Their source goes with them, and not before.
    expect(attempt(desk, 'source.remove', { source: sources[0] })).toMatchObject({ ok: false, error: { code: 'in-use' } });
  });

  it('is neither seen nor heard while they wait, in any picture; once admitted they are', () => {
    const { desk, ids, sources } = withGuests(1, 0);
    const [id, source] = [ids[0]!, sources[0]!];
    const seated = must(must(desk, 'seat.fill', { seat: desk.show.seats[0]!.id, occupant: source }), 'source.edit', {
      source,
      name: 'Vik',
    });
    const everyone = desk.show.guests.gatherings[0]!.id;
    for (const picture of [source, desk.show.seats[0]!.id, everyone])
      expect(texturesOf(seated, picture, 50)).not.toContain(`source ${source}`);
    const open = must(seated, 'sound.follow', { channel: source, on: false });
    expect(heard(open, source)).toBe(0);
    const admitted = must(open, 'guest.admit', { guest: id }, 60);
    for (const picture of [source, desk.show.seats[0]!.id, everyone])
      expect(texturesOf(admitted, picture, 100)).toContain(`source ${source}`);
    expect(heard(admitted, source)).toBeGreaterThan(0);
    const held = must(admitted, 'guest.hold', { guest: id }, 120);
    expect(texturesOf(held, source, 130)).toEqual(['card Guest 0']);
    expect(heard(held, source)).toBe(0);
  });

  it('whose line is down stays for a moment as they were, then has a card, and comes back to where they were', () => {
    const { desk, ids, sources } = withGuests(1, 1);
    const lost = must(desk, 'guest.report', { guest: ids[0], line: 'lost' }, 1000);
    const moment = HOLDS_SECONDS * 25;
    expect(texturesOf(lost, sources[0]!, 1000 + moment - 1)).toEqual([`source ${sources[0]}`]);
    expect(texturesOf(lost, sources[0]!, 1000 + moment)).toEqual(['card Guest 0']);
    // Told again, it counts from the first.
    expect(must(lost, 'guest.report', { guest: ids[0], line: 'lost' }, 1050).air.guests.now[ids[0]!]!.since).toBe(1000);
    const back = must(lost, 'guest.report', { guest: ids[0], line: 'in' }, 1200);
    expect(back.air.guests.now[ids[0]!]).toMatchObject({ state: 'admitted', lost: false });
    const left = must(back, 'guest.report', { guest: ids[0], line: 'out' }, 1300);
    expect(must(left, 'guest.report', { guest: ids[0], line: 'in' }, 1400).air.guests.now[ids[0]!]!.state).toBe('waiting');
  });

  it('is refused in words what cannot be', () => {
    const { desk, ids } = withGuests(1, 0);
    const away = must(desk, 'guest.report', { guest: ids[0], line: 'out' });
    const code = (type: string, args: Record<string, unknown>) => {
      const outcome = attempt(away, type, args);
      return outcome.ok ? 'done' : outcome.error.code;
    };
    expect(code('guest.admit', { guest: ids[0] })).toBe('guest-away');
    expect(code('guest.note', { guest: ids[0], text: 'x' })).toBe('guest-away');
    expect(code('guest.admit', { guest: 'nobody' })).toBe('unknown-guest');
    expect(code('guest.add', { name: 'x'.repeat(500) })).toBe('bad-argument');
    expect(attempt(desk, 'guest.hold', { guest: ids[0] })).toMatchObject({ ok: false, error: { code: 'not-admitted' } });
  });

  it('is told where they stand', () => {
    const { desk, ids, sources } = withGuests(2, 1);
    const sign = (d: Desk, i: number) => standingOf(d, d.show.guests.list[i]!, 100, tallyOf(d.show, d.air, 100)).sign;
    expect([sign(desk, 0), sign(desk, 1)]).toEqual(['ready', 'green-room']);
    const next = must(desk, 'picture.setNext', { picture: sources[0] });
    expect(sign(next, 0)).toBe('next');
    const seat = desk.show.seats[0]!.id;
    const onAir = must(must(desk, 'seat.fill', { seat, occupant: sources[0] }), 'picture.cut', { picture: seat });
    expect(sign(onAir, 0)).toBe('air');
    // Whoever waits is not on air, whatever shows their place.
    expect(sign(must(desk, 'picture.cut', { picture: sources[1] }), 1)).toBe('green-room');
    expect(standingOf(must(desk, 'guest.note', { guest: ids[0], text: 'Soon' }), desk.show.guests.list[0]!, 1, {})).toMatchObject({
      note: 'Soon',
      clock: null,
      order: null,
    });
  });

  it('sees the running order when the crew shows it: what is on, then what comes, without what is passed over', () => {
    const { desk, ids } = withGuests(1, 1);
    let now = ['Welcome', 'Heat 1', 'Weather', 'Heat 2'].reduce((d, name) => must(d, 'order.add', { name }), desk);
    const seen = () => standingOf(now, now.show.guests.list[0]!, 100, {}).order?.map((l) => `${l.on ? '* ' : ''}${l.name}`) ?? null;
    expect(seen()).toBeNull();
    now = must(now, 'guest.order', { guest: ids[0], on: true });
    expect(seen()).toEqual(['Welcome', 'Heat 1', 'Weather', 'Heat 2']);
    now = must(now, 'order.go');
    now = must(now, 'order.go');
    now = must(now, 'order.skip', { items: [now.show.order.items[2]!.id], skipped: true });
    expect(seen()).toEqual(['* Heat 1', 'Heat 2']);
    now = must(now, 'guest.order', { guest: ids[0], on: false });
    expect(seen()).toBeNull();
  });
});

describe('the name of whoever sits in a seat', () => {
  it('is in graphics by a formula, and follows every change of seat or name', () => {
    const { desk, sources } = withGuests(2, 2);
    const [one] = desk.show.seats.map((s) => s.id);
    let d = must(must(desk, 'field.set', { graphic: 'names', field: 'name', formula: 'seat("Guest 1")' }), 'field.set', {
      graphic: 'names',
      field: 'role',
      formula: 'title("Guest 1")',
    });
    const words = () => d.show.graphics.list[0]!.entries[0]!.values.map(({ value }) => (value.kind === 'text' ? value.text : ''));
    d = must(d, 'seat.fill', { seat: one, occupant: sources[0] });
    expect(words()).toEqual(['Guest 0', 'Judge']);
    d = must(d, 'seat.fill', { seat: one, occupant: sources[1] });
    expect(words()[0]).toBe('Guest 1');
    d = must(d, 'guest.edit', { guest: d.show.guests.list[1]!.id, name: 'Liv Moe', title: 'Wind' });
    expect(words()).toEqual(['Liv Moe', 'Wind']);
    d = must(d, 'seat.fill', { seat: one, occupant: 'a' });
    expect(words()).toEqual(['Camera a', '']);
  });
});

describe('casts', () => {
  it('bring everybody back to their seats, and touch no seat that they do not know', () => {
    const { desk, sources } = withGuests(2, 2);
    const [one, two] = desk.show.seats.map((s) => s.id);
    const seated = must(must(desk, 'seat.fill', { seat: one, occupant: sources[0] }), 'seat.fill', { seat: two, occupant: sources[1] });
    const stored = must(seated, 'cast.store', { name: 'Both' });
    const mixed = must(must(stored, 'seat.swap', { a: one, b: two }), 'seat.add', { name: 'Late' });
    const late = must(mixed, 'seat.fill', { seat: mixed.show.seats[2]!.id, occupant: 'a' });
    const back = must(late, 'cast.recall', { cast: stored.show.guests.casts[0]!.id });
    expect(back.show.seats.map((s) => s.occupantId)).toEqual([sources[0], sources[1], 'a']);
    // Where nothing differs, nothing is written.
    const again = attempt(back, 'cast.recall', { cast: stored.show.guests.casts[0]!.id });
    expect(again.ok && again.patches).toEqual([]);
    // A guest who is removed leaves the cast, not the seat.
    const gone = must(back, 'guest.remove', { guest: back.show.guests.list[0]!.id });
    expect(gone.show.guests.casts[0]!.seats.map((s) => s.occupantId)).toEqual([null, sources[1]]);
  });
});

describe('the gathered views', () => {
  it('lay any number out inside the picture, of one size and proportion, without overlap', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.constantFrom({ width: 1920, height: 1080 }, { width: 640, height: 640 }, { width: 360, height: 640 }),
        (count, raster) => {
          const places = arrangement(count, raster);
          expect(places).toHaveLength(count);
          for (const [i, a] of places.entries()) {
            expect(a.width / a.height).toBeCloseTo(raster.width / raster.height, 6);
            expect(a.width).toBeCloseTo(places[0]!.width, 6);
            expect(Math.min(a.x, a.y)).toBeGreaterThan(-1e-6);
            expect(a.x + a.width).toBeLessThan(raster.width + 1e-6);
            expect(a.y + a.height).toBeLessThan(raster.height + 1e-6);
            for (const b of places.slice(i + 1))
              expect(
                a.x + a.width <= b.x + 1e-6 || b.x + b.width <= a.x + 1e-6 || a.y + a.height <= b.y + 1e-6 || b.y + b.height <= a.y + 1e-6,
              ).toBe(true);
          }
        },
      ),
    );
    expect(arrangement(0, { width: 10, height: 10 })).toEqual([]);
  });

  it('hold just those who are admitted and count, whatever is done', () => {
    const { desk, ids } = withGuests(5, 0);
    const act = fc.record({ guest: fc.constantFrom(...ids), what: fc.constantFrom('admit', 'hold', 'lost', 'in', 'out', 'counts', 'not') });
    fc.assert(
      fc.property(fc.array(act, { maxLength: 25 }), (acts) => {
        let d = desk;
        for (const [i, { guest, what }] of acts.entries()) {
          const type =
            what === 'admit' || what === 'hold' ? `guest.${what}` : what === 'counts' || what === 'not' ? 'guest.edit' : 'guest.report';
          const args =
            type === 'guest.report' ? { guest, line: what } : type === 'guest.edit' ? { guest, counts: what === 'counts' } : { guest };
          const outcome = attempt(d, type, args, i);
          if (outcome.ok) d = outcome.desk;
          const who = d.show.guests.list.filter((g) => g.counts && d.air.guests.now[g.id]?.state === 'admitted').map((g) => g.id);
          expect(d.air.guests.gathered.crowd.now).toEqual(who);
          const { now } = d.air.guests.gathered.speaker;
          expect(now === null ? who.length === 0 : who.includes(now)).toBe(true);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('glide when somebody comes: every frame between has as many pictures, from the old places to the new', () => {
    const { desk, ids } = withGuests(2, 1);
    const everyone = desk.show.guests.gatherings[0]!;
    const both = must(desk, 'guest.admit', { guest: ids[1] }, 100);
    const first = (frame: number) =>
      sceneOf(both.show, both.air, everyone.id, frame).find((i) => i.sourceId === desk.show.guests.list[0]!.sourceId)!.target;
    expect(first(100)).toEqual({ x: 0, y: 0, width: 64, height: 36 });
    let width = 64;
    for (let frame = 101; frame <= 100 + everyone.frames; frame += 1) {
      expect(first(frame).width).toBeLessThanOrEqual(width + 1e-9);
      ({ width } = first(frame));
    }
    expect(first(100 + everyone.frames)).toEqual(arrangement(2, both.show.raster)[0]);
    expect(first(500)).toEqual(arrangement(2, both.show.raster)[0]);
  });

  it('give the shared screen the picture, and give back', () => {
    const { desk, ids } = withGuests(2, 2);
    const [, , shared] = desk.show.guests.gatherings;
    const screen = desk.show.guests.list[1]!.screenId!;
    const shares = must(desk, 'guest.report', { guest: ids[1], shares: true }, 200);
    expect(texturesOf(shares, shared!.id, 300)).toEqual([`source ${screen}`]);
    const both = must(shares, 'guest.report', { guest: ids[0], shares: true }, 310);
    expect(texturesOf(both, shared!.id, 400)).toEqual([`source ${desk.show.guests.list[0]!.screenId}`]);
    const one = must(both, 'guest.report', { guest: ids[0], shares: false }, 410);
    expect(texturesOf(one, shared!.id, 500)).toEqual([`source ${screen}`]);
    const none = must(one, 'guest.report', { guest: ids[1], shares: false }, 510);
    expect(texturesOf(none, shared!.id, 600)[0]).toBe(`source ${desk.show.guests.list[0]!.sourceId}`);
    // Or to a picture that was chosen for that; never to itself.
    const rest = must(none, 'gathering.set', { gathering: shared!.id, rest: 'c' });
    expect(texturesOf(rest, shared!.id, 600)).toEqual(['source c']);
    expect(attempt(rest, 'gathering.set', { gathering: shared!.id, rest: shared!.id })).toMatchObject({
      ok: false,
      error: { code: 'circle' },
    });
    // Who waits and shares is not seen.
    const waits = must(must(none, 'guest.hold', { guest: ids[1] }, 700), 'guest.report', { guest: ids[1], shares: true }, 710);
    expect(texturesOf(waits, shared!.id, 800)).not.toContain(`source ${screen}`);
  });

  it('are pictures like any other: switched, in boxes, in circles that are refused', () => {
    const { desk } = withGuests(2, 2);
    const [everyone] = desk.show.guests.gatherings;
    const air = must(desk, 'picture.cut', { picture: everyone!.id });
    expect(tallyOf(air.show, air.air, 30)[desk.show.guests.list[0]!.sourceId]!.inUse).toBe(true);
    expect(attempt(air, 'gathering.remove', { gathering: everyone!.id })).toMatchObject({ ok: false, error: { code: 'in-use' } });
    const layout = must(desk, 'layout.add', { starter: 'two' });
    const { id, boxes } = layout.show.layouts[0]!;
    const boxed = must(layout, 'box.set', { layout: id, boxes: [boxes[0]!.id], content: { kind: 'gathering', id: everyone!.id } });
    expect([...picturesWithin(boxed.show, id)]).toContain(desk.show.guests.list[0]!.sourceId);
    expect(attempt(boxed, 'gathering.set', { gathering: everyone!.id, rest: id })).toMatchObject({ ok: false, error: { code: 'circle' } });
    expect(attempt(boxed, 'gathering.set', { gathering: everyone!.id, rest: 'reel-1' })).toMatchObject({
      ok: false,
      error: { code: 'nothing-there', field: 'rest' },
    });
    expect(gathered(boxed.show, boxed.air)).toHaveLength(2);
  });
});

describe('who speaks', () => {
  const level = fc.oneof(fc.constant(-90), fc.integer({ min: -60, max: 0 }));
  it('never changes faster than the hold, whatever is heard, and only ever to somebody who is loud', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(level, level, level), { minLength: 5, maxLength: 200 }), (steps) => {
        const watch = new WhoSpeaks();
        let [shown, at] = [null as string | null, -Infinity];
        for (const [i, levels] of steps.entries()) {
          const now = i * 100;
          const next = watch.step(new Map(levels.map((l, j) => [`g${j}`, l])), now);
          if (next === shown) continue;
          expect(now - at).toBeGreaterThanOrEqual(HOLD_MS);
          expect(levels[Number(next!.slice(1))]).toBeGreaterThan(-38);
          [shown, at] = [next, now];
        }
      }),
    );
  });

  it('takes whoever goes on to be louder, and keeps them through silence', () => {
    const watch = new WhoSpeaks();
    const at = (a: number, b: number, now: number) =>
      watch.step(
        new Map([
          ['a', a],
          ['b', b],
        ]),
        now,
      );
    for (let now = 0; now <= FOR_MS; now += 50) at(-20, -60, now);
    expect(at(-20, -60, FOR_MS)).toBe('a');
    // A cough.
    for (let now = 3000; now < 3200; now += 50) at(-60, -10, now);
    expect(at(-60, -60, 3300)).toBe('a');
    for (let now = 4000; now < 4000 + FOR_MS; now += 50) at(-30, -15, now);
    expect(at(-30, -15, 4500)).toBe('b');
    expect(at(-90, -90, 60_000)).toBe('b');
    // Somebody who has gone is shown no more.
    expect(watch.step(new Map([['a', -90]]), 61_000)).toBeNull();
  });
});
