/**
 * SVG from outside. Browsers draw it on the page's own thread, where nothing can end it, so what it will take is weighed before: a picture of
 * a few kilobytes can ask for work without end by patterns within patterns, or by repeating parts of itself.
 */
import DOMPurify from 'dompurify';
import { MediaTrouble } from './media-trouble';

/** Characters and elements of a file. */
const LONGEST = 2_000_000;
const MOST_ELEMENTS = 8000;
/** Elements that are drawn, repeated parts each time; a pattern counts as its tiles. */
const MOST_DRAWN = 20_000;
/** Patterns, masks, clips, filters and markers that are applied, those inside each other multiplied. */
const MOST_LAYERS = 200;
/** Pixels and numbers that filters and dashes may ask for. */
const WIDEST_FILTER = 200;
const MOST_DASHES = 20_000;

interface Cost {
  drawn: number;
  layers: number;
}

/** Attributes by which one element uses another. */
const REFERENCES = ['fill', 'stroke', 'mask', 'clip-path', 'filter', 'marker-start', 'marker-mid', 'marker-end'];
const FILTER_NUMBERS = ['stdDeviation', 'radius', 'order', 'numOctaves', 'scale', 'surfaceScale'];

function referencesOf(element: Element): { id: string; how: string }[] {
  const found: { id: string; how: string }[] = [];
  const style = element.getAttribute('style') ?? '';
  for (const name of REFERENCES) {
    const value = element.getAttribute(name) ?? new RegExp(`(?:^|;)\\s*${name}\\s*:([^;]*)`, 'i').exec(style)?.[1] ?? '';
    const id = /url\(\s*["']?#([^"')\s]+)/.exec(value)?.[1];
    if (id !== undefined) found.push({ id, how: name });
  }
  const href = element.getAttribute('href') ?? element.getAttribute('xlink:href');
  if (href?.startsWith('#')) found.push({ id: href.slice(1), how: element.tagName });
  return found;
}

const numbersOf = (text: string | null): number[] =>
  (text ?? '')
    .split(/[\s,]+/)
    .filter(Boolean)
    .map(Number)
    .filter(Number.isFinite);

/** How often a pattern is repeated over what it fills, at the very most that is worth telling apart. */
function tilesOf(pattern: Element): number {
  const share = (name: string) => {
    const value = pattern.getAttribute(name) ?? '';
    const number = parseFloat(value);
    if (!(number > 0)) return 1;
    if (value.endsWith('%')) return Math.min(1, number / 100);
    return pattern.getAttribute('patternUnits') === 'userSpaceOnUse' ? Math.min(1, number / 1000) : Math.min(1, number);
  };
  return Math.min(1e6, 1 / (share('width') * share('height')));
}

/** What drawing `root` takes. @throws MediaTrouble when parts refer to themselves. */
function costOf(root: Element): Cost {
  const byId = new Map([...root.querySelectorAll('[id]')].map((e) => [e.id, e]));
  const known = new Map<Element, Cost>();
  const open = new Set<Element>();
  const visit = (element: Element): Cost => {
    const before = known.get(element);
    if (before) return before;
    if (open.has(element)) throw new MediaTrouble('parts of it refer to themselves');
    open.add(element);
    const cost: Cost = { drawn: 1, layers: 0 };
    const add = (other: Cost, times = 1, layer = false) => {
      cost.drawn += other.drawn * times;
      cost.layers += layer ? 1 + other.layers * Math.max(1, other.layers) : other.layers;
    };
    for (const child of element.children) {
      if (
        !['defs', 'symbol', 'pattern', 'mask', 'clipPath', 'filter', 'marker', 'linearGradient', 'radialGradient'].includes(child.tagName)
      )
        add(visit(child));
    }
    for (const { id, how } of referencesOf(element)) {
      const target = byId.get(id);
      if (!target) continue;
      if (/gradient$/i.test(target.tagName)) add({ drawn: target.children.length, layers: 0 });
      else if (target.tagName === 'pattern' && how !== 'pattern') add(visit(target), tilesOf(target), true);
      else
        add(
          visit(target),
          how.startsWith('marker') ? 1 + numbersOf(element.getAttribute('points') ?? element.getAttribute('d')).length : 1,
          how !== 'use',
        );
    }
    open.delete(element);
    known.set(element, cost);
    return cost;
  };
  return visit(root);
}

function weigh(root: Element): void {
  const elements = [root, ...root.querySelectorAll('*')];
  if (elements.length > MOST_ELEMENTS)
    throw new MediaTrouble(`it holds ${elements.length} elements, and ${MOST_ELEMENTS} can be drawn. Save it as PNG instead`);
  const { drawn, layers } = costOf(root);
  if (drawn > MOST_DRAWN || layers > MOST_LAYERS)
    throw new MediaTrouble(
      'it would take too long to draw: its patterns, masks or repeated parts are nested too deep. Save it as PNG instead',
    );
  for (const element of elements) {
    if (FILTER_NUMBERS.some((name) => numbersOf(element.getAttribute(name)).some((n) => Math.abs(n) > WIDEST_FILTER)))
      throw new MediaTrouble('a filter of it is wider than can be drawn. Save it as PNG instead');
    const dashes = numbersOf(element.getAttribute('stroke-dasharray'));
    if (dashes.length > 0 && 1000 / (dashes.reduce((a, b) => a + Math.abs(b), 0) / dashes.length) > MOST_DASHES)
      throw new MediaTrouble('its dashes are finer than can be drawn. Save it as PNG instead');
  }
}

/** An SVG without scripts, handlers and outside references, that can be drawn in good time. @throws MediaTrouble */
export function safeSvg(text: string): string {
  if (text.length > LONGEST)
    throw new MediaTrouble(
      `it is ${Math.round(text.length / 1e6)} MB of text, and ${LONGEST / 1e6} MB can be drawn. Save it as PNG instead`,
    );
  // Counted before it is parsed: parsing is the page's work too.
  const opened = text.split('<').length - text.split('</').length;
  if (opened > MOST_ELEMENTS + 1000)
    throw new MediaTrouble(`it holds about ${opened} elements, and ${MOST_ELEMENTS} can be drawn. Save it as PNG instead`);
  const clean = DOMPurify.sanitize(text, {
    USE_PROFILES: { svg: true, svgFilters: true },
    FORBID_TAGS: ['style', 'foreignObject'],
    NAMESPACE: 'http://www.w3.org/2000/svg',
    PARSER_MEDIA_TYPE: 'application/xhtml+xml',
  } as never);
  const local = String(clean).replace(/(xlink:)?href\s*=\s*(["'])(?!#)[^"']*\2/gi, '');
  if (!/<svg[\s>]/i.test(local)) throw new MediaTrouble('it holds no SVG picture');
  const safe = local.includes('xmlns=') ? local : local.replace(/<svg/i, '<svg xmlns="http://www.w3.org/2000/svg"');
  const root = new DOMParser().parseFromString(safe, 'image/svg+xml').documentElement;
  if (root.tagName !== 'svg') throw new MediaTrouble('it is damaged: it is no SVG that can be read');
  weigh(root);
  return safe;
}

/** Draws a safe SVG `height` pixels high; it is weighed again, as a show of before may hold one that was not. @throws MediaTrouble */
export async function drawSvg(text: string, height: number): Promise<ImageBitmap> {
  const url = URL.createObjectURL(new Blob([safeSvg(text)], { type: 'image/svg+xml' }));
  try {
    const image = new Image();
    image.src = url;
    await image.decode();
    const scale = height / (image.naturalHeight || height);
    const canvas = document.createElement('canvas');
    canvas.width = Math.max(1, Math.min(8192, Math.round((image.naturalWidth || height) * scale)));
    canvas.height = height;
    canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height);
    return await createImageBitmap(canvas);
  } catch (error) {
    throw error instanceof MediaTrouble ? error : new MediaTrouble('it cannot be drawn');
  } finally {
    URL.revokeObjectURL(url);
  }
}
