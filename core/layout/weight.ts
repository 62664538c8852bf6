/**
 * What a picture costs to draw, and how much it may: layouts inside layouts multiply, so depth alone bounds nothing. Eight layouts of
 * sixteen boxes, each showing the one before, would be four thousand million pictures.
 */
import { CommandError } from '../commands/command';
import { intersect, type Rect } from '../show/geometry';
import { type BoxContent, type Layout, type Preset } from './document';
import { type Raster } from '../show/raster';
import { type Show } from '../desk/show';
import { effectiveBox } from './styles';

export interface Weight {
  /** Pictures that are drawn, those inside layouts each time they are shown. */
  items: number;
  /** Area that is drawn, in whole pictures of the show. */
  area: number;
}

/** Most that one picture may hold. */
export const MOST: Weight = { items: 256, area: 32 };

/** How much of the picture a place covers, 0 to 1; what lies outside is not drawn. */
export function seenArea(rect: Rect, raster: Raster): number {
  const seen = intersect(rect, { x: 0, y: 0, ...raster });
  return seen ? (seen.width * seen.height) / (raster.width * raster.height) : 0;
}

const byId = (show: Show) => new Map([...show.layouts, ...show.presets].map((l) => [l.id, l]));

/** Weights of layouts, each worked out once however often it is shown. A layout that shows itself, which is refused elsewhere, weighs nothing there. */
export class Weights {
  private readonly layouts: Map<string, Layout | Preset>;
  private readonly known = new Map<string, Weight>();

  constructor(private readonly show: Show) {
    this.layouts = byId(show);
  }

  of(id: string): Weight {
    const known = this.known.get(id);
    if (known) return known;
    const layout = this.layouts.get(id);
    if (!layout) return { items: 0, area: 0 };
    this.known.set(id, { items: 0, area: 0 });
    const weight = { items: 0, area: 0 };
    const add = (content: BoxContent | null, area: number) => {
      if (!content) return;
      const inner = content.kind === 'layout' && content.id !== undefined ? this.of(content.id) : { items: 0, area: 0 };
      weight.items += 1 + inner.items;
      weight.area += area + inner.area;
    };
    add(layout.background, 1);
    for (const box of layout.boxes) if (box.visible) add(box.content, seenArea(effectiveBox(this.show, box).rect, this.show.raster));
    if (layout.frameId !== null) add({ kind: 'source', id: layout.frameId }, 1);
    this.known.set(id, weight);
    return weight;
  }
}

export const isTooMuch = ({ items, area }: Weight): boolean => items > MOST.items || area > MOST.area;

/** In words, for a refusal or a finding. */
export const weightWords = ({ items, area }: Weight): string =>
  items > MOST.items
    ? `${items > 1e6 ? 'more than a million' : items} pictures, and ${MOST.items} can be drawn`
    : `${Math.round(area)} times the area of the picture, and ${MOST.area} times can be drawn`;

/** @throws CommandError when a layout has become more than can be drawn; one that was so before may be made lighter. */
export function guardWeight(before: Show, after: Show): void {
  if (before.layouts === after.layouts && before.presets === after.presets) return;
  const weights = new Weights(after);
  let old: Weights | null = null;
  for (const { id, name } of [...after.layouts, ...after.presets]) {
    const weight = weights.of(id);
    if (!isTooMuch(weight)) continue;
    const was = (old ??= new Weights(before)).of(id);
    if (weight.items <= was.items && weight.area <= was.area) continue;
    throw new CommandError(
      'too-much',
      `${name} would hold ${weightWords(weight)}. Show fewer boxes, or fewer layouts inside layouts.`,
      'content',
    );
  }
}
