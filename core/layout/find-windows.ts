/** Finds the transparent openings of frame artwork: connected regions of low alpha, as rectangles. */
import { type Rect } from '../show/geometry';

export interface FoundWindow {
  /** Pixels of the artwork. */
  rect: Rect;
  /** Pixels that are open. */
  area: number;
  /** Reaches the edge of the artwork. */
  touchesEdge: boolean;
}

export interface FindOptions {
  /** Alpha below this is open, 1 to 255. Soft edges belong to the opening down to here. */
  openBelow?: number;
  /** Openings smaller than this share of the picture are specks. */
  smallest?: number;
  /** Bytes of a pixel, when the alpha is the last of several: 4 for RGBA. */
  step?: number;
}

/**
 * Openings of `alpha` (rows from the top), the largest first, then by reading order.
 * Runs of open pixels are joined to the runs above them with union-find, so it takes one pass over the picture and one
 * over its runs. Regions are joined by their sides, not by corners: openings that touch at a point stay apart.
 */
export function findWindows(
  alpha: Uint8Array | Uint8ClampedArray,
  width: number,
  height: number,
  options: FindOptions = {},
): FoundWindow[] {
  const openBelow = options.openBelow ?? 128;
  const step = options.step ?? 1;
  const smallest = Math.max(1, (options.smallest ?? 0.0005) * width * height);
  // Per run: first and last column, row, and the index of its parent.
  let capacity = 4096;
  let from = new Int32Array(capacity);
  let to = new Int32Array(capacity);
  let row = new Int32Array(capacity);
  let parent = new Int32Array(capacity);
  let count = 0;
  const grow = () => {
    capacity *= 2;
    const bigger = (old: Int32Array<ArrayBuffer>) => {
      const next = new Int32Array(capacity);
      next.set(old);
      return next;
    };
    [from, to, row, parent] = [bigger(from), bigger(to), bigger(row), bigger(parent)];
  };
  const root = (i: number): number => {
    let at = i;
    while (parent[at] !== at) {
      parent[at] = parent[parent[at] as number] as number;
      at = parent[at] as number;
    }
    return at;
  };
  let above = 0;
  let aboveEnd = 0;
  for (let y = 0; y < height; y += 1) {
    const start = count;
    const line = y * width * step + step - 1;
    let look = above;
    for (let x = 0; x < width; x += 1) {
      if ((alpha[line + x * step] as number) >= openBelow) {
        // Two at a time over what is opaque: a sliver of one pixel is a speck anyway.
        x += 1;
        continue;
      }
      const first = x > 0 && (alpha[line + (x - 1) * step] as number) < openBelow ? x - 1 : x;
      while (x < width && (alpha[line + x * step] as number) < openBelow) x += 1;
      if (count === capacity) grow();
      from[count] = first;
      to[count] = x - 1;
      row[count] = y;
      parent[count] = count;
      while (look < aboveEnd && (to[look] as number) < first) look += 1;
      for (let k = look; k < aboveEnd && (from[k] as number) < x; k += 1) {
        const [a, b] = [root(k), root(count)];
        if (a !== b) parent[Math.max(a, b)] = Math.min(a, b);
      }
      count += 1;
    }
    above = start;
    aboveEnd = count;
  }
  const regions = new Map<number, { left: number; right: number; top: number; bottom: number; area: number }>();
  for (let i = 0; i < count; i += 1) {
    const id = root(i);
    const [left, right, y] = [from[i] as number, to[i] as number, row[i] as number];
    const known = regions.get(id);
    if (!known) regions.set(id, { left, right, top: y, bottom: y, area: right - left + 1 });
    else {
      known.left = Math.min(known.left, left);
      known.right = Math.max(known.right, right);
      known.bottom = y;
      known.area += right - left + 1;
    }
  }
  return [...regions.values()]
    .filter((r) => r.area >= smallest && r.right - r.left >= 2 && r.bottom - r.top >= 2)
    .map((r) => ({
      rect: { x: r.left, y: r.top, width: r.right - r.left + 1, height: r.bottom - r.top + 1 },
      area: r.area,
      touchesEdge: r.left === 0 || r.top === 0 || r.right === width - 1 || r.bottom === height - 1,
    }))
    .sort((a, b) => b.area - a.area || a.rect.y - b.rect.y || a.rect.x - b.rect.x);
}

/** An opening of artwork of `size`, as a box on the raster that the artwork fills, grown by `bleed` pixels of the raster. */
export function boxUnder(
  window: Rect,
  size: { width: number; height: number },
  raster: { width: number; height: number },
  bleed: number,
): Rect {
  const [sx, sy] = [raster.width / size.width, raster.height / size.height];
  const x = Math.floor(window.x * sx) - bleed;
  const y = Math.floor(window.y * sy) - bleed;
  return {
    x,
    y,
    width: Math.ceil((window.x + window.width) * sx) + bleed - x,
    height: Math.ceil((window.y + window.height) * sy) + bleed - y,
  };
}
