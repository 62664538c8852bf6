/** What the mixers draw of a ticker: its pieces that are in the box, each where it is at the frame. */
import { type DrawItem } from '../picture/draw';
import { uncovered } from '../picture/moving';
import { intersect } from '../show/geometry';
import { type Raster } from '../show/raster';
import { type TickerRun } from './air';
import { type Element, type TickerContent } from './element';
import { type Sizes } from './grow';
import { type Motion } from './motion';
import { paintAlone } from './paint';
import { movedBy, placed, type Placing, toShow } from './placing';
import { pieceElement, piecesIn, separatorWidth, startRun, stripOf, travelled } from './ticker';
import { type Drawn } from './values';

interface TickerPart {
  drawn: Drawn;
  /** Where its left edge stands, pixels of the graphic's raster. */
  x: number;
  slot: string;
}

const kept = new WeakMap<Element, Drawn>();

function drawnOf(element: Element): Drawn {
  let drawn = kept.get(element);
  if (!drawn) kept.set(element, (drawn = { element, mask: null, alone: true }));
  return drawn;
}

/**
 * Pieces of a ticker with their places. Without a run, as on the stage and before it is shown, the line is full and stands still; nothing
 * where sizes are not known yet.
 */
function tickerParts(element: Element, content: TickerContent, run: TickerRun | undefined, sizes: Sizes, frame: number): TickerPart[] {
  const strip = run ?? stripOf(content, sizes, 1);
  if (!strip) return [];
  const now = run ?? startRun(strip, 0, 0);
  const come = run ? travelled(run, frame) : element.width;
  const right = content.direction === 'right';
  // Going right, the leading end of each piece is its right edge.
  const place = (offset: number, width: number) => (right ? element.x + come - offset - width : element.x + element.width - come + offset);
  const between = separatorWidth(content, sizes);
  return piecesIn(now, come, element.width).placed.flatMap(({ piece, offset, followed }, i): TickerPart[] => {
    const { text, width } = piece;
    const parts: TickerPart[] =
      text === ''
        ? []
        : [{ drawn: drawnOf(pieceElement(element, content, text, width)), x: place(offset, width), slot: `${element.id}.${i}` }];
    if (followed && between > 0)
      parts.push({
        drawn: drawnOf(pieceElement(element, content, content.separatorId === null ? content.separator : null, between)),
        x: place(offset + width + content.gap, between),
        slot: `${element.id}.between`,
      });
    return parts;
  });
}

/** The pieces of a ticker, cut to its box; the box moves, and is uncovered, as any element is. */
export function tickerItems(
  placing: Placing,
  element: Element,
  content: TickerContent,
  motion: Motion,
  { run, sizes, frame, slot, raster }: { run: TickerRun | undefined; sizes: Sizes; frame: number; slot: string; raster: Raster },
): DrawItem[] {
  const [dx, dy] = [(motion.keyed.x ?? element.x) - element.x + motion.x, (motion.keyed.y ?? element.y) - element.y + motion.y];
  const seen = motion.wipe ? uncovered(motion.wipe.edge, motion.wipe.share, element) : element;
  const box = toShow(placing, movedBy(seen, element, motion, dx, dy));
  const clip = placing.clip ? intersect(placing.clip, box) : box;
  if (!clip || clip.width <= 0 || clip.height <= 0) return [];
  const moved: Motion = { ...motion, keyed: {}, wipe: null, x: dx, y: dy };
  const scaled = motion.scaleX !== 1 || motion.scaleY !== 1;
  return tickerParts(element, content, run, sizes, frame).flatMap(({ drawn, x, slot: part }): DrawItem[] => {
    // About the middle of the box, so that all of it grows as one.
    const paint = paintAlone(drawn, null, raster);
    const place = placed({ ...placing, clip }, { ...paint.bounds, x: paint.bounds.x + x }, element, moved, 1);
    if (!place || !intersect(place.target, clip)) return [];
    return [
      { ...place, ...(scaled && { scaled: true as const }), texture: { kind: 'paint', paint, slot: `${slot}/${part}` }, fit: 'fill' },
    ];
  });
}
