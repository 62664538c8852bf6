/** Setting text into a box, with widths measured by whoever draws it. Lengths are pixels of the graphic's raster. */
import { carried, marked } from './accents';
import { type Accent, type TextStyle } from './element';

/** Width of a piece of text (with its marks) at the style's own size, and how far letters reach above and below the baseline, shares of the size. */
export interface Measure {
  width: (text: string) => number;
  ascent: number;
  descent: number;
  /** Size of the largest letters of a line, times the style's; 1 where it is not given. */
  tall?: (line: string) => number;
}

export interface Line {
  text: string;
  /** Left edge and baseline, pixels from the box's corner. */
  x: number;
  y: number;
  width: number;
}

export interface SetText {
  lines: Line[];
  /** Of the style's size. */
  factor: number;
  /** Narrower by this. */
  squeeze: number;
  /** Words are missing that did not fit. */
  cut: boolean;
}

/** Text gets no smaller, and no narrower, than this share of its size; then it is cut. */
export const LEAST_FACTOR = 0.7;
/** More lines than this are never set. */
const MOST_LINES = 400;

const graphemes = new Intl.Segmenter(undefined, { granularity: 'grapheme' });

/** Letters as people count them: with their accents, and an emoji family as one. */
export const lettersOf = (text: string): string[] => Array.from(graphemes.segment(text), (s) => s.segment);

/** The words as they are set: capitals where the style wants them. */
export const shownText = (text: string, { capitals }: TextStyle): string => (capitals === 'upper' ? text.toLocaleUpperCase() : text);

/** Breaks one paragraph into lines at most `room` wide; a word that is wider than that is broken inside. */
function wrapped(paragraph: string, room: number, measure: Measure, space: number): string[] {
  const lines: string[] = [];
  let line = '';
  let width = 0;
  const add = (piece: string, pieceWidth: number, gap: number) => {
    line = line === '' ? piece : `${line}${gap > 0 ? ' ' : ''}${piece}`;
    width += pieceWidth + (line === piece ? 0 : gap);
  };
  for (const word of paragraph.split(' ')) {
    if (lines.length > MOST_LINES) break;
    const wordWidth = measure.width(word);
    if (line !== '' && width + space + wordWidth > room) {
      lines.push(line);
      [line, width] = ['', 0];
    }
    if (wordWidth <= room) {
      add(word, wordWidth, space);
      continue;
    }
    for (const letter of lettersOf(word)) {
      const letterWidth = measure.width(letter);
      if (line !== '' && width + letterWidth > room) {
        lines.push(line);
        [line, width] = ['', 0];
      }
      add(letter, letterWidth, 0);
    }
  }
  lines.push(line);
  return lines;
}

function linesOf(text: string, style: TextStyle, room: number, measure: Measure): string[] {
  const paragraphs = text.split('\n', MOST_LINES);
  if (!style.wrap) return carried(paragraphs);
  const space = measure.width(' ');
  return carried(paragraphs.flatMap((p) => wrapped(p, room, measure, space)).slice(0, MOST_LINES));
}

/** The most of a line that fits into `room` with an ellipsis behind it. */
function ellipsed(text: string, room: number, measure: Measure): string {
  const letters = lettersOf(text.slice(0, 2000));
  let [low, high] = [0, letters.length];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if (measure.width(`${letters.slice(0, middle).join('').trimEnd()}…`) <= room) low = middle;
    else high = middle - 1;
  }
  return low === 0 ? '…' : `${letters.slice(0, low).join('').trimEnd()}…`;
}

/** Height of lines from the first to the last, pixels at the style's own size. */
const heightOf = (lines: readonly string[], leading: number, tall: (line: string) => number): number =>
  lines.reduce((sum, line) => sum + leading * tall(line), 0);

/** How large a box is that just holds `text`: `width` pixels wide at most where it wraps. */
export function sizeOfText(
  text: string,
  style: TextStyle,
  accents: readonly Accent[],
  width: number,
  measure: Measure,
): { width: number; height: number } {
  const lines = linesOf(shownText(marked(text, accents), style), style, width, measure);
  return {
    width: Math.ceil(lines.reduce((most, line) => Math.max(most, measure.width(line)), 0)),
    height: Math.ceil(heightOf(lines, style.size * style.lineHeight, measure.tall ?? (() => 1))),
  };
}

/** Sets `text` into a box of `width` × `height`: smaller, narrower or cut where it does not fit, as the style says. */
export function layoutText(
  text: string,
  style: TextStyle,
  width: number,
  height: number,
  measure: Measure,
  accents: readonly Accent[] = [],
): SetText {
  const shown = shownText(marked(text, accents), style);
  const tall = measure.tall ?? (() => 1);
  const leading = style.size * style.lineHeight;
  const widest = (lines: readonly string[]) => lines.reduce((most, line) => Math.max(most, measure.width(line)), 0);
  let factor = 1;
  let squeeze = 1;
  let lines = linesOf(shown, style, width, measure);
  const fits = (of: readonly string[], by: number) =>
    heightOf(of, leading, tall) * by <= height + leading * 0.35 && widest(of) * by <= width + 0.01;
  if (style.overflow === 'shrink' && !fits(lines, 1)) {
    if (style.wrap) {
      // Smaller letters break elsewhere: the largest size that fits is looked for.
      let [low, high] = [LEAST_FACTOR, 1];
      for (let i = 0; i < 7; i += 1) {
        const middle = (low + high) / 2;
        if (fits(linesOf(shown, style, width / middle, measure), middle)) low = middle;
        else high = middle;
      }
      factor = low;
      lines = linesOf(shown, style, width / factor, measure);
    } else {
      const across = widest(lines);
      factor = Math.max(LEAST_FACTOR, Math.min(1, across > 0 ? width / across : 1));
    }
  }
  if (style.overflow === 'squeeze') squeeze = Math.max(LEAST_FACTOR * 0.75, Math.min(1, width / Math.max(1, widest(lines))));
  let cut = false;
  if (style.overflow !== 'spill' && style.overflow !== 'grow') {
    const room = width / (factor * squeeze);
    let most = 1;
    for (let used = leading * factor * tall(lines[0] ?? ''); most < lines.length; most += 1) {
      used += leading * factor * tall(lines[most] as string);
      if (used > height + leading * factor * 0.35 + 1e-6) break;
    }
    if (lines.length > most) {
      cut = true;
      lines = [...lines.slice(0, most - 1), `${lines[most - 1] ?? ''}…`];
    }
    lines = lines.map((line) => {
      if (measure.width(line) <= room + 0.01) return line;
      cut = true;
      return ellipsed(line.replace(/…$/, ''), room, measure);
    });
  }
  const step = leading * factor;
  const [ascent, descent] = [measure.ascent * style.size * factor, measure.descent * style.size * factor];
  const talls = lines.map(tall);
  const block =
    talls.reduce((sum, t) => sum + t, 0) * step - (talls[0] ?? 1) * step + (talls[0] ?? 1) * ascent + (talls.at(-1) ?? 1) * descent;
  const top = style.down === 'top' ? 0 : style.down === 'bottom' ? height - block : (height - block) / 2;
  let baseline = top + (talls[0] ?? 1) * ascent;
  return {
    lines: lines.map((line, i) => {
      if (i > 0) baseline += (talls[i] ?? 1) * step;
      const across = measure.width(line) * factor * squeeze;
      const x = style.across === 'left' ? 0 : style.across === 'right' ? width - across : (width - across) / 2;
      return { text: line, x, y: baseline, width: across };
    }),
    factor,
    squeeze,
    cut,
  };
}

const RTL = /\p{Script=Hebrew}|\p{Script=Arabic}|\p{Script=Syriac}|\p{Script=Thaana}|\p{Script=Nko}|\u200f/u;
const LTR = /\p{Script=Latin}|\p{Script=Greek}|\p{Script=Cyrillic}|\p{Script=Devanagari}|\p{Script=Bengali}|\p{Script=Tamil}/u;

/** True when text is read from right to left: by its first letter that has a direction. */
export function isRightToLeft(text: string): boolean {
  for (const letter of text.slice(0, 400)) {
    if (RTL.test(letter)) return true;
    if (LTR.test(letter)) return false;
  }
  return false;
}

/** Letters that change their form by their neighbours: they come and go by words only. */
export const joinsLetters = (text: string): boolean =>
  /\p{Script=Arabic}|\p{Script=Syriac}|\p{Script=Nko}|\p{Script=Devanagari}|\p{Script=Bengali}|\p{Script=Tamil}/u.test(text);
