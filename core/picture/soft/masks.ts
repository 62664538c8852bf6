/**
 * Masks of boxes: how much of each output pixel an outline, a border or a shadow covers, row by row, one byte a pixel.
 * Upright ones keep only a corner and build rows from it; turned ones are worked out whole and kept.
 */
import { type Rect } from '../../show/geometry';
import { borderCoverage, edgeCoverage, roundedDistance, shadowCoverage, turnedBack } from '../shape';
import { allocate, type Piece, release } from './memory';

export interface Mask {
  /** Whole output pixels. */
  x: number;
  y: number;
  width: number;
  height: number;
  /** Address of the row's first pixel; 0 where all of it is covered. Rows can be read a few pixels to either side. */
  row(y: number): number;
  /** Pixels at either end of a middle row that are not fully inside; null when every row must be drawn whole. */
  middle: { from: number; to: number; ends: number } | null;
}

/** Coverage of the pixel centre (px, py), measured from the middle of the shape, 0 to 1. */
type Coverage = (px: number, py: number) => number;

const PAD = 4;
const byte = (share: number) => Math.round(Math.min(1, Math.max(0, share)) * 255);

/** A shape that is the same in all four corners and along its edges, in an upright rectangle. */
class CornerMask implements Mask {
  readonly middle: { from: number; to: number; ends: number };
  private readonly rows: Piece;
  private readonly stride: number;

  constructor(
    readonly x: number,
    readonly y: number,
    readonly width: number,
    readonly height: number,
    corner: number,
    coverage: Coverage,
    private readonly fullMiddle: boolean,
  ) {
    const k = Math.min(corner, width >> 1);
    const kRows = Math.min(corner, height >> 1);
    this.middle = { from: kRows, to: height - kRows, ends: k };
    this.stride = width + 2 * PAD;
    // One row for each of the top rows, and one for all of the middle.
    this.rows = allocate(this.stride * (kRows + 1));
    const { bytes } = this.rows;
    for (let row = 0; row <= kRows; row += 1) {
      const at = row * this.stride + PAD;
      const py = (row === kRows ? Math.floor(height / 2) : row) + 0.5 - height / 2;
      for (let column = 0; column < k; column += 1) {
        const value = byte(coverage(column + 0.5 - width / 2, py));
        bytes[at + column] = value;
        bytes[at + width - 1 - column] = value;
      }
      bytes.fill(byte(coverage(k < width / 2 ? k + 0.5 - width / 2 : 0, py)), at + k, at + width - k);
      bytes.fill(bytes[at] as number, at - PAD, at);
      bytes.fill(bytes[at + width - 1] as number, at + width, at + width + PAD);
    }
  }

  /** Where a row's bytes begin, with the pixels to the side; null where all of it is covered. */
  private offset(y: number): number | null {
    const line = y - this.y;
    const { from, to } = this.middle;
    if (this.fullMiddle && line >= from && line < to) return null;
    const stored = line < from ? line : line >= to ? this.height - 1 - line : from;
    return Math.max(0, stored) * this.stride;
  }

  row(y: number): number {
    const at = this.offset(y);
    return at === null ? 0 : this.rows.pointer + at + PAD;
  }

  /** A row with the pixels to either side; null where all of it is covered. */
  bytesOf(y: number): Uint8Array | null {
    const at = this.offset(y);
    return at === null ? null : this.rows.bytes.subarray(at, at + this.stride);
  }

  dispose(): void {
    release(this.rows);
  }
}

/** An upright shadow that leaves its own box free: the shadow's rows, less what the outline covers. */
class AroundMask implements Mask {
  readonly middle = null;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  private readonly line: Piece;

  constructor(
    private readonly shadow: CornerMask,
    private readonly outline: CornerMask,
  ) {
    ({ x: this.x, y: this.y, width: this.width, height: this.height } = shadow);
    this.line = allocate(this.width + 2 * PAD);
  }

  /** Good until the next row is asked for. */
  row(y: number): number {
    const { shadow, outline, line } = this;
    const own = shadow.bytesOf(y);
    if (y < outline.y || y >= outline.y + outline.height || !own) return shadow.row(y);
    line.bytes.set(own);
    const from = Math.max(0, outline.x - this.x) + PAD;
    const to = Math.min(this.width, outline.x + outline.width - this.x) + PAD;
    const covered = outline.bytesOf(y);
    if (!covered) line.bytes.fill(0, from, Math.max(from, to));
    else {
      const shift = this.x - outline.x;
      for (let i = from; i < to; i += 1)
        line.bytes[i] = Math.round(((line.bytes[i] as number) * (255 - (covered[i + shift] as number))) / 255);
    }
    return line.pointer + PAD;
  }

  dispose(): void {
    this.shadow.dispose();
    this.outline.dispose();
    release(this.line);
  }
}

/** Any shape, pixel by pixel. */
class WholeMask implements Mask {
  readonly middle = null;
  private readonly piece: Piece;
  private readonly stride: number;

  constructor(
    readonly x: number,
    readonly y: number,
    readonly width: number,
    readonly height: number,
    coverage: (px: number, py: number) => number,
  ) {
    this.stride = width + 2 * PAD;
    this.piece = allocate(this.stride * height);
    for (let row = 0; row < height; row += 1) {
      const at = row * this.stride + PAD;
      for (let column = 0; column < width; column += 1) this.piece.bytes[at + column] = byte(coverage(x + column + 0.5, y + row + 0.5));
    }
  }

  row(y: number): number {
    return this.piece.pointer + (y - this.y) * this.stride + PAD;
  }

  dispose(): void {
    release(this.piece);
  }
}

/** `around` is a shadow that leaves its own box free: `x`, `y` are how far the shadow lies from the box. */
export type MaskKind =
  | { kind: 'outline' }
  | { kind: 'border'; width: number }
  | { kind: 'shadow'; blur: number }
  | { kind: 'around'; blur: number; x: number; y: number };

const KEPT = 96;
const known = new Map<string, Mask & { dispose(): void }>();

function coverageOf(kind: MaskKind, width: number, height: number, radius: number): Coverage {
  const [hw, hh] = [width / 2, height / 2];
  if (kind.kind === 'outline') return (x, y) => edgeCoverage(roundedDistance(x, y, hw, hh, radius));
  if (kind.kind === 'border') return (x, y) => borderCoverage(x, y, hw, hh, radius, kind.width);
  return (x, y) => shadowCoverage(roundedDistance(x, y, hw, hh, radius), kind.blur);
}

/** The mask of a rectangle in output pixels; the same as long as nothing changes. */
export function maskOf(kind: MaskKind, rect: Rect, radius: number, rotation: number): Mask {
  const key = `${JSON.stringify(kind)} ${rect.x} ${rect.y} ${rect.width} ${rect.height} ${radius} ${rotation}`;
  const found = known.get(key);
  if (found) {
    known.delete(key);
    known.set(key, found);
    return found;
  }
  // Turned by quarters it stands upright, with its sides in each other's place.
  const upright = rotation % 90 !== 0 ? null : rotation % 180 === 0 ? rect : onItsSide(rect);
  const made = !upright
    ? wholeMask(kind, rect, radius, rotation)
    : kind.kind === 'around'
      ? aroundMask(kind, upright, radius)
      : uprightMask(kind, upright, radius);
  known.set(key, made);
  if (known.size > KEPT) {
    const [oldest, mask] = known.entries().next().value as [string, Mask & { dispose(): void }];
    mask.dispose();
    known.delete(oldest);
  }
  return made;
}

/** A rectangle turned by a quarter about its middle. */
export const onItsSide = ({ x, y, width, height }: Rect): Rect => ({
  x: x + (width - height) / 2,
  y: y + (height - width) / 2,
  width: height,
  height: width,
});

const aroundMask = ({ blur, x, y }: Extract<MaskKind, { kind: 'around' }>, rect: Rect, radius: number): AroundMask =>
  new AroundMask(
    uprightMask({ kind: 'shadow', blur }, rect, radius),
    uprightMask({ kind: 'outline' }, { ...rect, x: rect.x - x, y: rect.y - y }, radius),
  );

function uprightMask(kind: Exclude<MaskKind, { kind: 'around' }>, rect: Rect, radius: number): CornerMask {
  const [x, y] = [Math.round(rect.x), Math.round(rect.y)];
  const [width, height] = [Math.max(1, Math.round(rect.x + rect.width) - x), Math.max(1, Math.round(rect.y + rect.height) - y)];
  const coverage = coverageOf(kind, width, height, radius);
  if (kind.kind !== 'shadow') {
    const corner = Math.ceil(Math.max(radius, kind.kind === 'border' ? kind.width : 0)) + 1;
    return new CornerMask(x, y, width, height, corner, coverage, kind.kind === 'outline');
  }
  const out = Math.ceil(kind.blur) + 1;
  return new CornerMask(x - out, y - out, width + 2 * out, height + 2 * out, 2 * out + Math.ceil(radius), coverage, false);
}

function wholeMask(kind: MaskKind, rect: Rect, radius: number, rotation: number): WholeMask {
  const a = (rotation * Math.PI) / 180;
  const [cos, sin] = [Math.abs(Math.cos(a)), Math.abs(Math.sin(a))];
  const out = 1 + (kind.kind === 'shadow' || kind.kind === 'around' ? Math.ceil(kind.blur) : 0);
  const halfWidth = (rect.width * cos + rect.height * sin) / 2 + out;
  const halfHeight = (rect.width * sin + rect.height * cos) / 2 + out;
  const [cx, cy] = [rect.x + rect.width / 2, rect.y + rect.height / 2];
  const [x, y] = [Math.floor(cx - halfWidth), Math.floor(cy - halfHeight)];
  const coverage = coverageOf(kind, rect.width, rect.height, radius);
  const box = kind.kind === 'around' ? { ...rect, x: rect.x - kind.x, y: rect.y - kind.y } : null;
  const outline = coverageOf({ kind: 'outline' }, rect.width, rect.height, radius);
  return new WholeMask(x, y, Math.ceil(cx + halfWidth) - x, Math.ceil(cy + halfHeight) - y, (px, py) => {
    const p = turnedBack(px, py, rect, rotation);
    if (!box) return coverage(p.x, p.y);
    const own = turnedBack(px, py, box, rotation);
    return coverage(p.x, p.y) * (1 - outline(own.x, own.y));
  });
}
