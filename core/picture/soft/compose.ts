/** The software mixer: draws picture plans on planes, without a GPU. */
import { type Raster } from '../../show/show';
import { containRect, type DrawItem, type Mix, type PicturePlan, type Rect, type Scene, type TextureRef, wipeCoverage } from '../plan';
import { kernels } from './memory';
import { drawPlane, drawPlaneAlpha, type Plane, wipePlane } from './plane-ops';
import { createPlanes, type Planes, releasePlanes, toYuv } from './planes';

/**
 * Planes of a reference for a place of `width` × `height` output pixels. Pictures with alpha must come at just that
 * size; opaque ones at any. Null while there are none.
 */
export type PlanesLookup = (ref: TextureRef, width: number, height: number) => Planes | null;
/** Size of a reference's own picture; null while there is none. */
export type SizeLookup = (ref: TextureRef) => { width: number; height: number } | null;

const weightOf = (share: number) => Math.round(Math.min(1, Math.max(0, share)) * 256);

const half = (n: number) => (n + 1) >> 1;

function planesOf(p: Planes): [Plane, Plane, Plane] {
  const chroma = { width: half(p.width), height: half(p.height) };
  return [{ pointer: p.at.y, width: p.width, height: p.height }, { pointer: p.at.u, ...chroma }, { pointer: p.at.v, ...chroma }];
}

export class SoftMixer {
  private out: Planes;
  private first: Planes;
  private second: Planes;

  constructor(
    raster: Raster,
    private readonly lookup: PlanesLookup,
    private readonly sizeOf: SizeLookup,
  ) {
    [this.out, this.first, this.second] = [0, 1, 2].map(() => createPlanes(raster.width, raster.height)) as [Planes, Planes, Planes];
  }

  /**
   * The finished picture of `plan`, whose coordinates are those of `raster`. The planes returned are read at once: the
   * next call may write over them, and they may be a source's own.
   */
  draw(plan: PicturePlan, raster: Raster): Planes {
    if (plan.black >= 1) return clear(this.out);
    const base = this.scene(plan.base, raster, this.first);
    let picture = base;
    if (plan.mix && plan.over) picture = this.mix(base, this.scene(plan.over, raster, this.second), plan.mix);
    if (plan.lanes.length === 0 && plan.black <= 0) return picture;
    if (picture !== this.out) this.out.bytes.set(picture.bytes);
    for (const item of plan.lanes) this.drawItem(this.out, item, raster);
    tint(this.out, [16, 128, 128], plan.black);
    return this.out;
  }

  /** The mixer must not be used any more. */
  dispose(): void {
    for (const planes of [this.out, this.first, this.second]) releasePlanes(planes);
  }

  /** A scene on planes: a source's own when it is one full picture, pixel for pixel; otherwise drawn on `onto`. */
  private scene(items: Scene, raster: Raster, onto: Planes): Planes {
    const only = items[0];
    if (items.length === 1 && only && only.opacity >= 1) {
      const rect = this.place(only, raster);
      const own = rect && isFull(rect, onto) ? this.lookup(only.texture, onto.width, onto.height) : null;
      if (own && !own.alpha && own.width === onto.width && own.height === onto.height) return own;
    }
    const last = items.at(-1);
    const first = items[0];
    const covered = first && this.coversAll(first, raster, onto);
    const hidden = last !== first && last && this.coversAll(last, raster, onto);
    if (!covered && !hidden) clear(onto);
    for (const item of hidden ? [last] : items) this.drawItem(onto, item, raster);
    return onto;
  }

  /** Where an item lands, in pixels of the output; null while it has no picture. */
  private place(item: DrawItem, raster: Raster): Rect | null {
    const size = this.sizeOf(item.texture);
    if (!size) return null;
    const r = item.fit === 'contain' ? containRect(item.target, size.width, size.height) : item.target;
    const [sx, sy] = [this.out.width / raster.width, this.out.height / raster.height];
    return { x: r.x * sx, y: r.y * sy, width: r.width * sx, height: r.height * sy };
  }

  private coversAll(item: DrawItem, raster: Raster, onto: Planes): boolean {
    if (item.opacity < 1) return false;
    const rect = this.place(item, raster);
    if (!rect || !isFull(rect, onto)) return false;
    return this.lookup(item.texture, onto.width, onto.height)?.alpha === null;
  }

  private drawItem(onto: Planes, item: DrawItem, raster: Raster): void {
    const rect = this.place(item, raster);
    const weight = weightOf(item.opacity);
    if (!rect || weight === 0) return;
    const [width, height] = [Math.max(1, Math.round(rect.width)), Math.max(1, Math.round(rect.height))];
    const picture = this.lookup(item.texture, width, height);
    if (!picture) return;
    const targets = planesOf(onto);
    const sources = planesOf(picture);
    targets.forEach((target, i) => {
      const source = sources[i] as Plane;
      const k = i === 0 ? 1 : 2;
      if (picture.alpha) {
        const alpha = { pointer: picture.at.alpha, width: picture.width, height: picture.height };
        drawPlaneAlpha(target, source, alpha, Math.round(rect.x / k), Math.round(rect.y / k), weight);
      } else drawPlane(target, source, { x: rect.x / k, y: rect.y / k, width: rect.width / k, height: rect.height / k }, weight);
    });
  }

  private mix(base: Planes, over: Planes, mix: Mix): Planes {
    const { out } = this;
    if (mix.kind === 'dissolve') kernels.mix(out.at.y, base.at.y, over.at.y, out.bytes.length, weightOf(mix.position));
    else if (mix.kind === 'dip') {
      const late = mix.position >= 0.5;
      out.bytes.set((late ? over : base).bytes);
      const [r, g, b] = [1, 3, 5].map((i) => parseInt(mix.colour.slice(i, i + 2), 16)) as [number, number, number];
      tint(out, toYuv(r, g, b), late ? 2 - 2 * mix.position : 2 * mix.position);
    } else {
      const [a, b] = [planesOf(base), planesOf(over)];
      planesOf(out).forEach((plane, i) => {
        const byColumn = mix.direction === 'right' || mix.direction === 'left';
        const length = byColumn ? plane.width : plane.height;
        const weights = Uint16Array.from({ length }, (_, n) => {
          const place = (n + 0.5) / length;
          return weightOf(wipeCoverage(mix, byColumn ? place : 0, byColumn ? 0 : place));
        });
        wipePlane(plane, a[i] as Plane, b[i] as Plane, weights, byColumn);
      });
    }
    return out;
  }
}

const isFull = (r: Rect, { width, height }: Planes): boolean => Math.abs(r.x) < 0.01 && Math.abs(r.y) < 0.01 && Math.abs(r.width - width) < 0.01 && Math.abs(r.height - height) < 0.01;

function clear(planes: Planes): Planes {
  planes.y.fill(16);
  planes.u.fill(128);
  planes.v.fill(128);
  return planes;
}

function tint(planes: Planes, [y, u, v]: [number, number, number], share: number): void {
  const weight = weightOf(share);
  if (weight === 0) return;
  kernels.tint(planes.at.y, planes.y.length, y, weight);
  kernels.tint(planes.at.u, planes.u.length, u, weight);
  kernels.tint(planes.at.v, planes.v.length, v, weight);
}
