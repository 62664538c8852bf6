/** Draws on the graphics card with WebGL2. */
import { type PicturePlan, type TextureRef } from '#core/picture/draw';
import { fullRect } from '#core/show/geometry';
import { type Raster } from '#core/show/raster';
import { GlMixer } from './gl-mixer';
import { GlFinish } from './gl-finish';
import { createTarget, TargetPool } from './gl-targets';
import { isFrame, type MonitorJob, type OutputJob, type PictureLookup, refKey, refsOf, type Renderer } from './renderer';
import { FrameTexture, type UploadPath } from './texture';

const ATLAS_WIDTH = 1024;
const ATLAS_HEIGHT = 1024;
/** Textures not asked for during so many programme frames are given back. */
const FORGET_AFTER = 250;

interface Held {
  texture: FrameTexture;
  version: string;
  used: number;
}

interface Place extends MonitorJob {
  x: number;
  y: number;
}

export class GlRenderer implements Renderer {
  private readonly mixer: GlMixer;
  private readonly held = new Map<string, Held>();
  private readonly atlas: { framebuffer: WebGLFramebuffer; texture: WebGLTexture };
  private readonly pixels = new Uint8ClampedArray(ATLAS_WIDTH * ATLAS_HEIGHT * 4);
  private readonly canvas: OffscreenCanvas;
  private readonly outputs: TargetPool;
  private finisher: GlFinish | null = null;
  private turn = 0;

  constructor(
    private readonly gl: WebGL2RenderingContext,
    private lookup: PictureLookup,
    private readonly path: UploadPath,
  ) {
    this.canvas = gl.canvas as OffscreenCanvas;
    this.mixer = new GlMixer(gl, (ref) => this.held.get(refKey(ref))?.texture.picture ?? null);
    this.outputs = new TargetPool(gl);
    this.atlas = createTarget(gl, ATLAS_WIDTH, ATLAS_HEIGHT);
  }

  get description(): string {
    return `WebGL2, frames go up as ${this.path === 'planes' ? 'planes' : 'whole frames'}`;
  }

  /** Takes in what has changed of these. */
  private async prepare(refs: readonly TextureRef[]): Promise<void> {
    for (const ref of refs) {
      const picture = this.lookup(ref);
      const key = refKey(ref);
      if (!picture) {
        this.forget(key);
        continue;
      }
      const held = this.held.get(key) ?? { texture: new FrameTexture(this.gl), version: '', used: 0 };
      this.held.set(key, held);
      held.used = this.turn;
      if (held.version === picture.version) continue;
      held.version = picture.version;
      if (isFrame(picture.image)) await held.texture.fill(picture.image, this.path);
      else held.texture.fillWhole(picture.image);
      if (held.texture.picture) held.texture.picture.opaque = picture.opaque;
    }
  }

  private forget(key: string): void {
    this.held.get(key)?.texture.dispose();
    this.held.delete(key);
  }

  async programme(plan: PicturePlan, raster: Raster, stamp: number, duration: number): Promise<VideoFrame> {
    await this.prepare(refsOf(plan));
    this.mixer.draw(plan, raster, { framebuffer: null, viewport: fullRect(this.canvas), flip: -1 });
    this.turn += 1;
    for (const [key, { used }] of this.held) if (this.turn - used > FORGET_AFTER) this.forget(key);
    return new VideoFrame(this.canvas, { timestamp: stamp, duration, alpha: 'discard' });
  }

  /** Drawn apart and read back: a canvas has one size, that of the programme. */
  async output(job: OutputJob, stamp: number, duration: number): Promise<VideoFrame> {
    const { plan, raster, size, place, finish, pictures } = job;
    const { gl } = this;
    const most = Math.min(gl.getParameter(gl.MAX_TEXTURE_SIZE) as number, gl.getParameter(gl.MAX_RENDERBUFFER_SIZE) as number);
    if (size.width > most || size.height > most) throw new Error(`The graphics card draws at most ${most}×${most} pixels.`);
    const usual = this.lookup;
    this.lookup = pictures ?? usual;
    try {
      await this.prepare(refsOf(plan));
    } finally {
      this.lookup = usual;
    }
    const target = this.outputs.take(size.width, size.height);
    this.mixer.clear({ framebuffer: target.framebuffer, viewport: fullRect(size), flip: 1 });
    this.mixer.draw(plan, raster, { framebuffer: target.framebuffer, viewport: place, flip: 1 });
    const bytes = new Uint8Array(size.width * size.height * 4);
    let drawn = target;
    if (finish) {
      drawn = this.outputs.take(size.width, size.height);
      // What no area takes stays as it was drawn.
      gl.bindFramebuffer(gl.READ_FRAMEBUFFER, target.framebuffer);
      gl.bindFramebuffer(gl.DRAW_FRAMEBUFFER, drawn.framebuffer);
      gl.blitFramebuffer(0, 0, size.width, size.height, 0, 0, size.width, size.height, gl.COLOR_BUFFER_BIT, gl.NEAREST);
      this.finisher ??= new GlFinish(gl);
      this.finisher.apply(finish, target.picture.planes[0] as WebGLTexture, drawn.framebuffer, size);
      this.mixer.forgetProgram();
    }
    gl.bindFramebuffer(gl.FRAMEBUFFER, drawn.framebuffer);
    gl.readPixels(0, 0, size.width, size.height, gl.RGBA, gl.UNSIGNED_BYTE, bytes);
    this.outputs.settle();
    return new VideoFrame(bytes, { format: 'RGBX', codedWidth: size.width, codedHeight: size.height, timestamp: stamp, duration });
  }

  /** All monitors are drawn into one atlas and read back once, so they come together or not at all. */
  async monitors(jobs: readonly MonitorJob[], raster: Raster, mayGoOn: () => boolean): Promise<void> {
    if (!mayGoOn()) return;
    const places = placeJobs(jobs);
    if (places.length === 0) return;
    await this.prepare(places.flatMap(({ plan }) => refsOf(plan)));
    const { gl } = this;
    let height = 0;
    for (const { plan, raster: own = raster, width, height: h, x, y } of places) {
      this.mixer.draw(plan, own, { framebuffer: this.atlas.framebuffer, viewport: { x, y, width, height: h }, flip: 1 });
      height = Math.max(height, y + h);
    }
    gl.bindFramebuffer(gl.FRAMEBUFFER, this.atlas.framebuffer);
    gl.readPixels(0, 0, ATLAS_WIDTH, height, gl.RGBA, gl.UNSIGNED_BYTE, this.pixels);
    const image = new ImageData(this.pixels.subarray(0, ATLAS_WIDTH * height * 4), ATLAS_WIDTH, height);
    for (const { context, width, height: h, x, y, after, done } of places) {
      after?.(this.pixels, { x, y, width, height: h, stride: ATLAS_WIDTH });
      context.putImageData(image, -x, -y, x, y, width, h);
      done();
    }
  }

  /** Everything is compiled at the start. */
  readyFor(): void {}

  resize(raster: Raster): void {
    Object.assign(this.canvas, { width: raster.width, height: raster.height });
  }
}

/** Rows of pictures, the larger ones first; what does not fit is left out. */
function placeJobs(jobs: readonly MonitorJob[]): Place[] {
  const places: Place[] = [];
  let [x, y, row] = [0, 0, 0];
  for (const job of [...jobs].sort((a, b) => b.height - a.height)) {
    if (x + job.width > ATLAS_WIDTH) [x, y, row] = [0, y + row, 0];
    if (job.width > ATLAS_WIDTH || y + job.height > ATLAS_HEIGHT) continue;
    places.push({ ...job, x, y });
    x += job.width;
    row = Math.max(row, job.height);
  }
  return places;
}
