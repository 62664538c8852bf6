import fc from 'fast-check';
import { shownWords } from '../graphics/find';
import { describe, expect, it } from 'vitest';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { type Air, type Desk } from '../desk/air';
import { fadeLevel } from '../time/fade';
import { laneIsUp, lanePictures } from './air';
import { showProblems } from '../desk/validate';
import { laneHoldsNew, planFrame } from './plan';
import { runningTransition, transitionPosition } from './transition';

const position = (air: Air, frame: number) => {
  const running = runningTransition(air, frame);
  return running ? transitionPosition(running, frame) : null;
};

describe('cut and take', () => {
  it('cuts to Next, and Next then holds what was on air', () => {
    const { air } = must(sampleDesk(), 'picture.cut');
    expect([air.onAirId, air.nextId, air.transition]).toEqual(['b', 'a', null]);
  });

  it('cuts straight to a source and leaves Next alone', () => {
    const { air } = must(sampleDesk(), 'picture.cut', { picture: 'c' });
    expect([air.onAirId, air.nextId]).toEqual(['c', 'b']);
  });

  it('takes over the armed length, exactly from 0 to 1', () => {
    const { air } = must(sampleDesk(), 'picture.take', {}, 100);
    expect([100, 110, 119, 120].map((f) => position(air, f))).toEqual([0, 0.5, 0.95, null]);
  });

  it('refuses a second take on the way, and changes nothing', () => {
    const desk = must(sampleDesk(), 'picture.take', {}, 100);
    const outcome = attempt(desk, 'picture.take', {}, 105);
    expect(outcome).toMatchObject({ ok: false, error: { code: 'transition-running' } });
    expect(attempt(desk, 'picture.take', {}, 120).ok).toBe(true);
  });

  it('finishes a transition at once with a cut', () => {
    const desk = must(must(sampleDesk(), 'picture.take', {}, 100), 'picture.cut', {}, 105);
    expect([desk.air.onAirId, desk.air.nextId, desk.air.transition]).toEqual(['b', 'a', null]);
  });

  it('lets Next be chosen in the middle without disturbing the transition', () => {
    const desk = must(must(sampleDesk(), 'picture.take', {}, 100), 'picture.setNext', { picture: 'c' }, 110);
    expect(position(desk.air, 110)).toBe(0.5);
    expect(desk.air.nextId).toBe('c');
  });

  it('keeps the settings a transition began with when another is armed', () => {
    const desk = must(must(sampleDesk(), 'picture.take', {}, 0), 'picture.arm', { kind: 'wipe', frames: 50 }, 5);
    expect(runningTransition(desk.air, 5)?.settings.kind).toBe('dissolve');
    expect(position(desk.air, 20)).toBeNull();
  });

  it('refuses a take with nothing in Next', () => {
    const desk = sampleDesk();
    desk.air.nextId = null;
    expect(attempt(desk, 'picture.take')).toMatchObject({ ok: false, error: { code: 'no-next' } });
  });
});

describe('the bar', () => {
  it('does the transition by hand in either direction', () => {
    let desk = must(sampleDesk(), 'picture.moveBar', { position: 0.4 });
    expect(position(desk.air, 999)).toBe(0.4);
    desk = must(desk, 'picture.moveBar', { position: 0.1 });
    expect(position(desk.air, 999)).toBe(0.1);
    desk = must(desk, 'picture.moveBar', { position: 0 });
    expect([desk.air.onAirId, desk.air.nextId, desk.air.transition]).toEqual(['a', 'b', null]);
  });

  it('ends at 1, and a take finishes it from where it stands', () => {
    const held = must(sampleDesk(), 'picture.moveBar', { position: 0.5 }, 10);
    expect(must(held, 'picture.moveBar', { position: 1 }).air).toMatchObject({ onAirId: 'b', transition: null });
    const taken = must(held, 'picture.take', {}, 30);
    expect([30, 35, 40].map((f) => position(taken.air, f))).toEqual([0.5, 0.75, null]);
  });

  it('keeps a Next that was chosen while the bar was held, when it goes back', () => {
    let desk = must(sampleDesk(), 'picture.moveBar', { position: 0.4 });
    desk = must(desk, 'picture.setNext', { picture: 'c' });
    desk = must(desk, 'picture.moveBar', { position: 0 });
    expect([desk.air.onAirId, desk.air.nextId]).toEqual(['a', 'c']);
  });

  it('puts armed lanes back when it goes back', () => {
    let desk = must(sampleDesk(), 'lane.setContent', { lane: 'lane-1', content: { kind: 'picture', id: 'card' } });
    desk = must(desk, 'lane.arm', { lane: 'lane-1' });
    desk = must(desk, 'picture.moveBar', { position: 0.5 }, 10);
    expect(laneIsUp(desk.air.lanes['lane-1'] as never, 10)).toBe(true);
    desk = must(desk, 'picture.moveBar', { position: 0 }, 20);
    expect(laneIsUp(desk.air.lanes['lane-1'] as never, 20)).toBe(false);
    expect(desk.air.lanes['lane-1']?.armed).toBe(true);
  });
});

describe('fade to black', () => {
  it('turns round from where it is', () => {
    let desk = must(sampleDesk(), 'picture.setBlackLength', { frames: 10 });
    desk = must(desk, 'picture.fadeToBlack', {}, 0);
    expect(fadeLevel(desk.air.black, 5)).toBe(0.5);
    desk = must(desk, 'picture.fadeToBlack', {}, 5);
    expect([5, 10].map((f) => fadeLevel(desk.air.black, f))).toEqual([0.5, 0]);
  });
});

describe('lanes', () => {
  const withCard = () => must(sampleDesk(), 'lane.setContent', { lane: 'lane-1', content: { kind: 'picture', id: 'card' } });
  const level = (desk: Desk, frame: number) => lanePictures(desk.air.lanes['lane-1'] as never, frame).at(-1)?.level ?? 0;

  it('fades in, leaves by itself after its hold, and is gone', () => {
    let desk = must(withCard(), 'lane.set', {
      lane: 'lane-1',
      in: { kind: 'fade', edge: 'left', easing: 'linear', frames: 10 },
      out: { kind: 'fade', edge: 'left', easing: 'linear', frames: 10 },
      holdSeconds: 2,
    });
    desk = must(desk, 'lane.show', { lane: 'lane-1' }, 100);
    expect([100, 105, 110, 159, 165, 170].map((f) => level(desk, f))).toEqual([0, 0.5, 1, 1, 0.5, 0]);
  });

  it('changes with the take when armed, over the length of the take', () => {
    let desk = must(withCard(), 'lane.arm', { lane: 'lane-1' });
    desk = must(desk, 'picture.take', {}, 0);
    expect([0, 10, 20].map((f) => level(desk, f))).toEqual([0, 0.5, 1]);
    desk = must(desk, 'lane.arm', { lane: 'lane-1' }, 30);
    desk = must(desk, 'picture.cut', {}, 40);
    expect(level(desk, 40)).toBe(0);
  });

  it('shows a card as it was put up until it is shown anew', () => {
    let desk = must(withCard(), 'lane.show', { lane: 'lane-1' }, 0);
    desk = must(desk, 'entry.set', { entry: 'card', field: 'name', value: { kind: 'text', text: 'Bo Lind' } });
    const name = (d: Desk, f: number) => {
      const picture = lanePictures(d.air.lanes['lane-1'] as never, f).at(-1)?.picture;
      return picture?.kind === 'graphic' ? shownWords(picture.shown, '') : null;
    };
    expect(name(desk, 50)).toBe('Ada Holm, Pilot');
    const holdsNew = (d: Desk) => laneHoldsNew(d.show, d.show.lanes[0] as never, d.air.lanes['lane-1'] as never);
    expect(holdsNew(desk)).toBe(true);
    expect(holdsNew(must(desk, 'entry.set', { entry: 'card', field: 'name', value: { kind: 'text', text: 'Ada Holm' } }))).toBe(false);
    expect(holdsNew(must(desk, 'entry.set', { entry: 'card', field: 'role', value: { kind: 'text', text: 'Judge' } }))).toBe(true);
    desk = must(desk, 'lane.show', { lane: 'lane-1' }, 60);
    expect(name(desk, 72)).toBe('Bo Lind, Pilot');
  });

  it('refuses to show or arm an empty lane', () => {
    expect(attempt(sampleDesk(), 'lane.show', { lane: 'lane-2' })).toMatchObject({
      ok: false,
      error: { code: 'empty-lane', field: 'lane' },
    });
    expect(attempt(sampleDesk(), 'lane.arm', { lane: 'lane-2' }).ok).toBe(false);
  });
});

/** Random but plausible operation: any of these, at growing frames. */
const anySource = fc.constantFrom('a', 'b', 'c', 'clip', 'bug', 'gone');
const anyLane = fc.constantFrom('lane-1', 'lane-2', 'lane-9');
const anyCommand = fc.oneof(
  fc.record({ type: fc.constantFrom('picture.cut', 'picture.take', 'picture.fadeToBlack'), args: fc.constant({}) }),
  fc.record({ type: fc.constantFrom('picture.setNext', 'picture.cut'), args: fc.record({ picture: anySource }) }),
  fc.record({ type: fc.constantFrom('media.play', 'media.pause', 'source.remove'), args: fc.record({ source: anySource }) }),
  fc.record({ type: fc.constant('picture.moveBar'), args: fc.record({ position: fc.constantFrom(0, 0.001, 0.3, 0.9, 1, 1.5, NaN) }) }),
  fc.record({ type: fc.constantFrom('lane.show', 'lane.hide', 'lane.toggle', 'lane.arm'), args: fc.record({ lane: anyLane }) }),
  fc.record({
    type: fc.constant('lane.setContent'),
    args: fc.record({
      lane: anyLane,
      content: fc.constantFrom(null, { kind: 'picture', id: 'card' }, { kind: 'picture', id: 'bug' }, { kind: 'picture', id: 'clip' }),
    }),
  }),
  fc.record({
    type: fc.constant('picture.arm'),
    args: fc.record({ kind: fc.constantFrom('dissolve', 'dip', 'wipe'), frames: fc.integer({ min: 1, max: 60 }) }),
  }),
);
const anyRun = fc.array(fc.record({ command: anyCommand, wait: fc.integer({ min: 0, max: 40 }) }), { maxLength: 40 });

function replay(
  run: { command: { type: string; args: Record<string, unknown> }; wait: number }[],
  each: (desk: Desk, frame: number) => void,
): void {
  let desk = sampleDesk();
  let frame = 0;
  for (const { command, wait } of run) {
    frame += wait;
    const before = JSON.stringify(desk);
    const outcome = attempt(desk, command.type, command.args, frame);
    expect(JSON.stringify(desk)).toBe(before);
    if (outcome.ok) desk = outcome.desk;
    each(desk, frame);
  }
}

describe('whatever is pressed, in whatever order', () => {
  it('what is on air always exists, levels stay in range, and the document stays sound', () => {
    fc.assert(
      fc.property(anyRun, (run) => {
        replay(run, ({ show, air }, frame) => {
          const ids = new Set(show.sources.map((s) => s.id));
          expect(air.onAirId !== null && ids.has(air.onAirId)).toBe(true);
          expect(air.nextId === null || ids.has(air.nextId)).toBe(true);
          expect(showProblems(JSON.parse(JSON.stringify(show)))).toEqual([]);
          for (const later of [0, 1, 7, 100]) {
            const { programme } = planFrame(show, air, frame + later);
            expect(programme.black >= 0 && programme.black <= 1).toBe(true);
            for (const item of [...programme.base, ...programme.lanes]) expect(item.opacity > 0 && item.opacity <= 1).toBe(true);
            if (programme.mix) expect(programme.mix.position >= 0 && programme.mix.position < 1).toBe(true);
          }
        });
      }),
      { numRuns: 150 },
    );
  });

  it('comes to rest: long after the last press nothing moves any more', () => {
    fc.assert(
      fc.property(anyRun, (run) => {
        replay(run, ({ show, air }, frame) => {
          if (runningTransition(air, frame)?.mode === 'bar') return;
          const [one, other] = [1_000_000, 1_000_001].map((f) => JSON.stringify({ ...planFrame(show, air, frame + f), frame: 0 }));
          expect(one).toBe(other);
        });
      }),
      { numRuns: 60 },
    );
  });

  it('air and show survive being saved and read back at any moment', () => {
    fc.assert(
      fc.property(anyRun, (run) => {
        replay(run, (desk, frame) => {
          const again = JSON.parse(JSON.stringify(desk)) as Desk;
          expect(planFrame(again.show, again.air, frame + 3)).toEqual(planFrame(desk.show, desk.air, frame + 3));
        });
      }),
      { numRuns: 60 },
    );
  });
});
