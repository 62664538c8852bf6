/**
 * Drawn graphics as Lottie documents (Lottie Animation Community, specification 1.0), as far as they can be said there. Frames are the show's;
 * what cannot be said is left out, or stands still, and is listed.
 */
import { wayOut } from '../../picture/moving';
import { type Rate } from '../../time/rate';
import { type Easing } from '../../show/moves';
import { type Filled } from '../air';
import { type Element, type ElementMove } from '../element';
import { type Fill } from '../fill';
import { inLength, outLength } from '../lengths';
import { drawnElements } from '../values';

type Raw = Record<string, unknown>;

/** What of which element is not in the document, in words. */
export interface LeftOut {
  element: string;
  what: string;
}

/** Control points of a cubic curve from one key to the next that come nearest to the paces of moves (core/picture/easing.ts). */
const CURVES: Record<Easing, { o: [number, number]; i: [number, number] }> = {
  linear: { o: [0, 0], i: [1, 1] },
  in: { o: [0.32, 0], i: [0.67, 0] },
  out: { o: [0.33, 1], i: [0.68, 1] },
  'in-out': { o: [0.65, 0], i: [0.35, 1] },
};

const still = (k: unknown): Raw => ({ a: 0, k });
const rounded = (n: number): number => Math.round(n * 1000) / 1000;

interface Key {
  frame: number;
  value: number[];
  /** Pace on the way to the next key. */
  easing: Easing;
}

/** A value that runs from key to key; one that does not change is still. */
function moving(keys: readonly Key[]): Raw {
  const [first] = keys;
  if (!first || keys.every((k) => k.value.join() === first.value.join()))
    return still(first && first.value.length === 1 ? first.value[0] : first?.value);
  return {
    a: 1,
    k: keys.map(({ frame, value, easing }) => {
      const { o, i } = CURVES[easing];
      return { t: frame, s: value.map(rounded), o: { x: [o[0]], y: [o[1]] }, i: { x: [i[0]], y: [i[1]] } };
    }),
  };
}

const colourOf = (hex: string): number[] => [1, 3, 5].map((at) => rounded(parseInt(hex.slice(at, at + 2), 16) / 255));

interface Span {
  comes: number;
  /** Frame at which it begins to go. */
  goes: number;
  end: number;
}

/** Keys of a property that has `rest` while the element stands, and another value before it comes and after it has gone. */
function keysOf(element: Element, span: Span, rest: number[], away: (move: ElementMove) => number[] | null): Raw {
  const keys: Key[] = [];
  const comes = element.in && away(element.in);
  if (element.in && comes) {
    keys.push({ frame: element.in.start, value: comes, easing: element.in.easing });
    keys.push({ frame: element.in.start + element.in.frames, value: rest, easing: 'linear' });
  }
  const goes = element.out && away(element.out);
  if (element.out && goes) {
    keys.push({ frame: span.goes + element.out.start, value: rest, easing: element.out.easing });
    keys.push({ frame: span.goes + element.out.start + element.out.frames, value: goes, easing: 'linear' });
  }
  return keys.length === 0 ? still(rest.length === 1 ? rest[0] : rest) : moving(keys);
}

function transformOf(element: Element, raster: { width: number; height: number }, span: Span): Raw {
  const { x, y, width, height, rotation, skewX, flipX, flipY, opacity } = element;
  const middle = [x + width / 2, y + height / 2];
  const scale = [flipX ? -100 : 100, flipY ? -100 : 100];
  return {
    a: still([0, 0]),
    r: still(rotation),
    sk: still(-skewX),
    sa: still(0),
    p: keysOf(element, span, middle, (move) => {
      if (move.way !== 'slide') return null;
      const way = wayOut(move.edge, element, raster);
      return [(middle[0] as number) + way.x, (middle[1] as number) + way.y];
    }),
    s: keysOf(element, span, scale, (move) => (move.way === 'scale' ? [0, 0] : move.way === 'turn' ? [0, scale[1] as number] : null)),
    o: keysOf(element, span, [opacity * 100], (move) => (move.way === 'fade' ? [0] : null)),
  };
}

/** A fill as shapes say it; null for none, and for what they cannot say. */
function fillOf(fill: Fill, { width, height }: Element): Raw | null {
  if (fill.kind === 'colour') return { ty: 'fl', nm: 'Fill', c: still(colourOf(fill.colour)), o: still(fill.opacity * 100), r: 1 };
  if (fill.kind !== 'linear' && fill.kind !== 'radial') return null;
  const { stops, angle, length } = fill;
  const turn = (angle * Math.PI) / 180;
  const reach = ((Math.abs(Math.cos(turn)) * width + Math.abs(Math.sin(turn)) * height) / 2) * length;
  const [dx, dy] = [Math.cos(turn) * reach, Math.sin(turn) * reach];
  const colours = stops.flatMap((s) => [s.at, ...colourOf(s.colour)]);
  const opacities = stops.every((s) => s.opacity === 1) ? [] : stops.flatMap((s) => [s.at, s.opacity]);
  return {
    ty: 'gf',
    nm: 'Gradient',
    o: still(100),
    r: 1,
    t: fill.kind === 'linear' ? 1 : 2,
    s: still((fill.kind === 'linear' ? [-dx, -dy] : [0, 0]).map(rounded)),
    e: still((fill.kind === 'linear' ? [dx, dy] : [(Math.max(width, height) / 2) * length, 0]).map(rounded)),
    g: { p: stops.length, k: still([...colours, ...opacities].map(rounded)) },
  };
}

const path = (corners: readonly (readonly number[])[], closed: boolean): Raw => ({
  ty: 'sh',
  ks: still({ c: closed, v: corners.map((c) => c.map(rounded)), i: corners.map(() => [0, 0]), o: corners.map(() => [0, 0]) }),
});

/** The outline of a shape about its own middle; null for what is none. */
function outlineOf({ content, width, height, corners }: Element): Raw | null {
  switch (content.kind) {
    case 'rectangle':
    case 'group':
      return { ty: 'rc', p: still([0, 0]), s: still([width, height]), r: still(corners.topLeft) };
    case 'ellipse':
      return { ty: 'el', p: still([0, 0]), s: still([width, height]) };
    case 'polygon':
      return path(
        Array.from({ length: content.sides }, (_, i) => {
          const turn = (i / content.sides) * 2 * Math.PI;
          return [(Math.sin(turn) * width) / 2, (-Math.cos(turn) * height) / 2];
        }),
        true,
      );
    case 'line':
      return path(
        [
          [-width / 2, -height / 2],
          [width / 2, height / 2],
        ],
        false,
      );
    default:
      return null;
  }
}

function shapesOf(element: Element): Raw[] | null {
  const outline = outlineOf(element);
  if (!outline) return null;
  const { stroke } = element;
  const line = stroke.width > 0 && stroke.opacity > 0;
  const fill = element.content.kind === 'line' ? null : fillOf(element.fill, element);
  const it = [
    outline,
    ...(line
      ? [
          {
            ty: 'st',
            nm: 'Stroke',
            c: still(colourOf(stroke.colour)),
            o: still(stroke.opacity * 100),
            w: still(stroke.width),
            lc: 2,
            lj: 2,
          },
        ]
      : []),
    ...(fill ? [fill] : []),
    { ty: 'tr', p: still([0, 0]), a: still([0, 0]), s: still([100, 100]), r: still(0), o: still(100) },
  ];
  return [{ ty: 'gr', nm: element.name, it }];
}

const JUSTIFY = { left: 0, right: 1, centre: 2 } as const;
const STYLES: Record<string, string> = { '400': 'Regular', '600': 'SemiBold', '700': 'Bold' };

/** Name of a family in a weight, as documents name fonts. */
const fontName = (family: string, weight: number): string => `${family.replaceAll(' ', '')}-${STYLES[String(weight)] ?? String(weight)}`;

/** Words about the middle of their box; the first line stands so that all of them are where their alignment says. */
function textOf({ content, width, height, fill }: Element): Raw | null {
  if (content.kind !== 'text') return null;
  const { style } = content;
  const lines = content.text.split('\n');
  const size = style.size;
  const step = size * style.lineHeight;
  const block = (lines.length - 1) * step + size * 0.72;
  const top = style.down === 'top' ? -height / 2 : style.down === 'bottom' ? height / 2 - block : -block / 2;
  const x = style.across === 'left' ? -width / 2 : style.across === 'right' ? width / 2 : 0;
  return {
    d: {
      k: [
        {
          t: 0,
          s: {
            s: size,
            f: fontName(style.family, style.weight),
            t: lines.join('\r'),
            j: JUSTIFY[style.across],
            tr: rounded((style.letterSpacing / size) * 1000),
            lh: rounded(step),
            ls: 0,
            fc: colourOf(fill.kind === 'colour' ? fill.colour : '#ffffff'),
          },
        },
      ],
    },
    p: {},
    m: { g: 1, a: still([0, 0]) },
    a: [],
    // Where the first line stands, from the layer's own middle: taken as its anchor by the caller.
    at: [rounded(x), rounded(top + size * 0.72)],
  };
}

/** What of an element cannot be said. */
function unsaid(element: Element): string[] {
  const { content, fill, in: comes, out, keyframes, hold, shadow, glow, reflection, crop, turnX, turnY, skewY, corners, stroke } = element;
  const found: string[] = [];
  const say = (when: boolean, what: string) => when && found.push(what);
  say(!outlineOf(element) && content.kind !== 'text', `${content.kind}s are not drawn`);
  for (const [move, words] of [
    [comes, 'comes'],
    [out, 'goes'],
  ] as const)
    say(move !== null && !['fade', 'slide', 'scale', 'turn'].includes(move.way), `it ${words} at once: ${move?.way ?? ''} cannot be said`);
  say(keyframes.length > 0, 'keyframes are left out');
  say(hold !== null, 'its move while it stands is left out');
  say(shadow !== null || glow !== null || reflection !== null, 'shadow, glow and reflection are left out');
  say(crop !== null || element.mask !== null, 'crop and mask are left out');
  say(turnX !== 0 || turnY !== 0 || skewY !== 0, 'it is drawn flat');
  say(fill.kind === 'picture', 'its picture is left out');
  say((fill.kind === 'linear' || fill.kind === 'radial') && (content.kind === 'text' || fill.spread !== 'pad'), 'its gradient is simpler');
  say(new Set(Object.values(corners)).size > 1, 'all its corners are like the first');
  say(stroke.width > 0 && (stroke.dash !== 'solid' || stroke.place !== 'centre'), 'its stroke is solid, on the edge');
  say(content.kind === 'text' && (content.accents.length > 0 || content.style.capitals !== 'none'), 'accents and capitals are left out');
  say(content.kind === 'text' && content.style.wrap, 'its lines are not broken');
  return found;
}

/** A filled graphic as a Lottie document, with what is left out of it. It waits at a marker `hold`, for a second of its own. */
export function asLottie(filled: Filled, rate: Rate): { document: Raw; left: LeftOut[] } {
  const { graphic } = filled;
  const { raster } = graphic;
  const comes = Math.max(1, inLength({ ...graphic, in: null }));
  const second = Math.max(1, Math.round(rate.num / rate.den));
  const span: Span = { comes, goes: comes + second, end: comes + second + Math.max(1, outLength({ ...graphic, out: null })) };
  const left: LeftOut[] = [];
  const fonts = new Map<string, Raw>();
  const whole = { nm: '', ip: 0, op: span.end, st: 0, sr: 1, ddd: 0, bm: 0 };
  const layers = drawnElements(filled).flatMap(({ element }, i): Raw[] => {
    left.push(...unsaid(element).map((what) => ({ element: element.name, what })));
    const ks = transformOf(element, raster, span);
    const shapes = shapesOf(element);
    const common = { ...whole, ind: i + 1, nm: element.name, ks };
    if (shapes) return [{ ...common, ty: 4, shapes }];
    const text = textOf(element);
    if (!text || element.content.kind !== 'text') return [];
    const { at, ...t } = text;
    const { family, weight } = element.content.style;
    const name = fontName(family, weight);
    fonts.set(name, { fName: name, fFamily: family, fStyle: STYLES[String(weight)] ?? 'Regular', ascent: 72 });
    return [{ ...common, ty: 5, t, ks: { ...ks, a: still((at as number[]).map((n) => -n || 0)) } }];
  });
  if (graphic.in || graphic.out) left.push({ element: graphic.name, what: 'its move as a whole is left out' });
  const document: Raw = {
    v: '5.9.0',
    nm: graphic.name,
    fr: rounded(rate.num / rate.den),
    ip: 0,
    op: span.end,
    w: raster.width,
    h: raster.height,
    ddd: 0,
    assets: [],
    fonts: { list: [...fonts.values()] },
    markers: [{ tm: comes, cm: 'hold', dr: 0 }],
    layers: layers.reverse(),
  };
  return { document, left };
}
