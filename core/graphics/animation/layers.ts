/** An animation as the layers that it is drawn in: what a filled part changes is by itself, so that the rest stands still when it changes. */
import { type Phase } from '../motion';
import { type Moment } from '../paint';
import { type Drawn } from '../values';
import { type AnimationContent } from './document';
import { type AtHold, changingFrame, frameAt, isWaiting } from './motion';
import { layerGroups } from './parts';
import { trackPlace, type TrackPlace } from './track';

/** A live picture that stands for an image layer, with the track of its places. */
interface Live {
  pictureId: string;
  track: readonly number[];
  /** Where its image stands in the animation. */
  path: string;
  layers: readonly number[];
}

/** The live pictures that are filled in for image layers. */
export const liveIn = ({ parts, given }: AnimationContent): Live[] =>
  given.flatMap(({ partId, value }) => {
    const part = parts.find((p) => p.id === partId);
    return part?.kind === 'window' && value !== '' ? [{ pictureId: value, track: part.track, path: part.path, layers: part.layers }] : [];
  });

/** A group of layers with just what is filled in of it. */
export interface AnimationLayer {
  drawn: Drawn;
  layers: readonly number[];
  /** Live pictures under what is drawn of it. */
  live: readonly Live[];
}

/** The groups of an animation, back to front: layers in `apart` are drawn by themselves. */
function groupsOf(drawn: Drawn, content: AnimationContent, apart: ReadonlySet<number>): readonly AnimationLayer[] {
  const of = new Map(content.parts.map((p) => [p.id, p]));
  const live = liveIn(content);
  const groups = layerGroups(
    content.units.map((u) => u.layers),
    apart,
  );
  return groups.map((group): AnimationLayer => {
    const given = content.given.flatMap((g) => {
      const part = of.get(g.partId);
      if (!part?.layers.some((l) => group.includes(l))) return [];
      // An image that a live picture stands for is not drawn; which picture it is makes no difference to what is drawn.
      if (part.kind === 'image' && live.some(({ path }) => path === part.path)) return [];
      return part.kind === 'window' ? [{ ...g, value: g.value === '' ? '' : 'on' }] : [g];
    });
    return {
      layers: group,
      live: live.filter(({ layers }) => layers.some((l) => group.includes(l))),
      drawn: { ...drawn, element: { ...drawn.element, content: { ...content, given } } },
    };
  });
}

const known = new WeakMap<Drawn, readonly AnimationLayer[]>();

/** The groups of an animation that are drawn apart, back to front. The same for the same drawn element. */
export function animationLayers(drawn: Drawn, content: AnimationContent): readonly AnimationLayer[] {
  const found = known.get(drawn);
  if (found) return found;
  const of = new Map(content.parts.map((p) => [p.id, p.layers]));
  const layers = groupsOf(drawn, content, new Set(content.given.flatMap((g) => of.get(g.partId) ?? [])));
  known.set(drawn, layers);
  return layers;
}

const knownMoving = new WeakMap<Drawn, readonly AnimationLayer[]>();

/** The groups while all of it moves: what lies between live pictures. The same for the same drawn element. */
function movingLayers(drawn: Drawn, content: AnimationContent): readonly AnimationLayer[] {
  const found = knownMoving.get(drawn);
  if (found) return found;
  const layers = groupsOf(drawn, content, new Set(liveIn(content).flatMap((l) => l.layers)));
  knownMoving.set(drawn, layers);
  return layers;
}

/** One paint of an animation. */
export interface AnimationPaint {
  drawn: Drawn;
  moment: Moment;
  /** Tells it from the other paints of its element. */
  slot: string;
}
/** A live picture in it, in pixels of the animation. */
export interface AnimationWindow {
  pictureId: string;
  place: TrackPlace;
}
export type AnimationItem = AnimationPaint | AnimationWindow;

const windowsAt = ({ live }: AnimationLayer, frame: number): AnimationWindow[] =>
  live.flatMap(({ pictureId, track }) => {
    const place = trackPlace(track, frame);
    return place && place.opacity > 0 ? [{ pictureId, place }] : [];
  });

/**
 * What is drawn of an animation in a phase, back to front: all of it while it moves, its layers in their groups while it waits, with live pictures
 * between them. Nothing when it is over.
 */
export function animationPaints(drawn: Drawn, content: AnimationContent, phase: Phase, hold: AtHold): AnimationItem[] {
  const { id } = drawn.element;
  const waits = phase.out === null && isWaiting(content, phase.in, hold);
  const frame = frameAt(content, phase.in, phase.out, hold);
  if (frame === null) return [];
  if (!waits && liveIn(content).length === 0) return [{ drawn, moment: { animation: { frame, layers: null } }, slot: id }];
  return (waits ? animationLayers : movingLayers)(drawn, content).flatMap((layer, i): AnimationItem[] => [
    ...windowsAt(layer, frame),
    { drawn: layer.drawn, moment: { animation: { frame, layers: layer.layers } }, slot: `${id}.${waits ? '' : 'm'}${i}` },
  ]);
}

const givenOf = ({ drawn: { element }, live }: AnimationLayer): string =>
  element.content.kind === 'animation' ? JSON.stringify([element.content.given, live.map((l) => l.pictureId)]) : '';

/** The same while values change: the changed layers go by their own animation and come anew, all others stand. `frames` since the change. */
export function changingPaints(old: Drawn, now: Drawn, frames: number, hold: AtHold): AnimationItem[] {
  const [was, is] = [old.element.content, now.element.content];
  if (was.kind !== 'animation' || is.kind !== 'animation') return [];
  const before = animationLayers(old, was);
  const rest = frameAt(is, Infinity, null, hold) ?? is.first;
  return animationLayers(now, is).flatMap((layer, i): AnimationItem[] => {
    const slot = `${now.element.id}.${i}`;
    const of = (from: AnimationLayer, frame: number): AnimationItem[] => [
      ...windowsAt(from, frame),
      { drawn: from.drawn, moment: { animation: { frame, layers: layer.layers } }, slot },
    ];
    const gone = before.find((b) => b.layers.join() === layer.layers.join());
    if (was.assetId !== is.assetId || !gone || givenOf(gone) === givenOf(layer)) return of(layer, rest);
    const { which, frame } = changingFrame(is, frames);
    return frame === null ? [] : of(which === 'old' ? gone : layer, frame);
  });
}
