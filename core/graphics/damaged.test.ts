/** Graphics from outside that were damaged in every way: refused in words with their place, or taken whole; never half, never a throw. */
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { attempt, sampleDesk } from '#tests/support/sample-show';
import { planFrame } from '../picture/plan';
import { showProblems } from '../desk/validate';
import { execute } from '../desk/execute';
import { GALLERY } from './gallery/gallery';

const PARTS = [
  'elements',
  'fields',
  'entries',
  'raster',
  'x',
  'width',
  'content',
  'kind',
  'fill',
  'targets',
  'values',
  'value',
  'id',
  'parentId',
  'in',
  'frames',
  'style',
  'size',
  'constructor',
];
const VALUES = [
  null,
  1e308,
  -1,
  '',
  'x'.repeat(300),
  [],
  {},
  true,
  '__proto__',
  [[[[[]]]]],
  { kind: 'group' },
  { kind: 'picture', pictureId: 'g' },
];

/** The same JSON with the nth object that has this name getting another value there. */
function spoiled(raw: unknown, name: string, nth: number, value: unknown): unknown {
  let seen = 0;
  return JSON.parse(JSON.stringify(raw), (key, old: unknown) => (key === name && (seen += 1) === nth ? value : old));
}

it('are refused or taken, and what is taken can be shown', () => {
  const texts = GALLERY.map(({ make }) => make());
  fc.assert(
    fc.property(
      fc.constantFrom(...texts),
      fc.constantFrom(...PARTS),
      fc.integer({ min: 1, max: 12 }),
      fc.constantFrom(...VALUES),
      (graphic, name, nth, value) => {
        const desk = sampleDesk();
        const outcome = attempt(desk, 'graphic.bring', { graphic: spoiled(graphic, name, nth, value) });
        if (!outcome.ok) {
          expect(outcome.error.message.length).toBeGreaterThan(10);
          return;
        }
        expect(showProblems(JSON.parse(JSON.stringify(outcome.desk.show)))).toEqual([]);
        const shown = execute(
          outcome.desk,
          { type: 'lane.showPicture', args: { lane: 'lane-1', picture: outcome.result.id } },
          { frame: 0, newId: () => 'x' },
        );
        if (shown.ok) for (const frame of [0, 3, 100]) planFrame(shown.desk.show, shown.desk.air, frame);
      },
    ),
    { numRuns: 300 },
  );
}, 60_000);
