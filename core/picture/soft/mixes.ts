/** The mixes of two finished pictures of one size. */
import { type Mix } from '../draw';
import { directionOf, HARDEST, wipeTurn } from '../wipe';
import { zoomBlurTaps } from '../zoom-blur';
import { allocate, allocateTable, kernels, type Piece, release } from './memory';
import { drawPlane, type Placement, type Plane } from './plane-ops';
import { type Planes, toYuv } from './planes';

export const weightOf = (share: number): number => Math.round(Math.min(1, Math.max(0, share)) * 256);

const half = (n: number) => (n + 1) >> 1;

/** The three planes of a picture. */
export function planesOf(p: Planes): [Plane, Plane, Plane] {
  const chroma = { width: half(p.width), height: half(p.height) };
  return [
    { pointer: p.at.y, width: p.width, height: p.height },
    { pointer: p.at.u, ...chroma },
    { pointer: p.at.v, ...chroma },
  ];
}

/** Towards one colour. */
export function tint(planes: Planes, [y, u, v]: [number, number, number], share: number): void {
  const weight = weightOf(share);
  if (weight === 0) return;
  kernels.tint(planes.at.y, planes.y.length, y, weight);
  kernels.tint(planes.at.u, planes.u.length, u, weight);
  kernels.tint(planes.at.v, planes.v.length, v, weight);
}

export const yuvOf = (hex: string): [number, number, number] =>
  toYuv(...([1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16)) as [number, number, number]));

/** The whole of a plane, moved and scaled. */
export const wholeAt = (target: Plane, x: number, y: number, width: number, height: number): Placement => ({
  x,
  y,
  width,
  height,
  window: { x: 0, y: 0, width: 1, height: 1 },
  mirror: false,
  clip: { left: 0, top: 0, right: target.width, bottom: target.height },
});

/** Full scale of a turn in the tables. */
const TURN = 32_767;

interface Turns {
  key: string;
  luma: Piece;
  chroma: Piece;
}

/** The turn of every pixel of a wipe, for luma and chroma; kept while it is the same. */
export class TurnTables {
  private kept: Turns[] = [];

  /** Works the tables of a wipe out ahead, so that its first frame is not late. */
  shape(mix: Extract<Mix, { kind: 'wipe' }>, width: number, height: number): Turns {
    const key = `${mix.shape} ${mix.angle} ${width} ${height}`;
    return this.find(key, (w, h) => (x, y) => wipeTurn(mix.shape, mix.angle, (x + 0.5) / w, (y + 0.5) / h, width, height), width, height);
  }

  /** Turns by the brightness of a picture, dark first. `version` changes when the picture does. */
  image(image: Planes, version: string, width: number, height: number): Turns {
    const scaled = allocate(width * height);
    const target = { pointer: scaled.pointer, width, height };
    const key = `image ${version} ${width} ${height}`;
    const known = this.kept.find((t) => t.key === key);
    if (!known)
      drawPlane(target, { pointer: image.at.y, width: image.width, height: image.height }, wholeAt(target, 0, 0, width, height), 256);
    const made =
      known ??
      this.find(
        key,
        (w, h) => (x, y) =>
          ((scaled.bytes[Math.floor(((y + 0.5) * height) / h) * width + Math.floor(((x + 0.5) * width) / w)] as number) - 16) / 219,
        width,
        height,
      );
    release(scaled);
    return made;
  }

  private find(key: string, turnOf: (w: number, h: number) => (x: number, y: number) => number, width: number, height: number): Turns {
    const known = this.kept.find((t) => t.key === key);
    if (known) return known;
    const tableFor = (w: number, h: number) => {
      const turn = turnOf(w, h);
      const values = new Uint16Array(w * h);
      for (let y = 0; y < h; y += 1)
        for (let x = 0; x < w; x += 1) values[y * w + x] = Math.min(TURN, Math.max(0, Math.round(turn(x, y) * TURN)));
      return allocateTable(values);
    };
    const made = { key, luma: tableFor(width, height), chroma: tableFor(half(width), half(height)) };
    this.kept.unshift(made);
    for (const old of this.kept.splice(3)) [old.luma, old.chroma].forEach(release);
    return made;
  }
}

function byTurns(out: Planes, a: Planes, b: Planes, turns: Turns, position: number, softness: number): void {
  const soft = Math.max(softness, HARDEST);
  const [edge, width] = [Math.round(position * (1 + soft) * TURN), Math.max(1, Math.round(soft * TURN))];
  const chroma = out.u.length;
  kernels.mixTurns(out.at.y, a.at.y, b.at.y, turns.luma.pointer, out.y.length, edge, width);
  kernels.mixTurns(out.at.u, a.at.u, b.at.u, turns.chroma.pointer, chroma, edge, width);
  kernels.mixTurns(out.at.v, a.at.v, b.at.v, turns.chroma.pointer, chroma, edge, width);
}

/** Exponent of BT.1886, the display's own. */
export const LIGHT_GAMMA = 2.4;

let light: { toLight: Piece; toSignal: Piece } | null = null;

function lightTables() {
  light ??= {
    toLight: allocateTable(Uint16Array.from({ length: 256 }, (_, i) => Math.round((i / 255) ** LIGHT_GAMMA * 4095))),
    toSignal: allocateTable(Uint8Array.from({ length: 4096 }, (_, i) => Math.round((i / 4095) ** (1 / LIGHT_GAMMA) * 255))),
  };
  return light;
}

function dissolveLinear(out: Planes, a: Planes, b: Planes, weight: number): void {
  const { toLight, toSignal } = lightTables();
  const { width, height } = out;
  for (let row = 0; row + 1 < height; row += 2) {
    const [l, c] = [row * width, (row >> 1) * half(width)];
    kernels.mixLinear(
      out.at.y + l,
      out.at.u + c,
      out.at.v + c,
      a.at.y + l,
      a.at.u + c,
      a.at.v + c,
      b.at.y + l,
      b.at.u + c,
      b.at.v + c,
      width & ~1,
      width,
      weight,
      toLight.pointer,
      toSignal.pointer,
    );
  }
}

/** Copies a picture onto another of the same size, moved by whole pixels. */
function copyMoved(out: Planes, from: Planes, dx: number, dy: number): void {
  const [x, y] = [Math.round(dx / 2) * 2, Math.round(dy / 2) * 2];
  const sources = planesOf(from);
  planesOf(out).forEach((target, i) => {
    const k = i === 0 ? 1 : 2;
    drawPlane(target, sources[i] as Plane, wholeAt(target, x / k, y / k, target.width, target.height), 256);
  });
}

/** `over` coming in over `base`, on `out`. `image` is the picture of a luma wipe, with what changes when it does. */
export function mixPictures(
  out: Planes,
  base: Planes,
  over: Planes,
  mix: Mix,
  turns: TurnTables,
  image: { planes: Planes; version: string } | null,
): void {
  const { width, height } = out;
  switch (mix.kind) {
    case 'dissolve':
      if (mix.linear) dissolveLinear(out, base, over, weightOf(mix.position));
      else kernels.mix(out.at.y, base.at.y, over.at.y, out.bytes.length, weightOf(mix.position));
      return;
    case 'dip': {
      const late = mix.position >= 0.5;
      out.bytes.set((late ? over : base).bytes);
      tint(out, yuvOf(mix.colour), late ? 2 - 2 * mix.position : 2 * mix.position);
      return;
    }
    case 'wipe':
      byTurns(out, base, over, turns.shape(mix, width, height), mix.position, mix.softness);
      return;
    case 'luma':
      if (image) byTurns(out, base, over, turns.image(image.planes, image.version, width, height), mix.position, mix.softness);
      else kernels.mix(out.at.y, base.at.y, over.at.y, out.bytes.length, weightOf(mix.position));
      return;
    case 'push':
    case 'slide': {
      const d = directionOf(mix.direction);
      const [dx, dy] = [d.x * width, d.y * height];
      if (mix.kind === 'push') copyMoved(out, base, dx * mix.position, dy * mix.position);
      else out.bytes.set(base.bytes);
      copyMoved(out, over, dx * (mix.position - 1), dy * (mix.position - 1));
      return;
    }
    case 'zoom':
      for (const tap of zoomBlurTaps(mix.position)) {
        const sources = planesOf(tap.over ? over : base);
        planesOf(out).forEach((target, i) => {
          const [w, h] = [target.width * tap.scale, target.height * tap.scale];
          drawPlane(
            target,
            sources[i] as Plane,
            wholeAt(target, (target.width - w) / 2, (target.height - h) / 2, w, h),
            weightOf(tap.weight),
          );
        });
      }
  }
}
