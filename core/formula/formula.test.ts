/** Formulas: what they come to, what they say when they come to nothing, and that every one of them ends. */
import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { rowsOfSheet } from '../sheets/rows';
import { evaluate, formulaOf, readsClocks } from './evaluate';
import { FUNCTIONS, rounded } from './functions';
import { FormulaError } from './parse';
import { type World } from './world';

const rows = ['Ada\t94,5\tPier', 'Bo\t87\tQuay', 'Cy\t94.5\t', 'Dee\t\tPier'];
Object.freeze(rows);
const own = rowsOfSheet({ columns: ['Name', 'Points', 'Club'], rows });
const world = (row = 0): World => ({
  field: (name) => (name.toLowerCase() === 'note' ? 'from the field' : undefined),
  own,
  row,
  sheet: (name) => (name === 'Pilots' ? own : null),
  clock: (name) => (name === 'Heat' ? 95 : name === 'Wall' ? null : undefined),
  seat: (name) => (name === 'Guest 1' ? { name: 'Vik Aasen', title: 'Judge' } : name === 'Host' ? null : undefined),
});

function said(text: string, row = 0): string {
  const formula = formulaOf(text);
  if (formula instanceof FormulaError) return `${formula.at}: ${formula.message}`;
  try {
    return evaluate(formula, world(row));
  } catch (error) {
    if (error instanceof FormulaError) return `${error.at}: ${error.message}`;
    throw error;
  }
}

describe('a formula', () => {
  it.each([
    ['1 + 2 * 3 - 4 / 2', '5'],
    ['-(2 + 3) % 3', '-2'],
    ['0.1 + 0.2', '0.3'],
    ['Points * 2', '189'],
    ['[Points] & " points"', '94,5 points'],
    ['upper(Name) & ", " & note', 'ADA, from the field'],
    ['if(Points > 90 and Club = "pier", "home", "away")', 'home'],
    ['if(empty(Club), "none", left(Club, 2))', 'Pi'],
    ['not (1 = 1) or "a" < "B"', 'yes'],
    ['"10" > "9"', 'yes'],
    ['fixed(round(1.005, 2), 2) & signed(-3) & grouped(1234567.891, 1)', '1.01−31\u202f234\u202f567.9'],
    ['ordinal(1) & ordinal(12) & ordinal(22) & padded(7, 3)', '1st12th22nd007'],
    ['time(clock("Heat")) & time(3725, "h:mm:ss") & time(-61.25, "m:ss.t")', '1:351:02:05−1:01.2'],
    ['clock("Wall")', '0'],
    ['rank([Points]) & rank([Points], "up") & row() & count([Points])', '1213'],
    ['sum([Points]) & " " & round(average([Points]), 1)', '276 92'],
    ['below([Name]) & below([Name], 9) & cell([Name], 3)', 'BoCy'],
    ['lookup("Pilots", "name", "BO", "Club") & lookup("Pilots", "Name", "Zed", "Club", "?")', 'Quay?'],
    ['min(3, Points, 5) & max(1, 2) & abs(-4) & floor(2.7) & ceil(2.1)', '32423'],
    ['middle("abcdef", 2, 3) & right("xyz") & length("äöü") & replace("a-b-c", "-", "+") & trim(" t ") & lower("A")', 'bcdz3a+b+cta'],
    ['contains(Name, "DA") & number("1 204,5")', 'yes1204.5'],
    ['"say ""hi"""', 'say "hi"'],
  ])('%s is %s', (text, result) => expect(said(text)).toBe(result));

  it.each([
    ['1 +', '3: Something is missing at the end.'],
    ['(1', '2: A ) is missing here.'],
    ['1 2', '2: “2” is one too many'],
    ['"open', '0: A text begins here and does not end'],
    ['nope(1)', '0: There is no function nope.'],
    ['round()', '0: round is written round(Points, 1): it was given 0 things.'],
    ['Name * 2', '0: “Ada” is no number.'],
    ['Nobody', '0: There is no column or field “Nobody”.'],
    ['1 / 0', '2: Nothing can be divided by 0.'],
    ['sum(Points + 1)', '11: sum works on a column, such as [Points].'],
    ['lookup("Pilots", "Name", "Zed", "Club")', '0: “Zed” does not stand in Name of Pilots.'],
    ['lookup("Nowhere", "a", "b", "c")', '0: There is no sheet “Nowhere”.'],
    ['time(1, "x")', '0: A time is written m:ss'],
    ['clock("Race")', '0: There is no clock “Race”.'],
    ['1 ; 2', '2: “;” means nothing here.'],
    [`1${'0'.repeat(400)}`, '0: This comes to no number.'],
    [`${'('.repeat(60)}1${')'.repeat(60)}`, '40: This is nested too deep.'],
  ])('%s says so: %s', (text, message) => expect(said(text)).toContain(message));

  it('of a row without a number has no rank; one that reads a clock is known', () => {
    expect(said('rank([Points])', 3)).toBe('0: Points of this row is no number.');
    expect([readsClocks('1 + clock("Heat")'), readsClocks('"clock"'), readsClocks('(')]).toEqual([true, false, false]);
  });

  it('never throws anything else, and always ends, whatever is written', () => {
    const names = fc.constantFrom(...FUNCTIONS.keys());
    const atom = fc.oneof(fc.nat(100).map(String), fc.constantFrom('[Points]', 'Name', '"a"', '""', 'yes', '1e9', '-'));
    const { tree } = fc.letrec<{ tree: string }>((tie) => ({
      tree: fc.oneof(
        { maxDepth: 5 },
        atom,
        fc.tuple(names, fc.array(tie('tree'), { maxLength: 4 })).map(([n, args]) => `${n}(${args.join(', ')})`),
        fc
          .tuple(tie('tree'), fc.constantFrom('+', '-', '*', '/', '%', '&', '=', '<', ' and ', ' or '), tie('tree'))
          .map((p) => `(${p.join('')})`),
      ),
    }));
    const text = fc.oneof(tree, fc.string({ unit: fc.constantFrom(...'()[]",+-*/&=<>%. 1aé\n'), maxLength: 60 }), fc.string());
    fc.assert(
      fc.property(text, (formula) => {
        expect(typeof said(formula)).toBe('string');
      }),
      { numRuns: 2000 },
    );
  });

  it('that is nested as deep as it may be is worked out once for each part', () => {
    expect(said(`${'replace('.repeat(38)}Name${', "x", "y")'.repeat(38)}`)).toBe('Ada');
    expect(said(`${'middle('.repeat(38)}"abc"${', 1, 9)'.repeat(38)}`)).toBe('abc');
  });

  it('cannot grow without end', () => {
    const twice = (text: string, times: number): string =>
      times === 0 ? text : twice(`replace(${text}, "a", "aaaaaaaaaaaaaaaaaaaa")`, times - 1);
    expect(said(twice('"aaaaaaaaaaaaaaaaaaaa"', 12))).toContain('more words than can be held');
  });

  it('rounds halves away from zero', () => {
    expect([rounded(2.5, 0), rounded(-2.5, 0), rounded(1.005, 2), rounded(1234, -2), rounded(-0.2, 0)]).toEqual([3, -3, 1.01, 1200, 0]);
  });

  it('has each of its functions described', () => {
    const page = readFileSync(new URL('../../docs/formulas.md', import.meta.url), 'utf8');
    for (const [name, { use, about }] of FUNCTIONS) {
      expect(use, name).toContain(`${name}(`);
      expect(page, name).toContain(`| \`${use}\` | ${about} |`);
    }
  });
});
