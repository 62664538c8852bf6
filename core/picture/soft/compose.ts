/** The software mixer: draws picture plans on planes, without a GPU. */
import { type Rect } from '../../show/geometry';
import { type Raster } from '../../show/raster';
import { type DrawItem, placementOf, type PicturePlan, type Scene, sceneSize, type TextureRef } from '../draw';
import { halvings, type Placement as Seen } from '../view';
import { graded, keyed, matte, Scratch } from './effects';
import { type Mask, maskOf, onItsSide } from './masks';
import { mixPictures, planesOf, tint, TurnTables, weightOf, yuvOf } from './mixes';
import { drawPlane, drawShaped, drawTurned, fillPlane, halvePlane, type Placement, type Plane, tintThrough } from './plane-ops';
import { createPlanes, type Planes, releasePlanes } from './planes';

/**
 * Planes of a reference, whose whole picture is wanted at `width` × `height` pixels. What the app draws itself may come
 * at just that size, anything at its own; 0 asks for its own. Null while there is none.
 */
export type PlanesLookup = (ref: TextureRef, width: number, height: number) => Planes | null;
/** Size of a reference's own picture, with what changes when the picture does; null while there is none. */
export type SizeLookup = (ref: TextureRef) => { width: number; height: number; version?: string } | null;

const SHADOW: [number, number, number] = [16, 128, 128];
const DEEPEST = 8;

interface Output {
  planes: Planes;
  /** Output pixels for each pixel of the raster. */
  sx: number;
  sy: number;
}

export class SoftMixer {
  private out: Planes;
  private first: Planes;
  private second: Planes;
  private readonly scratch = new Scratch();
  private readonly nested = new Map<string, { planes: Planes; used: boolean }>();
  private readonly turns = new TurnTables();
  /** Pictures at half, a quarter … of their size, for this plan. */
  private readonly smaller = new Map<Planes, Planes>();
  private depth = 0;

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
    this.scratch.settle();
    this.smaller.clear();
    this.forgetNested();
    const top = plan.top ?? [];
    if (plan.black >= 1) {
      clear(this.out);
      for (const item of top) this.drawItem(this.out, item, raster);
      return this.out;
    }
    const base = this.scene(plan.base, raster, this.first);
    let picture = base;
    if (plan.mix && plan.over) {
      const { mix } = plan;
      const over = this.scene(plan.over, raster, this.second);
      const image = mix.kind === 'luma' ? this.picture(mix.image, 0, 0, raster) : null;
      const version = mix.kind === 'luma' ? `${JSON.stringify(mix.image)} ${this.sizeOf(mix.image)?.version ?? ''}` : '';
      mixPictures(this.out, base, over, mix, this.turns, image && { planes: image, version });
      picture = this.out;
    }
    if (plan.lanes.length === 0 && plan.black <= 0 && top.length === 0) return picture;
    if (picture !== this.out) this.out.bytes.set(picture.bytes);
    for (const item of plan.lanes) this.drawItem(this.out, item, raster);
    tint(this.out, SHADOW, plan.black);
    for (const item of top) this.drawItem(this.out, item, raster);
    return this.out;
  }

  /** Works out ahead what the first frame of a mix would wait for. */
  prepare(mix: PicturePlan['mix']): void {
    if (mix?.kind === 'wipe') this.turns.shape(mix, this.out.width, this.out.height);
  }

  /** The mixer must not be used any more. */
  dispose(): void {
    for (const planes of [this.out, this.first, this.second]) releasePlanes(planes);
    for (const { planes } of this.nested.values()) releasePlanes(planes);
    this.nested.clear();
    this.scratch.dispose();
  }

  private forgetNested(): void {
    for (const [id, held] of this.nested) {
      if (!held.used) {
        releasePlanes(held.planes);
        this.nested.delete(id);
      }
      held.used = false;
    }
  }

  /** A scene on planes: a source's own when it is one full picture, pixel for pixel; otherwise drawn on `onto`. */
  private scene(items: Scene, raster: Raster, onto: Planes): Planes {
    const output = outputOf(onto, raster);
    const from = Math.max(
      0,
      items.findLastIndex((item) => this.coversAll(item, raster, output)),
    );
    const visible = items.slice(from);
    const only = visible[0];
    const covered = only !== undefined && this.coversAll(only, raster, output);
    if (visible.length === 1 && only && covered && !only.rotation) {
      const seen = this.place(only, output, raster);
      const own = seen && isWholeWindow(seen) ? this.picture(only.texture, onto.width, onto.height, raster) : null;
      if (own && !only.grade && own.width === onto.width && own.height === onto.height) return own;
    }
    if (!covered) clear(onto);
    for (const item of visible) this.drawItem(onto, item, raster);
    return onto;
  }

  /** Where an item lands, in pixels of the output; null while it has no picture. */
  private place(item: DrawItem, { sx, sy }: Output, raster: Raster): Seen | null {
    const size = item.texture.kind === 'scene' ? (item.texture.raster ?? raster) : this.sizeOf(item.texture);
    if (!size) return null;
    const { target: t, window, mirror } = placementOf(item, size);
    return { target: { x: t.x * sx, y: t.y * sy, width: t.width * sx, height: t.height * sy }, window, mirror };
  }

  private coversAll(item: DrawItem, raster: Raster, output: Output): boolean {
    const turned = item.rotation ?? 0;
    if (item.opacity < 1 || item.key || item.radius || turned % 90 !== 0 || item.clip) return false;
    const seen = this.place(item, output, raster);
    if (!seen) return false;
    const t = turned % 180 === 0 ? seen.target : onItsSide(seen.target);
    const { width, height } = output.planes;
    if (t.x > 0.01 || t.y > 0.01 || t.x + t.width < width - 0.01 || t.y + t.height < height - 0.01) return false;
    // A scene is drawn over black.
    return item.texture.kind === 'scene' || this.picture(item.texture, width, height, raster)?.alpha === null;
  }

  /** The planes of a reference; a scene is drawn now. */
  private picture(ref: TextureRef, width: number, height: number, raster: Raster): Planes | null {
    if (ref.kind !== 'scene') return this.lookup(ref, width, height);
    const size = ref.raster ? sceneSize(ref.raster, width, height) : this.out;
    const key = ref.raster ? `${ref.id} ${size.width}×${size.height}` : ref.id;
    const known = this.nested.get(key);
    if (known?.used) return known.planes;
    if (this.depth >= DEEPEST) return null;
    const held = known ?? { planes: createPlanes(size.width, size.height), used: true };
    held.used = true;
    this.nested.set(key, held);
    this.depth += 1;
    // Drawn afresh: a scene that is a source's own planes would be written over.
    const drawn = this.scene(ref.scene, ref.raster ?? raster, held.planes);
    this.depth -= 1;
    if (drawn !== held.planes) held.planes.bytes.set(drawn.bytes);
    return held.planes;
  }

  /** An item's picture with its colour correction and key. */
  private corrected(whole: Planes, item: DrawItem, raster: Raster): Planes {
    let picture = whole;
    if (item.grade) picture = graded(picture, item.grade, this.scratch);
    if (item.key) {
      const second = item.key.kind === 'fill' ? this.picture(item.key.texture, 0, 0, raster) : null;
      picture = keyed(picture, item.key, second && { pointer: second.at.y, width: second.width, height: second.height }, this.scratch);
    }
    return item.matte ? matte(picture, this.scratch) : picture;
  }

  private drawItem(onto: Planes, item: DrawItem, raster: Raster): void {
    const output = outputOf(onto, raster);
    const seen = this.place(item, output, raster);
    const weight = weightOf(item.opacity);
    if (!seen || weight === 0 || seen.target.width < 0.5 || seen.target.height < 0.5) return;
    const { target: t, window } = seen;
    // What glides changes its size at every frame: it is scaled rather than drawn anew.
    const wanted =
      item.glide || item.scaled
        ? { width: 0, height: 0 }
        : { width: Math.max(1, Math.round(t.width / window.width)), height: Math.max(1, Math.round(t.height / window.height)) };
    const whole = this.picture(item.texture, wanted.width, wanted.height, raster);
    if (!whole) return;
    const inked = inkedClip(clipOf(item.clip, output), whole, seen, item);
    if (inked.left >= inked.right || inked.top >= inked.bottom) return;
    const picture = this.corrected(this.reduced(whole, halvings(seen, whole)), item, raster);
    const scale = Math.min(output.sx, output.sy);
    const rotation = item.rotation ?? 0;
    const radius = (item.radius ?? 0) * scale;
    const clip = clipOf(item.clip, output);
    const opaque = picture.alpha === null && weight === 256 && rotation === 0;
    this.drawShadow(onto, item, t, radius, rotation, scale, clip, opaque);
    const outline = rotation !== 0 || radius > 0.01 ? maskOf({ kind: 'outline' }, t, radius, rotation) : null;
    const sources = planesOf(picture);
    // An even colour needs no scaling, and shows no turn by quarters.
    const even = item.texture.kind === 'colour' && !outline && !picture.alpha ? [picture.y[0], picture.u[0], picture.v[0]] : null;
    planesOf(onto).forEach((target, i) => {
      const k = i === 0 ? 1 : 2;
      const source = sources[i] as Plane;
      const alpha = picture.alpha ? { pointer: picture.at.alpha, width: picture.width, height: picture.height } : null;
      const at: Placement = {
        x: snap(t.x / k),
        y: snap(t.y / k),
        width: snap(t.width / k),
        height: snap(t.height / k),
        window,
        mirror: seen.mirror,
        clip: {
          left: Math.ceil(inked.left / k),
          top: Math.ceil(inked.top / k),
          right: Math.ceil(inked.right / k),
          bottom: Math.ceil(inked.bottom / k),
        },
      };
      if (even) fillPlane(target, even[i] as number, at, at.clip, weight);
      else if (rotation !== 0 && outline) drawTurned(target, source, alpha, outline, at, rotation, weight, k);
      else if (outline || alpha) drawShaped(target, source, alpha, outline, at, weight, k);
      else drawPlane(target, source, at, weight);
    });
    if (item.border && item.border.width > 0) {
      const mask = maskOf({ kind: 'border', width: item.border.width * scale }, t, radius, rotation);
      this.tintAll(onto, mask, yuvOf(item.border.colour), weight, clip, holeOf(mask));
    }
  }

  /** A picture halved so many times. */
  private reduced(picture: Planes, times: number): Planes {
    if (times <= 0) return picture;
    const known = this.smaller.get(picture);
    if (known) return this.reduced(known, times - 1);
    const made = this.scratch.take((picture.width + 1) >> 1, (picture.height + 1) >> 1);
    const half = picture.alpha ? made : { ...made, alpha: null };
    const sources = planesOf(picture);
    planesOf(half).forEach((target, i) => halvePlane(target, sources[i] as Plane));
    if (picture.alpha)
      halvePlane(
        { pointer: made.at.alpha, width: made.width, height: made.height },
        { pointer: picture.at.alpha, width: picture.width, height: picture.height },
      );
    this.smaller.set(picture, half);
    return this.reduced(half, times - 1);
  }

  private drawShadow(
    onto: Planes,
    item: DrawItem,
    t: Rect,
    radius: number,
    rotation: number,
    scale: number,
    clip: Placement['clip'],
    opaque: boolean,
  ): void {
    const { shadow } = item;
    if (!shadow || shadow.opacity <= 0) return;
    const moved = { ...t, x: t.x + shadow.x * scale, y: t.y + shadow.y * scale };
    const blur = shadow.blur * scale;
    // Under an opaque box it does not matter what the shadow is; else it must leave the box free.
    const mask = maskOf(
      opaque ? { kind: 'shadow', blur } : { kind: 'around', blur, x: shadow.x * scale, y: shadow.y * scale },
      moved,
      radius,
      rotation,
    );
    const inset = Math.ceil(radius) + 1;
    // Nothing of it is seen there: the box hides it, or is left free.
    const hidden = rotation === 0 ? { x: t.x + inset, y: t.y + inset, width: t.width - 2 * inset, height: t.height - 2 * inset } : null;
    this.tintAll(
      onto,
      mask,
      SHADOW,
      weightOf(shadow.opacity * item.opacity),
      clip,
      hidden && hidden.width > 0 && hidden.height > 0 ? hidden : null,
    );
  }

  private tintAll(
    onto: Planes,
    mask: Mask,
    colour: [number, number, number],
    weight: number,
    clip: Placement['clip'],
    hole: Rect | null,
  ): void {
    planesOf(onto).forEach((target, i) => {
      const k = i === 0 ? 1 : 2;
      const inside = {
        left: Math.ceil(clip.left / k),
        top: Math.ceil(clip.top / k),
        right: Math.ceil(clip.right / k),
        bottom: Math.ceil(clip.bottom / k),
      };
      tintThrough(target, mask, colour[i] as number, weight, k, inside, hole);
    });
  }
}

const outputOf = (planes: Planes, raster: Raster): Output => ({
  planes,
  sx: planes.width / raster.width,
  sy: planes.height / raster.height,
});

/** Whole pixels where it is one but for the last digits of a product. */
const snap = (n: number): number => (Math.abs(n - Math.round(n)) < 1e-6 ? Math.round(n) : n);

const isWholeWindow = ({ window: w, mirror }: Seen): boolean =>
  !mirror && Math.abs(w.x) < 1e-9 && Math.abs(w.y) < 1e-9 && Math.abs(w.width - 1) < 1e-9 && Math.abs(w.height - 1) < 1e-9;

function clipOf(clip: Rect | undefined, { planes, sx, sy }: Output): Placement['clip'] {
  const all = { left: 0, top: 0, right: planes.width, bottom: planes.height };
  if (!clip) return all;
  return {
    left: Math.max(0, Math.ceil(clip.x * sx - 0.5)),
    top: Math.max(0, Math.ceil(clip.y * sy - 0.5)),
    right: Math.min(all.right, Math.ceil((clip.x + clip.width) * sx - 0.5)),
    bottom: Math.min(all.bottom, Math.ceil((clip.y + clip.height) * sy - 0.5)),
  };
}

/** Pixels around ink that scaling by `s` reaches, of a picture halved so many times: three of the halved one, as chroma has half as many, and two for rounding. */
const reachOf = (s: number, times: number): number => 2 + 3 * Math.max(1, s * 2 ** times);

/** The part of `clip` in which a picture has anything at all: most layers of a graphic are clear nearly everywhere. */
function inkedClip(clip: Placement['clip'], { ink, width, height }: Planes, seen: Seen, item: DrawItem): Placement['clip'] {
  const { target: t } = seen;
  if (!ink || !isWholeWindow(seen) || item.rotation || item.border || item.shadow || item.key || item.matte) return clip;
  const [sx, sy] = [t.width / width, t.height / height];
  const times = Math.max(0, halvings(seen, { width, height }));
  return {
    left: Math.max(clip.left, Math.floor(t.x + ink.left * sx - reachOf(sx, times))),
    top: Math.max(clip.top, Math.floor(t.y + ink.top * sy - reachOf(sy, times))),
    right: Math.min(clip.right, Math.ceil(t.x + ink.right * sx + reachOf(sx, times))),
    bottom: Math.min(clip.bottom, Math.ceil(t.y + ink.bottom * sy + reachOf(sy, times))),
  };
}

/** The inner part of a border, where nothing is drawn. */
function holeOf(mask: Mask): Rect | null {
  const { middle } = mask;
  if (!middle) return null;
  return { x: mask.x + middle.ends, y: mask.y + middle.from, width: mask.width - 2 * middle.ends, height: middle.to - middle.from };
}

function clear(planes: Planes): Planes {
  planes.y.fill(16);
  planes.u.fill(128);
  planes.v.fill(128);
  return planes;
}
