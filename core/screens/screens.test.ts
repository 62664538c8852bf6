/** Outputs of a show's own: what they show, what stands in for a moment, and what test pictures are drawn of. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { type Desk } from '../desk/air';
import { usesOf } from '../desk/uses';
import { type DrawItem } from '../picture/draw';
import { planFrame } from '../picture/plan';
import { type Raster } from '../show/raster';
import { PATTERNS } from './document';
import { findOutput, outputsOf } from './outputs';
import { planOutput } from './plan';
import { cardPlan, gridCell, testPlan } from './test-pictures';

const withOutput = (args: Record<string, unknown> = {}): { desk: Desk; id: string } => {
  const desk = must(sampleDesk(), 'screen.add', { name: 'Foyer', ...args });
  return { desk, id: desk.show.screens.outputs[0]!.id };
};
const shown = ({ show, air }: Desk, id: string, frame = 10) => planOutput(planFrame(show, air, frame), show, air, findOutput(show, id)!);
const someRaster = fc
  .record({ width: fc.integer({ min: 32, max: 4000 }), height: fc.integer({ min: 32, max: 2400 }) })
  .map(({ width, height }): Raster => ({ width: width * 2, height: height * 2 }));
const colours = (items: readonly DrawItem[]) => items.filter((i) => i.texture.kind === 'colour');

describe('outputs of a show', () => {
  it('stand behind programme and clean programme, and show the clean one at first', () => {
    const { desk, id } = withOutput();
    expect(outputsOf(desk.show).map((o) => o.name)).toEqual(['Programme', 'Clean programme', 'Foyer']);
    const on = must(must(desk, 'picture.cut', { picture: 'a' }), 'lane.showPicture', { lane: 'lane-1', picture: 'b' });
    expect(shown(on, id, 100).plan.lanes).toEqual([]);
    const programme = must(on, 'screen.set', { output: id, shows: { kind: 'programme' } });
    expect(shown(programme, id, 100).plan).toEqual(planFrame(programme.show, programme.air, 100).programme);
  });

  it('show one picture by itself, and black when that is gone', () => {
    const { desk, id } = withOutput({ shows: { kind: 'picture', pictureId: 'b' } });
    expect(shown(desk, id).plan.base.map((i) => i.sourceId)).toEqual(['b']);
    expect(usesOf(desk.show, desk.air, 'source', 'b', 0).map((u) => u.place)).toContain('output Foyer');
    const gone = must(desk, 'source.remove', { source: 'b', force: true });
    expect(gone.show.screens.outputs[0]?.shows).toEqual({ kind: 'picture', pictureId: null });
    expect(shown(gone, id).plan.base).toEqual([]);
    const unknown = attempt(desk, 'screen.set', { output: id, shows: { kind: 'picture', pictureId: 'nobody' } });
    expect(unknown).toMatchObject({ ok: false, error: { field: 'shows.pictureId' } });
  });

  it('show something else for a moment, one or all, and go on with what they show', () => {
    const { desk: one, id } = withOutput();
    const desk = must(one, 'screen.add', { name: 'Hall' });
    const other = desk.show.screens.outputs[1]!.id;
    const tested = must(desk, 'screen.over', { outputs: [], over: { kind: 'test', pattern: 'bars' } });
    expect([shown(tested, id).plan.base.length, shown(tested, other).plan.base.length]).toEqual([8, 8]);
    // The audience of the stream sees nothing of it.
    expect(planFrame(tested.show, tested.air, 10)).toEqual(planFrame(desk.show, desk.air, 10));
    const released = must(tested, 'screen.over', { outputs: [id], over: null });
    expect(Object.keys(released.air.screens.over)).toEqual([other]);
    expect(shown(must(released, 'screen.over', { outputs: [id], over: { kind: 'black' } }), id).plan.base).toEqual([]);
    expect(must(released, 'screen.remove', { output: other }).air.screens.over).toEqual({});
  });

  it('leave at their own rate: so many frames of the show are one of theirs', () => {
    const { desk, id } = withOutput();
    const slots = (d: Desk) =>
      [0, 1, 2, 3, 4, 5, 6].map((frame) => planOutput(planFrame(d.show, d.air, frame), d.show, d.air, findOutput(d.show, id)!).slot);
    expect(slots(desk)).toEqual([0, 1, 2, 3, 4, 5, 6]);
    expect(slots(must(desk, 'screen.set', { output: id, frameStep: 3 }))).toEqual([0, 0, 0, 1, 1, 1, 2]);
    expect(attempt(desk, 'screen.set', { output: id, frameStep: 0 }).ok).toBe(false);
    expect(attempt(desk, 'screen.set', { output: id, frameStep: 11 }).ok).toBe(false);
  });

  it('never change their pixels, or go, while they are recorded; gone, the programme is recorded', () => {
    const { desk, id } = withOutput();
    const set = must(desk, 'output.setRecording', { outputId: id });
    const recording = must(set, 'output.startRecording');
    for (const [type, args] of [
      ['screen.remove', {}],
      ['screen.set', { raster: { width: 320, height: 180 } }],
      ['screen.set', { frameStep: 2 }],
    ] as const)
      expect(attempt(recording, type, { output: id, ...args })).toMatchObject({ ok: false, error: { code: 'output-running' } });
    expect(attempt(recording, 'screen.set', { output: id, shows: { kind: 'programme' } }).ok).toBe(true);
    expect(must(set, 'screen.remove', { output: id }).show.output.recording.outputId).toBe('programme');
    expect(attempt(desk, 'screen.set', { output: id, raster: { width: 321, height: 180 } })).toMatchObject({
      ok: false,
      error: { code: 'odd-raster' },
    });
    expect(attempt(desk, 'screen.set', { output: 'programme', name: 'Mine' }).ok).toBe(false);
  });
});

describe('test pictures', () => {
  it('cover every raster without gaps, within what a picture may hold', () => {
    fc.assert(
      fc.property(someRaster, fc.constantFrom(...PATTERNS), fc.nat(10_000), (raster, pattern, frame) => {
        const { base } = testPlan(pattern, raster, frame);
        expect(base.length).toBeLessThanOrEqual(256);
        for (const { target: t } of colours(base)) {
          expect(t.x).toBeGreaterThanOrEqual(0);
          expect(t.x + t.width).toBeLessThanOrEqual(raster.width);
          expect(t.y + t.height).toBeLessThanOrEqual(raster.height);
        }
        // The first item fills it, or columns do, each beginning where the one before ends.
        const first = base[0]!.target;
        if (first.width === raster.width && first.height === raster.height) return;
        let at = 0;
        for (const { target } of base) {
          expect(target.x).toBe(at);
          at += target.width;
        }
        expect(at).toBe(raster.width);
      }),
      { numRuns: 100 },
    );
  });

  it('rise evenly from black to white, in all parts of grey', () => {
    const greys = testPlan('ramp', { width: 1980, height: 64 }, 0).base.map((i) =>
      i.texture.kind === 'colour' ? parseInt(i.texture.colour.slice(1, 3), 16) : -1,
    );
    expect([greys[0], greys[16], greys.at(-1)]).toEqual([0, 128, 255]);
    expect(greys.every((g, i) => i === 0 || g > greys[i - 1]!)).toBe(true);
  });

  it('have their grid at round numbers of pixels', () => {
    fc.assert(
      fc.property(someRaster, (raster) => {
        const cell = gridCell(raster);
        expect(/^[125]0*$|^250*$/.test(String(cell))).toBe(true);
        const across = Math.max(raster.width, raster.height) / cell;
        expect(across).toBeGreaterThan(4);
        expect(across).toBeLessThanOrEqual(12);
      }),
    );
  });

  it('sweep evenly: where the line is, is a function of the frame', () => {
    const raster = { width: 1200, height: 600 };
    const at = (frame: number) => testPlan('sweep', raster, frame).base.at(-1)!.target.x;
    expect(at(0)).toBe(0);
    expect(at(75) - at(25)).toBe(at(125) - at(75));
    expect(at(150)).toBe(0);
  });

  it('say on the card who the output is, how many pixels it has, and where it stands', () => {
    const text = JSON.stringify(cardPlan({ name: 'Foyer left' }, { width: 1920, height: 1080 }, 'Projector 2'));
    for (const words of ['Foyer left', '1920×1080', 'Projector 2']) expect(text).toContain(words);
  });
});
