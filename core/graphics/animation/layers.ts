/** An animation as the layers that it is drawn in: what a filled part changes is by itself, so that the rest stands still when it changes. */
import { type Phase } from '../motion';
import { type Moment } from '../paint';
import { type Drawn } from '../values';
import { type AnimationContent } from './document';
import { type AtHold, changingFrame, frameAt, isWaiting } from './motion';
import { layerGroups } from './parts';

/** A group of layers with just what is filled in of it. */
export interface AnimationLayer {
  drawn: Drawn;
  layers: readonly number[];
}

const known = new WeakMap<Drawn, readonly AnimationLayer[]>();

/** The groups of an animation that are drawn apart, back to front. The same for the same drawn element. */
export function animationLayers(drawn: Drawn, content: AnimationContent): readonly AnimationLayer[] {
  const found = known.get(drawn);
  if (found) return found;
  const of = new Map(content.parts.map((p) => [p.id, p.layers]));
  const changed = new Set(content.given.flatMap((g) => of.get(g.partId) ?? []));
  const groups = layerGroups(
    content.units.map((u) => u.layers),
    changed,
  );
  const layers = groups.map((group): AnimationLayer => {
    const given = content.given.filter((g) => (of.get(g.partId) ?? []).some((l) => group.includes(l)));
    return { layers: group, drawn: { ...drawn, element: { ...drawn.element, content: { ...content, given } } } };
  });
  known.set(drawn, layers);
  return layers;
}

/** One paint of an animation. */
export interface AnimationPaint {
  drawn: Drawn;
  moment: Moment;
  /** Tells it from the other paints of its element. */
  slot: string;
}

/** What is drawn of an animation in a phase: all of it while it moves, its layers in their groups while it waits. Nothing when it is over. */
export function animationPaints(drawn: Drawn, content: AnimationContent, phase: Phase, hold: AtHold): AnimationPaint[] {
  const { id } = drawn.element;
  const waits = phase.out === null && isWaiting(content, phase.in, hold);
  const frame = frameAt(content, phase.in, phase.out, hold);
  if (frame === null) return [];
  if (!waits) return [{ drawn, moment: { animation: { frame, layers: null } }, slot: id }];
  return animationLayers(drawn, content).map((layer, i) => ({
    drawn: layer.drawn,
    moment: { animation: { frame, layers: layer.layers } },
    slot: `${id}.${i}`,
  }));
}

const givenOf = ({ drawn: { element } }: AnimationLayer): string =>
  element.content.kind === 'animation' ? JSON.stringify(element.content.given) : '';

/** The same while values change: the changed layers go by their own animation and come anew, all others stand. `frames` since the change. */
export function changingPaints(old: Drawn, now: Drawn, frames: number, hold: AtHold): AnimationPaint[] {
  const [was, is] = [old.element.content, now.element.content];
  if (was.kind !== 'animation' || is.kind !== 'animation') return [];
  const before = animationLayers(old, was);
  const rest = frameAt(is, Infinity, null, hold) ?? is.first;
  return animationLayers(now, is).flatMap((layer, i): AnimationPaint[] => {
    const slot = `${now.element.id}.${i}`;
    const of = (drawn: Drawn, frame: number): AnimationPaint => ({ drawn, moment: { animation: { frame, layers: layer.layers } }, slot });
    const gone = before.find((b) => b.layers.join() === layer.layers.join());
    if (was.assetId !== is.assetId || !gone || givenOf(gone) === givenOf(layer)) return [of(layer.drawn, rest)];
    const { which, frame } = changingFrame(is, frames);
    return frame === null ? [] : [of(which === 'old' ? gone.drawn : layer.drawn, frame)];
  });
}
