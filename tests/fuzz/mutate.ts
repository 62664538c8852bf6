/** Damage of every kind: to bytes, and to data as JSON gives it. */
import { LANGUAGE_NAMES } from '#core/schema/fields';
import { type Dice } from '../support/dice';

export const pick = <T>(dice: Dice, list: readonly T[]): T => list[Math.floor(dice() * list.length)] as T;
const upTo = (dice: Dice, n: number) => Math.floor(dice() * n);

/** A copy of `bytes` with one to four kinds of damage. */
export function damageBytes(dice: Dice, bytes: Uint8Array): Uint8Array {
  let out = bytes.slice();
  for (let i = 0; i <= upTo(dice, 4); i += 1) {
    const at = upTo(dice, out.length);
    const length = 1 + upTo(dice, Math.min(4000, out.length - at || 1));
    switch (upTo(dice, 7)) {
      case 0:
        if (out.length > 0) out[at] = (out[at] as number) ^ (1 << upTo(dice, 8));
        break;
      case 1:
        out.fill(0, at, at + length);
        break;
      case 2:
        out.fill(255, at, at + 1 + upTo(dice, 8));
        break;
      case 3:
        out = out.slice(0, at);
        break;
      case 4:
        for (let k = at; k < Math.min(out.length, at + length); k += 1) out[k] = upTo(dice, 256);
        break;
      case 5: {
        const piece = out.slice(at, at + length);
        const grown = new Uint8Array(out.length + piece.length);
        grown.set(out.subarray(0, at));
        grown.set(piece, at);
        grown.set(out.subarray(at), at + piece.length);
        out = grown;
        break;
      }
      default: {
        const grown = new Uint8Array(out.length + upTo(dice, 200_000));
        grown.set(out);
        out = grown;
      }
    }
  }
  return out;
}

function nested(depth: number): unknown {
  let value: unknown = 1;
  for (let i = 0; i < depth; i += 1) value = i % 2 ? [value] : { a: value };
  return value;
}

/** A value that nobody expects. */
export function hostile(dice: Dice): unknown {
  return pick<() => unknown>(dice, [
    () => null,
    () => true,
    () => 0,
    () => -1,
    () => 1e308,
    () => 2 ** 53,
    () => 0.5,
    () => '',
    () => pick(dice, LANGUAGE_NAMES),
    () => '../../x',
    () => '=1+1\r\n"',
    () => 'x'.repeat(100_000),
    () => '\u0000\u202e\ud800',
    () => [],
    () => [null],
    () => ({}),
    () => ({ toString: 1, valueOf: 2 }),
    () => ({ length: 1e9 }),
    () => JSON.parse('{"__proto__":{"polluted":1},"constructor":{"prototype":1}}') as unknown,
    () => nested(pick(dice, [10, 100, 6000])),
    () => Array.from({ length: pick(dice, [100, 30_000]) }, () => null),
  ])();
}

/** A deep copy of `value` in which some parts are replaced, left out, doubled or added. */
export function damageData(dice: Dice, value: unknown): unknown {
  const copy = structuredClone(value);
  for (let i = 0; i <= upTo(dice, 3); i += 1) {
    let here = copy as Record<string, unknown> | unknown[];
    for (;;) {
      const keys = Object.keys(here);
      const key = pick(dice, keys) as keyof typeof here | undefined;
      if (key === undefined) break;
      const next = here[key] as unknown;
      if (typeof next === 'object' && next !== null && dice() < 0.8) {
        here = next as Record<string, unknown>;
        continue;
      }
      const act = upTo(dice, 5);
      if (act === 0) Reflect.deleteProperty(here, key);
      else if (act === 1 && Array.isArray(here)) here.push(...here.slice(0, 50));
      else if (act === 2 && !Array.isArray(here)) here[pick(dice, ['extra', 'toString', 'constructor', 'id'])] = hostile(dice);
      else (here as Record<string, unknown>)[key as string] = hostile(dice);
      break;
    }
  }
  return dice() < 0.02 ? hostile(dice) : copy;
}
