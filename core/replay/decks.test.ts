import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { attempt, must, replayDesk } from '#tests/support/sample-show';
import { planFrame } from '../picture/plan';
import { type Desk } from '../desk/air';
import { tallyOf } from '../picture/tally';
import { deckPictures, deckPlace, edgeFrames, newestFrame } from './deck';

const RATE = { num: 25, den: 1 };

const at = (desk: Desk, frame: number, deck: 1 | 2 = 1) => deckPlace(desk.air.replay.decks[deck], desk.air.replay, frame, RATE);

describe('a deck', () => {
  it('is live until somebody reviews, and then says how far behind it is', () => {
    const desk = replayDesk();
    expect(at(desk, 500)).toMatchObject({ live: true, position: 500 });
    const back = must(desk, 'deck.goTo', { deck: 1, frame: 200 }, 500);
    expect(at(back, 500)).toMatchObject({ live: false, position: 200, rate: 0 });
    // It stands: the present runs away from it.
    expect(at(back, 900).position).toBe(200);
    expect(at(must(back, 'deck.jump', { deck: 1, to: 'live' }, 600), 600).live).toBe(true);
  });

  it('stops when the jog is taken hold of, and goes exactly one frame a click', () => {
    let desk = must(replayDesk(), 'deck.goTo', { deck: 1, frame: 200 }, 500);
    desk = must(desk, 'deck.setSpeed', { deck: 1, speed: 33 }, 500);
    desk = must(desk, 'deck.play', { deck: 1 }, 500);
    const held = must(desk, 'deck.step', { deck: 1, frames: 0 }, 510);
    const stood = at(held, 510).position;
    expect(stood).toBe(203);
    expect(at(must(held, 'deck.step', { deck: 1, frames: 1 }, 530), 600).position).toBe(stood + 1);
    expect(at(must(held, 'deck.step', { deck: 1, frames: -1 }, 530), 600).position).toBe(stood - 1);
    // Play goes on at the speed it had, forwards.
    const on = must(held, 'deck.play', { deck: 1 }, 600);
    expect(at(on, 700).position).toBeCloseTo(stood + 33, 6);
  });

  it('that is let go of by the shuttle is at rest, and forwards', () => {
    let desk = must(replayDesk(), 'deck.goTo', { deck: 1, frame: 300 }, 500);
    desk = must(desk, 'deck.shuttle', { deck: 1, rate: -4 }, 500);
    expect(at(desk, 510).position).toBe(260);
    desk = must(desk, 'deck.shuttle', { deck: 1, rate: 0 }, 510);
    expect(at(desk, 900)).toMatchObject({ position: 260, rate: 0 });
    expect(at(must(desk, 'deck.play', { deck: 1 }, 900), 925).position).toBe(285);
  });

  it('shuttles faster with every press, and turns round at the slowest', () => {
    let desk = must(replayDesk(), 'deck.goTo', { deck: 1, frame: 400 }, 5000);
    const rates = ['backwards', 'backwards', 'backwards', 'forwards', 'forwards'].map((direction) => {
      desk = must(desk, 'deck.shuttleOn', { deck: 1, direction }, 5000);
      return at(desk, 5000).rate;
    });
    expect(rates).toEqual([-1, -2, -4, 1, 2]);
    for (let i = 0; i < 9; i += 1) desk = must(desk, 'deck.shuttleOn', { deck: 1, direction: 'forwards' }, 5000);
    expect(at(desk, 5000).rate).toBe(16);
  });

  it('that plays faster than time catches up, and is live from then on', () => {
    let desk = must(replayDesk(), 'deck.goTo', { deck: 1, frame: 400 }, 500);
    desk = must(desk, 'deck.shuttle', { deck: 1, rate: 4 }, 500);
    expect(at(desk, 520).live).toBe(false);
    expect(at(desk, 560).live).toBe(true);
    expect(at(desk, 5000).live).toBe(true);
  });

  it('never leaves what is kept, and stops at its ends', () => {
    let desk = must(replayDesk(), 'replay.report', { from: 100, to: null }, 500);
    desk = must(desk, 'deck.goTo', { deck: 1, frame: 20 }, 500);
    expect(at(desk, 500).position).toBe(100);
    desk = must(desk, 'deck.reverse', { deck: 1 }, 500);
    expect(at(desk, 700)).toMatchObject({ position: 100, rate: 0 });
    desk = must(desk, 'replay.stop', {}, 700);
    desk = must(desk, 'deck.play', { deck: 1 }, 700);
    expect(at(desk, 5000)).toMatchObject({ position: 699, rate: 0, live: false });
  });

  it('changes speed without a jump, on air too', () => {
    let desk = must(replayDesk(), 'deck.goTo', { deck: 1, frame: 200 }, 1000);
    desk = must(desk, 'deck.play', { deck: 1 }, 1000);
    for (const [speed, frame] of [
      [50, 1010],
      [25, 1020],
      [200, 1030],
      [100, 1040],
    ] as const) {
      const before = at(desk, frame).position;
      desk = must(desk, 'deck.setSpeed', { deck: 1, speed }, frame);
      expect(at(desk, frame).position).toBeCloseTo(before, 9);
      expect(at(desk, frame).rate).toBe(speed / 100);
    }
  });

  it('blends two neighbouring frames in slow motion when that is wanted, and only then', () => {
    let desk = must(replayDesk(), 'deck.goTo', { deck: 1, frame: 200 }, 1000);
    desk = must(desk, 'deck.setSpeed', { deck: 1, speed: 25 }, 1000);
    desk = must(desk, 'deck.play', { deck: 1 }, 1000);
    const pictures = (blend: boolean, frame: number) => deckPictures(desk.air.replay.decks[1], at(desk, frame), blend);
    expect(pictures(false, 1001)).toHaveLength(1);
    expect(pictures(true, 1001)).toMatchObject([
      { position: 200, level: 1 },
      { position: 201, level: 0.25 },
    ]);
    expect(pictures(true, 1004)).toHaveLength(1);
  });

  it('shows its angle itself while live, and the camera is told it is on air', () => {
    let desk = replayDesk();
    const source = desk.show.sources.find((s) => s.settings.kind === 'deck')?.id as string;
    desk = must(desk, 'picture.cut', { picture: source }, 10);
    desk = must(desk, 'deck.setAngle', { deck: 1, angle: 'b' }, 10);
    expect(planFrame(desk.show, desk.air, 20).programme.base[0]?.texture).toEqual({ kind: 'source', id: 'b' });
    expect(tallyOf(desk.show, desk.air, 20).b?.inUse).toBe(true);
    const past = must(desk, 'deck.step', { deck: 1, frames: -5 }, 300);
    expect(planFrame(past.show, past.air, 300).programme.base[0]?.texture).toEqual({ kind: 'source', id: source });
    expect(tallyOf(past.show, past.air, 300).b?.inUse).toBe(false);
  });

  it('takes the other one along when ganged, each on its own angle', () => {
    let desk = must(replayDesk(), 'deck.goTo', { deck: 1, frame: 200 }, 500);
    desk = must(desk, 'deck.setAngle', { deck: 2, angle: 'b' }, 500);
    desk = must(desk, 'deck.gang', { on: true, deck: 1 }, 500);
    expect(at(desk, 500, 2)).toMatchObject({ position: 200, angleId: 'b' });
    desk = must(desk, 'deck.step', { deck: 2, frames: 7 }, 510);
    expect([at(desk, 520, 1).position, at(desk, 520, 2).position]).toEqual([207, 207]);
    desk = must(desk, 'deck.gang', { on: false }, 520);
    desk = must(desk, 'deck.step', { deck: 2, frames: 1 }, 520);
    expect([at(desk, 520, 1).position, at(desk, 520, 2).position]).toEqual([207, 208]);
  });

  it('goes to a typed timecode, and says what is wrong with one', () => {
    const desk = replayDesk();
    expect(at(must(desk, 'deck.goTo', { deck: 1, timecode: '00:00:08:05' }, 900), 900).position).toBe(205);
    expect(attempt(desk, 'deck.goTo', { deck: 1, timecode: '00:00:08:25' }, 900)).toMatchObject({
      ok: false,
      error: { message: expect.stringContaining('Frames go to 24') },
    });
    expect(attempt(desk, 'deck.goTo', { deck: 1 }, 900)).toMatchObject({ ok: false, error: { field: 'timecode' } });
  });
});

describe('any sequence of jog, shuttle, play', () => {
  const moves = fc.oneof(
    fc.record({ type: fc.constantFrom('deck.play', 'deck.pause', 'deck.toggle', 'deck.reverse'), deck: fc.constantFrom(1, 2) }),
    fc.record({ type: fc.constant('deck.step'), deck: fc.constantFrom(1, 2), frames: fc.integer({ min: -30, max: 30 }) }),
    fc.record({ type: fc.constant('deck.shuttle'), deck: fc.constantFrom(1, 2), rate: fc.double({ min: -16, max: 16, noNaN: true }) }),
    fc.record({ type: fc.constant('deck.shuttleOn'), deck: fc.constantFrom(1, 2), direction: fc.constantFrom('forwards', 'backwards') }),
    fc.record({ type: fc.constant('deck.setSpeed'), deck: fc.constantFrom(1, 2), speed: fc.integer({ min: 1, max: 200 }) }),
    fc.record({ type: fc.constant('deck.goTo'), deck: fc.constantFrom(1, 2), frame: fc.integer({ min: 0, max: 3000 }) }),
    fc.record({ type: fc.constant('deck.jump'), deck: fc.constantFrom(1, 2), to: fc.constantFrom('live', 'oldest', 'in') }),
    fc.record({ type: fc.constant('deck.gang'), on: fc.boolean() }),
    fc.record({ type: fc.constant('clip.grab'), deck: fc.constantFrom(1, 2), seconds: fc.integer({ min: 1, max: 20 }) }),
    fc.record({
      type: fc.constantFrom('roll.start', 'roll.toAir', 'roll.next', 'roll.previous', 'roll.again', 'replay.lookBack'),
      deck: fc.constantFrom(1, 2),
    }),
    fc.record({ type: fc.constant('replay.backToLive') }),
  );

  it('leaves a legal state: a position that is recorded, a speed within limits, never reversed by letting go', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(moves, fc.integer({ min: 0, max: 80 })), { maxLength: 40 }), (sequence) => {
        let desk = replayDesk();
        let frame = 400;
        for (const [{ type, ...rest }, wait] of sequence) {
          const args: Record<string, unknown> = rest;
          frame += wait;
          const outcome = attempt(desk, type, args, frame);
          if (outcome.ok) desk = outcome.desk;
          for (const n of [1, 2] as const) {
            const place = at(desk, frame, n);
            const deck = desk.air.replay.decks[n];
            expect(Number.isFinite(place.position)).toBe(true);
            expect(place.position).toBeGreaterThanOrEqual(0);
            expect(place.position).toBeLessThanOrEqual(place.live ? frame : newestFrame(desk.air.replay, frame, RATE));
            expect(Math.abs(place.rate)).toBeLessThanOrEqual(16);
            expect(deck.speed).toBeGreaterThanOrEqual(1);
            expect(deck.speed).toBeLessThanOrEqual(200);
            for (const picture of deckPictures(deck, place, true)) expect(picture.level >= 0 && picture.level <= 1).toBe(true);
            if (type === 'deck.shuttle' && args.deck === n && args.rate === 0 && !place.live) expect(place.rate).toBe(0);
            if (type === 'deck.step' && args.deck === n && outcome.ok) expect([place.rate, place.position % 1]).toEqual([0, 0]);
          }
        }
      }),
      { numRuns: 150 },
    );
  });

  it('keeps the edge where encoding, writing and decoding have had time', () => {
    expect(edgeFrames(RATE)).toBe(6);
    expect(edgeFrames({ num: 60000, den: 1001 })).toBe(15);
  });
});
