/** What a formula comes to. Every formula ends: there is nothing in it that repeats, and what it works on is bounded. */
import { numberOfWords } from '../sheets/numbers';
import { folded } from './columns';
import { type Args, FUNCTIONS, MOST_RESULT, type Result } from './functions';
import { FormulaError, type Node, type Operator, parseFormula, partsOf } from './parse';
import { type World } from './world';

/** A result as words: numbers without more digits than mean something. */
export function wordsOfResult(result: Result): string {
  if (typeof result === 'boolean') return result ? 'yes' : 'no';
  return typeof result === 'number' ? String(Number(result.toPrecision(12))) : result;
}

function numberOf(result: Result, at: number): number {
  if (typeof result === 'number') return result;
  if (typeof result === 'boolean') return result ? 1 : 0;
  const number = result.trim() === '' ? 0 : numberOfWords(result);
  if (number === null) throw new FormulaError(`“${result.slice(0, 30)}” is no number.`, at);
  return number;
}

function truthOf(result: Result): boolean {
  if (typeof result === 'string') return !['', '0', 'no', 'false'].includes(folded(result));
  return typeof result === 'number' ? result !== 0 : result;
}

function checked(result: Result, at: number): Result {
  if (typeof result === 'number' && !Number.isFinite(result)) throw new FormulaError('This comes to no number.', at);
  if (typeof result === 'string' && result.length > MOST_RESULT) throw new FormulaError('This comes to more words than can be held.', at);
  return result;
}

const words = new Intl.Collator(undefined, { sensitivity: 'base' });

/** Less than zero, zero or more, as the first comes before, with or after the second: numbers where both are some. */
function compare(a: Result, b: Result): number {
  const numeric = (r: Result) => (typeof r === 'number' ? r : typeof r === 'boolean' ? Number(r) : numberOfWords(r));
  const [x, y] = [numeric(a), numeric(b)];
  return x !== null && y !== null ? x - y : words.compare(wordsOfResult(a).trim(), wordsOfResult(b).trim());
}

const COMPARE: Partial<Record<Operator, (order: number) => boolean>> = {
  '=': (o) => o === 0,
  '<>': (o) => o !== 0,
  '<': (o) => o < 0,
  '<=': (o) => o <= 0,
  '>': (o) => o > 0,
  '>=': (o) => o >= 0,
};

function operate({ operator, left, right, at }: Extract<Node, { kind: 'operator' }>, world: World): Result {
  if (operator === 'and') return truthOf(run(left, world)) && truthOf(run(right, world));
  if (operator === 'or') return truthOf(run(left, world)) || truthOf(run(right, world));
  const [a, b] = [run(left, world), run(right, world)];
  if (operator === '&') return wordsOfResult(a) + wordsOfResult(b);
  const comparison = COMPARE[operator];
  if (comparison) return comparison(compare(a, b));
  const [x, y] = [numberOf(a, left.at), numberOf(b, right.at)];
  if ((operator === '/' || operator === '%') && y === 0) throw new FormulaError('Nothing can be divided by 0.', at);
  if (operator === '+') return x + y;
  if (operator === '-') return x - y;
  if (operator === '*') return x * y;
  return operator === '/' ? x / y : x % y;
}

/** A column of the row, else a field of the entry. */
function cellOf(name: string, at: number, { own, row, field }: World): string {
  const column = own && row >= 0 ? own.columnAt(name) : -1;
  const found = own && column >= 0 ? own.cell(row, column) : field(name);
  if (found === undefined) throw new FormulaError(`There is no column or field “${name.slice(0, 40)}”. Write words in "quotes".`, at);
  return found;
}

function call({ name, args, at }: Extract<Node, { kind: 'call' }>, world: World): Result {
  const spec = FUNCTIONS.get(name);
  if (!spec) throw new FormulaError(`There is no function ${name}.`, at);
  const arg = (i: number): Node => args[i] ?? { kind: 'value', value: '', at };
  // Each is worked out once, however often it is asked for: nested, it would be without end.
  const values: Result[] = [];
  const value = (i: number) => (values[i] ??= run(arg(i), world));
  const given: Args = {
    count: args.length,
    at,
    world,
    value,
    number: (i) => numberOf(value(i), arg(i).at),
    text: (i) => wordsOfResult(value(i)),
    truth: (i) => truthOf(value(i)),
    column: (i) => {
      const node = arg(i);
      if (!world.own) throw new FormulaError('This entry comes from no sheet.', at);
      if (node.kind !== 'column') throw new FormulaError(`${name} works on a column, such as [Points].`, node.at);
      const column = world.own.columnAt(node.name);
      if (column < 0) throw new FormulaError(`The sheet has no column “${node.name.slice(0, 40)}”.`, node.at);
      return { rows: world.own, column, name: node.name };
    },
  };
  return spec.run(given);
}

function run(node: Node, world: World): Result {
  switch (node.kind) {
    case 'value':
      return node.value;
    case 'column':
      return cellOf(node.name, node.at, world);
    case 'minus':
      return -numberOf(run(node.of, world), node.of.at);
    case 'not':
      return !truthOf(run(node.of, world));
    case 'operator':
      return checked(operate(node, world), node.at);
    case 'call':
      return checked(call(node, world), node.at);
  }
}

/** What a formula comes to, as words. @throws FormulaError with the place of what cannot be worked out. */
export const evaluate = (formula: Node, world: World): string => wordsOfResult(checked(run(formula, world), 0));

const parsed = new Map<string, Node | FormulaError>();
const MOST_PARSED = 500;

/** A formula that is sound by itself: it can be read, its functions are there, with as many arguments as they take; or why it is not. */
export function formulaOf(text: string): Node | FormulaError {
  const known = parsed.get(text);
  if (known) return known;
  const found = read(text);
  if (parsed.size >= MOST_PARSED) parsed.clear();
  parsed.set(text, found);
  return found;
}

function read(text: string): Node | FormulaError {
  try {
    const tree = parseFormula(text);
    for (const part of partsOf(tree)) {
      if (part.kind !== 'call') continue;
      const spec = FUNCTIONS.get(part.name);
      if (!spec) throw new FormulaError(`There is no function ${part.name}.`, part.at);
      if (part.args.length < spec.least || part.args.length > spec.most)
        throw new FormulaError(`${part.name} is written ${spec.use}: it was given ${part.args.length} things.`, part.at);
    }
    return tree;
  } catch (error) {
    if (error instanceof FormulaError) return error;
    throw error;
  }
}

/** True when what a formula comes to changes as clocks run. */
export function readsClocks(text: string): boolean {
  const tree = formulaOf(text);
  return !(tree instanceof FormulaError) && [...partsOf(tree)].some((p) => p.kind === 'call' && p.name === 'clock');
}
