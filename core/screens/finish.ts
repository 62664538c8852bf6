/**
 * What is done to an output after its picture is drawn: four-corner fit, light of each colour, blends, lift of black, masks; in that order.
 * Rectangles are pixels of the output. Plain data, the same for both mixers and for the reference.
 */
import { intersect, type Rect } from '../show/geometry';
import { type Raster } from '../show/raster';
import { Light } from './blend';
import { areaOf, rectToOutput, toCanvas, type Way, wayOf } from './canvas';
import { type Blend, type Corners, type Gain, type Screen, type Surface } from './surface';

/** One active area of an output. */
export interface AreaFinish {
  area: Rect;
  corners: Corners | null;
  gain: Gain | null;
  masks: readonly Rect[];
  /** The screens that it blends with, itself among them by `own`; null where nothing is blended. */
  blend: { screens: readonly Screen[]; own: Screen; settings: Blend; way: Way } | null;
}

/** Null when pixels leave as they are drawn. */
export type OutputFinish = readonly AreaFinish[] | null;

const isFull = ({ red, green, blue }: Gain): boolean => red === 1 && green === 1 && blue === 1;
const isPulled = (c: Corners): boolean => [c.topLeft, c.topRight, c.bottomRight, c.bottomLeft].some(({ x, y }) => x !== 0 || y !== 0);

/** The finish of an output that feeds screens of a surface. */
export function finishOf(surface: Surface, outputId: string, output: Raster): OutputFinish {
  const blending = surface.screens.filter((s) => s.blends);
  const finishes = surface.screens.flatMap((screen): AreaFinish[] => {
    if (screen.outputId !== outputId) return [];
    const area = areaOf(screen, output);
    const near = screen.blends ? blending.filter((s) => intersect(s.rect, screen.rect)) : [];
    const blends = near.length > 1 || (screen.blends && surface.blend.lift > 0 && blending.length > 1);
    const finish: AreaFinish = {
      area,
      corners: screen.corners && isPulled(screen.corners) ? screen.corners : null,
      gain: isFull(screen.gain) ? null : screen.gain,
      masks: screen.masks,
      blend: blends ? { screens: near, own: screen, settings: surface.blend, way: wayOf(screen, area) } : null,
    };
    return finish.corners || finish.gain || finish.masks.length > 0 || finish.blend ? [finish] : [];
  });
  return finishes.length > 0 ? finishes : null;
}

/** How much of the signal stays, 0 to 255, and how far black is lifted, 0 to 255 of full signal, in a part of an output. */
export interface Shade extends Rect {
  stays: Uint8Array;
  lift: Uint8Array;
}

/** A rectangle on whole pixels. */
function whole(r: Rect, within: Rect): Rect | null {
  const [x, y] = [Math.floor(r.x), Math.floor(r.y)];
  return intersect({ x, y, width: Math.ceil(r.x + r.width) - x, height: Math.ceil(r.y + r.height) - y }, within);
}

/** The shades of an area's blends: only where something overlaps, or black is lifted. Of pixel centres. */
export function shadesOf({ area, blend }: AreaFinish): Shade[] {
  if (!blend) return [];
  const { screens, own, settings, way } = blend;
  const light = new Light({ screens: [...screens], blend: settings });
  const places = settings.lift > 0 ? [area] : screens.flatMap((s) => (s.id === own.id ? [] : (overlapOn(way, own, s, area) ?? [])));
  return places.map((place) => {
    const shade: Shade = {
      ...place,
      stays: new Uint8Array(place.width * place.height),
      lift: new Uint8Array(place.width * place.height),
    };
    for (let y = 0, i = 0; y < place.height; y += 1)
      for (let x = 0; x < place.width; x += 1, i += 1) {
        const p = toCanvas(way, { x: place.x + x + 0.5, y: place.y + y + 0.5 });
        const lift = settings.lift > 0 && light.count(p) < 2 ? settings.lift : 0;
        shade.stays[i] = Math.round(255 * light.signal(own, p) * (1 - lift));
        shade.lift[i] = Math.round(255 * lift);
      }
    return shade;
  });
}

function overlapOn(way: Way, own: Screen, other: Screen, area: Rect): Rect | null {
  const on = intersect(own.rect, other.rect);
  return on && whole(rectToOutput(way, on), area);
}
