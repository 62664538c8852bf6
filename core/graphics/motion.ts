/** How an element stands while its graphic comes, stays, changes or goes. Pure functions of frames. */
import { ease } from '../picture/easing';
import { wayOut } from '../picture/moving';
import { type Rect } from '../show/geometry';
import { type Raster } from '../show/raster';
import { type Element, type ElementMove, type HoldMove, type Keyed } from './element';

/** Where a graphic is on its way. Frames count from the beginning of each phase. One that goes before it has come has both: where it had come to, and how far it has gone. */
export interface Phase {
  /** Frames since it came; Infinity when that is long over. */
  in: number;
  /** Frames since it began to go; null while it does not. */
  out: number | null;
}

export const AT_REST: Phase = { in: Infinity, out: null };

/** What is done to an element beside drawing it where it stands. */
export interface Motion {
  opacity: number;
  /** Pixels of the graphic's raster. */
  x: number;
  y: number;
  /** About its middle. */
  scaleX: number;
  scaleY: number;
  /** Share that is seen, from an edge; null for all. */
  wipe: { edge: ElementMove['edge']; share: number } | null;
  /** Radius, pixels of the graphic's raster. */
  blur: number;
  /** Letters or words that have come, 0 to 1. */
  pieces: { by: 'letters' | 'words'; share: number; edge: ElementMove['edge'] } | null;
  /** Share of the number that is shown while it rolls, 0 to 1. */
  count: number;
  /** Properties with a value of their own at this frame. */
  keyed: Partial<Record<Keyed, number>>;
}

export const STILL: Motion = {
  opacity: 1,
  x: 0,
  y: 0,
  scaleX: 1,
  scaleY: 1,
  wipe: null,
  blur: 0,
  pieces: null,
  count: 1,
  keyed: {},
};

/** Blur of an element that has not begun to come, pixels at a raster of 360 lines. */
const MOST_BLUR = 24;

/** Frames from the beginning of a phase to the end of a move. */
export const lengthOf = (move: ElementMove | null): number => (move ? move.start + move.frames : 0);

/** How far a move has come after `frames` of its phase, its pace in it: 0 to 1. */
export function progressOf(move: ElementMove, frames: number): number {
  if (frames >= lengthOf(move)) return 1;
  if (frames <= move.start) return move.start === 0 && move.frames === 0 ? 1 : 0;
  return ease(move.easing, (frames - move.start) / move.frames);
}

/** What is left of `motion` where an element has come to `level`: 0 is gone, 1 is there. `raster` is the graphic's. */
export function applied(motion: Motion, move: ElementMove, level: number, place: Rect, raster: Raster): Motion {
  if (level >= 1) return motion;
  const rest = 1 - level;
  switch (move.way) {
    case 'fade':
      return { ...motion, opacity: motion.opacity * level };
    case 'slide': {
      const way = wayOut(move.edge, place, raster);
      return { ...motion, x: motion.x + way.x * rest, y: motion.y + way.y * rest };
    }
    case 'wipe':
      return { ...motion, wipe: { edge: move.edge, share: level } };
    case 'scale':
      return { ...motion, scaleX: motion.scaleX * level, scaleY: motion.scaleY * level };
    case 'turn':
      return { ...motion, scaleX: motion.scaleX * Math.sin((level * Math.PI) / 2) };
    case 'blur':
      return { ...motion, opacity: motion.opacity * level, blur: Math.round((rest * MOST_BLUR * raster.height) / 360) };
    case 'letters':
    case 'words':
      return { ...motion, pieces: { by: move.way, share: level, edge: move.edge } };
    case 'count':
      return { ...motion, count: level };
  }
}

/** Value of a keyed property in a phase after `frames`; undefined when it has no keyframes there. Before the first it has its value, after the last too. */
export function keyedValue(element: Element, phase: 'in' | 'hold' | 'out', property: Keyed, frames: number): number | undefined {
  const keys = element.keyframes.filter((k) => k.phase === phase && k.property === property).sort((a, b) => a.frame - b.frame);
  const after = keys.findIndex((k) => k.frame > frames);
  const before = keys[after === -1 ? keys.length - 1 : after - 1];
  const next = after === -1 ? undefined : keys[after];
  if (!before) return next?.value;
  if (!next) return before.value;
  const share = ease(next.easing, (frames - before.frame) / (next.frame - before.frame));
  return before.value + (next.value - before.value) * share;
}

/** How far an element is there so many frames after its graphic has come, while it does what it does as it stands: 1 is all there. */
export function holdLevel(move: HoldMove, frames: number): number {
  const since = frames - move.start;
  if (since < 0 || move.frames === 0 || !Number.isFinite(since)) return 1;
  const round = Math.floor(since / (move.frames + move.rest));
  if (move.times > 0 && round >= move.times) return 1;
  const share = (since - round * (move.frames + move.rest)) / move.frames;
  if (share >= 1) return 1;
  return 1 - move.depth * ease(move.easing, share < 0.5 ? share * 2 : 2 - share * 2);
}

const KEYS: readonly Keyed[] = ['x', 'y', 'width', 'height', 'opacity', 'rotation'];

function keyedAt(element: Element, { in: comes, out }: Phase, inLength: number): Motion['keyed'] {
  if (element.keyframes.length === 0) return {};
  const keyed: Motion['keyed'] = {};
  for (const property of KEYS) {
    const value =
      out !== null
        ? goingValue(element, property, comes, out, inLength)
        : comes >= inLength
          ? (keyedValue(element, 'hold', property, comes - inLength) ?? keyedValue(element, 'in', property, Infinity))
          : keyedValue(element, 'in', property, comes);
    if (value !== undefined) keyed[property] = value;
  }
  return keyed;
}

/** A keyed property on the way out. One that had not come yet makes up on its way what it lacked, so that it does not jump. */
function goingValue(element: Element, property: Keyed, comes: number, out: number, inLength: number): number | undefined {
  const rest = lastOf(element, property);
  const value = keyedValue(element, 'out', property, out) ?? rest;
  const had = comes < inLength ? keyedValue(element, 'in', property, comes) : undefined;
  if (had === undefined || value === undefined) return value ?? had;
  const length = element.keyframes.reduce((most, k) => (k.phase === 'out' && k.property === property ? Math.max(most, k.frame) : most), 0);
  const left = length === 0 ? 1 : 1 - Math.min(1, out / length);
  return value + (had - (rest ?? had)) * left;
}

const lastOf = (element: Element, property: Keyed): number | undefined =>
  keyedValue(element, 'hold', property, Infinity) ?? keyedValue(element, 'in', property, Infinity);

/** How an element stands in a phase, by its moves and keyframes. `inLength` is that of the whole graphic's coming. */
export function motionOf(element: Element, phase: Phase, inLength: number, raster: Raster): Motion {
  let motion: Motion = STILL;
  if (element.in && phase.in < lengthOf(element.in))
    motion = applied(motion, element.in, progressOf(element.in, phase.in), element, raster);
  if (element.out && phase.out !== null) motion = applied(motion, element.out, 1 - progressOf(element.out, phase.out), element, raster);
  if (element.hold && phase.in >= inLength) {
    const level = holdLevel(element.hold, phase.in - inLength);
    motion = applied(motion, element.hold, level, element, raster);
  }
  const keyed = keyedAt(element, phase, inLength);
  return Object.keys(keyed).length > 0 ? { ...motion, keyed } : motion;
}

/** An element on its way from what it was to what it is: the first half the old one goes, the second half the new one comes. */
export function changing(move: ElementMove, frames: number): { which: 'old' | 'new'; level: number } {
  const share = Math.min(1, Math.max(0, move.frames === 0 ? (frames >= move.start ? 1 : 0) : (frames - move.start) / move.frames));
  return share < 0.5
    ? { which: 'old', level: 1 - ease(move.easing, share * 2) }
    : { which: 'new', level: ease(move.easing, share * 2 - 1) };
}
