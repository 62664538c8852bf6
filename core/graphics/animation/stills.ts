/** When nothing moves in an animation, and where it waits. Frames are the animation's own. */
import { compositionsOf, LAYER, listIn, type Lottie, numberIn, objectIn, type Raw, textIn } from './lottie';

/** From a frame on until a frame nothing changes: all of it is drawn as at `from`. */
export interface Stretch {
  from: number;
  to: number;
}

type Span = [number, number];

/** Spans of a property's keyframes in which its value changes. */
function spansOf(property: unknown): Span[] {
  if (typeof property !== 'object' || property === null) return [];
  const keys = listIn(property as Raw, 'k').filter((k) => typeof k.t === 'number');
  return keys.flatMap((key, i): Span[] => {
    const next = keys[i + 1];
    if (!next) return [];
    const [from, to] = [numberIn(key, 't', 0), numberIn(next, 't', 0)];
    // A key that holds changes at the next one, at once.
    if (key.h === 1) return JSON.stringify(key.s) === JSON.stringify(next.s) ? [] : [[to, to]];
    const end = key.e ?? next.s;
    const curved = 'to' in key || 'ti' in key;
    return JSON.stringify(key.s) === JSON.stringify(end) && !curved ? [] : [[from, to]];
  });
}

/** Spans in which anything inside of an object changes, whatever property it is. */
function spansIn(value: unknown): Span[] {
  const spans: Span[] = [];
  const open: unknown[] = [value];
  while (open.length > 0) {
    const next = open.pop();
    if (typeof next !== 'object' || next === null) continue;
    if (!Array.isArray(next) && (next as Raw).a !== 0) spans.push(...spansOf(next));
    for (const inside of Object.values(next)) if (typeof inside === 'object' && inside !== null) open.push(inside);
  }
  return spans;
}

/** Changes that are more than this are one long change. */
const MOST_SPANS = 50_000;

function movingIn(layers: readonly Raw[], compositions: ReadonlyMap<string, Raw>, depth: number): Span[] {
  const spans: Span[] = [];
  for (const layer of layers) {
    if (layer.hd === true || spans.length > MOST_SPANS) continue;
    const [ip, op] = [numberIn(layer, 'ip', 0), numberIn(layer, 'op', 0)];
    const own = spansIn(layer);
    if (layer.ty === LAYER.composition && depth > 0) {
      const inner = movingIn(listIn(compositions.get(textIn(layer, 'refId')) ?? {}, 'layers'), compositions, depth - 1);
      const [start, stretch] = [numberIn(layer, 'st', 0), numberIn(layer, 'sr', 1) || 1];
      // With its time remapped it moves just while that does, which is among its own.
      if (Object.keys(objectIn(layer, 'tm')).length === 0)
        own.push(...inner.map(([a, b]): Span => [a * stretch + start, b * stretch + start]));
    }
    // What is there from a frame on, and no longer from a frame on, are changes too.
    for (const [a, b] of own) if (b >= ip && a <= op) spans.push([Math.max(a, ip), Math.min(b, op)]);
    spans.push([ip, ip], [op, op]);
  }
  return spans;
}

/** The stretches in which nothing moves, in order, each two frames long at least. */
export function stillsOf(doc: Lottie): Stretch[] {
  const spans = movingIn(doc.layers, compositionsOf(doc), 16).sort((a, b) => a[0] - b[0]);
  const stills: Stretch[] = [];
  let reached = doc.ip;
  const add = (to: number) => {
    // Whole frames: the first at which all has come to its place, the last before the next change.
    const [from, until] = [Math.ceil(reached), Math.ceil(to) - 1];
    if (until - from >= 1) stills.push({ from, to: until });
  };
  for (const [a, b] of spans) {
    if (a > reached) add(Math.min(a, doc.op));
    reached = Math.max(reached, b);
    if (reached >= doc.op) break;
  }
  if (reached < doc.op) add(doc.op);
  return stills.slice(0, 1000);
}

/** The frame at which a still picture begins that `frame` shows; the frame itself while something moves. */
export function settledFrame(stills: readonly Stretch[], frame: number): number {
  const found = stills.find((s) => frame >= s.from && frame <= s.to);
  return found ? found.from : frame;
}

/** Where an animation waits, and why there. */
export interface HoldPoints {
  frames: number[];
  why: 'markers' | 'stillness' | 'end';
}

/** Hold points by the markers named `hold`; else where nothing moves for longest; else the end. */
export function holdsOf(doc: Lottie, stills: readonly Stretch[]): HoldPoints {
  const marked = listIn(doc, 'markers')
    .filter((m) => textIn(m, 'cm').trim().toLowerCase() === 'hold')
    .map((m) => numberIn(m, 'tm', NaN))
    .filter((t) => t >= doc.ip && t < doc.op)
    .sort((a, b) => a - b);
  if (marked.length > 0) return { frames: [...new Set(marked)].slice(0, 20), why: 'markers' };
  // The still before anything has come is no place to wait at.
  const candidates = stills.filter((s) => s.from > doc.ip);
  const longest = candidates.reduce<Stretch | null>((most, s) => (!most || s.to - s.from > most.to - most.from ? s : most), null);
  if (longest) return { frames: [longest.from], why: 'stillness' };
  return { frames: [Math.ceil(doc.op) - 1], why: 'end' };
}
