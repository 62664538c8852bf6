/** Tickers: even steps, items that join without a jump, urgent ones, pauses; and tables whose rows change places. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { type Desk } from '../desk/air';
import { tickersOnAir } from '../desk/keep-tickers';
import { planFrame } from '../picture/plan';
import { type TickerPiece, type TickerRun } from './air';
import { type Content } from './element';
import { wantedSizes } from './growing';
import { goOn, piecesIn, startRun, stepOf, type Strip, travelled } from './ticker';

const piece = (text: string, width = text.length * 10): TickerPiece => ({ text, width, end: true });
const strip = (words: string, change: Partial<Strip> = {}): Strip => ({
  list: words.split(' ').map((w) => piece(w)),
  between: 20,
  loops: true,
  step: 4,
  ...change,
});
const WIDTH = 200;
/** Left edges of what is in the box, with its words, at a frame. */
const shown = (run: TickerRun, frame: number) => {
  const come = travelled(run, frame);
  return piecesIn(run, come, WIDTH)
    .placed.filter((p) => p.offset < come && p.offset + p.piece.width > come - WIDTH && p.piece.text !== '')
    .map((p) => `${p.piece.text}@${WIDTH - come + p.offset}`);
};

describe('the strip', () => {
  it('goes on by the same whole number of pixels in every frame', () => {
    expect([stepOf(100, 1, 25), stepOf(100, 0.5, 25), stepOf(1, 1, 50), stepOf(110, 1, 50)]).toEqual([4, 4, 1, 2]);
    fc.assert(
      fc.property(fc.nat(5000), fc.constantFrom('aa bbb c', 'x', 'long-one another-long-one b'), (frame, words) => {
        const run = startRun(strip(words), 0, 0);
        const places = (at: number) => new Map(piecesIn(run, travelled(run, at), WIDTH).placed.map((p) => [p.offset, p]));
        for (const [offset] of places(frame)) {
          const next = places(frame + 1).get(offset);
          // It is still there, one step on, or has gone out at the end.
          if (next) expect(travelled(run, frame + 1) - travelled(run, frame)).toBe(4);
        }
        expect(shown(run, frame + 60).length).toBeGreaterThan(0);
      }),
    );
  });

  it('comes from the edge, goes round, and ends where it does not loop', () => {
    const run = startRun(strip('aa bbb'), 100, 100);
    expect([shown(run, 100), shown(run, 101), shown(run, 110)]).toEqual([[], ['aa@196'], ['aa@160']]);
    // 20 + 20 and 30 + 20: a round is 90 pixels.
    expect(shown(run, 150)).toEqual(['aa@0', 'bbb@40', 'aa@90', 'bbb@130', 'aa@180']);
    const once = startRun(strip('aa bbb', { loops: false }), 0, 0);
    expect([shown(once, 50), shown(once, 90)]).toEqual([['aa@0', 'bbb@40'], []]);
  });

  const words = fc.array(fc.constantFrom('a', 'bb', 'ccc', 'dddd', 'eeeeee'), { minLength: 1, maxLength: 6 });

  it('never jumps, whatever its list becomes: all that is in the box stays where it is', () => {
    fc.assert(
      fc.property(
        words,
        fc.array(fc.tuple(fc.integer({ min: 1, max: 90 }), words, fc.boolean()), { maxLength: 5 }),
        fc.boolean(),
        (first, changes, loops) => {
          let run = startRun(strip(first.join(' '), { loops }), 0, 0);
          let frame = 0;
          for (const [later, list, urgent] of changes) {
            frame += later;
            const before = shown(run, frame);
            run = goOn(run, strip(list.join(' '), { loops }), frame, WIDTH, urgent ? [piece('URGENT')] : []);
            expect(shown(run, frame)).toEqual(before);
            // What was there goes on at the same pace.
            const after = shown(run, frame + 5);
            for (const one of before) {
              const [text, x] = one.split('@') as [string, string];
              if (Number(x) - 20 + text.length * 10 > 0) expect(after).toContain(`${text}@${Number(x) - 20}`);
            }
          }
        },
      ),
    );
  });

  it('takes new items at its end, and an urgent one next', () => {
    const run = startRun(strip('aa bbb'), 0, 0);
    const more = goOn(run, strip('aa bbb cccc'), 15, WIDTH);
    expect(shown(more, 15)).toEqual(['aa@140', 'bbb@180']);
    expect(shown(more, 35)).toEqual(['aa@60', 'bbb@100', 'cccc@150']);
    const urgent = goOn(run, strip('aa bbb'), 15, WIDTH, [piece('NOW')]);
    expect(shown(urgent, 45)).toEqual(['aa@20', 'bbb@60', 'NOW@110', 'aa@160']);
    // One that has ended begins at the edge.
    const ended = goOn(startRun(strip('aa', { loops: false }), 0, 0), strip('aa bb', { loops: false }), 30, WIDTH);
    expect([shown(ended, 30), shown(ended, 31)]).toEqual([['aa@80'], ['aa@76', 'bb@196']]);
  });
});

/** A desk with a ticker in a lane; every letter is ten pixels wide. */
function onAir(content: object, frame = 0): { desk: Desk; element: string } {
  const plain = sampleDesk();
  const large = { ...plain, show: { ...plain.show, raster: { width: 640, height: 360 } } };
  let desk = must(must(large, 'graphic.add', { name: 'Line' }), 'lane.set', {
    lane: 'lane-1',
    follows: true,
    in: { kind: 'fade', edge: 'left', easing: 'linear', frames: 1 },
  });
  const graphic = desk.show.graphics.list.at(-1)?.id;
  const kind = (content as Content).kind;
  desk = must(desk, 'element.add', { graphic, kind, rect: { x: 100, y: 300, width: 500, height: 50 } });
  const element = desk.show.graphics.list.at(-1)?.elements[0];
  desk = must(desk, 'element.setContent', { graphic, element: element?.id, content: { ...element?.content, ...content } });
  desk = must(desk, 'lane.showPicture', { lane: 'lane-1', picture: graphic }, frame);
  return { desk: measured(desk, frame), element: element?.id ?? '' };
}

const measured = (desk: Desk, frame: number): Desk =>
  must(
    desk,
    'graphic.sizes',
    { sizes: [...wantedSizes(desk)].map(([key, { content }]) => ({ key, width: content.text.length * 10, height: 40 })) },
    frame,
  );

/** Words with their left edges, as the mixer gets them. */
const inPicture = ({ show, air }: Desk, frame: number): string[] =>
  planFrame(show, air, frame).programme.lanes.flatMap(({ texture, target }) => {
    const inked = texture.kind === 'paint' ? texture.paint.inked[0]?.element : undefined;
    return inked?.content.kind === 'text' && texture.kind === 'paint'
      ? [
          `${inked.content.text}@${Math.round(target.x - texture.paint.bounds.x + inked.x)},${Math.round(target.y - texture.paint.bounds.y + inked.y)}`,
        ]
      : [];
  });

describe('a ticker on air', () => {
  const LINE = { kind: 'ticker', items: ['one', 'two'], separator: '', gap: 20, speed: 250 };

  it('runs by the frame, stops, goes on from there, is cleared, and takes items while it runs', () => {
    const { desk, element } = onAir(LINE, 10);
    const graphic = desk.show.graphics.list.at(-1)?.id;
    expect(inPicture(desk, 20)).toEqual(['one@500,300', 'two@570,300']);
    expect(inPicture(desk, 30)).toEqual(['one@400,300', 'two@470,300', 'one@540,300']);
    const paused = must(desk, 'ticker.pause', { graphic }, 30);
    expect(inPicture(paused, 90)).toEqual(inPicture(desk, 30));
    const again = must(paused, 'ticker.pause', { graphic }, 90);
    expect(inPicture(again, 91)).toEqual(inPicture(desk, 31));
    expect(inPicture(must(desk, 'ticker.clear', { graphic }, 30), 30)).toEqual([]);
    const urgent = measured(must(desk, 'ticker.urgent', { graphic, text: ' now  this ' }, 30), 31);
    expect(inPicture(urgent, 31)).toEqual(inPicture(desk, 31));
    expect(inPicture(urgent, 46)).toContain('now this@450,300');
    const content = desk.show.graphics.list.at(-1)?.elements[0]?.content;
    const longer = measured(
      must(desk, 'element.setContent', { graphic, element, content: { ...content, items: ['one', 'two', 'three'] } }, 30),
      32,
    );
    expect(inPicture(longer, 33)).toEqual(inPicture(desk, 33));
    // It does not begin anew, and a second showing does.
    expect(tickersOnAir(longer.air)).toHaveLength(1);
    const twice = must(must(longer, 'lane.hide', { lane: 'lane-1' }, 60), 'lane.show', { lane: 'lane-1' }, 200);
    expect(inPicture(twice, 201)).toEqual(['one@590,300']);
    const hidden = must(longer, 'lane.hide', { lane: 'lane-1' }, 60);
    expect(attempt(hidden, 'ticker.pause', { graphic }, 100)).toMatchObject({ ok: false, error: { code: 'not-shown' } });
  });

  it('goes the other way, and parts a long item into pieces that meet', () => {
    const { desk } = onAir({ ...LINE, direction: 'right', items: ['one', 'two'] });
    expect(inPicture(desk, 10)).toEqual(['one@170,300', 'two@100,300']);
    const long = `${'word '.repeat(60)}end`;
    const { desk: far } = onAir({ ...LINE, items: [long] });
    const pieces = inPicture(far, 160).map((p) => p.split('@') as [string, string]);
    expect(pieces.length).toBeGreaterThan(1);
    pieces.slice(1).forEach(([, at], i) => {
      const [text, before] = pieces[i] as [string, string];
      expect(parseInt(at)).toBe(parseInt(before) + text.length * 10);
    });
  });

  it('is uncovered as one: a wipe opens its box, not each of its pieces', () => {
    const { desk } = onAir(LINE, 0);
    const graphic = desk.show.graphics.list.at(-1);
    const wiped = must(desk, 'element.set', {
      graphic: graphic?.id,
      elements: [graphic?.elements[0]?.id],
      in: { way: 'wipe', edge: 'left', easing: 'linear', start: 0, frames: 10 },
    });
    const again = must(must(wiped, 'lane.hide', { lane: 'lane-1' }, 100), 'lane.show', { lane: 'lane-1' }, 200);
    // Half of the way just the left half of the box is seen, and what comes is at its right.
    expect(inPicture(again, 205)).toEqual([]);
    expect(inPicture(again, 240)).not.toEqual([]);
  });

  it('of a sheet has the cells of its column', () => {
    let desk = must(sampleDesk(), 'sheet.add', { name: 'News' });
    const sheet = desk.show.sheets[0]?.id;
    for (const cells of [['first'], [''], ['second']]) desk = must(desk, 'sheet.addRow', { sheet, cells });
    desk = must(must(desk, 'graphic.add', {}), 'element.add', { graphic: 'names', kind: 'ticker' });
    const element = desk.show.graphics.list[0]?.elements.at(-1);
    desk = must(desk, 'element.setContent', {
      graphic: 'names',
      element: element?.id,
      content: { ...element?.content, sheetId: sheet, column: 'Name' },
    });
    expect(desk.show.graphics.list[0]?.elements.at(-1)?.content).toMatchObject({ items: ['first', 'second'] });
  });
});

describe('a table', () => {
  const table = (rows: string[]) => {
    let desk = must(sampleDesk(), 'sheet.add', { name: 'Pilots', source: { kind: 'file', fileName: 'p.csv' } });
    const sheet = desk.show.sheets[0]?.id;
    desk = must(must(desk, 'sheet.take', { sheet, columns: ['Name', 'Points'], rows }), 'sheet.set', { sheet, key: 'Name' });
    desk = must(must(desk, 'graphic.add', { name: 'Standings' }), 'lane.set', { lane: 'lane-1', follows: true });
    const graphic = desk.show.graphics.list.at(-1)?.id;
    desk = must(desk, 'element.add', { graphic, kind: 'table', rect: { x: 0, y: 0, width: 640, height: 300 } });
    const element = desk.show.graphics.list.at(-1)?.elements[0];
    const columns = ['Name', 'Points'].map((column) => ({ column, share: 1, across: 'left' }));
    const content = { ...element?.content, sheetId: sheet, columns, sortBy: 'Points', count: 3, rowHeight: 60, gap: 0, plate: null };
    desk = must(desk, 'element.setContent', { graphic, element: element?.id, content });
    return { desk: must(desk, 'lane.showPicture', { lane: 'lane-1', picture: graphic }, 0), sheet };
  };
  const at = (desk: Desk, frame: number, text: string) =>
    inPicture(desk, frame)
      .find((p) => p.startsWith(`${text}@`))
      ?.split(',')[1];

  it('shows the first rows in order, equal ones with the same place', () => {
    const { desk } = table(['Ada\t5', 'Bo\t9,5', 'Cy\t9.5', 'Dee\t', 'Eli\t7']);
    expect(desk.show.graphics.list.at(-1)?.elements[0]?.content).toMatchObject({
      rows: [
        { key: 'Bo', cells: ['1', 'Bo', '9,5'] },
        { key: 'Cy', cells: ['1', 'Cy', '9.5'] },
        { key: 'Eli', cells: ['3', 'Eli', '7'] },
      ],
    });
  });

  it('moves rows to their new places as their order changes, while places stay', () => {
    const { desk, sheet } = table(['Ada\t5', 'Bo\t9', 'Cy\t7']);
    expect([at(desk, 90, 'Bo'), at(desk, 90, 'Cy'), at(desk, 90, 'Ada')]).toEqual(['0', '60', '120']);
    const next = must(desk, 'sheet.refresh', { sheet, columns: ['Name', 'Points'], rows: ['Ada\t10', 'Bo\t9', 'Cy\t7'] }, 100);
    const heights = [100, 103, 106, 109, 112].map((frame) => Number(at(next, frame, 'Ada')));
    expect([heights[0], heights.at(-1)]).toEqual([120, 0]);
    heights.slice(1).forEach((y, i) => expect(y).toBeLessThan(heights[i] as number));
    expect([at(next, 112, 'Bo'), at(next, 112, 'Cy'), at(next, 112, '10')]).toEqual(['60', '120', '0']);
    expect(
      inPicture(next, 106)
        .filter((p) => /^[123]@/.test(p))
        .map((p) => p.split(',')[1]),
    ).toEqual(['0', '60', '120']);
  });
});
