/**
 * Where an image layer of an animation is at each of its frames, so that a live picture can stand for it: worked out from its transforms, those of
 * the layers it hangs on, and those of the compositions it stands in (Lottie specification 1.0, "Transform", "Layers"). Pixels of the animation.
 */
import { compositionsOf, LAYER, listIn, type Lottie, numberIn, objectIn, type Raw, textIn } from './lottie';
import { valueAt } from './property';

/** Where a live picture stands: its middle, size and angle (degrees, clockwise), and how opaque it is, 0 to 1. */
export interface TrackPlace {
  x: number;
  y: number;
  width: number;
  height: number;
  rotation: number;
  opacity: number;
}

/** Numbers of a place in a track: its frame, then the place. */
const STRIDE = 7;
/** Places of a track. */
export const MOST_PLACES = 1000;
/** Frames that are gone through. */
const MOST_FRAMES = 6000;

/** Columns of an affine map: x' = a·x + c·y + e, y' = b·x + d·y + f. */
type Affine = readonly [a: number, b: number, c: number, d: number, e: number, f: number];
const NOWHERE: Affine = [1, 0, 0, 1, 0, 0];

const times = (m: Affine, n: Affine): Affine => [
  m[0] * n[0] + m[2] * n[1],
  m[1] * n[0] + m[3] * n[1],
  m[0] * n[2] + m[2] * n[3],
  m[1] * n[2] + m[3] * n[3],
  m[0] * n[4] + m[2] * n[5] + m[4],
  m[1] * n[4] + m[3] * n[5] + m[5],
];

/** The map of a layer's own transform at a frame: about its anchor scaled, turned, and put to its position. */
function ownMap(layer: Raw, frame: number): Affine {
  const ks = objectIn(layer, 'ks');
  const [ax = 0, ay = 0] = valueAt(ks.a, frame, [0, 0]);
  const [sx = 100, sy = 100] = valueAt(ks.s, frame, [100, 100]);
  const [turn = 0] = valueAt(ks.r ?? ks.rz, frame, [0]);
  const p = objectIn(ks, 'p');
  const [px = 0, py = 0] =
    p.s === true ? [...valueAt(p.x, frame, [0]).slice(0, 1), ...valueAt(p.y, frame, [0]).slice(0, 1)] : valueAt(p, frame, [0, 0]);
  const [cos, sin] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  const [a, b, c, d] = [(cos * sx) / 100, (sin * sx) / 100, (-sin * sy) / 100, (cos * sy) / 100];
  return [a, b, c, d, px - a * ax - c * ay, py - b * ax - d * ay];
}

/** The map of a layer with the layers that it hangs on. */
function mapOf(layer: Raw, layers: readonly Raw[], frame: number): Affine {
  let map = ownMap(layer, frame);
  const seen = new Set<Raw>([layer]);
  for (let above = parentOf(layer, layers); above && !seen.has(above); above = parentOf(above, layers)) {
    seen.add(above);
    map = times(ownMap(above, frame), map);
  }
  return map;
}
const parentOf = ({ parent }: Raw, layers: readonly Raw[]): Raw | undefined =>
  typeof parent === 'number' ? layers.find((l) => l.ind === parent) : undefined;

/** A layer among those of its composition. */
interface Level {
  layers: readonly Raw[];
  layer: Raw;
}

/** Every way from the animation down to a layer that shows an image. */
function waysTo(doc: Lottie, refId: string): Level[][] {
  const compositions = compositionsOf(doc);
  const ways: Level[][] = [];
  const look = (layers: readonly Raw[], above: readonly Level[]) => {
    for (const layer of layers) {
      if (ways.length > 1) return;
      const id = textIn(layer, 'refId');
      const here = [...above, { layers, layer }];
      if (layer.ty === LAYER.image && id === refId) ways.push(here);
      if (layer.ty === LAYER.composition && above.length < 16) look(listIn(compositions.get(id) ?? {}, 'layers'), here);
    }
  };
  look(doc.layers, []);
  return ways;
}

/** Why a live picture cannot stand there; null when it can. */
function hindrance(levels: readonly Level[]): string | null {
  for (const [depth, { layers, layer }] of levels.entries()) {
    if (layer.tt !== undefined || layer.td === 1 || listIn(layer, 'masksProperties').length > 0) return 'it is masked, or a mask';
    if (layer.ddd === 1) return 'it is turned in three dimensions';
    if (numberIn(layer, 'bm', 0) !== 0) return 'it is blended with what is under it';
    const [skew = 0] = valueAt(objectIn(layer, 'ks').sk, 0, [0]);
    if (skew !== 0) return 'it is skewed';
    const under = layers.slice(layers.indexOf(layer) + 1).some((l) => l.ty !== LAYER.empty && l.hd !== true);
    if (depth > 0 && under) return 'other layers lie under it in its composition';
  }
  return null;
}

const apply = ([a, b, c, d, e, f]: Affine, x: number, y: number): [number, number] => [a * x + c * y + e, b * x + d * y + f];

/** True where a composition cuts off some of a picture: its corners are outside of the composition, which does not fill the animation. */
function isCut({ w, h }: Lottie, comp: Raw, outer: Affine, inner: Affine, size: readonly [number, number]): boolean {
  const [width, height] = [numberIn(comp, 'w', w), numberIn(comp, 'h', h)];
  const fills = outer.every((n, i) => Math.abs(n - (NOWHERE[i] as number)) < 1e-6) && width >= w && height >= h;
  if (fills) return false;
  return [0, size[0]].some((x) =>
    [0, size[1]].some((y) => {
      const [px, py] = apply(inner, x, y);
      return px < -1 || py < -1 || px > width + 1 || py > height + 1;
    }),
  );
}

/** Where the image is at a frame of the animation, with its size in pixels; or why it is nowhere where a live picture could be. */
function placeAt(levels: readonly Level[], doc: Lottie, size: readonly [number, number], frame: number): TrackPlace | string {
  let opacity = 1;
  let at = frame;
  const maps = levels.map(({ layers, layer }) => {
    const shown = at >= numberIn(layer, 'ip', 0) && at < numberIn(layer, 'op', Infinity) && layer.hd !== true;
    const [share = 100] = valueAt(objectIn(layer, 'ks').o, at, [100]);
    opacity *= shown ? Math.min(1, Math.max(0, share / 100)) : 0;
    const map = mapOf(layer, layers, at);
    const remapped = objectIn(layer, 'tm');
    at =
      Object.keys(remapped).length > 0
        ? (valueAt(remapped, at, [0])[0] ?? 0) * doc.fr
        : (at - numberIn(layer, 'st', 0)) / (numberIn(layer, 'sr', 1) || 1);
    return map;
  });
  let map = NOWHERE;
  for (let i = maps.length - 1; i >= 0; i -= 1) {
    map = times(maps[i] as Affine, map);
    const comp = levels[i - 1]?.layer;
    const outer = maps.slice(0, i).reduce(times, NOWHERE);
    if (comp && opacity > 0 && isCut(doc, comp, outer, map, size)) return 'its composition cuts it off';
  }
  const [a, b, c, d, e, f] = map;
  const [across, down] = [Math.hypot(a, b), Math.hypot(c, d)];
  if (Math.abs(a * c + b * d) > 0.02 * Math.max(1e-6, across * down)) return 'it leans';
  if (a * d - b * c < 0) return 'it is mirrored';
  return {
    x: e + (a * size[0] + c * size[1]) / 2,
    y: f + (b * size[0] + d * size[1]) / 2,
    width: across * size[0],
    height: down * size[1],
    rotation: across > 1e-6 ? (Math.atan2(b, a) * 180) / Math.PI : 0,
    opacity,
  };
}

const numbersOf = (frame: number, p: TrackPlace): number[] =>
  [frame, p.x, p.y, p.width, p.height, p.rotation, p.opacity].map((n) => Math.round(Math.min(1e6, Math.max(-1e6, n)) * 1000) / 1000);

/** How far a place may be from where it is, for being left out: pixels, degrees; opacity in fiftieths of it. */
const NEAR = 0.25;

const between = (from: readonly number[], to: readonly number[], frame: number): number[] => {
  const share = (frame - (from[0] as number)) / Math.max(1e-9, (to[0] as number) - (from[0] as number));
  return from.map((n, i) => n + ((to[i] as number) - n) * share);
};

const isNear = (a: readonly number[], b: readonly number[]): boolean =>
  a.every((n, i) => Math.abs(n - (b[i] as number)) <= (i === STRIDE - 1 ? NEAR / 50 : NEAR));

/** Leaves places out that lie on the way from one to the next. */
function thinned(places: readonly number[][]): number[][] {
  const kept: number[][] = [];
  let from = 0;
  while (from < places.length) {
    const start = places[from] as number[];
    kept.push(start);
    let to = from + 1;
    const fits = (end: number) =>
      places.slice(from + 1, end).every((p) => isNear(p, between(start, places[end] as number[], p[0] as number)));
    while (to + 1 < places.length && to - from < 200 && fits(to + 1)) to += 1;
    from = to;
  }
  return kept;
}

/** The track of the image that an asset is, or why no live picture can stand for it. */
export function trackOf(doc: Lottie, asset: Raw): number[] | string {
  const ways = waysTo(doc, textIn(asset, 'id'));
  const [levels] = ways;
  if (!levels) return 'no image layer shows it';
  if (ways.length > 1) return 'several layers show it';
  const why = hindrance(levels);
  if (why !== null) return why;
  const [first, last] = [Math.floor(doc.ip), Math.ceil(doc.op)];
  if (last - first > MOST_FRAMES) return `it has more than ${MOST_FRAMES} frames`;
  const size = [numberIn(asset, 'w', 0), numberIn(asset, 'h', 0)] as const;
  if (size[0] <= 0 || size[1] <= 0) return 'its size is not said';
  const places: number[][] = [];
  for (let frame = first; frame <= last; frame += 1) {
    const place = placeAt(levels, doc, size, frame);
    if (typeof place === 'string') return place;
    // The short way round from the frame before.
    const before = places.at(-1)?.[5] ?? place.rotation;
    place.rotation += 360 * Math.round((before - place.rotation) / 360);
    places.push(numbersOf(frame, place));
  }
  const kept = thinned(places);
  return kept.length > MOST_PLACES ? 'it moves too much' : kept.flat();
}

/** Where a track is at a frame, also between two; the first and the last place hold before and after. Null for an empty one. */
export function trackPlace(track: readonly number[], frame: number): TrackPlace | null {
  if (track.length < STRIDE) return null;
  const count = Math.floor(track.length / STRIDE);
  let [low, high] = [0, count - 1];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if ((track[middle * STRIDE] as number) <= frame) low = middle;
    else high = middle - 1;
  }
  const place = (i: number) => track.slice(i * STRIDE, (i + 1) * STRIDE);
  const from = place(low);
  const to = low + 1 < count ? place(low + 1) : from;
  const at = Math.min(to[0] as number, Math.max(from[0] as number, frame));
  const [, x, y, width, height, rotation, opacity] = between(from, to, at) as [number, number, number, number, number, number, number];
  return { x, y, width, height, rotation, opacity };
}
