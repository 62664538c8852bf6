/** Parts of an animation that can be filled in: found in it, named from its layers, and put into it. */
import { MOST_PARTS, type PartKind } from './document';
import { compositionsOf, LAYER, listIn, type Lottie, objectIn, type Raw, textIn } from './lottie';
import { trackOf } from './track';

/** A part as it is found. */
export interface FoundPart {
  id: string;
  name: string;
  kind: PartKind;
  /** Where it stands in the document: keys with `/` between them. */
  path: string;
  /** Layers of the animation itself, by their place in it, that it changes. */
  layers: number[];
  /** What stands there: words, a colour; empty for others. */
  was: string;
  /** Where a live picture is at its frames; empty for others. */
  track: number[];
  /** Why no live picture can stand for an image; empty where one can, and for others. */
  noWindow: string;
}
type Found = Omit<FoundPart, 'id'>;
const PLAIN = { track: [], noWindow: '' };

const hex = (value: unknown): string | null => {
  if (!Array.isArray(value) || value.length < 3) return null;
  const parts = (value as unknown[]).slice(0, 3);
  if (!parts.every((n): n is number => typeof n === 'number' && n >= 0 && n <= 1)) return null;
  return `#${parts
    .map((n) =>
      Math.round(n * 255)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
};

/** Which layers of the animation itself show each composition or image, also through others. */
function shownBy(doc: Lottie): Map<string, number[]> {
  const compositions = compositionsOf(doc);
  const by = new Map<string, Set<number>>();
  const add = (layers: readonly Raw[], top: number | null, depth: number) => {
    layers.forEach((layer, i) => {
      const id = textIn(layer, 'refId');
      if (id === '') return;
      const own = top ?? i;
      const known = by.get(id) ?? new Set<number>();
      if (known.has(own) && top !== null) return;
      by.set(id, known.add(own));
      const inside = layer.ty === LAYER.composition ? compositions.get(id) : undefined;
      if (inside && depth > 0) add(listIn(inside, 'layers'), own, depth - 1);
    });
  };
  add(doc.layers, null, 16);
  return new Map([...by].map(([id, set]) => [id, [...set].sort((a, b) => a - b)]));
}

/** Colours of fills and strokes in a shape layer, with their place. */
function coloursIn(shapes: readonly Raw[], path: string, depth = 8): { path: string; name: string; was: string }[] {
  return shapes.flatMap((shape, i) => {
    const here = `${path}/${i}`;
    if (shape.ty === 'gr' && depth > 0) return coloursIn(listIn(shape, 'it'), `${here}/it`, depth - 1);
    if (shape.ty !== 'fl' && shape.ty !== 'st') return [];
    const colour = objectIn(shape, 'c');
    const was = colour.a === 1 ? null : hex(colour.k);
    return was === null ? [] : [{ path: `${here}/c/k`, name: textIn(shape, 'nm'), was }];
  });
}

function partsIn(layers: readonly Raw[], path: string, under: string, topOf: (index: number) => number[]): Found[] {
  return layers.flatMap((layer, i) => {
    const here = `${path}/${i}`;
    const name = `${under}${textIn(layer, 'nm') || `Layer ${i + 1}`}`.slice(0, 60);
    const of = { ...PLAIN, layers: topOf(i), name };
    const found: Found[] = [];
    if (layer.ty === LAYER.text) {
      const [first] = listIn(objectIn(objectIn(layer, 't'), 'd'), 'k');
      const was = textIn(objectIn(first ?? {}, 's'), 't').replaceAll('\r', '\n');
      found.push({ ...of, kind: 'text', path: `${here}/t/d/k`, was });
      const colour = hex(objectIn(first ?? {}, 's').fc);
      if (colour !== null) found.push({ ...of, name: `${name}: colour`, kind: 'colour', path: `${here}/t/d/k/0/s/fc`, was: colour });
    }
    if (layer.ty === LAYER.solid) {
      const was = textIn(layer, 'sc').toLowerCase();
      if (/^#[0-9a-f]{6}$/.test(was)) found.push({ ...of, name: `${name}: colour`, kind: 'colour', path: `${here}/sc`, was });
    }
    if (layer.ty === LAYER.shape)
      found.push(
        ...coloursIn(listIn(layer, 'shapes'), `${here}/shapes`).map((c, n) => ({
          ...of,
          name: `${name}: ${c.name || `colour ${n + 1}`}`.slice(0, 60),
          kind: 'colour' as const,
          path: c.path,
          was: c.was,
        })),
      );
    if (layer.ty !== LAYER.empty && layer.td !== 1) found.push({ ...of, name: `${name}: shown`, kind: 'flag', path: here, was: '' });
    return found;
  });
}

/** Whether something of a kind is first offered as a field, and where it stands among them. */
const ORDER: Record<PartKind, number> = { text: 0, image: 1, window: 2, colour: 3, flag: 4 };

/** An image layer as a part, and once more where a live picture can stand for it. */
function imageParts(doc: Lottie, asset: Raw, path: string, layers: number[]): Found[] {
  const id = textIn(asset, 'id');
  const by = doc.layers.find((l) => textIn(l, 'refId') === id);
  const name = (textIn(by ?? {}, 'nm') || textIn(asset, 'nm') || id || 'Image').slice(0, 60);
  const of = { path, layers, name, was: '' };
  const track = trackOf(doc, asset);
  if (typeof track === 'string') return [{ ...of, kind: 'image', track: [], noWindow: track }];
  return [
    { ...of, ...PLAIN, kind: 'image' },
    { ...of, kind: 'window', name: `${name}: live picture`.slice(0, 60), track, noWindow: '' },
  ];
}

/** All parts of an animation, texts first, then images, colours and what can be switched; images count once however often they are shown. */
export function partsOf(doc: Lottie): FoundPart[] {
  const shown = shownBy(doc);
  const found = partsIn(doc.layers, 'layers', '', (i) => [i]);
  listIn(doc, 'assets').forEach((asset, i) => {
    const id = textIn(asset, 'id');
    const layers = shown.get(id) ?? [];
    if (layers.length === 0) return;
    if (Array.isArray(asset.layers))
      found.push(...partsIn(listIn(asset, 'layers'), `assets/${i}/layers`, `${textIn(asset, 'nm') || id} / `, () => layers));
    else if (typeof asset.p === 'string') found.push(...imageParts(doc, asset, `assets/${i}`, layers));
  });
  return found
    .sort((a, b) => ORDER[a.kind] - ORDER[b.kind])
    .slice(0, MOST_PARTS)
    .map((part, i) => ({ ...part, id: `part-${i + 1}` }));
}

/** A picture of one clear pixel: what an image layer shows that a live picture stands for. */
const CLEAR = 'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAAC0lEQVR42mNgAAIAAAUAAen63NgAAAAASUVORK5CYII=';

/** What is filled in for a part: words, `#rrggbb`, `on` or empty, an image as a data address, or a live picture's identity. */
export interface GivenRaw {
  kind: PartKind;
  path: string;
  value: string;
}

/** The object or list that holds the last key of a path, and that key; null where the path leads nowhere. */
function placeOf(doc: Raw, path: string): { holder: Raw; key: string } | null {
  const keys = path.split('/');
  let holder: unknown = doc;
  for (const key of keys.slice(0, -1)) {
    if (typeof holder !== 'object' || holder === null || !Object.hasOwn(holder, key)) return null;
    holder = (holder as Raw)[key];
  }
  const key = keys.at(-1) as string;
  return typeof holder === 'object' && holder !== null && Object.hasOwn(holder, key) ? { holder: holder as Raw, key } : null;
}

const channels = (colour: string): number[] => [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16) / 255);

const PUT: Record<PartKind, (holder: Raw, key: string, value: string) => void> = {
  text: (holder, key, value) => {
    // Every key of it has the words: they change by values, not by time.
    for (const k of listIn(holder, key)) Object.assign(objectIn(k, 's'), { t: value.replaceAll('\n', '\r') });
  },
  image: (holder, key, value) => {
    if (value !== '') Object.assign(objectIn(holder, key), { p: value, u: '', e: 1 });
  },
  window: (holder, key, value) => {
    if (value !== '') Object.assign(objectIn(holder, key), { p: CLEAR, u: '', e: 1 });
  },
  colour: (holder, key, value) => {
    if (key === 'sc') holder.sc = value;
    else holder[key] = [...channels(value), 1];
  },
  flag: (holder, key, value) => {
    Object.assign(objectIn(holder, key), { hd: value === '' });
  },
};

/** A solid as a shape: some players draw the opacity of solids twice. */
function solidAsShape(layer: Raw): void {
  if (layer.ty !== LAYER.solid) return;
  const [w, h] = [layer.sw, layer.sh].map((n) => (typeof n === 'number' ? n : 0)) as [number, number];
  const none = { a: 0, k: [0, 0] };
  Object.assign(layer, {
    ty: LAYER.shape,
    shapes: [
      {
        ty: 'gr',
        it: [
          { ty: 'rc', p: { a: 0, k: [w / 2, h / 2] }, s: { a: 0, k: [w, h] }, r: { a: 0, k: 0 } },
          {
            ty: 'fl',
            c: { a: 0, k: [...channels(/^#[0-9a-f]{6}$/i.test(textIn(layer, 'sc')) ? textIn(layer, 'sc') : '#000000'), 1] },
            o: { a: 0, k: 100 },
          },
          { ty: 'tr', p: none, a: none, s: { a: 0, k: [100, 100] }, r: { a: 0, k: 0 }, o: { a: 0, k: 100 } },
        ],
      },
    ],
  });
}

/**
 * The animation with what is filled in, and with just some of its layers shown where `only` names them; hidden ones still carry those that hang
 * on them. The document itself is left as it is.
 */
export function filledLottie(doc: Lottie, given: readonly GivenRaw[], only: readonly number[] | null): Lottie {
  const copy = structuredClone(doc);
  for (const { kind, path, value } of given) {
    const place = placeOf(copy, path);
    if (place) PUT[kind](place.holder, place.key, value);
  }
  if (only) {
    const shown = new Set(only);
    copy.layers.forEach((layer, i) => {
      if (!shown.has(i)) layer.hd = true;
    });
  }
  for (const layers of [copy.layers, ...listIn(copy, 'assets').map((a) => listIn(a, 'layers'))]) layers.forEach(solidAsShape);
  return copy;
}

/** More layers than this are drawn as one. */
const MOST_UNITS = 400;

/** Layers of the animation that cannot be drawn apart from each other, back to front: each by itself, but a layer with its matte. */
export function layerUnits(doc: Lottie): number[][] {
  const all = doc.layers.map((_, i) => i);
  // A matte that stands elsewhere ties everything together.
  if (all.length > MOST_UNITS || doc.layers.some((l) => l.tt !== undefined && l.tp !== undefined)) return [all];
  const units: number[][] = [];
  // Lottie lists its layers front to back; a matte stands right before the layer that wears it.
  for (let i = doc.layers.length - 1; i >= 0; i -= 1) {
    const wears = doc.layers[i]?.tt !== undefined && doc.layers[i - 1]?.td !== undefined;
    units.push(wears ? [i, i - 1] : [i]);
    if (wears) i -= 1;
  }
  return units;
}

/** Units in groups that are drawn apart: each that a part changes is by itself, what stands between is together. */
export function layerGroups(units: readonly (readonly number[])[], changed: ReadonlySet<number>): number[][] {
  const groups: { layers: number[]; alone: boolean }[] = [];
  for (const unit of units) {
    const alone = unit.some((l) => changed.has(l));
    const last = groups.at(-1);
    if (last && !last.alone && !alone) last.layers.push(...unit);
    else groups.push({ layers: [...unit], alone });
  }
  return groups.map((g) => g.layers);
}
