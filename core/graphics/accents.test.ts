/** Other styles inside a text: signs, lines, sizes. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { accented, carried, marked, runsOf, withoutSigns } from './accents';
import { createAccent, textStyle } from './create';
import { layoutText, lettersOf, type Measure, sizeOfText } from './text-layout';

const STAR = createAccent('*', { weight: 700 });
const LINE = createAccent('_', { size: 2, italic: true });
const BOTH = [STAR, LINE];
const runs = (text: string, accents = BOTH) => runsOf(marked(text, accents), accents).map((r) => [r.text, r.accent?.sign ?? '']);

/** A font whose letters are half as wide as high; those of an accent by its size. */
const half: Measure = {
  width: (text) => runsOf(text, BOTH).reduce((sum, r) => sum + lettersOf(r.text).length * 10 * (r.accent?.size ?? 1), 0),
  ascent: 0.8,
  descent: 0.2,
  tall: (line) => Math.max(...runsOf(line, BOTH).map((r) => r.accent?.size ?? 1), 0) || 1,
};

describe('signs', () => {
  it('set what stands between two of them; others stay as they are typed', () => {
    expect(runs('Ada *Berg*, _judge_')).toEqual([
      ['Ada ', ''],
      ['Berg', '*'],
      [', ', ''],
      ['judge', '_'],
    ]);
    for (const text of ['2 * 3 * 4', 'a*b', '~soft~', 'one *two\nthree* four', '**']) expect(withoutSigns(text, BOTH)).toBe(text);
    expect(runs('\\*not\\* *but* this')).toEqual([
      ['*not* ', ''],
      ['but', '*'],
      [' this', ''],
    ]);
    expect(runs('*all* as typed', [])).toEqual([['*all* as typed', '']]);
  });

  it('lose no letter and add none, whatever is typed', () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom('a', '*', '_', ' ', '\n', '\\', '\ufdd1', 'é'), maxLength: 40 }), (text) => {
        const read = withoutSigns(text, BOTH);
        const letters = (t: string) => t.replace(/[*_\\\ufdd1]/gu, '');
        expect(letters(read)).toBe(letters(text));
        expect(
          runsOf(marked(text, BOTH), BOTH)
            .map((r) => r.text)
            .join(''),
        ).toBe(read);
      }),
    );
  });

  it('go on in the next line where a word of theirs is broken', () => {
    const set = layoutText('*abcdefgh* ij', textStyle(20, { size: 20, wrap: true, overflow: 'spill' }), 40, 200, half, BOTH);
    expect(set.lines.map((l) => runsOf(l.text, BOTH).map((r) => [r.text, r.accent?.sign ?? '']))).toEqual([
      [['abcd', '*']],
      [['efgh', '*']],
      [['ij', '']],
    ]);
    expect(carried(['a', 'b'])).toEqual(['a', 'b']);
  });
});

describe('a line with larger words', () => {
  it('is as high as they are, and its box as large', () => {
    const style = textStyle(20, { size: 20, lineHeight: 1, down: 'top', overflow: 'grow' });
    const set = layoutText('one\n_two_\nthree', style, 400, 20, half, BOTH);
    expect(set.lines.map((l) => l.y)).toEqual([16, 56, 76]);
    expect(sizeOfText('one\n_two_\nthree', style, BOTH, 400, half)).toEqual({ width: 60, height: 80 });
    expect(set.cut).toBe(false);
    expect(accented(style, LINE)).toMatchObject({ size: 40, italic: true, family: style.family });
  });

  it('counts for what fits, too', () => {
    const style = textStyle(20, { size: 20, lineHeight: 1, overflow: 'ellipsis' });
    expect(layoutText('_one_\ntwo', style, 400, 40, half, BOTH).lines).toHaveLength(1);
    expect(layoutText('_one_\ntwo', style, 400, 60, half, BOTH).lines).toHaveLength(2);
  });
});
