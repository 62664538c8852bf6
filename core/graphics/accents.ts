/**
 * Other styles inside one text. Whoever fills a text in sets words between two of its signs: `Ada *Berg*`. Before it is set into its box, signs
 * become marks: noncharacters that Unicode (23.7) keeps free for such use, so nothing anybody types is taken for one.
 */
import { type Accent, type TextStyle } from './element';

/** Back to the style of the text. */
const PLAIN = '\ufdd0';
const mark = (index: number): string => String.fromCharCode(0xfdd1 + index);
const MARKS = /[\ufdd0-\ufdef]/gu;

/** Where what begins after the sign at `from` ends: the same sign behind a letter, in the same line; -1 when nowhere. */
function closing(text: string, sign: string, from: number): number {
  for (let i = from + 1; i < text.length && text[i] !== '\n'; i += 1) {
    if (text[i] === '\\') i += 1;
    else if (text[i] === sign && i > from + 1 && text[i - 1] !== ' ') return i;
  }
  return -1;
}

/**
 * A text with marks in the place of its signs. Each word has its marks around it, so lines may break between any two. A sign that the text has
 * no accent for stays a sign, as does one that is not closed, one before a space, and one behind a backslash.
 */
export function marked(text: string, accents: readonly Accent[]): string {
  const clean = text.replace(MARKS, '');
  if (accents.length === 0) return clean;
  const signs = accents.map((a) => a.sign as string);
  let out = '';
  for (let i = 0; i < clean.length; i += 1) {
    const letter = clean[i] as string;
    const next = clean[i + 1];
    if (letter === '\\' && next !== undefined && (signs.includes(next) || next === '\\')) {
      out += next;
      i += 1;
      continue;
    }
    const index = signs.indexOf(letter);
    const end = index === -1 || next === undefined || next === ' ' ? -1 : closing(clean, letter, i);
    if (end === -1) {
      out += letter;
      continue;
    }
    const inside = clean.slice(i + 1, end).replace(/\\(.)/gu, '$1');
    out += inside.replace(/[^ ]+/gu, (word) => `${mark(index)}${word}${PLAIN}`);
    i = end;
  }
  return out;
}

/** A text without its signs, as it is read. */
export const withoutSigns = (text: string, accents: readonly Accent[]): string => marked(text, accents).replace(MARKS, '');

/** Letters of one style. */
export interface Run {
  text: string;
  accent: Accent | null;
}

/** A text with marks in runs of one style. `open` is the accent it begins in. */
export function runsOf(text: string, accents: readonly Accent[], open: Accent | null = null): Run[] {
  const runs: Run[] = [];
  let accent = open;
  for (const piece of text.split(/(?=[\ufdd0-\ufdef])/u)) {
    const code = piece.charCodeAt(0);
    const isMark = code >= 0xfdd0 && code <= 0xfdef;
    if (isMark) accent = accents[code - 0xfdd1] ?? null;
    const rest = isMark ? piece.slice(1) : piece;
    if (rest !== '') runs.push({ text: rest, accent });
  }
  return runs;
}

/** Lines that a word with a mark was broken into go on in its style. */
export function carried(lines: readonly string[]): string[] {
  let open = '';
  return lines.map((line) => {
    const whole = open + line;
    const last = whole.match(MARKS)?.at(-1) ?? '';
    open = last === PLAIN ? '' : last;
    return whole;
  });
}

/** The style of a text with what an accent makes of it. */
export const accented = (style: TextStyle, accent: Accent | null): TextStyle =>
  accent
    ? {
        ...style,
        family: accent.family ?? style.family,
        weight: accent.weight ?? style.weight,
        italic: style.italic || accent.italic,
        size: style.size * accent.size,
        letterSpacing: style.letterSpacing * accent.size,
      }
    : style;
