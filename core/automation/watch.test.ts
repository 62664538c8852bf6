/** Triggers: what happens, what they do about it, and why not. */
import { describe, expect, it } from 'vitest';
import { type Desk } from '../desk/air';
import { must, sampleDesk } from '#tests/support/sample-show';
import { createWhen } from './create';
import { type Trigger, type When, WHEN_EVENTS } from './document';
import { type Facts, happened } from './watch';

const THEN = { kind: 'command', type: 'picture.take', args: {} };

const withTrigger = (desk: Desk, when: When, change: Record<string, unknown> = {}): { desk: Desk; id: string } => {
  const added = must(desk, 'trigger.add', { when, then: THEN });
  const id = added.show.automation.triggers.at(-1)!.id;
  return { id, desk: Object.keys(change).length > 0 ? must(added, 'trigger.set', { trigger: id, ...change }) : added };
};

/** Frames at which the triggers of desks act, one desk a frame; what they have done is told to each desk that follows. */
function acts(at: (frame: number) => Desk, frames: number, ahead = 0): number[] {
  let facts: Facts | null = null;
  const acted: number[] = [];
  for (let frame = 0; frame < frames; frame += 1) {
    const seen: ReturnType<typeof happened> = happened(facts, at(frame), frame, ahead);
    facts = seen.facts;
    for (const h of seen.list) if (h.why === null) acted.push(h.frame);
  }
  return acted;
}

describe('a trigger', () => {
  it('acts when a picture comes, goes, or is Next; not for what is so from the beginning', () => {
    const { desk } = withTrigger(sampleDesk(), createWhen('on-air', { pictureId: 'b' }));
    const cut = must(desk, 'picture.cut', { picture: 'b' }, 4);
    expect(acts((f) => (f < 5 ? desk : cut), 20)).toEqual([6]);
    expect(acts(() => cut, 20)).toEqual([]);
    const gone = withTrigger(sampleDesk(), createWhen('off-air', { pictureId: 'a' })).desk;
    expect(acts((f) => (f < 5 ? gone : must(gone, 'picture.cut', { picture: 'b' }, 4)), 20)).toEqual([6]);
    const next = withTrigger(sampleDesk(), createWhen('next', { pictureId: 'b' })).desk;
    const put = must(next, 'picture.setNext', { picture: 'b' });
    expect(acts((f) => (f % 8 < 4 ? must(next, 'picture.setNext', { picture: 'c' }) : put), 20)).toEqual([5, 13]);
  });

  it('acts on the very frame at which a clock ends or passes a time, told ahead', () => {
    let desk = must(sampleDesk(), 'clock.add', { name: 'Heat', kind: 'down', seconds: 4 });
    const clockId = desk.show.graphics.clocks.at(-1)!.id;
    desk = withTrigger(must(desk, 'clock.start', { clock: clockId }, 10), createWhen('clock-ends', { clockId })).desk;
    expect(acts(() => desk, 200, 6)).toEqual([110]);
    const passes = withTrigger(desk, createWhen('clock-passes', { clockId, seconds: 1 }), {}).desk;
    expect(acts(() => passes, 200, 6)).toEqual([85, 110]);
  });

  it('acts at a time of day, and when the show opens', () => {
    const day = must(sampleDesk(), 'clock.day', { millis: 1000 }, 0);
    const timed = withTrigger(day, createWhen('time', { seconds: 3 })).desk;
    expect(acts(() => timed, 100, 6)).toEqual([50]);
    const opens = withTrigger(sampleDesk(), createWhen('opens')).desk;
    expect(acts(() => opens, 20)).toEqual([1]);
    // Added while the show runs, it waits for the next opening.
    const running = sampleDesk();
    expect(acts((f) => (f < 5 ? running : opens), 20)).toEqual([]);
  });

  it('acts when what stands in a cell becomes what it waits for', () => {
    let desk = must(sampleDesk(), 'sheet.add', { name: 'Signals' });
    const sheet = desk.show.sheets[0]!.id;
    desk = must(must(desk, 'sheet.addColumn', { sheet, name: 'State' }), 'sheet.addRow', { sheet, cells: ['', 'ready'] });
    const when = createWhen('cell-is', { sheetId: sheet, row: '1', column: 'State', value: 'off the line' });
    const { desk: armed } = withTrigger(desk, when);
    const off = must(armed, 'sheet.setCell', { sheet, row: 1, column: 'State', text: 'off the line' });
    expect(acts((f) => (f < 7 ? armed : off), 20)).toEqual([8]);
  });

  it('does not act disarmed, a second time when it acts once, too soon, or where its conditions are not so: and says why', () => {
    const when = createWhen('on-air', { pictureId: 'b' });
    const why = (change: Record<string, unknown>, told: number[] = [], conditions: Trigger['conditions'] = []) => {
      const { desk: made, id } = withTrigger(sampleDesk(), when, change);
      let desk = conditions.length > 0 ? must(made, 'trigger.setConditions', { trigger: id, conditions }) : made;
      for (const at of told) desk = must(desk, 'trigger.acted', { trigger: id, at, why: null });
      const before = happened(new Map(), desk, 99, 0).facts;
      return happened(before, must(desk, 'picture.cut', { picture: 'b' }, 100), 100, 0).list.map((h) => h.why);
    };
    expect(why({})).toEqual([null]);
    expect(why({ armed: false })).toEqual([]);
    expect(why({ once: true }, [50])).toEqual(['it acts once only, and has']);
    expect(why({ every: 10 }, [50])[0]).toMatch(/every 10 s at most/);
    expect(why({ every: 1 }, [50])).toEqual([null]);
    const condition = { is: createWhen('next', { pictureId: 'c' }), so: true };
    expect(why({}, [], [condition])).toEqual(['its condition 1 is not so']);
    expect(why({}, [], [{ ...condition, so: false }])).toEqual([null]);
    // Ten times within two seconds is a circle.
    const { desk: made, id } = withTrigger(sampleDesk(), when);
    const often = Array.from({ length: 10 }, (_, i) => 60 + i * 4).reduce(
      (d, at) => must(d, 'trigger.acted', { trigger: id, at, why: null }),
      made,
    );
    const before = happened(new Map(), often, 99, 0).facts;
    expect(happened(before, must(often, 'picture.cut', { picture: 'b' }, 100), 100, 0).list[0]?.circle).toBe(true);
  });

  it('can tell of every event, for things that are gone too', () => {
    for (const event of WHEN_EVENTS) {
      const { desk } = withTrigger(sampleDesk(), createWhen(event));
      expect(() => happened(null, desk, 5, 6)).not.toThrow();
    }
  });
});
