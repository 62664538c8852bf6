/** What a look of a surface is drawn from, in pixels of its canvas. Pure. */
import { type Air } from '../desk/air';
import { type Show } from '../desk/show';
import { CLEAN_OUTPUT, PROGRAMME_OUTPUT } from './outputs';
import { MOST } from '../layout/weight';
import { effectiveBox } from '../layout/styles';
import { ease } from '../picture/easing';
import { type DrawItem, type PicturePlan, plainPlan, type Scene } from '../picture/draw';
import { glide } from '../picture/glide';
import { boxItems, contentOf } from '../picture/scene';
import { fullRect, intersect } from '../show/geometry';
import { type ScreensAir, surfaceNow } from './air';
import { marks } from './marks';
import { testPlan } from './test-pictures';
import { type Layer, type Look, type Surface } from './surface';

type Canvas = Pick<Surface, 'width' | 'height'>;

/** A canvas has room for more than one picture of the show. */
const room = ({ width, height }: Canvas, { raster }: Show) => ({
  items: MOST.items,
  area: MOST.area * Math.max(1, (width * height) / (raster.width * raster.height)),
});

function layerItems(show: Show, air: Air, layer: Layer, frame: number, budget: ReturnType<typeof room>): DrawItem[] {
  const { rect } = effectiveBox(show, layer);
  const output = layer.shows === 'picture' ? null : layer.shows === 'programme' ? PROGRAMME_OUTPUT : CLEAN_OUTPUT;
  const items = boxItems(show, air, layer, frame, budget, output && { texture: { kind: 'output', id: output }, fit: 'contain' });
  // Layers of a graphic reach past its own edges; a surface shows nothing beside the layer.
  return items.length < 2 && layer.content?.kind !== 'graphic' && layer.content?.kind !== 'entry'
    ? items
    : items.flatMap((item) => {
        const clip = item.clip ? intersect(item.clip, rect) : rect;
        return clip ? [{ ...item, clip }] : [];
      });
}

/** Background and layers, back to front, in pixels of the canvas. */
export function lookScene(show: Show, air: Air, canvas: Canvas, look: Look, frame: number): Scene {
  const budget = room(canvas, show);
  const background = contentOf(show, air, look.background, frame, budget);
  const behind: DrawItem[] = background
    ? [
        {
          ...background,
          target: fullRect(canvas),
          fit: background.fit === 'fill' ? 'fill' : 'cover',
          opacity: 1,
          layer: 'background',
        },
      ]
    : [];
  return [...behind, ...look.layers.flatMap((layer) => layerItems(show, air, layer, frame, budget))];
}

/** True when a surface shows the clean programme, in Next or on air. */
export const showsClean = ({ screens }: Pick<Show, 'screens'>, { surfaces }: ScreensAir): boolean =>
  [...screens.surfaces, ...Object.values(surfaces)].some(({ look }) => look.layers.some((l) => l.shows === 'clean'));

/** A surface on air or in Next at a frame, in pixels of its canvas. */
export function surfacePlan(show: Show, air: Air, surface: Surface, which: 'air' | 'next', frame: number): PicturePlan {
  const scene = (look: Look) => lookScene(show, air, surface, look, frame);
  if (which === 'next') return plainPlan(scene(surface.look));
  const { look, change, over: instead } = surfaceNow(air.screens, surface.id, frame);
  switch (instead?.kind) {
    case 'black':
      return plainPlan([]);
    case 'test':
      return testPlan(instead.pattern, surface, frame);
    case 'card':
      return plainPlan([...marks(show, surface, true)]);
  }
  const over = scene(look);
  if (!change || change.kind === 'cut') return plainPlan(over);
  const base = scene(change.from);
  const share = Math.min(1, Math.max(0, (frame - change.start) / change.frames));
  const position = ease('in-out', share);
  if (change.kind === 'glide') return plainPlan(glide(base, over, position));
  const mix =
    change.kind === 'dip' ? ({ kind: 'dip', position, colour: change.colour } as const) : ({ kind: 'dissolve', position } as const);
  return { ...plainPlan(base), over, mix };
}
