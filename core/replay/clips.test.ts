import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { attempt, must, replayDesk } from '#tests/support/sample-show';
import { runningTransition } from '../picture/transition';
import { planSound } from '../sound/plan';
import { type Desk } from '../desk/air';
import { deckPlace } from './deck';
import { clipsOf, type Clip } from './document';
import { filterClips } from './search';

const clips = (desk: Desk): Clip[] => desk.show.replay.clips;
const names = (desk: Desk, reel = 'reel-1') => clipsOf(desk.show.replay, reel).map((c) => c.number);
const id = (desk: Desk, number: number): string => clips(desk).find((c) => c.number === number)?.id as string;
const grab = (desk: Desk, frame: number, seconds = 4) => must(desk, 'clip.grab', { deck: 1, seconds }, frame);

/** Five clips in the first reel, four seconds each. */
const five = (): Desk => [500, 700, 900, 1100, 1300].reduce((desk, frame) => grab(desk, frame), replayDesk());

describe('making clips', () => {
  it('grabs the last seconds, wherever the deck stands', () => {
    let desk = must(replayDesk(), 'deck.goTo', { deck: 1, frame: 30 }, 500);
    desk = must(desk, 'clip.grab', { deck: 1, length: 2 }, 500);
    expect(clips(desk)[0]).toMatchObject({ in: 300, out: 500, number: 1, angleIds: ['a'], speed: 100, reelId: 'reel-1' });
    // The deck has not moved.
    expect(deckPlace(desk.air.replay.decks[1], desk.air.replay, 600, desk.show.rate).position).toBe(30);
    expect(clips(grab(desk, 520, 60))[1]).toMatchObject({ in: 0, out: 520 });
  });

  it('refuses to grab when nothing is recorded, in words', () => {
    const desk = must(replayDesk(), 'replay.stop', {}, 100);
    expect(attempt(desk, 'clip.grab', { deck: 1 }, 200)).toMatchObject({ ok: false, error: { code: 'not-recording' } });
  });

  it('makes a clip of marks: in live, out later while reviewing', () => {
    let desk = must(replayDesk(), 'mark.in', { deck: 1 }, 400);
    desk = must(desk, 'deck.goTo', { deck: 1, frame: 449 }, 600);
    desk = must(desk, 'mark.out', { deck: 1 }, 600);
    desk = must(desk, 'deck.setSpeed', { deck: 1, speed: 50 }, 600);
    desk = must(desk, 'clip.add', { deck: 1, name: 'Loop' }, 600);
    expect(clips(desk)[0]).toMatchObject({ in: 400, out: 450, speed: 50, name: 'Loop' });
    expect(desk.air.replay).toMatchObject({ markIn: null, markOut: null });
    expect(attempt(desk, 'clip.add', { deck: 1 }, 600)).toMatchObject({
      ok: false,
      error: { message: expect.stringContaining('No in point') },
    });
  });

  it('gives a clip both angles of ganged decks', () => {
    let desk = must(replayDesk(), 'deck.setAngle', { deck: 2, angle: 'b' }, 0);
    desk = must(desk, 'deck.gang', { on: true }, 0);
    expect(clips(grab(desk, 500))[0]?.angleIds).toEqual(['a', 'b']);
  });

  it('forgets an out mark that a later in mark makes impossible', () => {
    let desk = must(replayDesk(), 'mark.out', { deck: 1, frame: 100 }, 500);
    desk = must(desk, 'mark.in', { deck: 1, frame: 200 }, 500);
    expect(desk.air.replay).toMatchObject({ markIn: 200, markOut: null });
  });
});

describe('editing clips', () => {
  it('moves edges by frames and to the playhead, and refuses empty spans and the future', () => {
    let desk = grab(replayDesk(), 500);
    const clip = id(desk, 1);
    desk = must(desk, 'clip.nudge', { clip, edge: 'in', frames: 10 }, 600);
    desk = must(desk, 'clip.nudge', { clip, edge: 'out', frames: -1 }, 600);
    expect(clips(desk)[0]).toMatchObject({ in: 410, out: 499 });
    desk = must(desk, 'deck.goTo', { deck: 2, frame: 430 }, 600);
    expect(clips(must(desk, 'clip.setEdge', { clip, edge: 'in', deck: 2 }, 600))[0]?.in).toBe(430);
    expect(clips(must(desk, 'clip.setEdge', { clip, edge: 'out', deck: 2 }, 600))[0]?.out).toBe(431);
    expect(attempt(desk, 'clip.edit', { clip, in: 499 }, 600)).toMatchObject({ ok: false, error: { code: 'empty-span', field: 'in' } });
    expect(attempt(desk, 'clip.edit', { clip, out: 700 }, 600)).toMatchObject({ ok: false, error: { code: 'not-yet' } });
  });

  it('splits a clip so that both parts are the whole', () => {
    let desk = grab(replayDesk(), 500);
    desk = must(desk, 'clip.split', { clip: id(desk, 1), at: 450 }, 600);
    expect(clips(desk).map((c) => [c.in, c.out])).toEqual([
      [400, 450],
      [450, 500],
    ]);
    expect(attempt(desk, 'clip.split', { clip: id(desk, 1), at: 450 }, 600)).toMatchObject({ ok: false, error: { code: 'outside' } });
  });

  it('keeps at least one angle, and the order they were switched on', () => {
    let desk = grab(replayDesk(), 500);
    const one = [id(desk, 1)];
    expect(attempt(desk, 'clip.toggleAngle', { clips: one, angle: 'a' }, 600)).toMatchObject({ ok: false, error: { code: 'last-angle' } });
    desk = must(desk, 'clip.toggleAngle', { clips: one, angle: 'b' }, 600);
    desk = must(desk, 'clip.toggleAngle', { clips: one, angle: 'a' }, 600);
    desk = must(desk, 'clip.toggleAngle', { clips: one, angle: 'a' }, 600);
    expect(clips(desk)[0]?.angleIds).toEqual(['b', 'a']);
  });
});

describe('reels', () => {
  it('are twelve at first, and keep the order they are given', () => {
    let desk = five();
    expect(desk.show.replay.reels).toHaveLength(12);
    desk = must(desk, 'clip.move', { clips: [id(desk, 5), id(desk, 2)], before: id(desk, 1) }, 2000);
    expect(names(desk)).toEqual([2, 5, 1, 3, 4]);
    desk = must(desk, 'clip.shift', { clips: [id(desk, 5)], by: 1 }, 2000);
    expect(names(desk)).toEqual([2, 1, 5, 3, 4]);
    desk = must(desk, 'clip.shift', { clips: [id(desk, 5)], by: -10 }, 2000);
    expect(names(desk)).toEqual([5, 2, 1, 3, 4]);
    desk = must(desk, 'clip.shift', { clips: [id(desk, 5)], by: 99 }, 2000);
    expect(names(desk)).toEqual([2, 1, 3, 4, 5]);
  });

  it('get copies that can be trimmed on their own, and moves', () => {
    let desk = five();
    desk = must(desk, 'clip.copyToReel', { clips: [id(desk, 2), id(desk, 4)], reel: 'reel-3' }, 2000);
    expect(names(desk, 'reel-3')).toEqual([6, 7]);
    desk = must(desk, 'clip.nudge', { clip: id(desk, 6), edge: 'in', frames: 5 }, 2000);
    expect(clips(desk).find((c) => c.number === 2)?.in).toBe(600);
    desk = must(desk, 'clip.moveToReel', { clips: [id(desk, 1)], reel: 'reel-3' }, 2000);
    expect([names(desk), names(desk, 'reel-3')]).toEqual([
      [2, 3, 4, 5],
      [6, 7, 1],
    ]);
  });

  it('gather the best clips in order of time', () => {
    let desk = five();
    desk = must(desk, 'clip.move', { clips: [id(desk, 4)], before: id(desk, 1) }, 2000);
    desk = must(desk, 'clip.set', { clips: [id(desk, 4), id(desk, 2)], rating: 4 }, 2000);
    desk = must(desk, 'clip.set', { clips: [id(desk, 3)], rating: 2 }, 2000);
    desk = must(desk, 'reel.highlights', { name: 'Best', rating: 3 }, 2000);
    const reel = desk.show.replay.reels.at(-1)?.id as string;
    expect(clipsOf(desk.show.replay, reel).map((c) => c.in)).toEqual([600, 1000]);
  });

  it('never lose a clip or mix two reels, whatever is moved where', () => {
    const moves = fc.array(
      fc.record({
        who: fc.array(fc.integer({ min: 1, max: 5 }), { minLength: 1, maxLength: 3 }),
        to: fc.integer({ min: -3, max: 6 }),
        how: fc.constantFrom('move', 'shift', 'reel'),
      }),
      { maxLength: 12 },
    );
    fc.assert(
      fc.property(moves, (list) => {
        let desk = five();
        for (const { who, to, how } of list) {
          const chosen = [...new Set(who)].map((n) => id(desk, n));
          const before = to > 0 ? (clips(desk)[to - 1]?.id ?? null) : null;
          const outcome =
            how === 'move'
              ? attempt(desk, 'clip.move', { clips: chosen, before }, 2000)
              : how === 'shift'
                ? attempt(desk, 'clip.shift', { clips: chosen, by: to }, 2000)
                : attempt(desk, 'clip.moveToReel', { clips: chosen, reel: `reel-${Math.abs(to) + 1}` }, 2000);
          if (outcome.ok) desk = outcome.desk;
        }
        expect(
          clips(desk)
            .map((c) => c.number)
            .sort(),
        ).toEqual([1, 2, 3, 4, 5]);
      }),
    );
  });
});

describe('searching', () => {
  it('finds by words, number, rating and angle', () => {
    let desk = five();
    desk = must(desk, 'clip.set', { clips: [id(desk, 2)], tags: 'Loop, crowd', rating: 3 }, 2000);
    desk = must(desk, 'clip.edit', { clip: id(desk, 3), note: 'the long loop' }, 2000);
    const find = (filter: Partial<Parameters<typeof filterClips>[1]>) =>
      filterClips(clips(desk), { text: '', rating: 0, angleId: null, reelId: null, ...filter }).map((c) => c.number);
    expect(find({ text: 'LOOP' })).toEqual([2, 3]);
    expect(find({ text: 'loop crowd' })).toEqual([2]);
    expect(find({ text: '#4' })).toEqual([4]);
    expect(find({ rating: 2 })).toEqual([2]);
    expect(find({ angleId: 'b' })).toEqual([]);
  });
});

describe('roll to air', () => {
  const deckId = (desk: Desk, n: 1 | 2 = 1) => desk.show.sources.find((s) => s.settings.kind === 'deck' && s.settings.deck === n)?.id;

  it('takes the deck by the chosen transition, plays, and takes back what was on air, leaving Next alone', () => {
    let desk = must(five(), 'replay.set', { transitionId: 'tr-wipe' }, 2000);
    desk = must(desk, 'picture.setNext', { picture: 'c' }, 2000);
    desk = must(desk, 'roll.toAir', { deck: 1, clips: [id(desk, 1), id(desk, 2)] }, 2000);
    expect(desk.air).toMatchObject({ onAirId: deckId(desk), nextId: 'c', transition: { settings: { kind: 'wipe' }, start: 2000 } });
    const { decks } = desk.air.replay;
    expect(deckPlace(decks[1], desk.air.replay, 2150, desk.show.rate).roll).toMatchObject({ index: 1, left: 50 });
    desk = must(desk, 'roll.finish', { at: 2200 }, 2197);
    expect(desk.air).toMatchObject({ onAirId: 'a', nextId: 'c', transition: { start: 2200 } });
    // Before its start the deck is still all that is seen; under the transition it plays on.
    expect(runningTransition(desk.air, 2199)).not.toBeNull();
    expect(deckPlace(desk.air.replay.decks[1], desk.air.replay, 2210, desk.show.rate).position).toBe(710);
  });

  it('leaves air alone when somebody has taken another picture meanwhile', () => {
    let desk = must(five(), 'roll.toAir', { deck: 1 }, 2000);
    desk = must(desk, 'picture.cut', { picture: 'c' }, 2100);
    desk = must(desk, 'roll.finish', { at: 2500 }, 2500);
    expect(desk.air.onAirId).toBe('c');
  });

  it('looks back from what is on air, again and again, and returns', () => {
    let desk = must(five(), 'replay.lookBack', { deck: 1 }, 2000);
    expect(desk.air.replay.lookBack).toMatchObject({ angleId: 'a', from: 1800, returnId: 'a' });
    expect(desk.air.onAirId).toBe(deckId(desk));
    desk = must(desk, 'replay.lookBack', { deck: 1 }, 2300);
    expect(deckPlace(desk.air.replay.decks[1], desk.air.replay, 2300, desk.show.rate).position).toBe(1800);
    desk = must(desk, 'replay.backToLive', {}, 2400);
    expect(desk.air).toMatchObject({ onAirId: 'a', replay: { lookBack: null } });
  });

  it('changes angle and speed of what plays, and not the clip', () => {
    let desk = must(five(), 'roll.start', { deck: 1 }, 2000);
    desk = must(desk, 'deck.setAngle', { deck: 1, angle: 'b' }, 2010);
    desk = must(desk, 'deck.setSpeed', { deck: 1, speed: 50 }, 2010);
    const place = deckPlace(desk.air.replay.decks[1], desk.air.replay, 2020, desk.show.rate);
    expect(place).toMatchObject({ angleId: 'b', position: 415, rate: 0.5 });
    expect(clips(desk)[0]).toMatchObject({ angleIds: ['a'], speed: 100 });
    // The next piece plays as its clip says.
    expect(deckPlace(desk.air.replay.decks[1], desk.air.replay, 2010 + 180 + 5, desk.show.rate)).toMatchObject({ angleId: 'a', rate: 1 });
  });

  it('skips on and back, and begins again after its end', () => {
    let desk = must(five(), 'roll.start', { deck: 1 }, 2000);
    desk = must(desk, 'roll.next', { deck: 1 }, 2010);
    expect(deckPlace(desk.air.replay.decks[1], desk.air.replay, 2010, desk.show.rate).roll?.index).toBe(1);
    desk = must(desk, 'roll.previous', { deck: 1 }, 2015);
    expect(deckPlace(desk.air.replay.decks[1], desk.air.replay, 2015, desk.show.rate).roll?.index).toBe(0);
    expect(deckPlace(desk.air.replay.decks[1], desk.air.replay, 9000, desk.show.rate)).toMatchObject({ position: 1299, rate: 0 });
    desk = must(desk, 'deck.play', { deck: 1 }, 9000);
    expect(deckPlace(desk.air.replay.decks[1], desk.air.replay, 9000, desk.show.rate)).toMatchObject({ position: 400 });
  });

  it('lays music under a play-out and fades it at the end', () => {
    let desk = must(five(), 'replay.set', { musicId: 'clip', musicFade: 2 }, 2000);
    desk = must(desk, 'roll.toAir', { deck: 1, clips: [id(desk, 1), id(desk, 2)] }, 2000);
    const level = (frame: number) => planSound(desk.show, desk.air, frame).channels.clip as number;
    expect(level(2010)).toBe(1);
    expect(level(2175)).toBeCloseTo(0.5, 6);
    expect(level(2200)).toBe(0);
  });

  it('says how long it will run', () => {
    const outcome = attempt(must(five(), 'replay.set', { join: 'dissolve', joinFrames: 10 }, 2000), 'roll.start', { deck: 2 }, 2000);
    expect(outcome).toMatchObject({ ok: true, result: { frames: 500 - 40 } });
  });
});
