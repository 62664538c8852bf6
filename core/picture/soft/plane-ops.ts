/** The operations of the software mixer on one plane at a time. Weights are 0 to 256. */
import { allocate, allocateTable, kernels, type Piece, release } from './memory';

/** A plane with its size, in the kernels' memory; chroma planes are half the picture's. */
export interface Plane {
  pointer: number;
  width: number;
  height: number;
}

/** Where a source plane lands on a target plane, in pixels of the target plane. */
export interface Placement {
  x: number;
  y: number;
  width: number;
  height: number;
}

interface Span {
  from: number;
  to: number;
  /** (index << 9 | weight) of each target pixel: its source pixel, and the weight of that one's neighbour. */
  table: Piece;
}

/** Bilinear source positions of the target pixels whose centres lie inside the placement. */
function span(start: number, length: number, source: number, limit: number): Span {
  const from = Math.max(0, Math.ceil(start - 0.5));
  const to = Math.max(from, Math.min(limit, Math.ceil(start + length - 0.5)));
  const packed = Int32Array.from({ length: to - from }, (_, i) => {
    const place = ((from + i + 0.5 - start) / length) * source - 0.5;
    const held = Math.min(Math.max(place, 0), source - 1);
    const whole = Math.min(Math.floor(held), Math.max(0, source - 2));
    const weight = source > 1 ? Math.round((held - whole) * 256) : 0;
    return (whole << 9) | weight;
  });
  return { from, to, table: allocateTable(packed) };
}

/** Spans are the same from frame to frame; the last few are kept. */
const SPAN_LIMIT = 256;
const spans = new Map<string, Span>();

function knownSpan(start: number, length: number, source: number, limit: number): Span {
  const key = `${start} ${length} ${source} ${limit}`;
  const known = spans.get(key);
  if (known) return known;
  if (spans.size >= SPAN_LIMIT) {
    for (const { table } of spans.values()) release(table);
    spans.clear();
  }
  const made = span(start, length, source, limit);
  spans.set(key, made);
  return made;
}

/** Room for one source row and one target row of any size in use. */
let spare = allocate(32_768);

/** Draws `source` into `placement` of `target`, `weight` of 256 over what is there. Bilinear; edges repeat. */
export function drawPlane(target: Plane, source: Plane, { x, y, width, height }: Placement, weight: number): void {
  if (width === source.width && height === source.height && Number.isInteger(x) && Number.isInteger(y)) {
    drawExact(target, source, x, y, weight);
    return;
  }
  const columns = knownSpan(x, width, source.width, target.width);
  const rows = knownSpan(y, height, source.height, target.height);
  const count = columns.to - columns.from;
  if (count <= 0) return;
  if (spare.bytes.length < source.width + target.width + 128) spare = allocate((source.width + target.width) * 2 + 128);
  const out = target.pointer + rows.from * target.width + columns.from;
  const below = source.height > 1 ? source.width : 0;
  kernels.scale(out, target.width, count, rows.to - rows.from, source.pointer, source.width, below, columns.table.pointer, rows.table.pointer, weight, spare.pointer);
}

function drawExact(target: Plane, source: Plane, x: number, y: number, weight: number): void {
  const left = Math.max(0, x);
  const count = Math.min(target.width, x + source.width) - left;
  if (count <= 0) return;
  for (let row = Math.max(0, y); row < Math.min(target.height, y + source.height); row += 1) {
    const out = target.pointer + row * target.width + left;
    kernels.mix(out, out, source.pointer + (row - y) * source.width + left - x, count, weight);
  }
}

/** Draws `source` pixel for pixel at a whole place, each pixel by its own alpha (0 to 255) times `weight`. */
export function drawPlaneAlpha(target: Plane, source: Plane, alpha: Plane, x: number, y: number, weight: number): void {
  const step = alpha.width === source.width ? 1 : 2;
  const left = Math.max(0, -x);
  const count = Math.min(source.width, target.width - x) - left;
  if (count <= 0) return;
  for (let row = Math.max(0, -y); row < source.height && row + y < target.height; row += 1) {
    const out = target.pointer + (row + y) * target.width + x + left;
    const shares = alpha.pointer + Math.min(alpha.height - 1, row * step) * alpha.width + left * step;
    kernels.alphaRow(out, source.pointer + row * source.width + left, shares, count, weight, step);
  }
}

/** `a` towards `b` with a weight for each column, or for each row. All three planes have one size. */
export function wipePlane(out: Plane, a: Plane, b: Plane, weights: Uint16Array, byColumn: boolean): void {
  const table = allocateTable(weights);
  for (let row = 0; row < out.height; row += 1) {
    const at = row * out.width;
    if (byColumn) kernels.mixWeights(out.pointer + at, a.pointer + at, b.pointer + at, table.pointer, out.width);
    else kernels.mix(out.pointer + at, a.pointer + at, b.pointer + at, out.width, weights[row] ?? 0);
  }
  release(table);
}
