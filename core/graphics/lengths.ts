/** How long graphics take to come, go and change, in frames of the show. */
import { changeFrames, comesFrames, goesFrames } from './animation/motion';
import { type Graphic } from './document';
import { type Element } from './element';
import { lengthOf } from './motion';
import { ROWS_MOVE_FRAMES } from './table-cells';

/** Frames that a graphic takes to come, as a whole and by its elements. */
export const inLength = (graphic: Graphic): number => phaseLength(graphic, 'in');
/** Frames that it takes to go. */
export const outLength = (graphic: Graphic): number => phaseLength(graphic, 'out');

const lengths = new WeakMap<readonly Element[], { in: number; out: number }>();

function phaseLength(graphic: Graphic, phase: 'in' | 'out'): number {
  let known = lengths.get(graphic.elements);
  if (!known) {
    known = { in: elementsLength(graphic.elements, 'in'), out: elementsLength(graphic.elements, 'out') };
    if (Object.isFrozen(graphic.elements)) lengths.set(graphic.elements, known);
  }
  return Math.max(known[phase], lengthOf(graphic[phase]));
}

function elementsLength(elements: readonly Element[], phase: 'in' | 'out'): number {
  const keyed = (e: Element) => e.keyframes.reduce((most, k) => (k.phase === phase ? Math.max(most, k.frame) : most), 0);
  const own = ({ content }: Element) => (content.kind !== 'animation' ? 0 : phase === 'in' ? comesFrames(content) : goesFrames(content));
  return elements.reduce((most, e) => Math.max(most, lengthOf(e[phase]), keyed(e), own(e)), 0);
}

/** Frames that the longest change of a value takes. */
export const changeLength = (graphic: Graphic): number =>
  graphic.elements.reduce(
    (most, { change, content }) =>
      Math.max(
        most,
        lengthOf(change),
        content.kind === 'animation' ? changeFrames(content) : content.kind === 'table' ? ROWS_MOVE_FRAMES : 0,
      ),
    0,
  );
