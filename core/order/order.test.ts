/** The running order: what Go takes, the times, and the table it leaves and comes as. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type RefusedStep } from '../automation/carry-out';
import { type Desk } from '../desk/air';
import { execute } from '../desk/execute';
import { context, upTo } from '#tests/support/macros';
import { must, sampleDesk } from '#tests/support/sample-show';
import { itemsToCome, itemToCome } from './find';
import { orderFromCsv, orderToCsv } from './order-file';
import { orderTimes } from './times';
import { formatDay, formatSigned, readDay, readLength } from '../time/day';

/** A desk with items; the pictures a, b, c are sources of the sample show. 25 frames a second; it is 10:00:00 at frame 0. */
function withItems(...items: Record<string, unknown>[]): { desk: Desk; ids: string[] } {
  let desk = must(sampleDesk(), 'clock.day', { millis: 10 * 3600 * 1000 }, 0);
  for (const change of items) {
    desk = must(desk, 'order.add', {});
    desk = must(desk, 'order.set', { item: desk.show.order.items.at(-1)!.id, ...change });
  }
  return { desk, ids: desk.show.order.items.map((i) => i.id) };
}
const go = (desk: Desk, frame: number) => upTo(must(desk, 'order.go', {}, frame), frame + 2);
const TEN = 36_000;

describe('Go', () => {
  it('takes what an item says, and puts the picture of the one after it into Next when the transition is over', () => {
    const { desk, ids: items } = withItems({ picture: 'b', takes: 'take' }, { picture: 'c', takes: 'cut' }, { name: 'Talk' });
    const started = must(desk, 'picture.cut', { picture: 'a' });
    const first = go(started, 100);
    expect(first.air.order).toMatchObject({ onId: items[0], since: 102 });
    expect(first.air.transition).not.toBeNull();
    const settled = upTo(first, 400);
    expect(settled.air).toMatchObject({ onAirId: 'b', nextId: 'c' });
    expect(go(settled, 500).air).toMatchObject({ onAirId: 'c' });
    const last = go(go(settled, 500), 600);
    // An item without a picture leaves what is on air.
    expect(last.air.onAirId).toBe('c');
    const end = execute(last, { type: 'order.go' }, context(700));
    expect(end.ok ? '' : end.error.code).toBe('order-over');
    expect(last.air.order.past.map((p) => p.itemId)).toEqual([items[0], items[1]]);
  });

  it('shows and hides lanes, fills seats, runs a macro; what is refused is said and the rest is done', () => {
    let desk = must(sampleDesk(), 'seat.add', { name: 'Host' });
    desk = must(desk, 'macro.add', {
      name: 'Lights',
      steps: [{ act: { kind: 'command', type: 'picture.cut', args: { picture: 'gone' } } }],
    });
    const [seat, macro, [lane, other]] = [desk.show.seats[0]!.id, desk.show.automation.macros[0]!.id, desk.show.lanes.map((l) => l.id)];
    desk = must(desk, 'order.add', { name: 'Opening' });
    const item = desk.show.order.items[0]!.id;
    desk = must(desk, 'order.setLanes', {
      item,
      lanes: [
        { laneId: lane, pictureId: 'c' },
        { laneId: other, pictureId: null },
      ],
    });
    desk = must(desk, 'order.setSeats', { item, seats: [{ seatId: seat, occupantId: 'b' }] });
    desk = must(desk, 'order.set', { item, macro, picture: 'b', takes: 'cut' });
    const refused: RefusedStep[] = [];
    const after = upTo(must(desk, 'order.go', {}, 10), 40, refused);
    expect(after.air.onAirId).toBe('b');
    expect(after.air.lanes[lane!]?.fade.to).toBe(1);
    expect(after.show.seats[0]?.occupantId).toBe('b');
    expect(refused).toHaveLength(1);
    // What is shown in a lane goes: the lane is left as it is then, and not hidden. What an item names may go too: the item stays without it.
    const bare = must(after, 'source.remove', { source: 'c', force: true });
    expect(bare.show.order.items[0]?.lanes).toEqual([{ laneId: other, pictureId: null }]);
    const without = must(after, 'macro.remove', { macro });
    expect(without.show.order.items[0]).toMatchObject({ name: 'Opening', macroId: null });
  });

  it('passes over what floats and what is skipped, goes where it is told, and starts anew', () => {
    const { desk, ids: items } = withItems({}, { floats: true }, {}, {});
    const [a, b, c, d] = items;
    const skipped = must(desk, 'order.skip', { items: [c], skipped: true });
    expect(itemsToCome(skipped).map((i) => i.id)).toEqual([a, d]);
    const at = must(go(skipped, 10), 'order.setNext', { item: b });
    expect(itemsToCome(at).map((i) => i.id)).toEqual([b, d]);
    const jumped = must(at, 'order.goTo', { item: d }, 90);
    expect(itemToCome(jumped)).toBeUndefined();
    const back = must(jumped, 'order.goTo', { item: a }, 120);
    expect(itemToCome(back)?.id).toBe(d);
    expect(itemToCome(must(back, 'order.reset'))?.id).toBe(a);
    // The item that was on goes: what comes is what stood after it.
    expect(itemToCome(must(go(desk, 10), 'order.remove', { items: [a] }))?.id).toBe(c);
  });
});

describe('the times', () => {
  it('are planned one after another, with hard times and the gap before them', () => {
    const { desk, ids: items } = withItems({ seconds: 60 }, { seconds: 30 }, { seconds: 20, hard: TEN + 120 }, { seconds: 10 });
    const times = orderTimes(must(desk, 'order.setUp', { startsAt: TEN, endsAt: TEN + 140 }), 0);
    expect(times.items.map((i) => i.planned)).toEqual([TEN, TEN + 60, TEN + 120, TEN + 140]);
    expect(times.items[2]?.gap).toBeCloseTo(30);
    expect(times.expectedEnd).toBeCloseTo(TEN + 150);
    expect(times.over).toBeCloseTo(10);
    // Ten seconds over in the first: the gap is shorter, the end as it was.
    const on = go(must(desk, 'order.setUp', { startsAt: TEN }), 0);
    const late = orderTimes(on, 2 + 70 * 25);
    expect(late.left).toBeCloseTo(-10);
    expect(late.items[2]?.gap).toBeCloseTo(20, 0);
    expect(late.over).toBeCloseTo(0);
    const much = orderTimes(on, 2 + 100 * 25);
    expect(much.items[2]?.gap).toBeCloseTo(-10, 0);
    expect(much.over).toBeCloseTo(10, 0);
    expect(orderTimes(must(on, 'order.skip', { items: [items[1]], skipped: true }), 2 + 100 * 25).items[2]?.gap).toBeCloseTo(20, 0);
  });

  it('are real for what was on, and end when it is over', () => {
    const { desk } = withItems({ seconds: 4 }, { seconds: 4 });
    const done = must(go(go(desk, 0), 150), 'order.end', {}, 250);
    const times = orderTimes(done, 500);
    expect(times.items.map((i) => i.took)).toEqual([6, 98 / 25]);
    expect(times.items.map((i) => i.state)).toEqual(['past', 'past']);
    expect(times.expectedEnd).toBeCloseTo(TEN + 10);
    expect(times.over).toBeCloseTo(250 / 25 - 2 / 25 - 8);
  });

  it('go on past midnight', () => {
    let { desk } = withItems({ seconds: 60 }, { seconds: 60, hard: 30 });
    desk = must(desk, 'clock.day', { millis: (86_400 - 60) * 1000 }, 0);
    const times = orderTimes(go(desk, 0), 90 * 25);
    expect(times.now).toBeCloseTo(86_400 + 30);
    expect(times.items[1]?.planned).toBeCloseTo(86_430);
    expect(formatDay(times.items[1]!.planned!)).toBe('00:00:30');
  });

  it('add up for any running order: without hard times, over is what was taken too long', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ seconds: fc.integer({ min: 1, max: 300 }), floats: fc.boolean() }), { minLength: 1, maxLength: 8 }),
        fc.array(fc.integer({ min: 1, max: 9000 }), { minLength: 1, maxLength: 6 }),
        (items, waits) => {
          let desk = withItems(...items).desk;
          let frame = 0;
          for (const wait of waits) {
            const done = execute(desk, { type: 'order.go' }, context(frame));
            if (!done.ok) break;
            desk = done.desk;
            frame += wait;
          }
          const at = Math.max(frame, desk.air.order.since);
          const times = orderTimes(desk, at);
          const fixed = desk.show.order.items.filter((i) => !i.floats);
          const planned = fixed.reduce((sum, i) => sum + i.seconds, 0);
          if (fixed.length === 0) return void expect(times.expectedEnd).toBeNull();
          const { past, onId, since } = desk.air.order;
          if (onId === null) return void expect(times.over).toBeNull();
          const real = past.reduce((sum, p) => sum + (p.to - p.from) / 25, 0);
          const on = desk.show.order.items.find((i) => i.id === onId)!;
          const rest = itemsToCome(desk).reduce((sum, i) => sum + i.seconds, 0);
          return void expect(times.over).toBeCloseTo(real + Math.max((at - since) / 25, on.seconds) + rest - planned, 3);
        },
      ),
    );
  });
});

describe('the table', () => {
  it('comes back as it left', () => {
    let { desk } = withItems(
      { name: '=Opening, "loud"', seconds: 95, hard: TEN, picture: 'b', takes: 'cut', notes: 'two\nlines' },
      { name: 'Song', floats: true },
    );
    const lane = desk.show.lanes[0]!.id;
    desk = must(desk, 'order.setLanes', { item: desk.show.order.items[0]!.id, lanes: [{ laneId: lane, pictureId: 'c' }] });
    const csv = orderToCsv(desk);
    const { items, faults } = orderFromCsv(desk, csv);
    expect(faults).toEqual([]);
    const plain = (list: readonly object[]) => list.map((i) => ({ ...i, id: '', colour: '' }));
    expect(plain(items)).toEqual(plain(desk.show.order.items));
    const brought = must(desk, 'order.bring', { list: items, replace: true });
    expect(plain(brought.show.order.items)).toEqual(plain(desk.show.order.items));
    expect(new Set(brought.show.order.items.map((i) => i.id)).size).toBe(2);
  });

  it('says of every fault where it is, and refuses what is no running order', () => {
    const desk = sampleDesk();
    const { items, faults } = orderFromCsv(desk, 'item,length,picture,lanes\nOpening,1:75,Nowhere,Attic: a\nNews,2:00,,');
    expect(items.map((i) => [i.name, i.seconds])).toEqual([
      ['Opening', 0],
      ['News', 120],
    ]);
    expect(faults.map((f) => [f.row, f.column])).toEqual([
      [1, 'Length'],
      [1, 'Picture'],
      [1, 'Lanes'],
      [1, 'Lanes'],
    ]);
    expect(orderFromCsv(desk, 'a,b\n1,2').faults[0]?.message).toContain('“Item”');
    expect(orderFromCsv(desk, `Item\n${'x\n'.repeat(501)}`).faults[0]?.message).toContain('501');
    fc.assert(fc.property(fc.string(), (text) => void orderFromCsv(desk, `Item,Length,Lanes\n${text}`)));
  });

  it('reads and writes lengths and times', () => {
    fc.assert(fc.property(fc.integer({ min: 0, max: 86_399 }), (s) => readLength(formatSigned(s)) === s && readDay(formatDay(s)) === s));
    expect(formatSigned(-65)).toBe('−1:05');
    for (const words of ['', '1:60', 'x', '1:2:3:4', '99999999']) expect(readLength(words)).toBeNull();
    expect(readDay('24:00')).toBeNull();
  });
});
