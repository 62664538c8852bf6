/** Type in the graphics worker: faces are loaded when a text first wants them. */
import { type TextStyle } from '#core/graphics/element';
import { FAMILIES, scriptFamilies } from '#core/graphics/families';
import { type Measure } from '#core/graphics/text-layout';

const FILES = import.meta.glob<string>(
  '../../node_modules/@fontsource/{atkinson-hyperlegible-next,barlow-condensed,oswald,bitter,playfair-display,fredoka,caveat,ibm-plex-mono,noto-sans-arabic,noto-sans-hebrew,noto-sans-devanagari}/files/*-{latin,latin-ext,arabic,hebrew,devanagari}-{400,600,700}-{normal,italic}.woff2',
  { query: '?url', import: 'default', eager: true },
);

const fonts = (globalThis as unknown as { fonts: { add(face: FontFace): void } }).fonts;
const loading = new Map<string, Promise<void>>();

/** Loads every face of a family, once. One that cannot be loaded is left to the next family in the list. */
export function loadFamily(family: string): Promise<void> {
  const known = loading.get(family);
  if (known) return known;
  const folder = FAMILIES.find((f) => f.family === family)?.folder;
  const files = folder === undefined ? [] : Object.entries(FILES).filter(([path]) => path.includes(`/${folder}/files/`));
  const loaded = Promise.all(
    files.map(async ([path, url]) => {
      const [, weight = '400', style = 'normal'] = /-(\d+)-(normal|italic)\.woff2$/.exec(path) ?? [];
      const face = new FontFace(family, `url(${url})`, { weight, style });
      await face.load().then(
        () => fonts.add(face),
        () => undefined,
      );
    }),
  ).then(() => undefined);
  loading.set(family, loaded);
  return loaded;
}

/** Loads what a text is set in. */
export const loadFor = (style: TextStyle, text: string): Promise<unknown> =>
  Promise.all([style.family, ...scriptFamilies(text)].map(loadFamily));

const quoted = (family: string) => `"${family.replaceAll(/["\\]/g, '')}"`;

/** The font of a style at a size, as a canvas takes it. */
export const fontOf = ({ family, weight, italic }: TextStyle, size: number): string =>
  `${italic ? 'italic ' : ''}${weight} ${size}px ${[family, 'Noto Sans Arabic', 'Noto Sans Hebrew', 'Noto Sans Devanagari'].map(quoted).join(', ')}, sans-serif`;

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

/** Widths of text in a style, measured with its own font. */
export function measureWith(context: Context, style: TextStyle): Measure {
  setType(context, style);
  const { fontBoundingBoxAscent, fontBoundingBoxDescent } = context.measureText('H');
  const widths = new Map<string, number>();
  return {
    width: (text) => {
      let width = widths.get(text);
      if (width === undefined) widths.set(text, (width = context.measureText(text).width));
      return width;
    },
    ascent: fontBoundingBoxAscent / style.size,
    descent: fontBoundingBoxDescent / style.size,
  };
}
