/** Where something of a graphic lands in the picture of the show, with what moves make of its place. */
import { type DrawItem } from '../picture/draw';
import { uncovered } from '../picture/moving';
import { intersect, type Rect } from '../show/geometry';
import { type Motion } from './motion';

/** From pixels of a graphic's raster to those of the show's picture. */
export interface Placing {
  scale: number;
  x: number;
  y: number;
  /** Nothing is drawn outside of it, pixels of the show's picture. */
  clip: Rect | null;
}

/** A rectangle of the graphic in the picture of the show. */
export const toShow = ({ scale, x, y }: Placing, r: Rect): Rect => ({
  x: x + r.x * scale,
  y: y + r.y * scale,
  width: r.width * scale,
  height: r.height * scale,
});

/** `r` made larger or smaller about the middle of `about`, then moved. */
export function movedBy(r: Rect, about: Rect, m: Motion, x: number, y: number): Rect {
  const [cx, cy] = [about.x + about.width / 2, about.y + about.height / 2];
  return {
    x: cx + (r.x - cx) * m.scaleX + x,
    y: cy + (r.y - cy) * m.scaleY + y,
    width: r.width * m.scaleX,
    height: r.height * m.scaleY,
  };
}

/** Where `rect`, a part of what stands at `about`, is in a motion; null where nothing of it is seen. */
export function placed(
  placing: Placing,
  rect: Rect,
  about: Rect,
  motion: Motion,
  opacity: number,
): Pick<DrawItem, 'target' | 'opacity' | 'clip'> | null {
  const [dx, dy] = [(motion.keyed.x ?? about.x) - about.x + motion.x, (motion.keyed.y ?? about.y) - about.y + motion.y];
  if (motion.opacity <= 0 || opacity <= 0 || Math.abs(motion.scaleX) < 1e-3 || Math.abs(motion.scaleY) < 1e-3) return null;
  const shown = motion.wipe && toShow(placing, movedBy(uncovered(motion.wipe.edge, motion.wipe.share, rect), about, motion, dx, dy));
  const clip = placing.clip && shown ? intersect(placing.clip, shown) : (shown ?? placing.clip);
  // Nothing of it is left.
  if ((placing.clip ?? shown) && !clip) return null;
  return { target: toShow(placing, movedBy(rect, about, motion, dx, dy)), opacity: motion.opacity * opacity, ...(clip && { clip }) };
}
