/** What the mixers draw of a ticker: its pieces that are in the box, each where it is at the frame. */
import { type TickerRun } from './air';
import { type Element, type TickerContent } from './element';
import { type Sizes } from './grow';
import { pieceElement, piecesIn, separatorWidth, startRun, stripOf, travelled } from './ticker';
import { type Drawn } from './values';

export interface TickerPart {
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
export function tickerParts(
  element: Element,
  content: TickerContent,
  run: TickerRun | undefined,
  sizes: Sizes,
  frame: number,
): TickerPart[] {
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
