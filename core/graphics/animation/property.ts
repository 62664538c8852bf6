/** Values of an animation's properties at a frame: keyframes, how they are eased, and paths in space (Lottie specification 1.0, "Properties"). */
import { listIn, numberIn, objectIn, type Raw } from './lottie';

const numbersOf = (value: unknown): number[] =>
  (Array.isArray(value) ? (value as unknown[]) : [value]).map((n) => (typeof n === 'number' && Number.isFinite(n) ? n : 0));

/** One coordinate of a cubic Bézier curve from 0 to 1 with the inner points `a` and `b`, at `t`. */
const cubic = (a: number, b: number, t: number): number => 3 * (1 - t) * (1 - t) * t * a + 3 * (1 - t) * t * t * b + t * t * t;

/** How far an eased move is at a share of its time, by the handles of its two keys. Found by halving: to within 1e-6. */
export function eased(share: number, [x1, y1, x2, y2]: readonly [number, number, number, number]): number {
  let [low, high] = [0, 1];
  for (let i = 0; i < 20; i += 1) {
    const middle = (low + high) / 2;
    if (cubic(x1, x2, middle) < share) low = middle;
    else high = middle;
  }
  return cubic(y1, y2, (low + high) / 2);
}

const within = (n: number): number => Math.min(1, Math.max(0, n));

/** The handles of a key for one dimension; the last that is given stands for those after it. */
function handlesOf(key: Raw, dimension: number): [number, number, number, number] {
  const at = (of: 'o' | 'i', axis: 'x' | 'y', otherwise: number): number => {
    const list = numbersOf(objectIn(key, of)[axis] ?? otherwise);
    return list[Math.min(dimension, list.length - 1)] ?? otherwise;
  };
  return [within(at('o', 'x', 0)), at('o', 'y', 0), within(at('i', 'x', 1)), at('i', 'y', 1)];
}

/** Steps in which a path in space is measured. */
const STEPS = 64;

/** A place on a path in space at a share of its length. */
function alongPath(
  from: readonly number[],
  to: readonly number[],
  out: readonly number[],
  into: readonly number[],
  share: number,
): number[] {
  const at = (t: number): number[] =>
    from.map((start, d) => {
      const end = to[d] ?? start;
      const [a, b] = [start + (out[d] ?? 0), end + (into[d] ?? 0)];
      return (1 - t) ** 3 * start + 3 * (1 - t) ** 2 * t * a + 3 * (1 - t) * t * t * b + t ** 3 * end;
    });
  const points = Array.from({ length: STEPS + 1 }, (_, i) => at(i / STEPS));
  const lengths = points.slice(1).map((p, i) => Math.hypot(...p.map((n, d) => n - (points[i]?.[d] ?? 0))));
  let left = lengths.reduce((sum, n) => sum + n, 0) * share;
  for (const [i, length] of lengths.entries()) {
    if (left <= length && length > 0) return at((i + left / length) / STEPS);
    left -= length;
  }
  return share <= 0 ? [...from] : [...to];
}

/** The value of a property at a frame; `otherwise` where there is none. Angles in degrees, shares in percent, as they stand in the document. */
export function valueAt(property: unknown, frame: number, otherwise: readonly number[]): number[] {
  if (typeof property !== 'object' || property === null) return [...otherwise];
  const { k } = property as Raw;
  const keys = listIn(property as Raw, 'k').filter((key) => typeof key.t === 'number');
  if (keys.length === 0) return k === undefined ? [...otherwise] : numbersOf(k);
  const next = keys.findIndex((key) => numberIn(key, 't', 0) > frame);
  const valueOf = (key: Raw | undefined, before?: Raw): number[] =>
    key?.s !== undefined ? numbersOf(key.s) : before?.e !== undefined ? numbersOf(before.e) : [...otherwise];
  if (next === 0) return valueOf(keys[0]);
  if (next === -1) return valueOf(keys.at(-1), keys.at(-2));
  const [key, after] = [keys[next - 1] as Raw, keys[next] as Raw];
  const from = valueOf(key, keys[next - 2]);
  if (key.h === 1) return from;
  const to = key.e !== undefined ? numbersOf(key.e) : valueOf(after);
  const [begin, end] = [numberIn(key, 't', 0), numberIn(after, 't', 0)];
  const share = (frame - begin) / (end - begin);
  if (key.to !== undefined || key.ti !== undefined)
    return alongPath(from, to, numbersOf(key.to ?? 0), numbersOf(key.ti ?? 0), within(eased(share, handlesOf(key, 0))));
  return from.map((n, d) => n + ((to[d] ?? n) - n) * eased(share, handlesOf(key, d)));
}
