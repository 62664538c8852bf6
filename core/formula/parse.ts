/**
 * Formulas of fields, read into a tree: numbers, texts, columns, operators, and functions by name. There is no way in this language to repeat,
 * to keep, or to reach anything but what it is given. docs/formulas.md is its description for people.
 */
import { MOST_FORMULA } from './document';

/** Brackets within brackets. */
const DEEPEST = 40;

export type Operator = '+' | '-' | '*' | '/' | '%' | '&' | '=' | '<>' | '<' | '<=' | '>' | '>=' | 'and' | 'or';

/** A part of a formula; `at` is where it begins in the text, characters from 0. */
export type Node =
  | { kind: 'value'; value: number | string | boolean; at: number }
  | { kind: 'column'; name: string; at: number }
  | { kind: 'minus' | 'not'; of: Node; at: number }
  | { kind: 'operator'; operator: Operator; left: Node; right: Node; at: number }
  | { kind: 'call'; name: string; args: Node[]; at: number };

/** Why a formula cannot be read, or comes to nothing, and where in its text. */
export class FormulaError extends Error {
  constructor(
    message: string,
    readonly at: number,
  ) {
    super(message);
  }
}

interface Token {
  kind: 'number' | 'text' | 'name' | 'column' | 'sign' | 'end';
  text: string;
  at: number;
}

const SIGNS = ['<>', '<=', '>=', '+', '-', '*', '/', '%', '&', '=', '<', '>', '(', ')', ','] as const;

/** What begins and ends with a sign; inside, the sign twice stands for itself. */
function quoted(text: string, at: number, end: string, what: string): { inside: string; next: number } {
  let inside = '';
  for (let i = at + 1; i < text.length; i += 1) {
    if (text[i] !== end) inside += text[i];
    else if (text[i + 1] === end) {
      inside += end;
      i += 1;
    } else return { inside, next: i + 1 };
  }
  throw new FormulaError(`${what} begins here and does not end: a ${end} is missing.`, at);
}

function tokensOf(text: string): Token[] {
  const tokens: Token[] = [];
  let at = 0;
  while (at < text.length) {
    const rest = text.slice(at);
    const space = /^\s+/u.exec(rest)?.[0];
    const number = /^(?:\d+\.?\d*|\.\d+)/u.exec(rest)?.[0];
    const name = /^[\p{L}_][\p{L}\p{N}_]*/u.exec(rest)?.[0];
    const sign = SIGNS.find((s) => rest.startsWith(s));
    if (space !== undefined) at += space.length;
    else if (rest.startsWith('"')) {
      const { inside, next } = quoted(text, at, '"', 'A text');
      tokens.push({ kind: 'text', text: inside, at });
      at = next;
    } else if (rest.startsWith('[')) {
      const { inside, next } = quoted(text, at, ']', 'The name of a column');
      tokens.push({ kind: 'column', text: inside.trim(), at });
      at = next;
    } else {
      const found = number ?? name ?? sign;
      if (found === undefined) throw new FormulaError(`“${[...rest][0] ?? ''}” means nothing here.`, at);
      tokens.push({ kind: number !== undefined ? 'number' : name !== undefined ? 'name' : 'sign', text: found, at });
      at += found.length;
    }
  }
  tokens.push({ kind: 'end', text: '', at: text.length });
  return tokens;
}

/** Operators by how closely they bind, loosest first. */
const LEVELS: readonly (readonly Operator[])[] = [['or'], ['and'], ['=', '<>', '<', '<=', '>', '>='], ['&'], ['+', '-'], ['*', '/', '%']];

class Parser {
  private next = 0;
  private depth = 0;

  constructor(private readonly tokens: readonly Token[]) {}

  private get token(): Token {
    return this.tokens[Math.min(this.next, this.tokens.length - 1)] as Token;
  }

  private is(text: string): boolean {
    const { kind, text: now } = this.token;
    return (kind === 'sign' || kind === 'name') && now.toLowerCase() === text;
  }

  private take(text: string): boolean {
    const found = this.is(text);
    if (found) this.next += 1;
    return found;
  }

  private need(text: string, why: string): void {
    if (!this.take(text)) throw new FormulaError(why, this.token.at);
  }

  whole(): Node {
    const node = this.level(0);
    const { kind, text, at } = this.token;
    if (kind !== 'end') throw new FormulaError(`“${text}” is one too many here: an operator such as + or & is missing before it.`, at);
    return node;
  }

  private level(level: number): Node {
    const operators = LEVELS[level];
    if (!operators) return this.single();
    let left = this.level(level + 1);
    for (;;) {
      const operator = operators.find((o) => this.is(o));
      if (!operator) return left;
      const { at } = this.token;
      this.next += 1;
      left = { kind: 'operator', operator, left, right: this.level(level + 1), at };
    }
  }

  private single(): Node {
    this.depth += 1;
    if (this.depth > DEEPEST) throw new FormulaError('This is nested too deep.', this.token.at);
    const node = this.atom();
    this.depth -= 1;
    return node;
  }

  private atom(): Node {
    const { kind, text, at } = this.token;
    if (this.take('-')) return { kind: 'minus', of: this.single(), at };
    if (this.take('not')) return { kind: 'not', of: this.single(), at };
    if (this.take('(')) {
      const inside = this.level(0);
      this.need(')', 'A ) is missing here.');
      return inside;
    }
    if (kind === 'end') throw new FormulaError('Something is missing at the end.', at);
    if (kind === 'sign') throw new FormulaError(`Something is missing before “${text}”.`, at);
    this.next += 1;
    if (kind === 'number') return { kind: 'value', value: Number(text), at };
    if (kind === 'text') return { kind: 'value', value: text, at };
    if (kind === 'name') {
      if (this.is('(')) return this.call(text, at);
      if (text === 'yes' || text === 'no') return { kind: 'value', value: text === 'yes', at };
    }
    return { kind: 'column', name: text, at };
  }

  private call(name: string, at: number): Node {
    this.need('(', 'A ( is missing here.');
    const args: Node[] = [];
    if (!this.take(')')) {
      do args.push(this.level(0));
      while (this.take(','));
      this.need(')', `${name}: a ) or a comma is missing here.`);
    }
    return { kind: 'call', name: name.toLowerCase(), args, at };
  }
}

/** A formula as a tree. @throws FormulaError with the place of the first fault. */
export function parseFormula(text: string): Node {
  if (text.length > MOST_FORMULA)
    throw new FormulaError(`A formula has ${MOST_FORMULA} characters at most; this one has ${text.length}.`, MOST_FORMULA);
  return new Parser(tokensOf(text)).whole();
}

/** Every part of a formula. */
export function* partsOf(node: Node): Iterable<Node> {
  yield node;
  if (node.kind === 'minus' || node.kind === 'not') yield* partsOf(node.of);
  if (node.kind === 'operator') {
    yield* partsOf(node.left);
    yield* partsOf(node.right);
  }
  if (node.kind === 'call') for (const arg of node.args) yield* partsOf(arg);
}
