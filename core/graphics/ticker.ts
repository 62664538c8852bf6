/**
 * Tickers: a strip of pieces that passes through a box. Where it stands is a function of the frame: a whole number of the show's pixels each
 * frame. Lengths are pixels of the graphic's raster; offsets count from the leading end of the strip, the end that comes first.
 */
import { type Size, type TickerPiece, type TickerRun } from './air';
import { createElement } from './create';
import { type Element, type TextContent, type TextStyle, type TickerContent } from './element';
import { type Growing, sizeKey, type Sizes } from './grow';

/** Pixels of a show's picture that a strip goes on in a frame: whole, so that every step is like the others. */
export const stepOf = (speed: number, scale: number, fps: number): number => Math.max(1, Math.round((speed * scale) / fps)) / scale;

/** The words of a piece as a text that is measured and drawn. */
export const pieceText = (text: string, style: TextStyle): TextContent => ({
  kind: 'text',
  text,
  style: { ...style, across: 'left', wrap: false, overflow: 'shrink' },
  accents: [],
});

/** Letters of scripts that are written from right to left: what has them is never parted. */
const RIGHT_TO_LEFT = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc]/u;
/** Pixels of the graphic that a piece should not be much wider than, so that no picture of one is large. */
const WIDEST = 900;

/** An item in pieces at spaces; a no-break space stands where one was parted. */
function pieces(item: string, size: number): string[] {
  const most = Math.max(8, Math.floor(WIDEST / (size * 0.5)));
  if (item.length <= most || RIGHT_TO_LEFT.test(item)) return [item];
  const parts: string[] = [];
  let part = '';
  for (const word of item.split(' ')) {
    if (part !== '' && part.length + word.length + 1 > most) {
      parts.push(`${part}\u00a0`);
      part = word;
    } else part = part === '' ? word : `${part} ${word}`;
  }
  return [...parts, part];
}

interface Wanted {
  parts: readonly { text: string; end: boolean; key: string }[];
  separatorKey: string | null;
}
const wantedOf = new WeakMap<TickerContent, Wanted>();

const keyOf = (text: string, style: TextStyle): string => sizeKey(pieceText(text, style), 0);

function partsOf(items: readonly string[], style: TextStyle): Wanted['parts'] {
  return items.flatMap((item) => {
    const parts = pieces(item, style.size);
    return parts.map((text, i) => ({ text, end: i === parts.length - 1, key: keyOf(text, style) }));
  });
}

function wanted(content: TickerContent): Wanted {
  let found = wantedOf.get(content);
  if (!found) {
    const { separator, separatorId, style } = content;
    found = {
      parts: partsOf(content.items, style),
      separatorKey: separator === '' || separatorId !== null ? null : keyOf(separator, style),
    };
    wantedOf.set(content, found);
  }
  return found;
}

/** The texts of a ticker that have to be measured. */
export function tickerTexts(content: TickerContent, more: readonly string[] = []): Growing[] {
  const { parts, separatorKey } = wanted(content);
  const { style, separator } = content;
  const text = (words: string, key: string): Growing => ({ key, content: pieceText(words, style), width: 0 });
  return [
    ...parts.map((p) => text(p.text, p.key)),
    ...(separatorKey === null ? [] : [text(separator, separatorKey)]),
    ...partsOf(more, style).map((p) => text(p.text, p.key)),
  ];
}

function measured(parts: Wanted['parts'], sizes: Sizes): TickerPiece[] | null {
  const list: TickerPiece[] = [];
  for (const { text, end, key } of parts) {
    const size: Size | undefined = sizes[key];
    if (!size) return null;
    list.push({ text, end, width: Math.ceil(size.width) });
  }
  return list;
}

/** What a strip is made of. */
export type Strip = Pick<TickerRun, 'list' | 'between' | 'loops' | 'step'>;

/** The strip of a ticker with the sizes of its words; null until all of them are known. */
export function stripOf(content: TickerContent, sizes: Sizes, step: number): Strip | null {
  const { parts, separatorKey } = wanted(content);
  const list = measured(parts, sizes);
  const separator = separatorKey === null ? { width: 0 } : sizes[separatorKey];
  if (!list || !separator) return null;
  return { list, between: 2 * content.gap + separatorWidth(content, sizes), loops: content.loops, step };
}

/** Width of what stands between two items. */
export function separatorWidth(content: TickerContent, sizes: Sizes): number {
  if (content.separatorId !== null) return content.style.size;
  const { separatorKey } = wanted(content);
  return separatorKey === null ? 0 : Math.ceil(sizes[separatorKey]?.width ?? 0);
}

/** The pieces of urgent items; null until their sizes are known. */
export const urgentPieces = (content: TickerContent, urgent: readonly string[], sizes: Sizes): TickerPiece[] | null =>
  measured(partsOf(urgent, content.style), sizes);

/** How far the strip has come in at `frame`, pixels. */
export const travelled = ({ start, lead, paused, step }: TickerRun, frame: number): number =>
  lead + step * Math.max(0, (paused === null ? frame : Math.min(frame, paused)) - start);

export interface PlacedPiece {
  piece: TickerPiece;
  offset: number;
  /** Its place in the list; −1 for one that stands in front of it. */
  index: number;
  /** What stands between two items follows. */
  followed: boolean;
}

const advance = ({ width, end }: TickerPiece, between: number): number => Math.max(1, width) + (end ? between : 0);

const cycles = new WeakMap<readonly TickerPiece[], { between: number; length: number }>();

/** Length of the list once through. */
function cycleOf(list: readonly TickerPiece[], between: number): number {
  let known = cycles.get(list);
  if (known?.between !== between) {
    known = { between, length: list.reduce((sum, p) => sum + advance(p, between), 0) };
    if (Object.isFrozen(list)) cycles.set(list, known);
  }
  return known.length;
}

/** Pieces of which something is in a box of this width when the strip has come in by `come`, and how far it has been gone through. */
export function piecesIn(
  { head, from, list, between, loops }: Pick<TickerRun, 'head' | 'from' | 'list' | 'between' | 'loops'>,
  come: number,
  width: number,
): { placed: PlacedPiece[]; next: number; waiting: TickerPiece[]; end: number } {
  const placed: PlacedPiece[] = [];
  let offset = 0;
  const put = (piece: TickerPiece, index: number, last: boolean) => {
    const long = advance(piece, between);
    if (offset + long > come - width) placed.push({ piece, offset, index, followed: piece.end && !last });
    offset += long;
  };
  for (const [i, piece] of head.entries()) {
    if (offset >= come) return { placed, next: from, waiting: head.slice(i), end: offset };
    put(piece, -1, false);
  }
  let next = from;
  const cycle = cycleOf(list, between);
  if (loops && list.length > 0) offset += Math.max(0, Math.floor((come - width - offset) / cycle) - 1) * cycle;
  while (list.length > 0 && offset < come) {
    if (next >= list.length) {
      if (!loops) break;
      next = 0;
    }
    put(list[next] as TickerPiece, next, !loops && next === list.length - 1);
    next += 1;
  }
  return { placed, next, waiting: [], end: offset };
}

/** A strip that begins at `frame`; its ticker came at `since`. */
export const startRun = (strip: Strip, frame: number, since: number): TickerRun => ({
  ...strip,
  since,
  start: frame,
  lead: 0,
  paused: null,
  head: [],
  from: 0,
  urgent: [],
});

/** Where a list goes on that stood before `next` in another one: behind the same words, the nearest of them. */
function goesOn(before: readonly TickerPiece[], next: number, list: readonly TickerPiece[]): number {
  const last = before[next - 1];
  if (!last) return Math.min(next, list.length);
  let best = -1;
  list.forEach((piece, i) => {
    if (piece.text === last.text && (best < 0 || Math.abs(i - next + 1) < Math.abs(best - next + 1))) best = i;
  });
  return best >= 0 ? best + 1 : Math.min(next, list.length);
}

/**
 * A run that goes on with another strip at `frame`: what is in the box stays where it is, what is on its way in front of the list comes, then
 * `urgent`, then the list from where it had got to.
 */
export function goOn(run: TickerRun, strip: Strip, frame: number, width: number, urgent: readonly TickerPiece[] = []): TickerRun {
  const at = run.paused === null ? frame : Math.min(frame, run.paused);
  const come = travelled(run, frame);
  const { placed, next, waiting, end } = piecesIn(run, come, width);
  const first = placed[0];
  const head = [...placed.map((p) => p.piece), ...waiting, ...urgent];
  // A strip that had ended begins anew at the edge.
  const ended = !first || (end < come - 1e-6 && waiting.length === 0);
  const lead = first ? come - first.offset : 0;
  const from = goesOn(run.list, next, strip.list);
  if (!ended || !first) return { ...run, ...strip, start: at, lead, head, from };
  // There is a gap behind the last that was shown: what comes now stands behind the edge.
  const gap: TickerPiece = { text: '', width: come - end, end: false };
  return { ...run, ...strip, start: at, lead, head: [...placed.map((p) => p.piece), gap, ...urgent], from };
}

const drawn = new WeakMap<Element, Map<string, Element>>();
/** Pieces of one ticker that are kept. */
const MOST_KEPT = 400;

/** A piece as an element at the left edge of the raster; `text` null is the image between two items. */
export function pieceElement(ticker: Element, content: TickerContent, text: string | null, width: number): Element {
  const kept = drawn.get(ticker) ?? new Map<string, Element>();
  drawn.set(ticker, kept);
  const key = `${text === null ? 'image' : `text ${text}`} ${width}`;
  let element = kept.get(key);
  if (!element) {
    const { y, height, fill, stroke, shadow, glow, opacity } = ticker;
    const size = content.style.size;
    element =
      text === null
        ? createElement(
            `${ticker.id}~image`,
            'image',
            { x: 0, y: y + (height - size) / 2, width: size, height: size },
            {
              opacity,
              content: { kind: 'image', assetId: content.separatorId, fileName: '', fit: 'contain' },
            },
          )
        : createElement(
            `${ticker.id}~${key}`,
            'text',
            { x: 0, y, width: width + 2, height },
            {
              fill,
              stroke,
              shadow,
              glow,
              opacity,
              content: pieceText(text, content.style),
            },
          );
    if (kept.size >= MOST_KEPT) kept.clear();
    kept.set(key, element);
  }
  return element;
}
