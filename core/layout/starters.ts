/** Layouts to begin with, made by arithmetic from margins and gaps. */
import { type Rect } from '../show/geometry';

export const STARTERS = ['one', 'two', 'three', 'four', 'big-small', 'strip', 'inset'] as const;
export type Starter = (typeof STARTERS)[number];

/** For people. */
export const STARTER_NAMES: Record<Starter, string> = {
  one: 'One box',
  two: 'Two boxes',
  three: 'Three boxes',
  four: 'Four boxes',
  'big-small': 'Big and small',
  strip: 'Strip',
  inset: 'Picture in picture',
};

interface Spacing {
  /** Pixels to the raster's edge. */
  margin: number;
  /** Pixels between boxes. */
  gap: number;
}

/** The usual spacing: the 90 % safe area as margin, and a gap of 2.5 % of the height. */
export const usualSpacing = ({ width, height }: { width: number; height: number }): Spacing => ({
  margin: Math.round(Math.min(width, height) * 0.05),
  gap: Math.round(height * 0.025),
});

/** `columns` × `rows` cells of the room inside the margins. */
function grid(raster: { width: number; height: number }, columns: number, rows: number, { margin, gap }: Spacing): Rect[] {
  const width = (raster.width - 2 * margin - gap * (columns - 1)) / columns;
  const height = (raster.height - 2 * margin - gap * (rows - 1)) / rows;
  return Array.from({ length: columns * rows }, (_, i) => ({
    x: margin + (i % columns) * (width + gap),
    y: margin + Math.floor(i / columns) * (height + gap),
    width,
    height,
  }));
}

/** Boxes of a starter from back to front, whole pixels. A spacing that leaves no room is made smaller. */
export function starterBoxes(starter: Starter, raster: { width: number; height: number }, spacing: Spacing = usualSpacing(raster)): Rect[] {
  const most = Math.min(raster.width, raster.height);
  const s = { margin: Math.min(Math.max(0, spacing.margin), most * 0.4), gap: Math.min(Math.max(0, spacing.gap), most * 0.05) };
  const { margin, gap } = s;
  const [w, h] = [raster.width, raster.height];
  const rects = (() => {
    switch (starter) {
      case 'one':
        return [{ x: 0, y: 0, width: w, height: h }];
      case 'two': {
        const width = (w - 2 * margin - gap) / 2;
        const height = Math.min(h - 2 * margin, (width * 3) / 4);
        return [0, 1].map((i) => ({ x: margin + i * (width + gap), y: (h - height) / 2, width, height }));
      }
      case 'three':
        return grid(raster, 3, 1, s).map((r) => ({ ...r, y: h * 0.2, height: h * 0.6 }));
      case 'four':
        return grid(raster, 2, 2, s);
      case 'big-small': {
        const big = ((w - 2 * margin - gap) * 2) / 3;
        const small = w - 2 * margin - gap - big;
        const height = (big * 9) / 16;
        return [
          { x: margin, y: (h - height) / 2, width: big, height },
          { x: margin + big + gap, y: (h - height) / 2, width: small, height },
        ];
      }
      case 'strip': {
        const four = grid(raster, 4, 1, s);
        const height = ((four[0]?.width ?? w) * 9) / 16;
        return [{ x: 0, y: 0, width: w, height: h }, ...four.map((r) => ({ ...r, y: h - margin - height, height }))];
      }
      case 'inset': {
        const width = w * 0.28;
        const height = (width * h) / w;
        return [
          { x: 0, y: 0, width: w, height: h },
          { x: w - margin - width, y: margin, width, height },
        ];
      }
    }
  })();
  return rects.map((r) => {
    const [x, y] = [Math.round(r.x), Math.round(r.y)];
    return { x, y, width: Math.max(1, Math.round(r.x + r.width) - x), height: Math.max(1, Math.round(r.y + r.height) - y) };
  });
}
