/**
 * Animations in the open Lottie form (Lottie Animation Community, Lottie specification 1.0) as plain data: what of it is read here, how it is
 * checked, and what is taken out of it. Frames are the animation's own; colours are shares of red, green and blue.
 */
import { isTooDeep } from '../../schema/depth';

export type Raw = Record<string, unknown>;

/** Bytes of the text of an animation. */
export const MOST_BYTES = 20e6;
/** Layers of an animation, those of all its compositions together. */
export const MOST_LAYERS = 3000;
/** Pixels of each side, and frames of all. */
const MOST_SIDE = 8192;
const MOST_FRAMES = 100_000;
/** Levels of compositions inside compositions. */
const DEEPEST = 16;
/** Shapes in groups in groups, each several levels of data. */
const DEEPEST_DATA = 200;

/** Numbers by which Lottie tells kinds of layers. */
export const LAYER = { composition: 0, solid: 1, image: 2, empty: 3, shape: 4, text: 5 } as const;

export interface Lottie extends Raw {
  w: number;
  h: number;
  fr: number;
  ip: number;
  op: number;
  layers: Raw[];
}

/** Why a file is no animation that can be used; the message says where, why and what to do. */
export class LottieError extends Error {}

const isObject = (value: unknown): value is Raw => typeof value === 'object' && value !== null && !Array.isArray(value);

/** The objects in a list; none where there is no list. */
export const listIn = (of: Raw, key: string): Raw[] => {
  const list = of[key];
  return Array.isArray(list) ? (list as unknown[]).filter(isObject) : [];
};
export const objectIn = (of: Raw, key: string): Raw => (isObject(of[key]) ? of[key] : {});
export const numberIn = (of: Raw, key: string, otherwise: number): number => {
  const n = of[key];
  return typeof n === 'number' && Number.isFinite(n) ? n : otherwise;
};
export const textIn = (of: Raw, key: string): string => {
  const text = of[key];
  return typeof text === 'string' ? text : '';
};

/** Calls `visit` for every object inside of `value`, itself first. Not recursive. */
export function eachObject(value: unknown, visit: (object: Raw) => void): void {
  const open: unknown[] = [value];
  while (open.length > 0) {
    const next = open.pop();
    if (typeof next !== 'object' || next === null) continue;
    if (!Array.isArray(next)) visit(next as Raw);
    for (const inside of Object.values(next)) if (typeof inside === 'object' && inside !== null) open.push(inside);
  }
}

/** Compositions by identity, the assets that have layers. */
export const compositionsOf = (doc: Raw): Map<string, Raw> =>
  new Map(listIn(doc, 'assets').flatMap((a) => (Array.isArray(a.layers) ? [[textIn(a, 'id'), a] as const] : [])));

/** @throws LottieError when compositions show each other in a circle, or are nested too deep. */
function checkNesting(doc: Raw): void {
  const compositions = compositionsOf(doc);
  const depths = new Map<string, number>();
  const depthOf = (id: string, above: readonly string[]): number => {
    if (above.includes(id)) throw new LottieError(`Its composition "${id}" shows itself. Mend it where it was made.`);
    if (above.length > DEEPEST) throw new LottieError(`Its compositions are nested more than ${DEEPEST} deep.`);
    const known = depths.get(id);
    if (known !== undefined) return known;
    const inside = listIn(compositions.get(id) ?? {}, 'layers').filter(
      (l) => l.ty === LAYER.composition && compositions.has(textIn(l, 'refId')),
    );
    const depth = 1 + Math.max(0, ...inside.map((l) => depthOf(textIn(l, 'refId'), [...above, id])));
    depths.set(id, depth);
    return depth;
  };
  for (const id of compositions.keys()) depthOf(id, []);
}

/** How many layers are drawn when compositions used twice count twice; stops counting at `most`. */
function drawnLayers(doc: Raw, most: number): number {
  const compositions = compositionsOf(doc);
  const counts = new Map<string, number>();
  const count = (layers: readonly Raw[]): number => {
    let sum = layers.length;
    for (const l of layers) {
      if (sum > most) return sum;
      const id = l.ty === LAYER.composition ? textIn(l, 'refId') : '';
      if (!compositions.has(id)) continue;
      if (!counts.has(id)) counts.set(id, count(listIn(compositions.get(id) ?? {}, 'layers')));
      sum += counts.get(id) ?? 0;
    }
    return sum;
  };
  return count(listIn(doc, 'layers'));
}

/**
 * An animation from parsed JSON: checked, without its expressions (they are never run) and without addresses outside of itself.
 * @throws LottieError with place, cause and remedy.
 */
export function readLottie(data: unknown): Lottie {
  if (!isObject(data) || !Array.isArray(data.layers)) throw new LottieError('It is no Lottie animation: it has no layers.');
  if (isTooDeep(data, DEEPEST_DATA)) throw new LottieError('It is nested too deep to be read.');
  for (const [key, most] of [
    ['w', MOST_SIDE],
    ['h', MOST_SIDE],
    ['fr', 1000],
  ] as const) {
    const n = numberIn(data, key, NaN);
    if (!(n > 0 && n <= most))
      throw new LottieError(`Its ${key} is ${JSON.stringify(data[key])}, and must be above 0 and at most ${most}.`);
  }
  const [from, to] = [numberIn(data, 'ip', 0), numberIn(data, 'op', NaN)];
  if (!(to > from && to - from <= MOST_FRAMES))
    throw new LottieError(`It runs from frame ${from} to ${JSON.stringify(data.op)}, which is no length.`);
  for (const { of, list } of [
    { of: 'layers', list: data.layers },
    ...listIn(data, 'assets').map((a, i) => ({ of: `assets[${i}].layers`, list: a.layers })),
  ]) {
    const wrong = Array.isArray(list) ? (list as unknown[]).findIndex((l) => !isObject(l)) : -1;
    if (wrong !== -1) throw new LottieError(`Its ${of}[${wrong}] is no layer. The file is damaged.`);
  }
  checkNesting(data);
  const layers = drawnLayers(data, MOST_LAYERS);
  if (layers > MOST_LAYERS) throw new LottieError(`It draws more than ${MOST_LAYERS} layers. Flatten some of them where it was made.`);
  const doc = structuredClone(data) as Lottie;
  doc.ip = from;
  eachObject(doc, (object) => {
    // An expression stands beside the value that it would change.
    if (typeof object.x === 'string' && ('k' in object || 'a' in object)) delete object.x;
  });
  for (const asset of listIn(doc, 'assets')) {
    if (typeof asset.p === 'string' && !asset.p.startsWith('data:image/'))
      Object.assign(asset, { p: '', u: '', missing: textIn(asset, 'p') });
  }
  return doc;
}
