/** Draws picture plans with WebGL2. Knows nothing of shows: only plans and textures. */
import { createProgramInfo, type ProgramInfo } from 'twgl.js';
import { type DrawItem, type Mix, placementOf, type PicturePlan, type Scene, sceneSize, type TextureRef } from '#core/picture/draw';
import { chromaNumbers, parseColour } from '#core/picture/key';
import { halvings, type Placement } from '#core/picture/view';
import { directionOf } from '#core/picture/wipe';
import { zoomBlurTaps } from '#core/picture/zoom-blur';
import { fullRect, type Rect } from '#core/show/geometry';
import { type Shadow } from '#core/layout/document';
import { type Raster } from '#core/show/raster';
import { type Target, TargetPool } from './gl-targets';
import { FILL_FRAGMENT, MIX_FRAGMENT, OUTLINE_FRAGMENT, plainFragment, shapedFragment, VERTEX } from './shaders';
import { type Layout, type Picture } from './texture';

/** Finds the texture of a reference; null while there is none. */
export type Lookup = (ref: TextureRef) => Picture | null;

/** Where to draw: the canvas, or a rectangle in pixels of a framebuffer whose rows are stored from the top. */
export interface Surface {
  framebuffer: WebGLFramebuffer | null;
  viewport: Rect;
  /** −1 stores the top row last, as the canvas shows it; 1 stores it first, as readPixels should find it. */
  flip: 1 | -1;
}

const LAYOUTS: Layout[] = ['rgba', 'bgra', 'i420', 'nv12'];
const DEEPEST = 8;
const WHOLE: Rect = { x: 0, y: 0, width: 1, height: 1 };

type Uniforms = Record<string, (value: unknown) => void>;

export class GlMixer {
  private readonly plain = new Map<Layout, ProgramInfo>();
  private readonly shaped = new Map<Layout, ProgramInfo>();
  private readonly outline: ProgramInfo;
  private readonly mixer: ProgramInfo;
  private readonly filler: ProgramInfo;
  private readonly targets: TargetPool;
  private readonly nested = new Map<string, Picture>();
  private bound: ProgramInfo | null = null;
  private depth = 0;

  constructor(
    private readonly gl: WebGL2RenderingContext,
    private readonly lookup: Lookup,
  ) {
    for (const layout of LAYOUTS) {
      this.plain.set(layout, this.compile(plainFragment(layout)));
      this.shaped.set(layout, this.compile(shapedFragment(layout)));
    }
    this.outline = this.compile(OUTLINE_FRAGMENT);
    this.mixer = this.compile(MIX_FRAGMENT);
    this.filler = this.compile(FILL_FRAGMENT);
    this.targets = new TargetPool(gl);
    gl.blendFunc(gl.ONE, gl.ONE_MINUS_SRC_ALPHA);
    gl.bindVertexArray(gl.createVertexArray());
  }

  private compile(fragment: string): ProgramInfo {
    const errors: string[] = [];
    const info = createProgramInfo(this.gl, [VERTEX, fragment], { errorCallback: (m) => errors.push(m) });
    if (!info?.program) throw new Error(`The graphics driver refused a shader: ${errors.join(' ')}`);
    return info;
  }

  /** Draws `plan`, whose coordinates are those of `raster`, onto `surface`. */
  draw(plan: PicturePlan, raster: Raster, surface: Surface): void {
    const { gl } = this;
    this.targets.settle();
    this.nested.clear();
    this.aim(surface);
    if (plan.black >= 1) this.clear(surface);
    else {
      if (plan.mix && plan.over) this.drawMixed(plan.base, plan.over, plan.mix, raster, surface);
      else this.drawScene(plan.base, raster, surface);
      for (const item of plan.lanes) this.drawItem(item, raster, surface, 1);
      if (plan.black > 0) this.fill(surface, [0, 0, 0], plan.black);
    }
    for (const item of plan.top ?? []) this.drawItem(item, raster, surface, 1);
    gl.disable(gl.BLEND);
  }

  /** Clears a surface to black. */
  clear(surface: Surface): void {
    const { gl } = this;
    this.aim(surface);
    const { x, y, width, height } = surface.viewport;
    gl.enable(gl.SCISSOR_TEST);
    gl.scissor(x, y, width, height);
    gl.clearColor(0, 0, 0, 1);
    gl.clear(gl.COLOR_BUFFER_BIT);
    gl.disable(gl.SCISSOR_TEST);
  }

  private aim(surface: Surface): void {
    const { gl } = this;
    gl.bindFramebuffer(gl.FRAMEBUFFER, surface.framebuffer);
    const { x, y, width, height } = surface.viewport;
    gl.viewport(x, y, width, height);
  }

  private drawScene(scene: Scene, raster: Raster, surface: Surface): void {
    const last = scene.findLastIndex((item) => this.coversAll(item, raster));
    if (last < 0) this.clear(surface);
    for (const item of scene.slice(Math.max(0, last))) this.drawItem(item, raster, surface, 1);
  }

  /** A scene as a picture of the surface's size, drawn apart. */
  private apart(scene: Scene, raster: Raster, { viewport }: Surface): Target {
    const target = this.targets.take(viewport.width, viewport.height);
    this.drawScene(scene, raster, {
      framebuffer: target.framebuffer,
      viewport: { x: 0, y: 0, width: viewport.width, height: viewport.height },
      flip: 1,
    });
    return target;
  }

  private drawMixed(base: Scene, over: Scene, mix: Mix, raster: Raster, surface: Surface): void {
    const full = fullRect(raster);
    if (mix.kind === 'dip') {
      const late = mix.position >= 0.5;
      this.drawScene(late ? over : base, raster, surface);
      this.fill(surface, parseColour(mix.colour), late ? 2 - 2 * mix.position : 2 * mix.position);
      return;
    }
    if (mix.kind === 'dissolve' && !mix.linear) {
      this.drawScene(base, raster, surface);
      const only = over[0];
      if (over.length === 1 && only && this.coversAll(only, raster)) {
        this.drawItem(only, raster, surface, mix.position);
        return;
      }
      // Several items, or one that leaves margins, mix as one picture: drawn apart first.
      const { picture } = this.apart(over, raster, surface);
      this.aim(surface);
      this.drawPlain(picture, full, WHOLE, false, raster, surface, mix.position);
      return;
    }
    const [a, b] = [this.apart(base, raster, surface).picture, this.apart(over, raster, surface).picture];
    const image = mix.kind === 'luma' ? this.asRgba(mix.image, raster) : null;
    this.aim(surface);
    if (isMove(mix)) {
      const d = directionOf(mix.direction);
      const moved = (share: number): Rect => ({ ...full, x: even(d.x * raster.width * share), y: even(d.y * raster.height * share) });
      this.drawPlain(a, mix.kind === 'push' ? moved(mix.position) : full, WHOLE, false, raster, surface, 1);
      this.drawPlain(b, moved(mix.position - 1), WHOLE, false, raster, surface, 1);
    } else if (mix.kind === 'zoom') {
      for (const tap of zoomBlurTaps(mix.position)) {
        const [width, height] = [raster.width * tap.scale, raster.height * tap.scale];
        this.drawPlain(
          tap.over ? b : a,
          { x: (raster.width - width) / 2, y: (raster.height - height) / 2, width, height },
          WHOLE,
          false,
          raster,
          surface,
          tap.weight,
        );
      }
    } else this.mixByProgram(a, b, mix, image, raster, surface);
  }

  private mixByProgram(
    a: Picture,
    b: Picture,
    mix: Exclude<Mix, MoveMix | { kind: 'dip' | 'zoom' }>,
    image: Picture | null,
    raster: Raster,
    surface: Surface,
  ): void {
    const { gl } = this;
    const set = this.use(this.mixer);
    set.u_plane0?.(a.planes[0]);
    set.u_plane1?.(b.planes[0]);
    set.u_second?.((image ?? a).planes[0]);
    gl.activeTexture(gl.TEXTURE0);
    this.place(set, fullRect(raster), raster, surface);
    set.u_size?.([raster.width, raster.height]);
    set.u_position?.(mix.position);
    // A luma wipe without its picture dissolves.
    const shapes = { linear: 0, radial: 1, iris: 2, clock: 3 };
    set.u_kind?.(mix.kind === 'wipe' ? shapes[mix.shape] : mix.kind === 'luma' ? 4 : 5);
    set.u_softness?.(mix.kind === 'dissolve' ? 1 : mix.softness);
    set.u_angle?.(mix.kind === 'wipe' ? (mix.angle * Math.PI) / 180 : 0);
    gl.disable(gl.BLEND);
    gl.drawArrays(gl.TRIANGLE_STRIP, 0, 4);
  }

  /** A reference as one RGBA texture of its own size, whatever it comes as. */
  private asRgba(ref: TextureRef, raster: Raster): Picture | null {
    const picture = this.pictureOf(ref, raster, { width: raster.width, height: raster.height });
    if (!picture || picture.layout === 'rgba') return picture;
    const target = this.targets.take(picture.width, picture.height);
    const size = { width: picture.width, height: picture.height };
    const surface: Surface = { framebuffer: target.framebuffer, viewport: fullRect(size), flip: 1 };
    this.aim(surface);
    this.drawPlain(picture, fullRect(size), WHOLE, false, size, surface, 1);
    return target.picture;
  }

  private pictureOf(ref: TextureRef, raster: Raster, size: { width: number; height: number }): Picture | null {
    if (ref.kind !== 'scene') return this.lookup(ref);
    const own = ref.raster ? sceneSize(ref.raster, size.width, size.height) : size;
    const key = ref.raster ? `${ref.id} ${own.width}×${own.height}` : ref.id;
    const known = this.nested.get(key);
    if (known) return known;
    if (this.depth >= DEEPEST) return null;
    this.depth += 1;
    const surface: Surface = { framebuffer: null, viewport: fullRect(own), flip: 1 };
    const { picture } = this.apart(ref.scene, ref.raster ?? raster, surface);
    this.depth -= 1;
    this.nested.set(key, picture);
    return picture;
  }

  private placeOf(item: DrawItem, raster: Raster): Placement | null {
    const size = item.texture.kind === 'scene' ? (item.texture.raster ?? raster) : this.lookup(item.texture);
    return size && placementOf(item, size);
  }

  /** True when an item hides everything beneath it. */
  private coversAll(item: DrawItem, raster: Raster): boolean {
    if (item.opacity < 1 || item.key || item.radius || item.rotation || item.clip) return false;
    if (item.texture.kind !== 'scene' && !this.lookup(item.texture)?.opaque) return false;
    const r = this.placeOf(item, raster)?.target;
    return r !== undefined && r.x <= 0.5 && r.y <= 0.5 && r.x + r.width >= raster.width - 0.5 && r.y + r.height >= raster.height - 0.5;
  }

  private drawItem(item: DrawItem, raster: Raster, surface: Surface, share: number): void {
    const opacity = item.opacity * share;
    const seen = this.placeOf(item, raster);
    if (!seen || opacity <= 0 || seen.target.width <= 0 || seen.target.height <= 0) return;
    const picture = this.pictureOf(item.texture, raster, this.wholeSize(item, seen, raster, surface));
    if (!picture) return;
    const second = item.key?.kind === 'fill' ? this.asRgba(item.key.texture, raster) : null;
    this.aim(surface);
    const clipped = item.clip && this.clip(item.clip, raster, surface);
    const { shadow, border, rotation = 0, radius = 0 } = item;
    if (shadow && shadow.opacity > 0) {
      const moved = { ...seen.target, x: seen.target.x + shadow.x, y: seen.target.y + shadow.y };
      this.drawOutline(moved, radius, rotation, [0, 0, 0, shadow.opacity * opacity], -1, shadow, raster, surface);
    }
    if (radius > 0 || rotation !== 0 || item.grade || item.key || item.matte)
      this.drawShaped(item, picture, second, seen, raster, surface, opacity);
    else this.drawPlain(picture, seen.target, seen.window, seen.mirror, raster, surface, opacity);
    if (border && border.width > 0) {
      const [r, g, b] = parseColour(border.colour);
      this.drawOutline(
        seen.target,
        radius,
        rotation,
        [r * opacity, g * opacity, b * opacity, opacity],
        border.width,
        null,
        raster,
        surface,
      );
    }
    if (clipped) this.gl.disable(this.gl.SCISSOR_TEST);
  }

  /** Pixels in which the whole of an item's picture is wanted: a scene of the plan's own coordinates has those of the surface. */
  private wholeSize(
    { texture }: DrawItem,
    { target, window }: Placement,
    raster: Raster,
    { viewport }: Surface,
  ): { width: number; height: number } {
    if (texture.kind !== 'scene' || !texture.raster) return viewport;
    return {
      width: ((target.width / window.width) * viewport.width) / raster.width,
      height: ((target.height / window.height) * viewport.height) / raster.height,
    };
  }

  /** Draws only inside of `r` until the scissor is switched off. */
  private clip(r: Rect, raster: Raster, { viewport: v, flip }: Surface): true {
    const { gl } = this;
    const [sx, sy] = [v.width / raster.width, v.height / raster.height];
    const pixel = (n: number, most: number) => Math.min(most, Math.max(0, Math.ceil(n - 0.5)));
    const [x0, x1] = [pixel(r.x * sx, v.width), pixel((r.x + r.width) * sx, v.width)];
    const [y0, y1] = [pixel(r.y * sy, v.height), pixel((r.y + r.height) * sy, v.height)];
    gl.enable(gl.SCISSOR_TEST);
    gl.scissor(v.x + x0, v.y + (flip === 1 ? y0 : v.height - y1), Math.max(0, x1 - x0), Math.max(0, y1 - y0));
    return true;
  }

  private place(set: Uniforms, r: Rect, raster: Raster, surface: Surface): void {
    set.u_target?.([r.x / raster.width, r.y / raster.height, r.width / raster.width, r.height / raster.height]);
    set.u_flip?.(surface.flip);
  }

  /** Binds the planes of a picture, `times` halved: the graphics card's own smaller copies. */
  private bindPicture(set: Uniforms, picture: Picture, exact: boolean, times: number): void {
    const { gl } = this;
    const make = times > 0 && !picture.reduced;
    picture.planes.forEach((plane, i) => {
      // The setter of a sampler binds the texture to the sampler's own unit, and leaves that unit active.
      set[`u_plane${i}`]?.(plane);
      if (make) gl.generateMipmap(gl.TEXTURE_2D);
      gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_BASE_LEVEL, times);
      // Pixel for pixel, the nearest sample is the same picture and on a software driver much cheaper.
      const filter = exact && i === 0 ? gl.NEAREST : gl.LINEAR;
      gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, filter);
      gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MAG_FILTER, filter);
    });
    if (make) picture.reduced = true;
    gl.activeTexture(gl.TEXTURE0);
    if (!picture.colour) return;
    set.u_matrix?.(picture.colour.matrix);
    set.u_offset?.(picture.colour.offset);
  }

  /** Back to the whole planes, as every other use wants them. */
  private unreduce(picture: Picture, times: number): void {
    const { gl } = this;
    if (times === 0) return;
    for (const plane of picture.planes) {
      gl.bindTexture(gl.TEXTURE_2D, plane);
      gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_BASE_LEVEL, 0);
    }
  }

  private drawPlain(picture: Picture, rect: Rect, window: Rect, mirror: boolean, raster: Raster, surface: Surface, opacity: number): void {
    const { gl } = this;
    const info = this.plain.get(picture.layout);
    if (!info) return;
    const set = this.use(info);
    const scaleX = (rect.width / raster.width) * surface.viewport.width;
    const exact =
      !mirror &&
      window.width === 1 &&
      window.height === 1 &&
      Math.abs(scaleX - picture.width) < 0.01 &&
      Number.isInteger(rect.x) &&
      Number.isInteger(rect.y);
    const times = halvings({ target: rect, window, mirror }, picture, surface.viewport.width / raster.width);
    this.bindPicture(set, picture, exact, times);
    this.place(set, rect, raster, surface);
    set.u_window?.(windowVector(window, mirror));
    set.u_opacity?.(opacity);
    if (picture.opaque && opacity >= 1) gl.disable(gl.BLEND);
    else gl.enable(gl.BLEND);
    gl.drawArrays(gl.TRIANGLE_STRIP, 0, 4);
    this.unreduce(picture, times);
  }

  private drawShaped(
    item: DrawItem,
    picture: Picture,
    second: Picture | null,
    seen: Placement,
    raster: Raster,
    surface: Surface,
    opacity: number,
  ): void {
    const { gl } = this;
    const info = this.shaped.get(picture.layout);
    if (!info) return;
    const set = this.use(info);
    const times = halvings(seen, picture, surface.viewport.width / raster.width);
    this.bindPicture(set, picture, false, times);
    const { grade, key } = item;
    set.u_second?.((second ?? picture).planes[0]);
    gl.activeTexture(gl.TEXTURE0);
    this.outlineOf(set, seen.target, item.radius ?? 0, item.rotation ?? 0, 1, raster, surface);
    set.u_soft?.((item.radius ?? 0) > 0 || (item.rotation ?? 0) !== 0);
    set.u_window?.(windowVector(seen.window, seen.mirror));
    set.u_opacity?.(opacity);
    set.u_graded?.(grade !== undefined);
    if (grade) {
      set.u_grade?.([grade.lift, grade.gamma, grade.gain, grade.saturation]);
      set.u_lean?.([grade.tint - grade.warmth, grade.tint + grade.warmth]);
    }
    set.u_matte?.(item.matte === true);
    set.u_key?.(key?.kind === 'chroma' ? 1 : key?.kind === 'luma' ? 2 : key && second ? 3 : 0);
    if (key?.kind === 'chroma') {
      const n = chromaNumbers(key);
      set.u_chroma?.([n.cb, n.cr, n.near, n.far]);
      set.u_spill?.(n.spill);
      set.u_garbage?.([key.garbageLeft, key.garbageTop, key.garbageRight, key.garbageBottom]);
    } else if (key?.kind === 'luma') set.u_luma?.([key.clip, key.gain, key.invert ? 1 : 0]);
    else if (key) {
      set.u_luma?.([0, 1, key.invert ? 1 : 0]);
      set.u_premultiplied?.(key.premultiplied);
    }
    gl.enable(gl.BLEND);
    gl.drawArrays(gl.TRIANGLE_STRIP, 0, 4);
    this.unreduce(picture, times);
  }

  private drawOutline(
    rect: Rect,
    radius: number,
    rotation: number,
    colour: number[],
    width: number,
    shadow: Shadow | null,
    raster: Raster,
    surface: Surface,
  ): void {
    const { gl } = this;
    const set = this.use(this.outline);
    const blur = shadow?.blur ?? 0;
    this.outlineOf(set, rect, radius, rotation, blur + 1, raster, surface);
    set.u_shift?.([shadow?.x ?? 0, shadow?.y ?? 0]);
    set.u_colour?.(colour);
    set.u_width?.(width);
    set.u_blur?.(blur);
    gl.enable(gl.BLEND);
    gl.drawArrays(gl.TRIANGLE_STRIP, 0, 4);
  }

  /** The outline's own numbers, and the upright rectangle that holds it with `margin` around. */
  private outlineOf(set: Uniforms, r: Rect, radius: number, rotation: number, margin: number, raster: Raster, surface: Surface): void {
    const a = (rotation * Math.PI) / 180;
    const [cos, sin] = [Math.cos(a), Math.sin(a)];
    const width = r.width * Math.abs(cos) + r.height * Math.abs(sin) + 2 * margin;
    const height = r.width * Math.abs(sin) + r.height * Math.abs(cos) + 2 * margin;
    this.place(set, { x: r.x + (r.width - width) / 2, y: r.y + (r.height - height) / 2, width, height }, raster, surface);
    set.u_rect?.([r.x, r.y, r.width, r.height]);
    set.u_turn?.([cos, sin]);
    set.u_radius?.(radius);
    set.u_size?.([raster.width, raster.height]);
    set.u_scale?.(surface.viewport.width / raster.width);
  }

  private fill(surface: Surface, rgb: [number, number, number], alpha: number): void {
    const { gl } = this;
    const set = this.use(this.filler);
    set.u_target?.([0, 0, 1, 1]);
    set.u_flip?.(surface.flip);
    set.u_colour?.([...rgb.map((c) => c * alpha), alpha]);
    gl.enable(gl.BLEND);
    gl.drawArrays(gl.TRIANGLE_STRIP, 0, 4);
  }

  /** Somebody else has used another program. */
  forgetProgram(): void {
    this.bound = null;
  }

  private use(info: ProgramInfo): Uniforms {
    if (this.bound !== info) this.gl.useProgram(info.program);
    this.bound = info;
    return info.uniformSetters as Uniforms;
  }
}

type MoveMix = Extract<Mix, { kind: 'push' | 'slide' }>;
const isMove = (mix: Mix): mix is MoveMix => mix.kind === 'push' || mix.kind === 'slide';

const even = (n: number): number => Math.round(n / 2) * 2;

const windowVector = (w: Rect, mirror: boolean): number[] =>
  mirror ? [w.x + w.width, w.y, -w.width, w.height] : [w.x, w.y, w.width, w.height];
