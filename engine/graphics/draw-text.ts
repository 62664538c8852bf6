/** Draws set text: filled, outlined, with depth, and letter by letter while it comes. */
import { type Element, type TextStyle } from '#core/graphics/element';
import { type Moment } from '#core/graphics/paint';
import { isRightToLeft, joinsLetters, layoutText, lettersOf, type Line } from '#core/graphics/text-layout';
import { type Images } from './images';
import { type Context, dashOf, fillWith, rgba } from './surface';
import { measureWith, setType } from './type';

/** Colour of the sides of letters with depth: darker where the light does not come. */
const sideOf = (colour: string): string => {
  const part = (i: number) => Math.round(parseInt(colour.slice(1 + 2 * i, 3 + 2 * i), 16) * 0.45);
  return rgba(`#${[0, 1, 2].map((i) => part(i).toString(16).padStart(2, '0')).join('')}`, 1);
};

type Piece = { text: string; x: number; y: number; at: number };

/** Lines in the pieces that come one after another. */
function piecesOf(context: Context, lines: readonly Line[], by: 'letters' | 'words'): Piece[] {
  let at = 0;
  return lines.flatMap(({ text, x, y }) => {
    const letters = by === 'letters' && !joinsLetters(text) ? lettersOf(text) : text.split(/(?<= )/);
    if (isRightToLeft(text)) return [{ text, x, y, at: at++ }];
    let before = '';
    return letters.map((piece) => {
      const left = context.measureText(before).width;
      before += piece;
      return { text: piece, x: x + left, y, at: at++ };
    });
  });
}

const EDGE_WAY = { left: [-1, 0], right: [1, 0], top: [0, -1], bottom: [0, 1] } as const;

/** Draws the words of an element into its box. */
export function drawText(context: Context, element: Element, words: string, style: TextStyle, moment: Moment | null, images: Images): void {
  const { width, height, stroke } = element;
  const fill = moment?.colour !== undefined ? ({ kind: 'colour', colour: moment.colour, opacity: 1 } as const) : element.fill;
  const set = layoutText(words, style, width, height, measureWith(context, style));
  setType(context, style, set.factor);
  context.direction = isRightToLeft(words) ? 'rtl' : 'ltr';
  // Not moved to each line: a fill that changes over the box is laid out in the box.
  const narrowed = (draw: () => void) => {
    context.save();
    context.scale(set.squeeze, 1);
    draw();
    context.restore();
  };
  const each = (draw: (text: string, x: number, y: number) => void) => {
    if (!moment?.pieces) {
      for (const line of set.lines) {
        narrowed(() => draw(line.text, line.x / set.squeeze, line.y));
      }
      return;
    }
    const { by, share, edge } = moment.pieces;
    const pieces = piecesOf(context, set.lines, by);
    const overlap = Math.min(4, pieces.length);
    const [wx, wy] = EDGE_WAY[edge];
    for (const { text, x, y, at } of pieces) {
      const level = Math.min(1, Math.max(0, (share * (pieces.length + overlap - 1) - at) / overlap));
      if (level <= 0) continue;
      const off = (1 - level) * style.size * set.factor * 0.5;
      narrowed(() => {
        context.globalAlpha *= level;
        draw(text, (x + wx * off) / set.squeeze, y + wy * off);
      });
    }
  };
  if (style.depth > 0) {
    const light = (style.light * Math.PI) / 180;
    context.fillStyle = sideOf(fill.kind === 'colour' ? fill.colour : '#808080');
    for (let d = Math.ceil(style.depth); d >= 1; d -= 1) {
      const by = Math.min(d, style.depth);
      each((text, x, y) => context.fillText(text, x - Math.cos(light) * by, y + Math.sin(-light) * by));
    }
  }
  const outline = stroke.width > 0 && stroke.opacity > 0;
  const drawOutline = (lineWidth: number) => {
    context.strokeStyle = rgba(stroke.colour, stroke.opacity);
    context.lineWidth = lineWidth;
    dashOf(context, element);
    each((text, x, y) => context.strokeText(text, x, y));
    context.setLineDash([]);
  };
  if (outline && stroke.place === 'outside') drawOutline(stroke.width * 2);
  fillWith(context, fill, width, height, images, () => each((text, x, y) => context.fillText(text, x, y)));
  if (outline && stroke.place !== 'outside') drawOutline(stroke.width);
}
