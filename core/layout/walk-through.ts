/** What is not ready yet in the pictures of a show: empty seats, empty boxes, eyes that cannot be where they should. */
import { transitionTrouble } from '../picture/change';
import { layoutScene } from '../picture/scene';
import { EYE_LINE, eyeInBox } from '../picture/view';
import { type Air } from '../desk/air';
import { type Layout } from './document';
import { type Show } from '../desk/show';
import { effectiveBox } from './styles';
import { isTooMuch, Weights, weightWords } from './weight';

export interface Finding {
  kind: 'empty-seat' | 'empty-box' | 'eyes' | 'outside' | 'transition' | 'too-much';
  /** Layout or seat to look at; null for the show. */
  id: string | null;
  text: string;
}

/** Eyes further off than this share of the box are told. */
const EYES_OFF = 0.02;

/** `sizes`: pixels of each source's picture, as far as they are known. */
export function walkThrough(show: Show, air: Air, sizes: Record<string, { width: number; height: number }>): Finding[] {
  const findings: Finding[] = show.seats
    .filter((s) => s.occupantId === null)
    .map((s) => ({ kind: 'empty-seat', id: s.id, text: `Nobody fills the seat ${s.name}.` }));
  const weights = new Weights(show);
  for (const { id, name } of show.layouts) {
    const weight = weights.of(id);
    if (isTooMuch(weight))
      findings.push({ kind: 'too-much', id, text: `${name} holds ${weightWords(weight)}: what is beyond that is left out.` });
  }
  for (const layout of show.layouts) findings.push(...layoutFindings(show, air, layout, sizes));
  for (const { name, settings } of [{ name: 'The armed transition', settings: show.transition }, ...show.transitions]) {
    const trouble = transitionTrouble(show, air, settings);
    if (trouble !== null) findings.push({ kind: 'transition', id: null, text: `${name} will dissolve: ${trouble}.` });
  }
  return findings;
}

function layoutFindings(show: Show, air: Air, layout: Layout, sizes: Record<string, { width: number; height: number }>): Finding[] {
  const findings: Finding[] = [];
  const say = (kind: Finding['kind'], text: string) => findings.push({ kind, id: layout.id, text });
  for (const stored of layout.boxes) {
    if (!stored.visible) continue;
    const box = effectiveBox(show, stored);
    if (!box.content) say('empty-box', `Box ${box.name} of ${layout.name} shows nothing.`);
    const { x, y, width, height } = box.rect;
    if (x >= show.raster.width || y >= show.raster.height || x + width <= 0 || y + height <= 0)
      say('outside', `Box ${box.name} of ${layout.name} lies outside the picture.`);
  }
  for (const item of layoutScene(show, air, layout, 0)) {
    if (item.fit !== 'eye' || !item.eye || item.sourceId === undefined) continue;
    const size = sizes[item.sourceId];
    const eye = size && eyeInBox(item, size);
    if (!eye) continue;
    const [dx, dy] = [eye.x - 0.5, eye.y - EYE_LINE];
    if (Math.abs(dx) <= EYES_OFF && Math.abs(dy) <= EYES_OFF) continue;
    const who = show.seats.find((s) => s.id === item.seatId)?.name ?? show.sources.find((s) => s.id === item.sourceId)?.name ?? 'someone';
    const parts = [
      ...(Math.abs(dy) > EYES_OFF
        ? [`${Math.round(Math.abs(dy) * item.target.height)} px ${dy > 0 ? 'below' : 'above'} the upper third`]
        : []),
      ...(Math.abs(dx) > EYES_OFF ? [`${Math.round(Math.abs(dx) * item.target.width)} px ${dx > 0 ? 'right' : 'left'} of the middle`] : []),
    ];
    say('eyes', `In ${layout.name}, the eyes of ${who} stay ${parts.join(' and ')}: the picture ends there. Zoom in the box to give room.`);
  }
  return findings;
}
