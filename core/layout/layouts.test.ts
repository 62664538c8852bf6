import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { EMPTY_HISTORY, remember, undo } from '../desk/history';
import { planFrame } from '../picture/plan';
import { takeSummary } from '../picture/summary';
import { tallyOf } from '../picture/tally';
import { planSound } from '../sound/plan';
import { type Desk } from '../desk/air';
import { type Layout, STYLE_PROPERTIES, type StyleProperty } from './document';
import { showProblems } from '../desk/validate';
import { effectiveBox, placesOfStyle } from './styles';
import { walkThrough } from './walk-through';

const last = <T extends { id: string }>(list: T[]): string => list.at(-1)?.id ?? '';

/** Two seats (a, b), a two-box layout of them, and an empty layout. */
function desk(): { desk: Desk; two: string; empty: string; host: string; guest: string; boxes: string[] } {
  let d = sampleDesk();
  d = must(d, 'seat.add', { name: 'Host' });
  d = must(d, 'seat.add', { name: 'Guest' });
  const [host, guest] = d.show.seats.map((s) => s.id) as [string, string];
  d = must(must(d, 'seat.fill', { seat: host, occupant: 'a' }), 'seat.fill', { seat: guest, occupant: 'b' });
  d = must(d, 'layout.add', { starter: 'two', name: 'Two' });
  const two = last(d.show.layouts);
  d = must(d, 'layout.add', { name: 'Empty' });
  return { desk: d, two, empty: last(d.show.layouts), host, guest, boxes: d.show.layouts[0]?.boxes.map((b) => b.id) ?? [] };
}

const layout = (d: Desk, id: string) => [...d.show.layouts, ...d.show.presets].find((l) => l.id === id) as Layout;
const refused = (d: Desk, type: string, args: Record<string, unknown>) => {
  const outcome = attempt(d, type, args);
  return outcome.ok ? null : outcome.error;
};

describe('seats', () => {
  it('are refilled and swapped everywhere at once, on air too', () => {
    const { desk: d, two, host, guest } = desk();
    const shown = (x: Desk) => planFrame(x.show, x.air, 0).programme.base.map((i) => i.sourceId);
    let live = must(d, 'picture.cut', { picture: two });
    expect(shown(live)).toEqual(['a', 'b']);
    live = must(live, 'seat.swap', { a: host, b: guest });
    expect(shown(live)).toEqual(['b', 'a']);
    live = must(live, 'seat.fill', { seat: host, occupant: 'c' });
    expect(shown(live)).toEqual(['c', 'a']);
    live = must(live, 'seat.fill', { seat: host, occupant: null });
    expect(planFrame(live.show, live.air, 0).programme.base[0]?.texture).toMatchObject({ kind: 'seat', name: 'Host' });
  });

  it('take only sources and framings, and stay while they are seen on air', () => {
    const { desk: d, two, host } = desk();
    expect(refused(d, 'seat.fill', { seat: host, occupant: two })?.code).toBe('unknown-occupant');
    expect(refused(must(d, 'picture.cut', { picture: two }), 'seat.remove', { seat: host })).toMatchObject({
      code: 'in-use',
      message: expect.stringContaining('Host') as string,
    });
    const gone = must(d, 'seat.remove', { seat: host });
    expect(layout(gone, two).boxes[0]?.content).toBeNull();
  });

  it('are told when empty: in the walk-through and before the take', () => {
    const { desk: d, two, guest } = desk();
    const x = must(must(d, 'seat.fill', { seat: guest, occupant: null }), 'picture.setNext', { picture: two });
    expect(walkThrough(x.show, x.air, {}).map((f) => f.text)).toContain('Nobody fills the seat Guest.');
    expect(takeSummary(x.show, x.air, 0)).toContainEqual({ area: 'notice', text: 'Nobody fills Guest' });
  });
});

describe('layouts', () => {
  it('give tally, sound and started clips to what is inside them', () => {
    const { desk: d, two, boxes } = desk();
    let x = must(d, 'box.set', { layout: two, boxes: [boxes[1]], content: { kind: 'source', id: 'clip' } });
    x = must(must(x, 'picture.cut', { picture: 'c' }), 'picture.setNext', { picture: two });
    expect(tallyOf(x.show, x.air, 0).a).toMatchObject({ onAir: false, nextInUse: true });
    expect(takeSummary(x.show, x.air, 0).map((c) => c.text)).toContain('Clip plays 0:10, then holds');
    x = must(x, 'picture.cut', {}, 50);
    expect(tallyOf(x.show, x.air, 50).a).toMatchObject({ onAir: false, inUse: true });
    expect(x.air.players.clip).toMatchObject({ playing: true, start: 50 });
    expect(planSound(x.show, x.air, 51).channels).toMatchObject({ a: 1, clip: 1, b: 0, c: 0 });
  });

  it('refuse to show themselves, naming the circle', () => {
    const { desk: d, two, empty } = desk();
    let x = must(d, 'box.add', { layout: empty, content: { kind: 'layout', id: two } });
    expect(refused(x, 'box.add', { layout: two, content: { kind: 'layout', id: empty } })?.message).toBe(
      'Two would show itself: Two → Empty → Two.',
    );
    expect(refused(x, 'layout.edit', { layout: two, background: { kind: 'layout', id: two } })?.code).toBe('circle');
    x = must(x, 'picture.cut', { picture: empty });
    expect(tallyOf(x.show, x.air, 0).a?.inUse).toBe(true);
    const raw = JSON.parse(JSON.stringify(x.show)) as typeof x.show;
    raw.layouts[0]?.boxes.push({
      ...(raw.layouts[0].boxes[0] as (typeof raw.layouts)[0]['boxes'][0]),
      id: 'loop',
      content: { kind: 'layout', id: empty },
    });
    expect(showProblems(raw)[0]?.message).toContain('shows itself');
  });

  it('refuse crops that leave nothing, boxes outside, and numbers that are none, naming the box', () => {
    const { desk: d, two, boxes } = desk();
    const crop = { left: 0.6, right: 0.5, top: 0, bottom: 0 };
    expect(refused(d, 'box.set', { layout: two, boxes: [boxes[0]], crop })?.message).toContain('box Host');
    expect(refused(d, 'box.place', { layout: two, box: boxes[0], rect: { x: 9000, y: 0, width: 10, height: 10 } })?.message).toContain(
      'Box Host would lie wholly outside',
    );
    for (const x of [NaN, Infinity, 1e9])
      expect(refused(d, 'box.place', { layout: two, box: boxes[0], rect: { x, y: 0, width: 10, height: 10 } })?.code).toBe('bad-argument');
    const raw = JSON.parse(JSON.stringify(d.show)) as { layouts: { boxes: { rect: { x: unknown } }[] }[] };
    (raw.layouts[0]?.boxes[1] as { rect: { x: unknown } }).rect.x = null;
    expect(showProblems(raw)[0]?.path).toBe('layouts[0].boxes[1].rect.x');
  });

  it('protect locked boxes, but let them be unlocked and renamed', () => {
    const { desk: d, two, boxes } = desk();
    const x = must(d, 'box.set', { layout: two, boxes: [boxes[0]], locked: true });
    expect(refused(x, 'box.nudge', { layout: two, boxes, x: 1, y: 0 })?.code).toBe('locked');
    expect(refused(x, 'box.remove', { layout: two, boxes: [boxes[0]] })?.code).toBe('locked');
    expect(layout(must(x, 'box.set', { layout: two, boxes: [boxes[0]], name: 'Left' }), two).boxes[0]?.name).toBe('Left');
    expect(
      attempt(must(x, 'box.set', { layout: two, boxes: [boxes[0]], locked: false }), 'box.nudge', { layout: two, boxes, x: 1, y: 0 }).ok,
    ).toBe(true);
  });

  it('keep what paste promises and nothing else', () => {
    const number = fc.integer({ min: 1, max: 60 });
    fc.assert(
      fc.property(
        number,
        number,
        number,
        fc.double({ min: 1, max: 5, noNaN: true }),
        fc.subarray([...STYLE_PROPERTIES]),
        (x, w, radius, zoom, properties) => {
          const { desk: d, two, boxes } = desk();
          let e = must(d, 'box.set', {
            layout: two,
            boxes: [boxes[0]],
            rect: { x, y: 2, width: w, height: 9 },
            radius,
            zoom,
            border: { width: 3, colour: '#abcdef' },
          });
          const before = layout(e, two).boxes[1];
          e = must(e, 'box.paste', { layout: two, boxes: [boxes[1]], fromLayout: two, fromBox: boxes[0], properties });
          const [from, to] = layout(e, two).boxes;
          const pick = (p: StyleProperty, b = to) =>
            ({
              position: [b?.rect.x, b?.rect.y],
              size: [b?.rect.width, b?.rect.height],
              crop: b?.crop,
              view: [b?.zoom, b?.panX, b?.panY],
              fit: b?.fit,
              rotation: b?.rotation,
              radius: b?.radius,
              border: b?.border,
              shadow: b?.shadow,
              opacity: b?.opacity,
              key: b?.key,
            })[p];
          for (const p of STYLE_PROPERTIES) expect(pick(p)).toEqual(properties.includes(p) ? pick(p, from) : pick(p, before));
          expect([to?.content, to?.name]).toEqual([before?.content, before?.name]);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('lay boxes under found windows in reading order, moving those that are there', () => {
    const { desk: d, empty } = desk();
    const windows = [
      { x: 320, y: 100, width: 200, height: 200 },
      { x: 20, y: 110, width: 200, height: 200 },
    ];
    const x = must(d, 'layout.layUnder', { layout: empty, frame: 'bug', windows, width: 640, height: 360, bleed: 1 });
    expect(layout(x, empty)).toMatchObject({
      frameId: 'bug',
      boxes: [
        { name: 'Host', rect: { x: 1, y: 10 } },
        { name: 'Guest', rect: { x: 31, y: 9 } },
      ],
    });
    const again = must(x, 'layout.layUnder', {
      layout: empty,
      frame: 'bug',
      windows: windows.slice(0, 1),
      width: 640,
      height: 360,
      bleed: 0,
    });
    expect(layout(again, empty).boxes.map((b) => b.rect.x)).toEqual([32, 31]);
    expect(
      refused(d, 'layout.layUnder', { layout: empty, frame: 'bug', windows: [], width: 640, height: 360, bleed: 0 })?.message,
    ).toContain('no transparent openings');
  });

  it('share one space of numbers with sources', () => {
    const { desk: d, two } = desk();
    const x = must(d, 'layout.edit', { layout: two, number: 6 });
    const y = must(must(x, 'source.add', { name: 'X', settings: { kind: 'colour', colour: '#000000' } }), 'source.add', {
      name: 'Y',
      settings: { kind: 'colour', colour: '#000000' },
    });
    expect(showProblems(JSON.parse(JSON.stringify(y.show)))).toEqual([]);
    expect(must(y, 'picture.setNextByNumber', { number: 6 }).air.nextId).toBe(two);
    expect(refused(y, 'source.pin', { source: 'a', number: 6 })?.message).toContain('Two wears the number 6');
    expect(refused(y, 'layout.edit', { layout: two, number: 1 })?.code).toBe('number-taken');
  });

  it('store presets, and recall them to Next without touching air', () => {
    const { desk: d, two, boxes } = desk();
    let x = must(must(d, 'picture.cut', { picture: two }), 'preset.store', { layout: two, name: 'As it was' });
    const preset = last(x.show.presets);
    x = must(x, 'box.set', { layout: two, boxes, radius: 5 });
    x = must(x, 'preset.recall', { preset });
    expect(x.air).toMatchObject({ onAirId: two, nextId: preset });
    expect(layout(x, two).boxes[0]?.radius).toBe(5);
    x = must(x, 'preset.recall', { preset, to: 'layout' });
    expect(layout(x, two).boxes[0]?.radius).toBe(0);
    expect(refused(must(x, 'picture.cut', { picture: preset }), 'layout.remove', { layout: preset })?.code).toBe('in-use');
  });
});

describe('styles', () => {
  it('govern what they hold, but for what is set by hand and handed back', () => {
    const { desk: d, two, boxes } = desk();
    const value = (x: Desk, i = 0) => effectiveBox(x.show, layout(x, two).boxes[i] as Layout['boxes'][0]);
    let x = must(d, 'box.set', { layout: two, boxes: [boxes[0]], radius: 7, border: { width: 2, colour: '#ffffff' } });
    x = must(x, 'style.store', { layout: two, box: boxes[0], name: 'Round', properties: ['radius', 'border'] });
    const style = last(x.show.styles);
    x = must(x, 'style.apply', { style, layout: two, boxes });
    expect([value(x, 1).radius, value(x, 1).border.width]).toEqual([7, 2]);
    x = must(x, 'box.set', { layout: two, boxes: [boxes[1]], radius: 1 });
    x = must(x, 'style.edit', { style, look: { ...x.show.styles[0]?.look, radius: 9, border: { width: 4, colour: '#ffffff' } } });
    expect([value(x).radius, value(x, 1).radius, value(x, 1).border.width]).toEqual([9, 1, 4]);
    x = must(x, 'style.return', { layout: two, boxes: [boxes[1]], properties: ['radius'] });
    expect(value(x, 1).radius).toBe(9);
    x = must(x, 'style.remove', { style });
    expect([value(x).radius, value(x, 1).border.width, layout(x, two).boxes[0]?.styleId]).toEqual([9, 4, null]);
  });

  it('tied to a framing, follow it into every box and seat, and tell the places, on air first', () => {
    const { desk: d, two, empty, boxes, host } = desk();
    let x = must(d, 'framing.add', { source: 'a', name: 'Tight' });
    const framing = last(x.show.framings);
    x = must(x, 'seat.fill', { seat: host, occupant: framing });
    x = must(x, 'box.add', { layout: empty, content: { kind: 'framing', id: framing } });
    x = must(x, 'style.store', { layout: two, box: boxes[0], name: 'Crop', properties: ['crop', 'view'] });
    const style = last(x.show.styles);
    x = must(must(x, 'style.edit', { style, framingIds: [framing] }), 'picture.cut', { picture: two });
    expect(placesOfStyle(x.show, x.air, style).map((p) => [p.layout, p.onAir])).toEqual([
      ['Two', true],
      ['Empty', false],
    ]);
    const look = { ...(x.show.styles[0]?.look as object), zoom: 3 };
    x = must(x, 'style.edit', { style, look });
    expect(planFrame(x.show, x.air, 0).programme.base[0]?.view?.zoom).toBe(3);
    expect(planFrame(x.show, x.air, 0).programme.base[1]?.view?.zoom).toBe(1);
  });

  it('bring everything back with undo, whatever was edited', () => {
    const edit = fc.oneof(
      fc.record({ type: fc.constant('box.set'), radius: fc.integer({ min: 0, max: 30 }), box: fc.nat(1) }),
      fc.record({ type: fc.constant('style.store'), properties: fc.subarray([...STYLE_PROPERTIES], { minLength: 1 }), box: fc.nat(1) }),
      fc.record({ type: fc.constant('style.apply'), style: fc.nat(3), box: fc.nat(1) }),
      fc.record({ type: fc.constant('style.overwrite'), style: fc.nat(3), box: fc.nat(1) }),
      fc.record({ type: fc.constant('style.remove'), style: fc.nat(3) }),
      fc.record({ type: fc.constant('box.nudge'), box: fc.nat(1), x: fc.integer({ min: -3, max: 3 }) }),
    );
    fc.assert(
      fc.property(fc.array(edit, { minLength: 1, maxLength: 12 }), (edits) => {
        const { desk: start, two, boxes } = desk();
        let d = start;
        let history = EMPTY_HISTORY;
        edits.forEach((e, i) => {
          const style = 'style' in e ? d.show.styles[e.style]?.id : undefined;
          const box = 'box' in e ? boxes[e.box] : undefined;
          const args: Record<string, unknown> = {
            'box.set': { layout: two, boxes: [box], radius: 'radius' in e ? e.radius : 0 },
            'style.store': { layout: two, box, name: 'S', properties: 'properties' in e ? e.properties : [] },
            'style.apply': { layout: two, boxes: [box], style },
            'style.overwrite': { layout: two, box, style },
            'style.remove': { style },
            'box.nudge': { layout: two, boxes: [box], x: 'x' in e ? e.x : 0, y: 1 },
          }[e.type] as Record<string, unknown>;
          const outcome = attempt(d, e.type, args);
          if (!outcome.ok) return;
          history = remember(history, e.type, outcome.patches, outcome.inverse, null, i * 5000);
          d = outcome.desk;
          expect(showProblems(JSON.parse(JSON.stringify(d.show)))).toEqual([]);
        });
        while (history.past.length > 0) ({ history, desk: d } = undo(history, d));
        expect(d.show).toEqual(start.show);
      }),
      { numRuns: 40 },
    );
  });
});

describe('lanes with a picture', () => {
  it('come and go with the picture they belong to, and stay over black when told', () => {
    const { desk: d, two } = desk();
    let x = must(d, 'lane.setContent', { lane: 'lane-1', content: { kind: 'picture', id: 'bug' } });
    x = must(x, 'lane.set', {
      lane: 'lane-1',
      whileId: two,
      throughBlack: true,
      in: { kind: 'slide', edge: 'left', easing: 'linear', frames: 10 },
    });
    x = must(must(x, 'picture.setNext', { picture: two }), 'picture.cut', {}, 100);
    const at = (frame: number) => planFrame(x.show, x.air, frame).programme;
    expect(at(105).top?.[0]?.target.x).toBeCloseTo(-32, 6);
    expect(at(110).top?.[0]?.target.x).toBe(0);
    x = must(x, 'picture.fadeToBlack', { on: true }, 120);
    expect(at(500)).toMatchObject({ black: 1, lanes: [] });
    expect(at(500).top).toHaveLength(1);
    x = must(x, 'picture.cut', { picture: 'c' }, 600);
    expect(at(700).top).toBeUndefined();
  });

  it('are added, ordered and removed, but not while they are up', () => {
    let x = must(sampleDesk(), 'lane.add', { name: 'Clock' });
    const id = last(x.show.lanes);
    x = must(must(x, 'lane.move', { lane: id, index: 0 }), 'lane.setContent', { lane: id, content: { kind: 'picture', id: 'card' } });
    expect(x.show.lanes.map((l) => l.name)[0]).toBe('Clock');
    const up = must(x, 'lane.show', { lane: id }, 0);
    expect(refused(up, 'lane.remove', { lane: id })?.code).toBe('in-use');
    expect(planFrame(up.show, up.air, 20).clean.lanes).toEqual([]);
    expect(must(x, 'lane.remove', { lane: id }).show.lanes).toHaveLength(3);
  });
});
