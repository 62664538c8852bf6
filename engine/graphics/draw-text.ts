/** Draws set text: filled, outlined, with depth, and letter by letter while it comes. */
import { accented, type Run, runsOf } from '#core/graphics/accents';
import { type Accent, type Element, type TextStyle } from '#core/graphics/element';
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

/** Letters of one style in their place, before they are squeezed. */
interface Placed extends Run {
  x: number;
  y: number;
}
type Piece = Placed & { at: number };

/** Lines in runs of one style, from left to right; of text that is read the other way, the first stands at the right. */
function placedRuns(context: Context, lines: readonly Line[], style: TextStyle, accents: readonly Accent[], factor: number): Placed[] {
  return lines.flatMap(({ text, x, y }) => {
    const runs = runsOf(text, accents);
    if (runs.length === 1) return runs.map((run) => ({ ...run, x, y }));
    let left = x;
    return (isRightToLeft(text) ? runs.reverse() : runs).map((run) => {
      const placed = { ...run, x: left, y };
      setType(context, accented(style, run.accent), factor);
      left += context.measureText(run.text).width;
      return placed;
    });
  });
}

/** Runs in the pieces that come one after another. */
function piecesOf(context: Context, runs: readonly Placed[], by: 'letters' | 'words', style: TextStyle, factor: number): Piece[] {
  let at = 0;
  return runs.flatMap((run) => {
    const { text, x } = run;
    const letters = by === 'letters' && !joinsLetters(text) ? lettersOf(text) : text.split(/(?<= )/);
    if (isRightToLeft(text)) return [{ ...run, at: at++ }];
    setType(context, accented(style, run.accent), factor);
    let before = '';
    return letters.map((piece) => {
      const left = context.measureText(before).width;
      before += piece;
      return { ...run, text: piece, x: x + left, at: at++ };
    });
  });
}

const EDGE_WAY = { left: [-1, 0], right: [1, 0], top: [0, -1], bottom: [0, 1] } as const;

/** Draws the words of an element into its box. */
export function drawText(context: Context, element: Element, words: string, style: TextStyle, moment: Moment | null, images: Images): void {
  const { width, height, stroke } = element;
  const fill = moment?.colour !== undefined ? ({ kind: 'colour', colour: moment.colour, opacity: 1 } as const) : element.fill;
  const accents = element.content.kind === 'text' ? element.content.accents : [];
  const set = layoutText(words, style, width, height, measureWith(context, style, accents), accents);
  // Lines stand where they are narrowed to; inside of them all is as wide as it is set.
  const wide = set.lines.map((line) => ({ ...line, x: line.x / set.squeeze }));
  setType(context, style, set.factor);
  context.direction = isRightToLeft(words) ? 'rtl' : 'ltr';
  // Not moved to each line: a fill that changes over the box is laid out in the box.
  const narrowed = (draw: () => void) => {
    context.save();
    context.scale(set.squeeze, 1);
    draw();
    context.restore();
  };
  const runs = placedRuns(context, wide, style, accents, set.factor);
  const drawRun = (run: Placed, draw: (text: string, x: number, y: number, accent: Accent | null) => void, dx = 0, dy = 0) => {
    setType(context, accented(style, run.accent), set.factor);
    draw(run.text, run.x + dx, run.y + dy, run.accent);
  };
  const each = (draw: (text: string, x: number, y: number, accent: Accent | null) => void) => {
    if (!moment?.pieces) {
      for (const run of runs) narrowed(() => drawRun(run, draw));
      return;
    }
    const { by, share, edge } = moment.pieces;
    const pieces = piecesOf(context, runs, by, style, set.factor);
    const overlap = Math.min(4, pieces.length);
    const [wx, wy] = EDGE_WAY[edge];
    for (const piece of pieces) {
      const level = Math.min(1, Math.max(0, (share * (pieces.length + overlap - 1) - piece.at) / overlap));
      if (level <= 0) continue;
      const off = (1 - level) * style.size * set.factor * 0.5;
      narrowed(() => {
        context.globalAlpha *= level;
        drawRun(piece, draw, (wx * off) / set.squeeze, wy * off);
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
  fillWith(context, fill, width, height, images, () =>
    each((text, x, y, accent) => {
      if (accent && accent.colour !== null) context.fillStyle = rgba(accent.colour, 1);
      context.fillText(text, x, y);
    }),
  );
  if (outline && stroke.place !== 'outside') drawOutline(stroke.width);
}
