/** What changes between two looks of a surface, in words: for the list of what a take will change, and before a preset is overwritten. */
import { nameOf } from '../desk/entities';
import { type Show } from '../desk/show';
import { type BoxContent } from '../layout/document';
import { type ScreensAir, surfaceNow } from './air';
import { type Layer, type Look, type Surface } from './surface';

/** What a background or layer shows. */
export function contentWords(show: Show, content: BoxContent | null): string {
  if (!content) return 'nothing';
  if (content.kind === 'colour') return `the colour ${content.colour ?? '#000000'}`;
  return nameOf(show, 'picture', content.id ?? '');
}

const shownBy = (show: Show, layer: Layer): string =>
  layer.shows === 'picture' ? contentWords(show, layer.content) : layer.shows === 'clean' ? 'clean programme' : 'programme';

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Every difference of a look from another, each in a few words; none when they are the same. */
export function lookDifferences(show: Show, from: Look, to: Look): string[] {
  const lines: string[] = [];
  if (!same(from.background, to.background)) lines.push(`background ${contentWords(show, to.background)}`);
  for (const layer of to.layers) {
    const before = from.layers.find((l) => l.id === layer.id);
    if (!before) {
      lines.push(`${layer.name} comes`);
      continue;
    }
    const { rect, ...rest } = layer;
    const { rect: oldRect, ...oldRest } = before;
    if (shownBy(show, before) !== shownBy(show, layer)) lines.push(`${layer.name} shows ${shownBy(show, layer)}`);
    else if (!same(rest, oldRest)) lines.push(`${layer.name} looks otherwise`);
    if (!same(rect, oldRect)) lines.push(`${layer.name} moves`);
  }
  for (const layer of from.layers) if (!to.layers.some((l) => l.id === layer.id)) lines.push(`${layer.name} goes`);
  const order = (look: Look) =>
    look.layers.map((l) => l.id).filter((id) => from.layers.some((l) => l.id === id) && to.layers.some((l) => l.id === id));
  if (!same(order(from), order(to))) lines.push('layers in another order');
  return lines;
}

/** A whole look in a line: what it shows, and where. */
export const lookWords = (show: Show, { background, layers }: Look): string =>
  [
    contentWords(show, background),
    ...layers.map(
      (l) =>
        `${l.name} ${shownBy(show, l)} at ${Math.round(l.rect.x)},${Math.round(l.rect.y)} ${Math.round(l.rect.width)}×${Math.round(l.rect.height)}${l.visible ? '' : ', hidden'}`,
    ),
  ].join('; ');

/** What a take of a surface would change, in one line. */
export function lookChanges(show: Show, air: ScreensAir, surface: Surface): string {
  const all = lookDifferences(show, surfaceNow(air, surface.id, Infinity).look, surface.look);
  return all.length > 3 ? `${all.slice(0, 2).join(', ')} and ${all.length - 2} more` : all.join(', ');
}
