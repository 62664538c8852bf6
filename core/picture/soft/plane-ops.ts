/** The operations of the software mixer on one plane at a time. Weights are 0 to 256. */
import { type Rect } from '../../show/geometry';
import { type Mask } from './masks';
import { allocate, allocateTable, kernels, type Piece, release } from './memory';

/** A plane with its size, in the kernels' memory; chroma planes are half the picture's. */
export interface Plane {
  pointer: number;
  width: number;
  height: number;
}

/** Where a source plane lands on a target plane, in pixels of the target plane, and which part of the source. */
export interface Placement extends Rect {
  /** Shares of the source. */
  window: Rect;
  mirror: boolean;
  /** Pixels of the target plane outside of which nothing is drawn. */
  clip: { left: number; top: number; right: number; bottom: number };
}

interface Span {
  from: number;
  to: number;
  /** (index << 9 | weight) of each target pixel: its source pixel, and the weight of that one's neighbour. */
  table: Piece;
}

/** Bilinear source positions of the target pixels whose centres lie inside the placement; `a` to `b` of the source. */
function span(start: number, length: number, a: number, b: number, source: number, low: number, high: number): Span {
  const from = Math.max(low, Math.ceil(start - 0.5));
  const to = Math.max(from, Math.min(high, Math.ceil(start + length - 0.5)));
  const packed = Int32Array.from({ length: to - from }, (_, i) => {
    const place = a + ((from + i + 0.5 - start) / length) * (b - a) - 0.5;
    const held = Math.min(Math.max(place, 0), source - 1);
    const whole = Math.min(Math.floor(held), Math.max(0, source - 2));
    const weight = source > 1 ? Math.round((held - whole) * 256) : 0;
    return (whole << 9) | weight;
  });
  return { from, to, table: allocateTable(packed) };
}

/** Spans are the same from frame to frame: those used last are kept, in two generations of so many. */
const SPAN_LIMIT = 256;
let spans = new Map<string, Span>();
let older = new Map<string, Span>();

/** A span that may be used until so many others have been asked for: whoever draws holds several at once, so none is given back at once. */
function knownSpan(start: number, length: number, a: number, b: number, source: number, low: number, high: number): Span {
  const key = `${start} ${length} ${a} ${b} ${source} ${low} ${high}`;
  const known = spans.get(key);
  if (known) return known;
  if (spans.size >= SPAN_LIMIT) {
    for (const { table } of older.values()) release(table);
    [older, spans] = [spans, new Map<string, Span>()];
  }
  const made = older.get(key) ?? span(start, length, a, b, source, low, high);
  older.delete(key);
  spans.set(key, made);
  return made;
}

const columnsOf = (p: Placement, source: Plane): Span => {
  const { x, width } = p.window;
  const [a, b] = p.mirror ? [x + width, x] : [x, x + width];
  return knownSpan(p.x, p.width, a * source.width, b * source.width, source.width, p.clip.left, p.clip.right);
};

const rowsOf = (p: Placement, source: Plane): Span =>
  knownSpan(
    p.y,
    p.height,
    p.window.y * source.height,
    (p.window.y + p.window.height) * source.height,
    source.height,
    p.clip.top,
    p.clip.bottom,
  );

/** Room for one source row, then lines of the target's width. */
let spare = allocate(65_536);

/** A place for the kernels to work in: a source row of `width`, and two lines of `count`. */
function workspace(width: number, count: number): { row: number; line: number; alpha: number } {
  const [row, line] = [(width + 63) & ~15, (count + 63) & ~15];
  const size = 2 * row + 3 * line + 256;
  if (spare.bytes.length < size) {
    release(spare);
    spare = allocate(size * 2);
  }
  const start = spare.pointer + 2 * row + line + 128;
  return { row: spare.pointer, line: start, alpha: start + line };
}

/** Source pixels for target pixels one to one, at whole places: no scaling needed. */
function exactOffset(p: Placement, source: Plane): { dx: number; dy: number } | null {
  if (p.mirror || !Number.isInteger(p.x) || !Number.isInteger(p.y)) return null;
  const dx = p.window.x * source.width;
  const dy = p.window.y * source.height;
  const near = (a: number, b: number) => Math.abs(a - b) < 1e-6;
  const whole = near(dx, Math.round(dx)) && near(dy, Math.round(dy));
  return whole && near(p.width, p.window.width * source.width) && near(p.height, p.window.height * source.height)
    ? { dx: Math.round(dx), dy: Math.round(dy) }
    : null;
}

/** Draws an opaque `source` onto `target`, `weight` of 256 over what is there. Bilinear; edges repeat. */
export function drawPlane(target: Plane, source: Plane, p: Placement, weight: number): void {
  const exact = exactOffset(p, source);
  if (exact) {
    drawExact(target, source, p, exact, weight);
    return;
  }
  const columns = columnsOf(p, source);
  const rows = rowsOf(p, source);
  const count = columns.to - columns.from;
  if (count <= 0 || rows.to <= rows.from) return;
  const room = workspace(source.width, target.width);
  const out = target.pointer + rows.from * target.width + columns.from;
  const below = source.height > 1 ? source.width : 0;
  kernels.scale(
    out,
    target.width,
    count,
    rows.to - rows.from,
    source.pointer,
    source.width,
    below,
    columns.table.pointer,
    rows.table.pointer,
    weight,
    room.row,
  );
}

/** The part of the placement's whole pixels that is inside its clip. */
function clipped(p: Placement): { left: number; right: number; top: number; bottom: number } {
  return {
    left: Math.max(p.clip.left, p.x),
    right: Math.min(p.clip.right, p.x + Math.round(p.width)),
    top: Math.max(p.clip.top, p.y),
    bottom: Math.min(p.clip.bottom, p.y + Math.round(p.height)),
  };
}

function drawExact(target: Plane, source: Plane, p: Placement, { dx, dy }: { dx: number; dy: number }, weight: number): void {
  const { left, right, top, bottom } = clipped(p);
  const count = right - left;
  if (count <= 0) return;
  for (let row = top; row < bottom; row += 1) {
    const out = target.pointer + row * target.width + left;
    kernels.mix(out, out, source.pointer + (row - p.y + dy) * source.width + left - p.x + dx, count, weight);
  }
}

/**
 * Draws `source` by its own alpha, by a mask of the output, or by both. `step` is 2 for chroma planes, whose pixels take
 * every second pixel of alpha and mask.
 */
export function drawShaped(
  target: Plane,
  source: Plane,
  alpha: Plane | null,
  mask: Mask | null,
  p: Placement,
  weight: number,
  step: 1 | 2,
): void {
  const columns = columnsOf(p, source);
  const rows = rowsOf(p, source);
  const count = columns.to - columns.from;
  if (count <= 0) return;
  const exact = exactOffset(p, source);
  const room = workspace(Math.max(source.width, alpha?.width ?? 0), target.width);
  const alphaColumns = alpha && columnsOf(p, alpha);
  const alphaRows = alpha && rowsOf(p, alpha);
  for (let y = rows.from; y < rows.to; y += 1) {
    const out = target.pointer + y * target.width + columns.from;
    const masked = mask ? mask.row(Math.min(mask.y + mask.height - 1, Math.max(mask.y, y * step))) : 0;
    const table = rows.table.pointer + (y - rows.from) * 4;
    const own = exact ? source.pointer + (y - p.y + exact.dy) * source.width + columns.from - p.x + exact.dx : 0;
    if (masked === 0 && !alpha) {
      if (own) kernels.mix(out, out, own, count, weight);
      else
        kernels.scale(
          out,
          0,
          count,
          1,
          source.pointer,
          source.width,
          source.height > 1 ? source.width : 0,
          columns.table.pointer,
          table,
          weight,
          room.row,
        );
      continue;
    }
    if (!own)
      kernels.scale(
        room.line,
        0,
        count,
        1,
        source.pointer,
        source.width,
        source.height > 1 ? source.width : 0,
        columns.table.pointer,
        table,
        256,
        room.row,
      );
    const picture = own || room.line;
    const maskAt = mask && masked !== 0 ? masked + columns.from * step - mask.x : 0;
    if (alpha && exact && maskAt === 0 && alpha.width === source.width * step) {
      // One to one: alpha is read where it lies, every second of it for chroma.
      const row = Math.min(alpha.height - 1, (y - p.y + exact.dy) * step);
      kernels.alphaRow(out, picture, alpha.pointer + row * alpha.width + (columns.from - p.x + exact.dx) * step, count, weight, step);
      continue;
    }
    if (!alpha || !alphaColumns || !alphaRows) {
      kernels.alphaRow(out, picture, maskAt, count, weight, step);
      continue;
    }
    const alphaTable = alphaRows.table.pointer + (y - rows.from) * 4;
    kernels.scale(
      room.alpha,
      0,
      count,
      1,
      alpha.pointer,
      alpha.width,
      alpha.height > 1 ? alpha.width : 0,
      alphaColumns.table.pointer,
      alphaTable,
      256,
      room.row,
    );
    if (maskAt !== 0) kernels.multiply(room.alpha, room.alpha, maskAt, count, step);
    kernels.alphaRow(out, picture, room.alpha, count, weight, 1);
  }
}

/** Draws `source` turned by `degrees` clockwise about the middle of its placement, inside `mask`. */
export function drawTurned(
  target: Plane,
  source: Plane,
  alpha: Plane | null,
  mask: Mask,
  p: Placement,
  degrees: number,
  weight: number,
  step: 1 | 2,
): void {
  const a = (-degrees * Math.PI) / 180;
  const [cos, sin] = [Math.cos(a), Math.sin(a)];
  const left = Math.max(p.clip.left, Math.ceil(mask.x / step));
  const count = Math.min(p.clip.right, Math.floor((mask.x + mask.width) / step)) - left;
  if (count <= 0) return;
  const room = workspace(source.width, target.width);
  const sample = (out: number, from: Plane, y: number) => {
    const [x0, y0] = [left + 0.5 - p.x - p.width / 2, y + 0.5 - p.y - p.height / 2];
    const [sx, sy] = [(p.window.width * from.width) / p.width, (p.window.height * from.height) / p.height];
    const flip = p.mirror ? -1 : 1;
    const u = (p.window.x + p.window.width / 2) * from.width + (x0 * cos - y0 * sin) * sx * flip - 0.5;
    const v = (p.window.y + p.window.height / 2) * from.height + (x0 * sin + y0 * cos) * sy - 0.5;
    const fixed = (n: number) => Math.round(n * 65_536);
    kernels.sampleRow(out, count, from.pointer, from.width, from.height, fixed(u), fixed(v), fixed(cos * sx * flip), fixed(sin * sy));
  };
  const top = Math.max(p.clip.top, Math.ceil(mask.y / step));
  const bottom = Math.min(p.clip.bottom, Math.floor((mask.y + mask.height) / step));
  for (let y = top; y < bottom; y += 1) {
    const out = target.pointer + y * target.width + left;
    const row = mask.row(y * step);
    const maskAt = row === 0 ? 0 : row + left * step - mask.x;
    sample(room.line, source, y);
    if (alpha) {
      sample(room.alpha, alpha, y);
      if (maskAt !== 0) kernels.multiply(room.alpha, room.alpha, maskAt, count, step);
      kernels.alphaRow(out, room.line, room.alpha, count, weight, 1);
    } else if (maskAt === 0) kernels.mix(out, out, room.line, count, weight);
    else kernels.alphaRow(out, room.line, maskAt, count, weight, step);
  }
}

/** `source` at half its size, rounded up: the mean of each two by two pixels. */
export function halvePlane(target: Plane, source: Plane): void {
  for (let y = 0; y < target.height; y += 1) {
    const top = source.pointer + 2 * y * source.width;
    const below = 2 * y + 1 < source.height ? top + source.width : top;
    kernels.halveRow(target.pointer + y * target.width, top, below, source.width);
  }
}

/** Fills the whole pixels of a rectangle with `value`, `weight` of 256 over what is there. */
export function fillPlane(target: Plane, value: number, r: Rect, clip: Placement['clip'], weight: number): void {
  const [left, right] = [Math.max(clip.left, Math.ceil(r.x - 0.5)), Math.min(clip.right, Math.ceil(r.x + r.width - 0.5))];
  const [top, bottom] = [Math.max(clip.top, Math.ceil(r.y - 0.5)), Math.min(clip.bottom, Math.ceil(r.y + r.height - 0.5))];
  if (right <= left) return;
  for (let y = top; y < bottom; y += 1) kernels.tint(target.pointer + y * target.width + left, right - left, value, weight);
}

/** Tints `target` with `value` where `mask` covers. `hole`: output pixels that need no tint, as something hides them. */
export function tintThrough(
  target: Plane,
  mask: Mask,
  value: number,
  weight: number,
  step: 1 | 2,
  clip: Placement['clip'],
  hole: Rect | null,
): void {
  const left = Math.max(clip.left, Math.ceil(mask.x / step));
  const right = Math.min(clip.right, Math.ceil((mask.x + mask.width) / step));
  const top = Math.max(clip.top, Math.ceil(mask.y / step));
  const bottom = Math.min(clip.bottom, Math.ceil((mask.y + mask.height) / step));
  const piece = (y: number, from: number, to: number) => {
    const [a, b] = [Math.max(left, from), Math.min(right, to)];
    if (b <= a) return;
    const row = mask.row(Math.min(mask.y + mask.height - 1, y * step));
    kernels.tintMask(target.pointer + y * target.width + a, row + a * step - mask.x, b - a, value, weight, step);
  };
  for (let y = top; y < bottom; y += 1) {
    const line = y * step;
    if (hole && line >= hole.y && line < hole.y + hole.height) {
      piece(y, left, Math.ceil(hole.x / step));
      piece(y, Math.floor((hole.x + hole.width) / step), right);
    } else piece(y, left, right);
  }
}
