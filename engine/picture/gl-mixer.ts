/** Draws picture plans with WebGL2. Knows nothing of shows: only plans and textures. */
import { createProgramInfo, type ProgramInfo } from 'twgl.js';
import { containRect, type DrawItem, type Mix, type PicturePlan, type Rect, type Scene, type TextureRef } from '#core/picture/plan';
import { type Raster, type WipeDirection } from '#core/show/show';
import { FILL_FRAGMENT, fragmentShader, VERTEX } from './shaders';
import { createTexture, type Layout, type Picture } from './texture';

/** Finds the texture of a reference; null while there is none. */
export type Lookup = (ref: TextureRef) => Picture | null;

/** Where to draw: the canvas, or a rectangle in pixels of a framebuffer whose rows are stored from the top. */
export interface Surface {
  framebuffer: WebGLFramebuffer | null;
  viewport: Rect;
  /** −1 stores the top row last, as the canvas shows it; 1 stores it first, as readPixels should find it. */
  flip: 1 | -1;
}

/** The wipe's direction as a weight of u, v and 1: core's `along`. */
const ALONG: Record<WipeDirection, [number, number, number]> = {
  right: [1, 0, 0],
  left: [-1, 0, 1],
  down: [0, 1, 0],
  up: [0, -1, 1],
};

const LAYOUTS: Layout[] = ['rgba', 'bgra', 'i420', 'nv12'];

type WipeMix = Extract<Mix, { kind: 'wipe' }>;

const parseColour = (hex: string): [number, number, number] =>
  [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16) / 255) as [number, number, number];

export class GlMixer {
  private readonly programs = new Map<string, ProgramInfo>();
  private readonly fillProgram: ProgramInfo;
  private group: { framebuffer: WebGLFramebuffer; picture: Picture } | null = null;
  private bound: ProgramInfo | null = null;

  constructor(
    private readonly gl: WebGL2RenderingContext,
    private readonly lookup: Lookup,
  ) {
    for (const layout of LAYOUTS) {
      for (const masked of [false, true]) this.programs.set(`${layout} ${masked}`, this.compile(fragmentShader(layout, masked)));
    }
    this.fillProgram = this.compile(FILL_FRAGMENT);
    gl.blendFunc(gl.ONE, gl.ONE_MINUS_SRC_ALPHA);
    const vao = gl.createVertexArray();
    gl.bindVertexArray(vao);
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
    this.aim(surface);
    if (plan.black >= 1) {
      this.clear(surface);
      return;
    }
    const mix = plan.mix;
    const half = mix?.kind === 'dip' && mix.position >= 0.5;
    const base = half ? (plan.over ?? []) : plan.base;
    if (!this.coversAll(base, raster)) this.clear(surface);
    this.drawScene(base, raster, surface);
    if (mix?.kind === 'dip') {
      const amount = half ? 2 - 2 * mix.position : 2 * mix.position;
      this.fill(surface, parseColour(mix.colour), amount);
    } else if (mix && plan.over) {
      this.drawOver(plan.over, mix, raster, surface);
    }
    for (const item of plan.lanes) this.drawItem(item, raster, surface, 1, null);
    if (plan.black > 0) this.fill(surface, [0, 0, 0], plan.black);
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
    for (const item of scene) this.drawItem(item, raster, surface, 1, null);
  }

  private drawOver(over: Scene, mix: Exclude<Mix, { kind: 'dip' }>, raster: Raster, surface: Surface): void {
    const opacity = mix.kind === 'dissolve' ? mix.position : 1;
    const wipe = mix.kind === 'wipe' ? mix : null;
    const only = over[0];
    if (over.length === 1 && only && this.coversAll(over, raster)) {
      this.drawItem(only, raster, surface, opacity, wipe);
      return;
    }
    // Several items, or one that leaves margins, mix as one picture: drawn apart first.
    const group = this.groupFor(surface.viewport.width, surface.viewport.height);
    const apart: Surface = {
      framebuffer: group.framebuffer,
      viewport: { x: 0, y: 0, width: surface.viewport.width, height: surface.viewport.height },
      flip: 1,
    };
    this.clear(apart);
    this.drawScene(over, raster, apart);
    this.aim(surface);
    this.drawPicture(group.picture, { x: 0, y: 0, width: raster.width, height: raster.height }, raster, surface, opacity, wipe);
  }

  private groupFor(width: number, height: number): { framebuffer: WebGLFramebuffer; picture: Picture } {
    const { gl } = this;
    if (this.group?.picture.width === width && this.group.picture.height === height) return this.group;
    if (this.group) {
      gl.deleteFramebuffer(this.group.framebuffer);
      for (const plane of this.group.picture.planes) gl.deleteTexture(plane);
    }
    const target = createTarget(gl, width, height);
    const picture: Picture = { layout: 'rgba', width, height, opaque: true, planes: [target.texture], colour: null };
    this.group = { framebuffer: target.framebuffer, picture };
    return this.group;
  }

  /** True when the last item of a scene hides everything beneath it. */
  private coversAll(scene: Scene, raster: Raster): boolean {
    const item = scene.at(-1);
    const picture = item && this.lookup(item.texture);
    if (!item || !picture?.opaque || item.opacity < 1) return false;
    const r = item.fit === 'contain' ? containRect(item.target, picture.width, picture.height) : item.target;
    return r.x <= 0.5 && r.y <= 0.5 && r.x + r.width >= raster.width - 0.5 && r.y + r.height >= raster.height - 0.5;
  }

  private drawItem(item: DrawItem, raster: Raster, surface: Surface, share: number, wipe: WipeMix | null): void {
    const picture = this.lookup(item.texture);
    const opacity = item.opacity * share;
    if (!picture || opacity <= 0) return;
    const rect = item.fit === 'contain' ? containRect(item.target, picture.width, picture.height) : item.target;
    this.drawPicture(picture, rect, raster, surface, opacity, wipe);
  }

  private drawPicture(picture: Picture, rect: Rect, raster: Raster, surface: Surface, opacity: number, wipe: WipeMix | null): void {
    const { gl } = this;
    const info = this.programs.get(`${picture.layout} ${wipe !== null}`);
    if (!info) return;
    const set = this.use(info);
    picture.planes.forEach((plane, i) => {
      // The setter of a sampler binds the texture to the sampler's own unit, and leaves that unit active.
      set[`u_plane${i}`]?.(plane);
      // Pixel for pixel, the nearest sample is the same picture and on a software driver much cheaper.
      const scaleX = (rect.width / raster.width) * surface.viewport.width;
      const exact = i === 0 && Math.abs(scaleX - picture.width) < 0.01 && Number.isInteger(rect.x) && Number.isInteger(rect.y);
      const filter = exact ? gl.NEAREST : gl.LINEAR;
      gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, filter);
      gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MAG_FILTER, filter);
    });
    gl.activeTexture(gl.TEXTURE0);
    set.u_target?.([rect.x / raster.width, rect.y / raster.height, rect.width / raster.width, rect.height / raster.height]);
    set.u_flip?.(surface.flip);
    set.u_opacity?.(opacity);
    if (picture.colour) {
      set.u_matrix?.(picture.colour.matrix);
      set.u_offset?.(picture.colour.offset);
    }
    if (wipe) {
      set.u_wipe?.([wipe.position, wipe.softness]);
      set.u_along?.(ALONG[wipe.direction]);
    }
    if (picture.opaque && opacity >= 1 && !wipe) gl.disable(gl.BLEND);
    else gl.enable(gl.BLEND);
    gl.drawArrays(gl.TRIANGLE_STRIP, 0, 4);
  }

  private fill(surface: Surface, rgb: [number, number, number], alpha: number): void {
    const { gl } = this;
    const set = this.use(this.fillProgram);
    set.u_target?.([0, 0, 1, 1]);
    set.u_flip?.(surface.flip);
    set.u_colour?.([...rgb.map((c) => c * alpha), alpha]);
    gl.enable(gl.BLEND);
    gl.drawArrays(gl.TRIANGLE_STRIP, 0, 4);
  }

  private use(info: ProgramInfo): Record<string, (value: unknown) => void> {
    if (this.bound !== info) this.gl.useProgram(info.program);
    this.bound = info;
    return info.uniformSetters as Record<string, (value: unknown) => void>;
  }
}

/** A framebuffer with one texture of `width` × `height`. */
export function createTarget(gl: WebGL2RenderingContext, width: number, height: number): { framebuffer: WebGLFramebuffer; texture: WebGLTexture } {
  const texture = createTexture(gl);
  gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA8, width, height, 0, gl.RGBA, gl.UNSIGNED_BYTE, null);
  const framebuffer = gl.createFramebuffer();
  if (!framebuffer) throw new Error('The graphics driver gave no framebuffer.');
  gl.bindFramebuffer(gl.FRAMEBUFFER, framebuffer);
  gl.framebufferTexture2D(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0, gl.TEXTURE_2D, texture, 0);
  return { framebuffer, texture };
}
