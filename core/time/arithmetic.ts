/** The arithmetic that every number field takes: `1920/4`, `100%-40`, `(720-405)/2`. */

/** An expression that cannot be worked out; `message` says what and where. */
export class ArithmeticError extends Error {}

/** Longer texts are no one's arithmetic, and deep brackets would exhaust the stack. */
const LONGEST = 200;

/**
 * Value of an expression of numbers, + - * / and brackets. `n%` is that share of `whole`.
 * Units: whatever the field's are; pixels may be written with `px`. A comma works as the decimal point.
 * @throws ArithmeticError for anything else, for division by zero and for results that are not finite.
 */
export function evaluate(text: string, whole = 100): number {
  if (text.length > LONGEST) throw new ArithmeticError(`This is too long to work out: ${LONGEST} characters at most.`);
  const source = text.replace(/,/g, '.').replace(/[×·]/g, '*').replace(/÷/g, '/').replace(/[−–]/g, '-');
  let at = 0;
  const skip = () => {
    while (source[at] === ' ') at += 1;
  };
  const fail = (): never => {
    const found = source[at] ? `"${source[at]}" at place ${at + 1}` : 'the end';
    throw new ArithmeticError(`Cannot work out "${text.slice(0, 40)}": did not expect ${found}.`);
  };
  function factor(): number {
    skip();
    const sign = source[at];
    if (sign === '-' || sign === '+') {
      at += 1;
      return sign === '-' ? -factor() : factor();
    }
    let value: number;
    if (source[at] === '(') {
      at += 1;
      value = sum();
      skip();
      if (source[at] !== ')') fail();
      at += 1;
    } else {
      const match = /^(\d+\.?\d*|\.\d+)/.exec(source.slice(at));
      if (!match) return fail();
      at += match[0].length;
      value = Number(match[0]);
    }
    skip();
    if (source[at] === '%') {
      at += 1;
      value = (value / 100) * whole;
    } else if (/^px/i.test(source.slice(at))) at += 2;
    return value;
  }
  function product(): number {
    let value = factor();
    for (skip(); source[at] === '*' || source[at] === '/'; skip()) {
      const times = source[at] === '*';
      at += 1;
      const next = factor();
      if (!times && next === 0) throw new ArithmeticError(`Cannot work out "${text.slice(0, 40)}": division by zero.`);
      value = times ? value * next : value / next;
    }
    return value;
  }
  function sum(): number {
    let value = product();
    for (skip(); source[at] === '+' || source[at] === '-'; skip()) {
      const plus = source[at] === '+';
      at += 1;
      const next = product();
      value = plus ? value + next : value - next;
    }
    return value;
  }
  const value = sum();
  skip();
  if (at < source.length) fail();
  if (!Number.isFinite(value)) throw new ArithmeticError(`"${text.slice(0, 40)}" has no finite value.`);
  return value;
}
