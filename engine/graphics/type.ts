/** Type in the graphics worker: faces are loaded when a text first wants them. */
import { accented, runsOf } from '#core/graphics/accents';
import { type Accent, type TextStyle } from '#core/graphics/element';
import { FAMILIES, scriptFamilies } from '#core/graphics/families';
import { folder } from '../storage/opfs';
import { sfntOf } from './sfnt';
import { type Growing } from '#core/graphics/grow';
import { lettersOf, type Measure, sizeOfText } from '#core/graphics/text-layout';

const FILES = import.meta.glob<string>(
  '../../node_modules/@fontsource/{atkinson-hyperlegible-next,barlow-condensed,oswald,bitter,playfair-display,fredoka,caveat,ibm-plex-mono,noto-sans-arabic,noto-sans-hebrew,noto-sans-devanagari}/files/*-{latin,latin-ext,arabic,hebrew,devanagari}-{400,600,700}-{normal,italic}.woff2',
  { query: '?url', import: 'default', eager: true },
);

/** Of a worker, or of the page. */
const fonts = (globalThis as unknown as { fonts?: FontFaceSet }).fonts ?? document.fonts;
const loading = new Map<string, Promise<void>>();

/** Files of fonts of the show's own, by family. */
const own = new Map<string, string>();

/** Font files that could not be read. */
const unreadable = new Set<string>();

/** The asset of a family of the show's own whose file could not be read. */
export function missingFont(family: string): string[] {
  const asset = own.get(family);
  return asset !== undefined && unreadable.has(asset) ? [asset] : [];
}

/** From now on these are the fonts of the show's own; what is set in them already stays until it is drawn anew. */
export function tellFonts(list: readonly { family: string; assetId: string }[]): void {
  own.clear();
  for (const { family, assetId } of list) own.set(family, assetId);
}

/** Loads a font file of the show's own. One that cannot be read is left to the next family. */
async function loadOwn(family: string, assetId: string): Promise<void> {
  const file = await (await (await folder('assets')).getFileHandle(assetId)).getFile();
  fonts.add(await new FontFace(family, await file.arrayBuffer()).load());
}

const FILES_FOR_PLAYER = import.meta.glob<string>(
  '../../node_modules/@fontsource/{atkinson-hyperlegible-next,barlow-condensed,oswald,bitter,playfair-display,fredoka,caveat,ibm-plex-mono}/files/*-latin-{400,600,700}-{normal,italic}.woff',
  { query: '?url', import: 'default' },
);

/** Bytes of a font as TrueType or OpenType, for the player of animations: the family itself, or the first that ships. `style` is as designers write it. */
export async function fontFileFor(family: string, style: string): Promise<Uint8Array | null> {
  const asset = own.get(family);
  if (asset !== undefined) {
    const data = new Uint8Array(await (await (await (await folder('assets')).getFileHandle(asset)).getFile()).arrayBuffer());
    // A WOFF 2 file has no tables that the player could read.
    if (data[0] !== 0x77) return data;
  }
  const named = (FAMILIES.find((f) => f.family === family) ?? FAMILIES[0])?.folder ?? '';
  const weight = /bold|black|heavy/i.test(style) ? (/semi|demi/i.test(style) ? '600' : '700') : /medium/i.test(style) ? '600' : '400';
  const slant = /italic|oblique/i.test(style) ? 'italic' : 'normal';
  const paths = Object.keys(FILES_FOR_PLAYER).filter((path) => path.includes(`/${named}/files/`));
  const path = paths.find((p) => p.includes(`-${weight}-${slant}`)) ?? paths.find((p) => p.includes(`-${weight}-`)) ?? paths[0];
  if (path === undefined) return null;
  const url = await FILES_FOR_PLAYER[path]?.();
  if (url === undefined) return null;
  return sfntOf(new Uint8Array(await (await fetch(url)).arrayBuffer()));
}

/** The weight among those that ship which is nearest. */
const nearest = (weight: number): string => (weight < 500 ? '400' : weight < 650 ? '600' : '700');

/** Loads the faces of a family in a weight, once. One that cannot be loaded is left to the next family in the list. */
function loadFamily(family: string, weight: string, italic: boolean): Promise<void> {
  const asset = own.get(family);
  const key = asset === undefined ? `${family} ${weight} ${italic}` : `${family} of ${asset}`;
  const known = loading.get(key);
  if (known) return known;
  if (asset !== undefined) {
    const brought = loadOwn(family, asset).catch(() => void unreadable.add(asset));
    loading.set(key, brought);
    return brought;
  }
  const named = FAMILIES.find((f) => f.family === family)?.folder;
  const style = italic ? 'italic' : 'normal';
  const shipped =
    named === undefined ? [] : Object.entries(FILES).filter(([path]) => path.includes(`/${named}/files/`) && path.includes(`-${weight}-`));
  // Families without an italic are slanted by the browser.
  const slanted = shipped.filter(([path]) => path.endsWith(`-${style}.woff2`));
  const files = slanted.length > 0 ? slanted : shipped;
  const loaded = Promise.all(
    files.map(async ([path, url]) => {
      const face = new FontFace(family, `url(${url})`, { weight, style: path.endsWith('-italic.woff2') ? 'italic' : 'normal' });
      await face.load().then(
        () => fonts.add(face),
        () => undefined,
      );
    }),
  ).then(() => undefined);
  loading.set(key, loaded);
  return loaded;
}

/** Loads what a text is set in. */
export const loadFor = (style: TextStyle, text: string): Promise<unknown> =>
  Promise.all([style.family, ...scriptFamilies(text)].map((family) => loadFamily(family, nearest(style.weight), style.italic)));

const quoted = (family: string) => `"${family.replaceAll(/["\\]/g, '')}"`;

/** The font of a style at a size, as a canvas takes it. */
export const fontOf = ({ family, weight, italic }: TextStyle, size: number): string =>
  `${italic ? 'italic ' : ''}${weight} ${size}px ${[family, 'Noto Sans Arabic', 'Noto Sans Hebrew', 'Noto Sans Devanagari'].map(quoted).join(', ')}, sans-serif`;

/** Letters looked at in one text. */
const MOST_LOOKED_AT = 400;

/**
 * Letters of a text that no family has which it is set in: the browser takes such from whatever is installed, or draws a box. They are those
 * that look different when only the last resort of the list is another.
 */
export async function missingGlyphs(text: string, style: TextStyle): Promise<string[]> {
  await loadFor(style, text);
  const context = new OffscreenCanvas(1, 1).getContext('2d');
  if (!context) return [];
  const font = fontOf(style, 64).replace(/, sans-serif$/, '');
  const width = (letter: string, last: string) => {
    context.font = `${font}, ${last}`;
    const m = context.measureText(letter);
    return `${m.width} ${m.actualBoundingBoxAscent} ${m.actualBoundingBoxRight}`;
  };
  const letters = [...new Set(lettersOf(text.slice(0, 4000)))].slice(0, MOST_LOOKED_AT).filter((l) => l.trim() !== '');
  // What nothing on this machine has is drawn as the box that stands for it: like this one, which nothing has.
  const box = width('\u{10fffd}', 'serif');
  return letters.filter((letter) => width(letter, 'serif') !== width(letter, 'monospace') || width(letter, 'serif') === box);
}

type Context = OffscreenCanvasRenderingContext2D;

/** Prepares a context for a style at `factor` of its size. */
export function setType(context: Context, style: TextStyle, factor = 1): void {
  context.font = fontOf(style, style.size * factor);
  context.letterSpacing = `${style.letterSpacing * factor}px`;
  context.fontVariantCaps = style.capitals === 'small' ? 'small-caps' : 'normal';
  context.fontKerning = 'normal';
  context.textAlign = 'left';
  context.textBaseline = 'alphabetic';
}

/** Loads what a text with other styles inside is set in. */
export const loadAll = (style: TextStyle, accents: readonly Accent[], text: string): Promise<unknown> =>
  Promise.all([null, ...accents].map((accent) => loadFor(accented(style, accent), text)));

/** How large each text is, as its box has to be; by key. */
export async function sizesOf(texts: readonly Growing[]): Promise<Record<string, { width: number; height: number }>> {
  await Promise.all(texts.map(({ content: { style, accents, text } }) => loadAll(style, accents, text)));
  const context = new OffscreenCanvas(1, 1).getContext('2d');
  if (!context) return {};
  return Object.fromEntries(
    texts.map(({ key, width, content: { style, accents, text } }) => [
      key,
      sizeOfText(text, style, accents, width, measureWith(context, style, accents)),
    ]),
  );
}

/** Widths of text in a style, with its accents by their marks, measured with its own fonts. */
export function measureWith(context: Context, style: TextStyle, accents: readonly Accent[] = []): Measure {
  setType(context, style);
  const { fontBoundingBoxAscent, fontBoundingBoxDescent } = context.measureText('H');
  const widths = new Map<string, number>();
  return {
    width: (text) => {
      let width = widths.get(text);
      if (width === undefined) widths.set(text, (width = widthOf(context, style, accents, text)));
      return width;
    },
    ascent: fontBoundingBoxAscent / style.size,
    descent: fontBoundingBoxDescent / style.size,
    ...(accents.length > 0 && {
      tall: (line: string) => {
        const sizes = runsOf(line, accents).flatMap(({ text, accent }) => (text.trim() === '' ? [] : [accent?.size ?? 1]));
        return sizes.length > 0 ? Math.max(...sizes) : 1;
      },
    }),
  };
}

function widthOf(context: Context, style: TextStyle, accents: readonly Accent[], text: string): number {
  if (accents.length === 0) return context.measureText(text).width;
  return runsOf(text, accents).reduce((sum, run) => {
    setType(context, accented(style, run.accent));
    return sum + context.measureText(run.text).width;
  }, 0);
}
