/**
 * Finds the areas of a picture made for a venue: rectangles of one colour, or frames, as templates of walls of LED show them. A coarse grid of
 * the picture is parted into pieces of like colour; those that fill their rectangle, or run all round it, are areas; their edges are then found
 * to the pixel.
 */
import { type Rect } from '../show/geometry';

/** Sum of the differences of three colours, 0 to 765, up to which pixels are alike: noise and compression stay below. */
const ALIKE = 72;
/** Samples of the coarse grid at most. */
const SAMPLES = 2_000_000;
/** Share of each side of a rectangle that a piece must run along. */
const ALONG = 0.85;
/** Shortest side of an area, samples. */
const SHORTEST = 6;
/** Share of the picture from which on a piece is its ground. */
const GROUND = 0.01;
/** Areas that are told at most: more is no template. */
const MOST_FOUND = 200;

interface Run {
  y: number;
  from: number;
  to: number;
  piece: number;
}

interface Piece {
  left: number;
  top: number;
  right: number;
  bottom: number;
  r: number;
  g: number;
  b: number;
  count: number;
  sides: { left: number; top: number; right: number; bottom: number };
}

type Pixels = Uint8Array | Uint8ClampedArray;

const far = (data: Pixels, i: number, r: number, g: number, b: number): number =>
  Math.abs((data[i] as number) - r) + Math.abs((data[i + 1] as number) - g) + Math.abs((data[i + 2] as number) - b);

/** Runs of like colour of each row of the grid, each joined to those above that are like it. */
function piecesOf(data: Pixels, width: number, step: number, across: number, down: number): { runs: Run[]; pieces: Map<number, Piece> } {
  const runs: Run[] = [];
  const colours: number[] = [];
  const parent: number[] = [];
  const find = (i: number): number => {
    let root = i;
    while (parent[root] !== root) root = parent[root] as number;
    while (parent[i] !== root) [i, parent[i]] = [parent[i] as number, root];
    return root;
  };
  let above: [number, number] = [0, 0];
  for (let y = 0; y < down; y += 1) {
    const first = runs.length;
    const row = (y * step + (step >> 1)) * width;
    let from = 0;
    let [r, g, b] = [0, 0, 0];
    const end = (to: number) => {
      runs.push({ y, from, to, piece: runs.length });
      parent.push(runs.length - 1);
      colours.push(r, g, b);
    };
    for (let x = 0; x < across; x += 1) {
      const i = (row + x * step + (step >> 1)) * 4;
      if (x > 0 && far(data, i, r, g, b) <= ALIKE) continue;
      if (x > 0) end(x);
      from = x;
      [r, g, b] = [data[i] as number, data[i + 1] as number, data[i + 2] as number];
    }
    end(across);
    // Both rows run from left to right.
    let [a, c] = [above[0], first];
    while (a < above[1] && c < runs.length) {
      const [up, now] = [runs[a] as Run, runs[c] as Run];
      if (up.from < now.to && now.from < up.to) {
        const [j, k] = [a * 3, c * 3];
        const apart =
          Math.abs((colours[j] as number) - (colours[k] as number)) +
          Math.abs((colours[j + 1] as number) - (colours[k + 1] as number)) +
          Math.abs((colours[j + 2] as number) - (colours[k + 2] as number));
        if (apart <= ALIKE) parent[find(c)] = find(a);
      }
      if (up.to <= now.to) a += 1;
      else c += 1;
    }
    above = [first, runs.length];
  }
  const pieces = new Map<number, Piece>();
  runs.forEach((run, i) => {
    run.piece = find(i);
    const length = run.to - run.from;
    const piece = pieces.get(run.piece) ?? {
      left: run.from,
      top: run.y,
      right: run.to,
      bottom: run.y + 1,
      r: 0,
      g: 0,
      b: 0,
      count: 0,
      sides: { left: 0, top: 0, right: 0, bottom: 0 },
    };
    piece.left = Math.min(piece.left, run.from);
    piece.right = Math.max(piece.right, run.to);
    piece.bottom = run.y + 1;
    piece.r += (colours[i * 3] as number) * length;
    piece.g += (colours[i * 3 + 1] as number) * length;
    piece.b += (colours[i * 3 + 2] as number) * length;
    piece.count += length;
    pieces.set(run.piece, piece);
  });
  for (const { y, from, to, piece } of runs) {
    const p = pieces.get(piece) as Piece;
    if (from <= p.left + 1) p.sides.left += 1;
    if (to >= p.right - 1) p.sides.right += 1;
    if (y === p.top) p.sides.top += to - from;
    if (y === p.bottom - 1) p.sides.bottom += to - from;
  }
  return { runs, pieces };
}

/** True when a piece runs along all four sides of the rectangle around it. Each row counts once at either side. */
function isRectangle({ left, top, right, bottom, sides }: Piece): boolean {
  const [width, height] = [right - left, bottom - top];
  return (
    width >= SHORTEST &&
    height >= SHORTEST &&
    sides.top >= width * ALONG &&
    sides.bottom >= width * ALONG &&
    sides.left >= height * ALONG &&
    sides.right >= height * ALONG
  );
}

/** The edge of a piece to the pixel: the middle one of what several lines across it say. */
function edge(data: Pixels, width: number, height: number, piece: Piece, step: number, side: keyof Piece['sides']): number {
  const colour = [piece.r / piece.count, piece.g / piece.count, piece.b / piece.count] as const;
  const across = side === 'left' || side === 'right';
  const towards = side === 'left' || side === 'top' ? 1 : -1;
  const coarse = (across ? (side === 'left' ? piece.left : piece.right) : side === 'top' ? piece.top : piece.bottom) * step;
  const [low, high] = across ? [piece.top * step, piece.bottom * step] : [piece.left * step, piece.right * step];
  const limit = across ? width : height;
  const found: number[] = [];
  for (let n = 1; n <= 15; n += 1) {
    const along = Math.floor(low + ((high - low) * n) / 16);
    for (let d = -2 * step; d <= 2 * step; d += 1) {
      const at = towards === 1 ? coarse + d : coarse - 1 - d;
      if (at < 0 || at >= limit) continue;
      const i = across ? (along * width + at) * 4 : (at * width + along) * 4;
      if (far(data, i, ...colour) > ALIKE) continue;
      found.push(towards === 1 ? at : at + 1);
      break;
    }
  }
  found.sort((a, b) => a - b);
  return found[found.length >> 1] ?? Math.min(limit, coarse);
}

/** Share of an area below which what lies in it is what is written there. */
const WRITTEN = 0.2;

/** True for the inside of a frame, whose edges are `by` thick at most, and for what is written in an area. */
function belongsTo(a: Rect, b: Rect, by: number): boolean {
  const gaps = [a.x - b.x, a.y - b.y, b.x + b.width - a.x - a.width, b.y + b.height - a.y - a.height];
  if (a === b || gaps.some((gap) => gap < 0)) return false;
  return gaps.every((gap) => gap <= by) || a.width * a.height < WRITTEN * b.width * b.height;
}

/**
 * The areas of a picture of RGBA pixels, in its pixels, from the upper left to the lower right. The picture itself, as the ground of all, is
 * none; the inside of a frame belongs to the frame.
 */
export function findAreas(data: Pixels, width: number, height: number): Rect[] {
  const step = Math.max(1, Math.ceil(Math.sqrt((width * height) / SAMPLES)));
  const [across, down] = [Math.floor(width / step), Math.floor(height / step)];
  if (across < SHORTEST || down < SHORTEST) return [];
  const { pieces } = piecesOf(data, width, step, across, down);
  const rects: Rect[] = [];
  const touches = (p: Piece) => p.left === 0 || p.top === 0 || p.right >= across - 1 || p.bottom >= down - 1;
  const colour = ({ r, g, b, count }: Piece): [number, number, number] => [r / count, g / count, b / count];
  // What is no rectangle, large, and reaches the edge of the picture is its ground; strips of it that are parted by areas are no areas.
  const grounds = [...pieces.values()].filter((p) => touches(p) && p.count > GROUND * across * down && !isRectangle(p)).map(colour);
  const isGround = (p: Piece) =>
    touches(p) && grounds.some((g) => g.reduce((sum, v, i) => sum + Math.abs(v - (colour(p)[i] as number)), 0) <= ALIKE);
  for (const piece of pieces.values()) {
    if (!isRectangle(piece) || isGround(piece) || (piece.right - piece.left >= across - 1 && piece.bottom - piece.top >= down - 1))
      continue;
    const [left, top] = [edge(data, width, height, piece, step, 'left'), edge(data, width, height, piece, step, 'top')];
    const [right, bottom] = [edge(data, width, height, piece, step, 'right'), edge(data, width, height, piece, step, 'bottom')];
    if (right > left && bottom > top) rects.push({ x: left, y: top, width: right - left, height: bottom - top });
  }
  // The thickest frame of a template: a fortieth of the picture, and what the grid cannot tell.
  const frame = Math.max(width, height) / 40 + step;
  return rects
    .filter((r) => !rects.some((other) => belongsTo(r, other, frame)))
    .sort((a, b) => b.width * b.height - a.width * a.height)
    .slice(0, MOST_FOUND)
    .sort((a, b) => a.y - b.y || a.x - b.x);
}
