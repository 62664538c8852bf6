/**
 * Glide: the boxes of one picture move to their places in the next. Partners are found by seat, then by source; what has
 * no partner fades. Exactly the old scene at 0 and exactly the new one at 1.
 */
import { between, betweenRects } from '../show/geometry';
import { type Border, type Shadow } from '../layout/document';
import { type DrawItem, type Scene } from './draw';
import { type Placing } from './view';

interface Pair {
  from: DrawItem | null;
  to: DrawItem | null;
}

/** Partners of the boxes of two scenes, each box in at most one pair. */
export function pairBoxes(from: Scene, to: Scene): Pair[] {
  const left = from.filter((i) => !i.layer);
  const pairs: Pair[] = to.filter((i) => !i.layer).map((item) => ({ from: null, to: item }));
  const match = (same: (a: DrawItem, b: DrawItem) => boolean) => {
    for (const pair of pairs) {
      if (pair.from || !pair.to) continue;
      const index = left.findIndex((item) => same(item, pair.to as DrawItem));
      if (index >= 0) pair.from = left.splice(index, 1)[0] ?? null;
    }
  };
  match((a, b) => a.seatId !== undefined && a.seatId === b.seatId);
  match((a, b) => a.sourceId !== undefined && a.sourceId === b.sourceId);
  return [...left.map((item) => ({ from: item, to: null })), ...pairs];
}

const placingOf = ({ target, fit, framing, view, eye }: DrawItem): Placing => ({
  target,
  fit,
  ...(framing && { framing }),
  ...(view && { view }),
  ...(eye && { eye }),
});

const NO_BORDER: Border = { width: 0, colour: '#000000' };
const NO_SHADOW: Shadow = { x: 0, y: 0, blur: 0, opacity: 0 };

function betweenColours(a: string, b: string, share: number): string {
  const part = (hex: string, i: number) => parseInt(hex.slice(i, i + 2), 16);
  return `#${[1, 3, 5]
    .map((i) =>
      Math.round(between(part(a, i), part(b, i), share))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
}

function moving(from: DrawItem, to: DrawItem, share: number): DrawItem {
  const late = share >= 0.5;
  const item: DrawItem = { ...(late ? to : from), opacity: between(from.opacity, to.opacity, share) };
  item.target = betweenRects(from.target, to.target, share);
  item.glide = { from: placingOf(from), to: placingOf(to), share };
  const put = <K extends 'rotation' | 'radius'>(key: K) => {
    const value = between(from[key] ?? 0, to[key] ?? 0, share);
    if (value === 0) delete item[key];
    else item[key] = value;
  };
  put('rotation');
  put('radius');
  const [a, b] = [
    from.border ?? { ...NO_BORDER, colour: to.border?.colour ?? '#000000' },
    to.border ?? { ...NO_BORDER, colour: from.border?.colour ?? '#000000' },
  ];
  if (from.border || to.border)
    item.border = { width: between(a.width, b.width, share), colour: betweenColours(a.colour, b.colour, share) };
  const [c, d] = [from.shadow ?? { ...(to.shadow ?? NO_SHADOW), opacity: 0 }, to.shadow ?? { ...(from.shadow ?? NO_SHADOW), opacity: 0 }];
  if (from.shadow || to.shadow) {
    item.shadow = {
      x: between(c.x, d.x, share),
      y: between(c.y, d.y, share),
      blur: between(c.blur, d.blur, share),
      opacity: between(c.opacity, d.opacity, share),
    };
  }
  return item;
}

const faded = (item: DrawItem, share: number): DrawItem => ({ ...item, opacity: item.opacity * share });

const same = (a: DrawItem, b: DrawItem): boolean => JSON.stringify(a.texture) === JSON.stringify(b.texture);

/** Backgrounds and frames: the same stays, another fades in over it. */
function layerBetween(from: Scene, to: Scene, layer: 'background' | 'frame', share: number): Scene {
  const [a, b] = [from.find((i) => i.layer === layer), to.find((i) => i.layer === layer)];
  if (a && b && same(a, b)) return [b];
  // An opaque background stays under the one that fades in; a frame, and one with nothing to come, fade away.
  const leaving = a ? [b && layer === 'background' ? a : faded(a, 1 - share)] : [];
  return [...leaving, ...(b ? [faded(b, share)] : [])];
}

/** The scene at `share` of the way. */
export function glide(from: Scene, to: Scene, share: number): Scene {
  if (share <= 0) return from;
  if (share >= 1) return to;
  const boxes = pairBoxes(from, to).map(({ from: a, to: b }) => {
    if (a && b) return moving(a, b, share);
    return a ? faded(a, 1 - share) : faded(b as DrawItem, share);
  });
  return [...layerBetween(from, to, 'background', share), ...boxes, ...layerBetween(from, to, 'frame', share)];
}
