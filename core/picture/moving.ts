/** Where something is on its way over an edge of the picture, or out from an edge of itself. */
import { type Point, type Rect } from '../show/geometry';
import { type Edge } from '../show/moves';
import { type Raster } from '../show/raster';

/** How far a rectangle is from lying just outside of the picture, over one of its edges. */
export function wayOut(edge: Edge, { x, y, width, height }: Rect, raster: Raster): Point {
  return {
    x: edge === 'left' ? -(x + width) : edge === 'right' ? raster.width - x : 0,
    y: edge === 'top' ? -(y + height) : edge === 'bottom' ? raster.height - y : 0,
  };
}

/** The `share` of a rectangle, 0 to 1, that a wipe from one of its edges has uncovered. */
export function uncovered(edge: Edge, share: number, { x, y, width, height }: Rect): Rect {
  const across = edge === 'left' || edge === 'right';
  return {
    x: edge === 'right' ? x + width * (1 - share) : x,
    y: edge === 'bottom' ? y + height * (1 - share) : y,
    width: across ? width * share : width,
    height: across ? height : height * share,
  };
}
