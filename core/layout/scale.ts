/** What is measured in pixels, taken to another picture size. */
import { type Rect } from '../show/geometry';
import { type BoxLook } from './document';

/** How many times as wide and as high the new picture is. */
export interface Scale {
  x: number;
  y: number;
}

/** Furthest that a place may lie, and the largest a box may be, pixels. */
const REACH = 20_000;

const within = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, Math.round(value * 10) / 10));

/** A rectangle scaled about the upper left corner of the picture; to a tenth of a pixel. */
export const scaleRect = ({ x, y, width, height }: Rect, by: Scale): Rect => ({
  x: within(x * by.x, -REACH, REACH),
  y: within(y * by.y, -REACH, REACH),
  width: within(width * by.x, 1, REACH),
  height: within(height * by.y, 1, REACH),
});

/** Place, corners, border and shadow of a box. What has no direction goes by the smaller factor. */
export function scaleLook<T extends BoxLook>(look: T, by: Scale): T {
  const least = Math.min(by.x, by.y);
  const { shadow, border } = look;
  return {
    ...look,
    rect: scaleRect(look.rect, by),
    radius: within(look.radius * least, 0, 4000),
    border: { ...border, width: within(border.width * least, 0, 400) },
    shadow: {
      ...shadow,
      x: within(shadow.x * by.x, -400, 400),
      y: within(shadow.y * by.y, -400, 400),
      blur: within(shadow.blur * least, 0, 400),
    },
  };
}
