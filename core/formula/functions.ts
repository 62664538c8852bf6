/** The functions of formulas: one table, from which they are run, checked and described. */
import { below, columnOf, folded } from './columns';
import { FormulaError } from './parse';
import { type Rows, type World } from './world';

export type Result = number | string | boolean;

/** What a function may ask of its arguments; they are worked out when they are asked for, so that `if` leaves one alone. */
export interface Args {
  count: number;
  at: number;
  world: World;
  value: (i: number) => Result;
  number: (i: number) => number;
  text: (i: number) => string;
  truth: (i: number) => boolean;
  /** An argument that is the name of a column: `[Points]`. */
  column: (i: number) => { rows: Rows; column: number; name: string };
}

interface FunctionSpec {
  least: number;
  most: number;
  /** How it is written. */
  use: string;
  about: string;
  run: (args: Args) => Result;
}

/** Most characters that a formula may come to. */
export const MOST_RESULT = 10_000;

const within = (n: number, least: number, most: number): number => Math.min(most, Math.max(least, Math.round(n)));

/** `n` with so many decimals, halves away from zero. */
export function rounded(n: number, decimals: number): number {
  const by = 10 ** within(decimals, -12, 12);
  const scaled = Math.abs(n) * by;
  // A hair is added, as 1.005 is a little less than it is written.
  return (Math.sign(n) * Math.round(scaled + scaled * 1e-15)) / by || 0;
}

function fixed(n: number, decimals: number): string {
  const d = within(decimals, 0, 12);
  return rounded(n, d).toFixed(d);
}

const grouped = (words: string): string => words.replace(/^(-?\d+)/u, (whole) => whole.replaceAll(/\B(?=(?:\d{3})+$)/gu, '\u202f'));

const ENDINGS = ['th', 'st', 'nd', 'rd'];

function ordinal(n: number): string {
  const whole = Math.round(n);
  const last = Math.abs(whole) % 100;
  return `${whole}${(last >= 11 && last <= 13 ? undefined : ENDINGS[last % 10]) ?? 'th'}`;
}

/** Whoever sits in the seat that is named. @throws FormulaError where there is no such seat */
function sitter(args: Args): { name: string; title: string } | null {
  const found = args.world.seat(args.text(0));
  if (found === undefined) throw new FormulaError(`There is no seat “${args.text(0).slice(0, 40)}”.`, args.at);
  return found;
}

/** Seconds as a time: `m:ss`, `h:mm:ss`, or with tenths `m:ss.t`. */
function timed(seconds: number, format: string, at: number): string {
  const tenths = Math.floor(Math.abs(seconds) * 10 + 1e-6);
  const [whole, sign] = [Math.floor(tenths / 10), seconds < 0 && tenths > 0 ? '−' : ''];
  const two = (n: number) => String(n).padStart(2, '0');
  const [h, m, s] = [Math.floor(whole / 3600), Math.floor(whole / 60), whole % 60];
  if (format === 'm:ss') return `${sign}${m}:${two(s)}`;
  if (format === 'm:ss.t') return `${sign}${m}:${two(s)}.${tenths % 10}`;
  if (format === 'h:mm:ss') return `${sign}${h}:${two(m % 60)}:${two(s)}`;
  throw new FormulaError(`A time is written m:ss, m:ss.t or h:mm:ss, not “${format.slice(0, 20)}”.`, at);
}

/** The rows of the entry's own sheet, and its own. @throws FormulaError when it has none. */
function ownRows({ world, at }: Args): { rows: Rows; row: number } {
  if (!world.own || world.row < 0) throw new FormulaError('This entry comes from no row of a sheet.', at);
  return { rows: world.own, row: world.row };
}

const optional = (args: Args, i: number, otherwise: number): number => (args.count > i ? args.number(i) : otherwise);

/** The cell of the column in the first argument, so many rows from the entry's own. */
function beside(args: Args, by: number): string {
  const { row } = ownRows(args);
  const { rows, column } = args.column(0);
  return rows.cell(row + by * within(optional(args, 1, 1), 0, 1e6), column);
}

function lookup(args: Args): string {
  const name = args.text(0);
  const rows = args.world.sheet(name);
  if (!rows) throw new FormulaError(`There is no sheet “${name.slice(0, 40)}”.`, args.at);
  const at = (i: number) => {
    const column = rows.columnAt(args.text(i));
    if (column < 0) throw new FormulaError(`The sheet ${name} has no column “${args.text(i).slice(0, 40)}”.`, args.at);
    return column;
  };
  const row = columnOf(rows, at(1)).places.get(folded(args.text(2)));
  if (row !== undefined) return rows.cell(row, at(3));
  if (args.count > 4) return args.text(4);
  throw new FormulaError(`“${args.text(2).slice(0, 40)}” does not stand in ${args.text(1)} of ${name}.`, args.at);
}

function rank(args: Args): number {
  const { row } = ownRows(args);
  const { rows, column, name } = args.column(0);
  const { numbers, sorted } = columnOf(rows, column);
  const own = numbers[row];
  if (own === null || own === undefined) throw new FormulaError(`${name} of this row is no number.`, args.at);
  // Equal numbers share a place.
  return args.count > 1 && args.text(1).toLowerCase() === 'up'
    ? below(sorted, own) + 1
    : sorted.length - below(sorted, own + Math.max(1e-9, Math.abs(own) * 1e-12)) + 1;
}

const overColumn = (of: (column: ReturnType<typeof columnOf>) => number) => (args: Args) => {
  const { rows, column } = args.column(0);
  return of(columnOf(rows, column));
};

const numbersOf = (args: Args): number[] => Array.from({ length: args.count }, (_, i) => args.number(i));

const text = (use: string, about: string, run: (words: string, args: Args) => Result, most = 1): FunctionSpec => ({
  least: 1,
  most,
  use,
  about,
  run: (args) => run(args.text(0), args),
});
const number = (use: string, about: string, run: (n: number, args: Args) => Result, most = 1): FunctionSpec => ({
  least: 1,
  most,
  use,
  about,
  run: (args) => run(args.number(0), args),
});
const column = (use: string, about: string, run: (args: Args) => Result, most = 1): FunctionSpec => ({ least: 1, most, use, about, run });

/** Every function by its name. */
export const FUNCTIONS = new Map<string, FunctionSpec>(
  Object.entries<FunctionSpec>({
    if: {
      least: 3,
      most: 3,
      use: 'if(Points > 90, "wow", "")',
      about: 'the second when the first is true, else the third',
      run: (args) => (args.truth(0) ? args.value(1) : args.value(2)),
    },
    empty: text('empty(Club)', 'true when there are no words', (words) => words.trim() === ''),
    round: number(
      'round(Points, 1)',
      'rounded to so many decimals; whole without a second',
      (n, args) => rounded(n, optional(args, 1, 0)),
      2,
    ),
    floor: number('floor(Points)', 'the whole number below', Math.floor),
    ceil: number('ceil(Points)', 'the whole number above', Math.ceil),
    abs: number('abs(Gap)', 'without its sign', Math.abs),
    min: { least: 1, most: 20, use: 'min(Heat1, Heat2)', about: 'the smallest', run: (args) => Math.min(...numbersOf(args)) },
    max: { least: 1, most: 20, use: 'max(Heat1, Heat2)', about: 'the largest', run: (args) => Math.max(...numbersOf(args)) },
    fixed: number('fixed(Points, 2)', 'with just so many decimals, as words', (n, args) => fixed(n, optional(args, 1, 0)), 2),
    grouped: number(
      'grouped(Votes)',
      'thousands set apart; a second says how many decimals',
      (n, args) => grouped(fixed(n, optional(args, 1, 0))),
      2,
    ),
    signed: number(
      'signed(Gap, 1)',
      'with + or −; a second says how many decimals',
      (n, args) => {
        const words = fixed(Math.abs(n), optional(args, 1, 0));
        return `${Number(words) === 0 ? '±' : n > 0 ? '+' : '−'}${words}`;
      },
      2,
    ),
    ordinal: number('ordinal(rank([Points]))', '1st, 2nd, 3rd', ordinal),
    padded: number(
      'padded(Bib, 3)',
      'with zeros in front up to so many digits',
      (n, args) => String(Math.round(n)).padStart(within(optional(args, 1, 2), 0, 20), '0'),
      2,
    ),
    time: number(
      'time(clock("Heat"), "m:ss")',
      'seconds as m:ss, m:ss.t or h:mm:ss',
      (n, args) => timed(n, args.count > 1 ? args.text(1) : 'm:ss', args.at),
      2,
    ),
    number: text('number("1 204,5")', 'the number that words are', (_, args) => args.number(0)),
    upper: text('upper(Name)', 'in capitals', (words) => words.toLocaleUpperCase()),
    lower: text('lower(Name)', 'in small letters', (words) => words.toLocaleLowerCase()),
    trim: text('trim(Name)', 'without spaces at its ends', (words) => words.trim()),
    length: text('length(Name)', 'how many letters', (words) => [...words].length),
    left: text(
      'left(Name, 1)',
      'the first letters',
      (words, args) => [...words].slice(0, within(optional(args, 1, 1), 0, 1e4)).join(''),
      2,
    ),
    right: text(
      'right(Bib, 2)',
      'the last letters',
      (words, args) => [...words].slice(Math.max(0, [...words].length - within(optional(args, 1, 1), 0, 1e4))).join(''),
      2,
    ),
    middle: {
      least: 3,
      most: 3,
      use: 'middle(Code, 2, 3)',
      about: 'so many letters from the one with this number on',
      run: (args) => {
        const from = within(args.number(1), 1, 1e4) - 1;
        return [...args.text(0)].slice(from, from + within(args.number(2), 0, 1e4)).join('');
      },
    },
    contains: {
      least: 2,
      most: 2,
      use: 'contains(Club, "Pier")',
      about: 'true when the second stands in the first',
      run: (args) => folded(args.text(0)).includes(folded(args.text(1))),
    },
    replace: {
      least: 3,
      most: 3,
      use: 'replace(Name, "-", " ")',
      about: 'the second, wherever it stands in the first, becomes the third',
      run: (args) =>
        args.text(1) === ''
          ? args.text(0)
          : args
              .text(0)
              .slice(0, MOST_RESULT)
              .replaceAll(args.text(1), () => args.text(2)),
    },
    row: {
      least: 0,
      most: 0,
      use: 'row()',
      about: 'the number of the row, from 1',
      run: (args) => ownRows(args).row + 1,
    },
    above: column('above([Points])', 'the cell of a row above; a second says how far', (args) => beside(args, -1), 2),
    below: column('below([Points])', 'the cell of a row below; a second says how far', (args) => beside(args, 1), 2),
    cell: column(
      'cell([Name], 1)',
      'the cell of the row with this number',
      (args) => {
        const { rows, column: at } = args.column(0);
        return rows.cell(Math.round(optional(args, 1, 1)) - 1, at);
      },
      2,
    ),
    rank: column('rank([Points])', 'the place by this column, the largest first; with "up" the smallest', rank, 2),
    sum: column(
      'sum([Points])',
      'all of a column together',
      overColumn((c) => c.sum),
    ),
    average: column('average([Points])', 'the mean of a column', (args) => {
      const { rows, column: at, name } = args.column(0);
      const { sum, sorted } = columnOf(rows, at);
      if (sorted.length === 0) throw new FormulaError(`${name} has no numbers.`, args.at);
      return sum / sorted.length;
    }),
    count: column(
      'count([Points])',
      'how many numbers a column has',
      overColumn((c) => c.sorted.length),
    ),
    lookup: {
      least: 4,
      most: 5,
      use: 'lookup("Pilots", "Bib", Bib, "Club", "")',
      about: 'the cell of another sheet, in the row where a column has this value; a fifth stands for none',
      run: lookup,
    },
    clock: {
      least: 1,
      most: 1,
      use: 'clock("Heat")',
      about: 'whole seconds that a clock shows',
      run: (args) => {
        const seconds = args.world.clock(args.text(0));
        if (seconds === undefined) throw new FormulaError(`There is no clock “${args.text(0).slice(0, 40)}”.`, args.at);
        return seconds ?? 0;
      },
    },
    seat: {
      least: 1,
      most: 1,
      use: 'seat("Guest 1")',
      about: 'name of whoever sits in a seat; nothing while it is empty',
      run: (args) => sitter(args)?.name ?? '',
    },
    title: {
      least: 1,
      most: 1,
      use: 'title("Guest 1")',
      about: 'what is said of the guest who sits in a seat, such as an office',
      run: (args) => sitter(args)?.title ?? '',
    },
  }),
);
