/** The compiled rules against class-validator itself, for every class that a command or a show is made of. */
import { validateSync } from 'class-validator';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sampleDesk } from '#tests/support/sample-show';
import { COMMANDS } from '../commands/registry';
import { Show } from '../show/show';
import { check } from './check';
import { faultyFields } from './faulty-fields';
import { type Constructor, fieldsOf } from './fields';

function classesIn(of: Constructor, found = new Set<Constructor>()): Set<Constructor> {
  if (found.has(of)) return found;
  found.add(of);
  for (const { nested } of fieldsOf(of)) if (nested) classesIn(nested.of(), found);
  return found;
}

const CLASSES = [...COMMANDS.map((c) => c.args), Show].flatMap((of) => [...classesIn(of)]);

const anyValue = fc.oneof(
  fc.constantFrom(undefined, null, '', 'a-b_3', 'stream', 'not an id!', '#1b2a2e', '#zz', true, false, Number.NaN, Infinity),
  fc.integer({ min: -20, max: 5000 }),
  fc.double({ min: -100, max: 100, noNaN: true }),
  fc.array(fc.constantFrom<unknown>('left', 'a', 'no id!', 7, null), { maxLength: 4 }),
  fc.constant({ kind: 'colour' }),
);

describe('rules of fields', () => {
  it('say of any values of any class what class-validator says', () => {
    fc.assert(
      fc.property(fc.constantFrom(...CLASSES), fc.infiniteStream(anyValue), (of, values) => {
        const object = new of() as Record<string, unknown>;
        for (const { name } of fieldsOf(of)) object[name] = values.next().value;
        const reference = validateSync(object, { forbidUnknownValues: false }).map((e) => e.property);
        expect(faultyFields(of, object).sort()).toEqual(reference.sort());
      }),
      { numRuns: 1500, seed: 5 },
    );
  });

  it('name the place, and what is wrong there', () => {
    const show = JSON.parse(JSON.stringify(sampleDesk().show)) as { sources: { name: unknown; colour?: string }[] };
    const [first, second] = show.sources as [{ name: unknown }, { name: unknown; size?: number }];
    first.name = 7;
    second.size = 3;
    expect(check(Show, show)).toEqual([
      { path: 'sources[0].name', message: expect.stringMatching(/^must be text.*not 7$/) as string },
      { path: 'sources[1].size', message: 'is not a known field' },
    ]);
  });
});
