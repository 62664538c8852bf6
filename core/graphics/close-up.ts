/** The part of a picture in which something is drawn: for small pictures, in which the whole would say little. */
import { around } from '../layout/arrange';
import { type DrawItem } from '../picture/draw';
import { fullRect, intersect, type Rect } from '../show/geometry';
import { type Raster } from '../show/raster';

/** Room around what is drawn, and the smallest share of the width that is shown. */
const ROOM = 1.08;
const LEAST_SHARE = 1 / 3;

/** The part of a raster in which items are drawn, a little larger, in the raster's proportions and within it. */
export function closeUp(items: readonly DrawItem[], raster: Raster): Rect {
  const all = fullRect(raster);
  const inside = items.flatMap(({ target }) => intersect(target, all) ?? []);
  if (inside.length === 0) return all;
  const ink = around(inside);
  const share = Math.min(1, Math.max((ink.width * ROOM) / raster.width, (ink.height * ROOM) / raster.height, LEAST_SHARE));
  const [width, height] = [raster.width * share, raster.height * share];
  const within = (at: number, size: number, room: number, most: number) => Math.min(Math.max(0, at + size / 2 - room / 2), most - room);
  return { x: within(ink.x, ink.width, width, raster.width), y: within(ink.y, ink.height, height, raster.height), width, height };
}

/** Items as they lie in a part of the picture, from its corner. */
export const fromCorner = (items: readonly DrawItem[], { x, y }: Rect): DrawItem[] =>
  items.map((item) => ({
    ...item,
    target: { ...item.target, x: item.target.x - x, y: item.target.y - y },
    ...(item.clip && { clip: { ...item.clip, x: item.clip.x - x, y: item.clip.y - y } }),
  }));
