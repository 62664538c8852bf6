/** The compiled rules against class-validator itself, for every class that a command or a show is made of. */
import { validateSync } from 'class-validator';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sampleDesk } from '#tests/support/sample-show';
import { COMMANDS } from '../desk/registry';
import { Show } from '../desk/show';
import { check } from './check';
import { faultyFields } from './faulty-fields';
import { type Constructor, fieldsOf, LANGUAGE_NAMES } from './fields';

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

  it('let no identity be a name of the language itself, in a show or in a command', () => {
    expect(LANGUAGE_NAMES).toEqual(expect.arrayContaining(['constructor', 'toString', '__proto__', 'hasOwnProperty', 'valueOf']));
    for (const name of LANGUAGE_NAMES) {
      const { show } = sampleDesk();
      const first = { ...show.sources[0], id: name };
      expect(check(Show, { ...show, sources: [first, ...show.sources.slice(1)] })[0]?.path).toBe('sources[0].id');
      expect(check(Show, { ...show, lanes: [{ ...show.lanes[0], id: name }] })[0]?.path).toBe('lanes[0].id');
      for (const spec of COMMANDS) {
        for (const { name: field, type } of fieldsOf(spec.args)) {
          if (type !== 'id' && !type.startsWith('list of ids') && field !== 'deviceId') continue;
          const value = type === 'id' || field === 'deviceId' ? name : [name];
          const args = JSON.parse(`{${JSON.stringify(field)}:${JSON.stringify(value)}}`) as Record<string, unknown>;
          expect(faultyFields(spec.args, Object.assign(new spec.args(), args)), `${spec.type} ${field} ${name}`).toContain(field);
        }
      }
    }
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
