/** Colour correction and keys on planes: a corrected picture, with alpha where it is keyed. */
import { type Grade } from '../../layout/look';
import { type KeyPlan } from '../draw';
import { gradeLuma, LEAN } from '../grade';
import { chromaNumbers, lumaAlpha } from '../key';
import { allocate, allocateTable, kernels, type Piece, release } from './memory';
import { drawPlane, type Plane } from './plane-ops';
import { createPlanes, type Planes, releasePlanes } from './planes';

/** Pictures to work in, by size; used anew at every frame. */
export class Scratch {
  private readonly free: Planes[] = [];
  private readonly used: Planes[] = [];

  /** Planes with alpha, of any content. */
  take(width: number, height: number): Planes {
    const at = this.free.findIndex((p) => p.width === width && p.height === height);
    const planes = at >= 0 ? (this.free.splice(at, 1)[0] as Planes) : createPlanes(width, height, true);
    this.used.push(planes);
    return planes;
  }

  /** All that was taken may be taken again; what was not needed for a frame is given back. */
  settle(): void {
    this.free.splice(0).forEach(releasePlanes);
    this.free.push(...this.used.splice(0));
  }

  dispose(): void {
    this.settle();
    this.settle();
  }
}

/** A table of 256 bytes, kept for as long as it is the same. */
class Table {
  private piece: Piece | null = null;
  private key = '';

  of(key: string, value: (byte: number) => number): number {
    if (this.piece && this.key === key) return this.piece.pointer;
    if (this.piece) release(this.piece);
    this.key = key;
    this.piece = allocateTable(Uint8Array.from({ length: 256 }, (_, i) => Math.min(255, Math.max(0, Math.round(value(i))))));
    return this.piece.pointer;
  }
}

const TABLES = 16;
const tables = Array.from({ length: TABLES }, () => new Table());
const slots: string[] = [];

/** The table of a key; the longest unused is written over. */
function table(key: string, value: (byte: number) => number): number {
  let slot = slots.indexOf(key);
  if (slot < 0) {
    slot = slots.length < TABLES ? slots.length : 0;
    slots[slot] = key;
  }
  return (tables[slot] as Table).of(key, value);
}

const chromaSize = (p: Planes) => ({ width: (p.width + 1) >> 1, height: (p.height + 1) >> 1 });

/** `picture` with a colour correction; alpha stays. */
export function graded(picture: Planes, grade: Grade, scratch: Scratch): Planes {
  const out = scratch.take(picture.width, picture.height);
  const { width, height } = chromaSize(picture);
  const curve = table(`grade ${grade.lift} ${grade.gain} ${grade.gamma}`, (b) => 16 + 219 * gradeLuma((b - 16) / 219, grade));
  kernels.lookUp(out.at.y, picture.at.y, picture.y.length, curve);
  out.u.set(picture.u);
  out.v.set(picture.v);
  const saturation = Math.round(grade.saturation * 256);
  const lean = (share: number) => Math.round((share * LEAN * 224 * 256) / 219);
  for (let row = 0; row < height; row += 1) {
    const c = row * width;
    kernels.gradeChroma(
      out.at.u + c,
      out.at.v + c,
      out.at.y + row * 2 * picture.width,
      width,
      saturation,
      lean(grade.tint - grade.warmth),
      lean(grade.tint + grade.warmth),
    );
  }
  if (!picture.alpha) return { ...out, alpha: null };
  out.alpha?.set(picture.alpha);
  return out;
}

/** Luma of a key picture, at the size of the fill. */
export type KeyLuma = Plane;

/** `picture` with the alpha of a key; `luma` is the second picture of a fill key. */
export function keyed(picture: Planes, key: KeyPlan, luma: KeyLuma | null, scratch: Scratch): Planes {
  const made = scratch.take(picture.width, picture.height);
  // What a key leaves alone stays the picture's own.
  const out: Planes = {
    ...made,
    y: picture.y,
    u: picture.u,
    v: picture.v,
    at: { ...made.at, y: picture.at.y, u: picture.at.u, v: picture.at.v },
  };
  if (key.kind === 'chroma') chroma(picture, made, out, key);
  else if (key.kind === 'luma') {
    const curve = table(`luma ${key.clip} ${key.gain} ${key.invert}`, (b) => 255 * lumaAlpha((b - 16) / 219, key));
    kernels.lookUp(made.at.alpha, picture.at.y, picture.y.length, curve);
  } else fill(picture, made, out, key, luma);
  if (picture.alpha) kernels.multiply(made.at.alpha, made.at.alpha, picture.at.alpha, picture.y.length, 1);
  return out;
}

function chroma(picture: Planes, made: Planes, out: Planes, key: Extract<KeyPlan, { kind: 'chroma' }>): void {
  const n = chromaNumbers(key);
  const { width, height } = chromaSize(picture);
  const count = width * height;
  const half = allocate(count);
  const length = Math.hypot(n.cb, n.cr);
  const [dx, dy] = length < 0.01 ? [0, 0] : [n.cb / length, n.cr / length];
  const gain = 255 / ((n.far - n.near) * 224);
  kernels.chromaKey(
    picture.at.u,
    picture.at.v,
    made.at.u,
    made.at.v,
    half.pointer,
    count,
    n.cb * 224,
    n.cr * 224,
    n.near * 224,
    gain,
    dx,
    dy,
    n.spill,
  );
  Object.assign(out, { u: made.u, v: made.v });
  out.at = { ...out.at, u: made.at.u, v: made.at.v };
  for (let row = 0; row < picture.height; row += 1) {
    const here = half.pointer + (row >> 1) * width;
    const next = (row & 1) === 1 && (row >> 1) + 1 < height ? here + width : here;
    kernels.doubleRow(made.at.alpha + row * picture.width, here, next, picture.width >> 1);
  }
  release(half);
  garbage(made, key);
}

/** Takes out what lies outside of a garbage crop. */
function garbage(made: Planes, key: Extract<KeyPlan, { kind: 'chroma' }>): void {
  const { width, height, alpha } = made;
  if (!alpha || (key.garbageLeft === 0 && key.garbageTop === 0 && key.garbageRight === 0 && key.garbageBottom === 0)) return;
  const [left, right] = [Math.ceil(key.garbageLeft * width - 0.5), Math.ceil((1 - key.garbageRight) * width - 0.5)];
  const [top, bottom] = [Math.ceil(key.garbageTop * height - 0.5), Math.ceil((1 - key.garbageBottom) * height - 0.5)];
  alpha.fill(0, 0, top * width);
  alpha.fill(0, Math.max(top, bottom) * width);
  for (let row = top; row < bottom; row += 1) {
    alpha.fill(0, row * width, row * width + left);
    alpha.fill(0, row * width + Math.max(left, right), (row + 1) * width);
  }
}

function fill(picture: Planes, made: Planes, out: Planes, key: Extract<KeyPlan, { kind: 'fill' }>, luma: KeyLuma | null): void {
  const { width, height } = picture;
  if (!luma) {
    // Without its key the fill stays whole: a key that is lost must not take the picture off air.
    made.alpha?.fill(255);
    return;
  }
  const whole = {
    x: 0,
    y: 0,
    width,
    height,
    window: { x: 0, y: 0, width: 1, height: 1 },
    mirror: false,
    clip: { left: 0, top: 0, right: width, bottom: height },
  };
  drawPlane({ pointer: made.at.alpha, width, height }, luma, whole, 256);
  const curve = table(`fill ${key.invert}`, (b) => 255 * lumaAlpha((b - 16) / 219, { clip: 0, gain: 1, invert: key.invert }));
  kernels.lookUp(made.at.alpha, made.at.alpha, picture.y.length, curve);
  if (!key.premultiplied) return;
  for (const plane of ['y', 'u', 'v'] as const) made[plane].set(picture[plane]);
  Object.assign(out, { y: made.y, u: made.u, v: made.v, at: { ...made.at } });
  const half = chromaSize(picture);
  kernels.divideAlpha(made.at.y, made.at.alpha, picture.y.length, 16, 1);
  for (let row = 0; row < half.height; row += 1) {
    for (const at of [made.at.u, made.at.v])
      kernels.divideAlpha(at + row * half.width, made.at.alpha + row * 2 * width, half.width, 128, 2);
  }
}

/** The alpha of a keyed picture as a picture: white where it stays. */
export function matte(picture: Planes, scratch: Scratch): Planes {
  const out = scratch.take(picture.width, picture.height);
  const curve = table('matte', (b) => 16 + (219 * b) / 255);
  if (picture.alpha) kernels.lookUp(out.at.y, picture.at.alpha, picture.y.length, curve);
  else out.y.fill(235);
  out.u.fill(128);
  out.v.fill(128);
  return { ...out, alpha: null };
}
