/**
 * Blends: how much light each screen gives where several overlap. At every point of the canvas the shares of all screens that shine there
 * are one together, however they lie; a share of light is a share ** (1 / gamma) of the signal, as projectors raise it to their gamma.
 */
import { bottom, intersect, type Point, type Rect, right } from '../show/geometry';
import { type Curve, type Screen, type Surface } from './surface';

/** Share of light across an overlap: 0 at its edge, 1 at its inner end. All are symmetrical, so that two that meet are one. */
export function fall(curve: Curve, t: number): number {
  const s = Math.min(1, Math.max(0, t));
  if (curve === 'straight') return s;
  return curve === 'smooth' ? s * s * (3 - 2 * s) : (1 - Math.cos(Math.PI * s)) / 2;
}

/** A blended edge of a screen: light falls towards it over `width` pixels of the canvas, along the neighbour that lies there. */
export interface SoftEdge {
  side: 'left' | 'right' | 'top' | 'bottom';
  width: number;
  /** The overlap in which it counts. */
  within: Rect;
}

/** The blended edges of a screen, from the screens that reach over them. */
export function softEdges(screen: Screen, screens: readonly Screen[]): SoftEdge[] {
  if (!screen.blends) return [];
  const { rect: a, edges } = screen;
  return screens.flatMap((other): SoftEdge[] => {
    if (other.id === screen.id || !other.blends) return [];
    const b = other.rect;
    const within = intersect(a, b);
    // Two that lie on each other wholly share their light evenly: there is no edge to fall towards.
    if (!within) return [];
    const found: SoftEdge[] = [];
    const add = (side: SoftEdge['side'], reaches: boolean, overlap: number) => {
      const width = Math.min(edges[side] ?? overlap, overlap);
      if (reaches && width > 0) found.push({ side, width, within });
    };
    add('left', b.x < a.x && right(b) > a.x, within.width);
    add('right', right(b) > right(a) && b.x < right(a), within.width);
    add('top', b.y < a.y && bottom(b) > a.y, within.height);
    add('bottom', bottom(b) > bottom(a) && b.y < bottom(a), within.height);
    return found;
  });
}

const holds = (r: Rect, { x, y }: Point): boolean => x >= r.x && x < right(r) && y >= r.y && y < bottom(r);

/** What a screen would give at a point before the shares are made one together; 0 beside it. */
function weight(screen: Screen, soft: readonly SoftEdge[], curve: Curve, p: Point): number {
  const { rect } = screen;
  if (!holds(rect, p)) return 0;
  const share = { left: 1, right: 1, top: 1, bottom: 1 };
  for (const { side, width, within } of soft) {
    if (!holds(within, p)) continue;
    const far = { left: p.x - rect.x, right: right(rect) - p.x, top: p.y - rect.y, bottom: bottom(rect) - p.y }[side];
    share[side] = Math.min(share[side], fall(curve, far / width));
  }
  return share.left * share.right * share.top * share.bottom;
}

/** Shares of light of all screens of a surface at any point. */
export class Light {
  private readonly soft: ReadonlyMap<string, readonly SoftEdge[]>;

  constructor(private readonly surface: Pick<Surface, 'screens' | 'blend'>) {
    this.soft = new Map(surface.screens.map((s) => [s.id, softEdges(s, surface.screens)]));
  }

  edgesOf(id: string): readonly SoftEdge[] {
    return this.soft.get(id) ?? [];
  }

  /** Share of light of a screen at a point of the canvas, 0 to 1; that of a screen that does not blend is 1 wherever it shines. */
  share(screen: Screen, p: Point): number {
    if (!screen.blends) return holds(screen.rect, p) ? 1 : 0;
    const { curve } = this.surface.blend;
    let sum = 0;
    let own = 0;
    let covering = 0;
    for (const other of this.surface.screens) {
      if (!other.blends || !holds(other.rect, p)) continue;
      covering += 1;
      const w = weight(other, this.edgesOf(other.id), curve, p);
      sum += w;
      if (other.id === screen.id) own = w;
    }
    if (!holds(screen.rect, p)) return 0;
    return sum > 0 ? own / sum : 1 / covering;
  }

  /** Screens that blend and shine at a point. */
  count(p: Point): number {
    return this.surface.screens.filter((s) => s.blends && holds(s.rect, p)).length;
  }

  /** Signal that a screen sends at a point for white, 0 to 1. */
  signal(screen: Screen, p: Point): number {
    return this.share(screen, p) ** (1 / this.surface.blend.gamma);
  }
}
