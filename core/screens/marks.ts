/** What is drawn over a canvas to see where its screens lie: frames, names, pixels, blends, active areas. In pixels of the canvas. */
import { type Show } from '../desk/show';
import { type DrawItem } from '../picture/draw';
import { intersect, type Rect } from '../show/geometry';
import { type Surface } from './surface';
import { box, once, words } from './test-pictures';

const FRAME = '#e2c48d';
const NAME = '#e8efe9';
const GROUND = '#101a1c';

/** Four lines inside of a rectangle. */
const frameOf = ({ x, y, width, height }: Rect, line: number, colour: string): DrawItem[] => [
  box(colour, x, y, width, line),
  box(colour, x, y + height - line, width, line),
  box(colour, x, y, line, height),
  box(colour, x + width - line, y, line, height),
];

/** Overlaps of two screens that blend, each once. */
export const overlaps = ({ screens }: Pick<Surface, 'screens'>): Rect[] =>
  screens.flatMap((a, i) =>
    screens.slice(i + 1).flatMap((b) => {
      const shared = a.blends && b.blends ? intersect(a.rect, b.rect) : null;
      return shared ? [shared] : [];
    }),
  );

/** Frames and names of all screens; with `ground`, over a ground of its own, as a picture to be read from afar. */
export function marks(show: Show, surface: Surface, ground: boolean): readonly DrawItem[] {
  const { width, height, screens, name } = surface;
  const outputs = show.screens.outputs.filter((o) => screens.some((s) => s.outputId === o.id));
  return once(JSON.stringify(['marks', surface.id, name, width, height, screens, outputs, ground]), () => {
    const line = Math.max(2, Math.round(Math.max(width, height) / 800));
    const items: DrawItem[] = [];
    screens.forEach(({ rect, name: own, outputId }, i) => {
      if (ground) items.push(box(GROUND, rect.x, rect.y, rect.width, rect.height));
      items.push(...frameOf(rect, line, FRAME));
      const size = Math.max(12, Math.round(Math.min(rect.height / 4, rect.width / 8)));
      const fed = outputs.find((o) => o.id === outputId)?.name ?? 'no output';
      const place = (y: number) => ({ x: rect.x + line * 2, y: rect.y + y, width: rect.width - line * 4, height: size * 1.3 });
      const middle = rect.height / 2 - size * 1.3;
      items.push(
        words(`${i + 1} ${own}`, place(middle), size, surface, NAME),
        words(`${rect.width}×${rect.height} · ${fed}`, place(middle + size * 1.3), Math.max(10, size * 0.5), surface, FRAME),
      );
    });
    for (const shared of overlaps(surface)) items.push(...frameOf(shared, line, '#4fd1a5'));
    return items;
  }).base;
}
