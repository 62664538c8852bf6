/**
 * Pictures as Y′CbCr planes, 8 bits, 4:2:0, BT.709 limited range: what the software mixer works in. Encoders take
 * these planes as they are, so a picture that is only passed on costs nothing.
 */

import { allocate, kernels, type Piece, release } from './memory';

export interface Planes {
  width: number;
  height: number;
  y: Uint8Array;
  /** Chroma planes are (width + 1) >> 1 by (height + 1) >> 1. */
  u: Uint8Array;
  v: Uint8Array;
  /** Straight alpha of every pixel; null when the picture is opaque. */
  alpha: Uint8Array | null;
  /** Y, U and V in one piece, in the kernels' memory. */
  bytes: Uint8Array<ArrayBuffer>;
  /** Addresses in the kernels' memory. */
  at: { y: number; u: number; v: number; alpha: number };
  pieces: Piece[];
  /** Where there is anything at all, pixels; without it that may be everywhere. */
  ink?: Ink;
}

export interface Ink {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** The rectangle around all that is not clear in RGBA pixels without gaps; empty where all is. Clear rows and columns are looked at once. */
export function inkOf(data: Uint8Array | Uint8ClampedArray, width: number, height: number): Ink {
  const all: Ink = { left: 0, top: 0, right: width, bottom: height };
  const isClear = (from: number, count: number, step: number): boolean => {
    for (let i = 0, at = from * 4 + 3; i < count; i += 1, at += step * 4) if (data[at] !== 0) return false;
    return true;
  };
  while (all.top < height && isClear(all.top * width, width, 1)) all.top += 1;
  if (all.top === height) return { left: 0, top: 0, right: 0, bottom: 0 };
  while (isClear((all.bottom - 1) * width, width, 1)) all.bottom -= 1;
  const rows = all.bottom - all.top;
  while (isClear(all.top * width + all.left, rows, width)) all.left += 1;
  while (isClear(all.top * width + all.right - 1, rows, width)) all.right -= 1;
  return all;
}

/** Black, opaque planes. Give them back with `releasePlanes`. */
export function createPlanes(width: number, height: number, withAlpha = false): Planes {
  const chroma = ((width + 1) >> 1) * ((height + 1) >> 1);
  const size = width * height;
  const piece = allocate(size + chroma * 2);
  const alpha = withAlpha ? allocate(size) : null;
  const { bytes, pointer } = piece;
  bytes.fill(16, 0, size).fill(128, size);
  alpha?.bytes.fill(255);
  return {
    width,
    height,
    y: bytes.subarray(0, size),
    u: bytes.subarray(size, size + chroma),
    v: bytes.subarray(size + chroma),
    alpha: alpha?.bytes ?? null,
    bytes,
    at: { y: pointer, u: pointer + size, v: pointer + size + chroma, alpha: alpha?.pointer ?? 0 },
    pieces: alpha ? [piece, alpha] : [piece],
  };
}

/** The planes must not be used any more. */
export function releasePlanes(planes: Planes): void {
  planes.pieces.forEach(release);
}

/** BT.709 limited range of an R′G′B′ colour, each 0 to 255. Source: ITU-R BT.709-6 item 3, in 1/256 steps. */
export function toYuv(r: number, g: number, b: number): [number, number, number] {
  return [
    ((47 * r + 157 * g + 16 * b + 128) >> 8) + 16,
    ((-26 * r - 86 * g + 112 * b + 128) >> 8) + 128,
    ((112 * r - 102 * g - 10 * b + 128) >> 8) + 128,
  ];
}

export interface RgbaSource {
  data: Uint8Array | Uint8ClampedArray;
  /** Address of `data` in the kernels' memory, when it lies there: much faster. */
  pointer?: number;
  /** Bytes from one row to the next. */
  stride: number;
  /** Places of red and blue in a pixel: 0 and 2 for RGBA, 2 and 0 for BGRA. */
  red: 0 | 2;
}

/** Fills `out` from RGBA or BGRA bytes of the same size; chroma is the mean of each two by two pixels. */
export function fillFromRgba(out: Planes, source: RgbaSource): void {
  const { width, height } = out;
  if (source.pointer === undefined || width % 8 !== 0 || height % 2 !== 0 || out.alpha) {
    fillByPixel(out, source);
    return;
  }
  const { pointer, stride, red } = source;
  for (let row = 0; row < height; row += 2) {
    const [top, luma, chroma] = [pointer + row * stride, out.at.y + row * width, (row >> 1) * (width >> 1)];
    kernels.rgbaRows(top, top + stride, luma, luma + width, out.at.u + chroma, out.at.v + chroma, width, red === 2 ? 1 : 0);
  }
}

/** Fills `out`, which has alpha, from RGBA without gaps that is clear outside of `ink`: just what is inside is looked at. Clear pixels are black. */
export function fillInked(out: Planes, data: RgbaSource['data'], ink: Ink): void {
  out.y.fill(16);
  out.u.fill(128);
  out.v.fill(128);
  out.alpha?.fill(0);
  fillByPixel(out, { data, stride: out.width * 4, red: 0 }, ink);
  out.ink = ink;
}

function fillByPixel(out: Planes, { data, stride, red }: RgbaSource, area?: Ink): void {
  const { width, height, y, u, v, alpha } = out;
  // Chroma is of two by two pixels: from even ones on.
  const [left, top] = area ? [area.left & ~1, area.top & ~1] : [0, 0];
  const [right, bottom] = area ? [area.right, area.bottom] : [width, height];
  const blue = 2 - red;
  const half = (width + 1) >> 1;
  for (let row = top; row < bottom; row += 2) {
    const second = row + 1 < height ? stride : 0;
    const lumaStep = row + 1 < height ? width : 0;
    let chromaAt = (row >> 1) * half + (left >> 1);
    for (let column = left; column < right; column += 2) {
      const a = row * stride + column * 4;
      const step = column + 1 < width ? 4 : 0;
      const b = a + step;
      const c = a + second;
      const d = c + step;
      const ra = data[a + red] as number,
        ga = data[a + 1] as number,
        ba = data[a + blue] as number;
      const rb = data[b + red] as number,
        gb = data[b + 1] as number,
        bb = data[b + blue] as number;
      const rc = data[c + red] as number,
        gc = data[c + 1] as number,
        bc = data[c + blue] as number;
      const rd = data[d + red] as number,
        gd = data[d + 1] as number,
        bd = data[d + blue] as number;
      const at = row * width + column;
      const beside = step === 0 ? 0 : 1;
      y[at] = ((47 * ra + 157 * ga + 16 * ba + 128) >> 8) + 16;
      y[at + beside] = ((47 * rb + 157 * gb + 16 * bb + 128) >> 8) + 16;
      y[at + lumaStep] = ((47 * rc + 157 * gc + 16 * bc + 128) >> 8) + 16;
      y[at + lumaStep + beside] = ((47 * rd + 157 * gd + 16 * bd + 128) >> 8) + 16;
      const r = ra + rb + rc + rd,
        g = ga + gb + gc + gd,
        bl = ba + bb + bc + bd;
      u[chromaAt] = ((-26 * r - 86 * g + 112 * bl + 512) >> 10) + 128;
      v[chromaAt] = ((112 * r - 102 * g - 10 * bl + 512) >> 10) + 128;
      chromaAt += 1;
      if (alpha) {
        alpha[at] = data[a + 3] as number;
        alpha[at + beside] = data[b + 3] as number;
        alpha[at + lumaStep] = data[c + 3] as number;
        alpha[at + lumaStep + beside] = data[d + 3] as number;
      }
    }
  }
}

/** Writes planes as opaque RGBA into `out`, which lies in the kernels' memory. */
export function toRgba(planes: Planes, out: Piece): void {
  const half = (planes.width + 1) >> 1;
  for (let row = 0; row < planes.height; row += 1) {
    const chroma = (row >> 1) * half;
    kernels.toRgba(
      out.pointer + row * planes.width * 4,
      planes.at.y + row * planes.width,
      planes.at.u + chroma,
      planes.at.v + chroma,
      planes.width,
    );
  }
}

/** One plane of a frame as it was copied out. */
export interface RawPlane {
  offset: number;
  stride: number;
}

/** Fills `out` from I420 (three planes) or NV12 (two) bytes of the same size. */
export function fillFromYuv(out: Planes, data: Uint8Array, places: readonly RawPlane[]): void {
  const { width, height, y, u, v } = out;
  const half = (width + 1) >> 1;
  const rows = (height + 1) >> 1;
  const [luma, first, second] = places;
  if (!luma || !first) return;
  copyRows(y, width, data, luma, height);
  if (second) {
    copyRows(u, half, data, first, rows);
    copyRows(v, half, data, second, rows);
    return;
  }
  for (let row = 0; row < rows; row += 1) {
    let from = first.offset + row * first.stride;
    for (let at = row * half, end = at + half; at < end; at += 1, from += 2) {
      u[at] = data[from] as number;
      v[at] = data[from + 1] as number;
    }
  }
}

function copyRows(out: Uint8Array, width: number, data: Uint8Array, { offset, stride }: RawPlane, rows: number): void {
  if (stride === width) {
    out.set(data.subarray(offset, offset + width * rows));
    return;
  }
  for (let row = 0; row < rows; row += 1) out.set(data.subarray(offset + row * stride, offset + row * stride + width), row * width);
}

/**
 * Brings planes of another matrix or range to BT.709 limited, in place. `matrix` turns Y′CbCr (0 to 1, columns first,
 * with `offset` added) into R′G′B′. Grey stays grey, so the new chroma depends on the old chroma alone.
 */
export function convertColour(planes: Planes, matrix: ArrayLike<number>, offset: ArrayLike<number>): void {
  const m = (i: number) => matrix[i] ?? 0;
  const lumaOf = (i: number) => 0.2126 * m(i) + 0.7152 * m(i + 1) + 0.0722 * m(i + 2);
  const share = (value: number, steps: number) => Math.round(value * steps);
  const [yy, yu, yv] = [0, 3, 6].map((i) => (lumaOf(i) * 219) / 255) as [number, number, number];
  // Black of the source, which `offset` and neutral chroma make 0.
  const black =
    -(0.2126 * (offset[0] ?? 0) + 0.7152 * (offset[1] ?? 0) + 0.0722 * (offset[2] ?? 0)) - (lumaOf(3) + lumaOf(6)) * (128 / 255);
  const lift = Math.round(16 - black * 219);
  const chroma = (i: number, channel: 0 | 2, span: number) => share((((m(i + channel) - lumaOf(i)) / span) * 224) / 255, 128);
  const { width, height, at } = planes;
  const half = (width + 1) >> 1;
  for (let row = 0; row < height; row += 1) {
    const c = (row >> 1) * half;
    kernels.convertLuma(at.y + row * width, at.u + c, at.v + c, width, share(yy, 256), lift, share(yu, 256), share(yv, 256));
  }
  kernels.convertChroma(
    at.u,
    at.v,
    planes.u.length,
    chroma(3, 2, 1.8556),
    chroma(6, 2, 1.8556),
    chroma(3, 0, 1.5748),
    chroma(6, 0, 1.5748),
  );
}

/** Black planes with others on them at a place on even pixels, which they fit. */
export function setWithin(onto: Planes, from: Planes, { x, y }: { x: number; y: number }): void {
  const planes = [
    [onto.y, from.y, 1, 16],
    [onto.u, from.u, 2, 128],
    [onto.v, from.v, 2, 128],
  ] as const;
  for (const [to, own, k, black] of planes) {
    to.fill(black);
    const [width, wide] = [Math.ceil(from.width / k), Math.ceil(onto.width / k)];
    for (let row = 0; row < Math.ceil(from.height / k); row += 1)
      to.set(own.subarray(row * width, (row + 1) * width), (y / k + row) * wide + x / k);
  }
}
