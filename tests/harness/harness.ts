/** Parts of the engine, made reachable for browser tests and benches. */
import { type PicturePlan, type TextureRef } from '#core/picture/draw';
import { type Raster } from '#core/show/raster';
import { GlMixer } from '#engine/picture/gl-mixer';
import { GlRenderer } from '#engine/picture/gl-renderer';
import { type OutputJob, type PictureLookup, type RefPicture } from '#engine/picture/renderer';
import { SoftRenderer } from '#engine/picture/soft-renderer';
import { FrameTexture, type UploadPath } from '#engine/picture/texture';
import { rgbaOf, TEST_PICTURES, yuvOf } from '#tests/support/test-pictures';
import { analyseFile, makeClip, makeTransparentClip } from './media';
import { readStrips } from './strips';
import { renderOffline } from './sound';
import { benchMixer } from './mixer-bench';
import { benchAnimation } from './animation-bench';
import { benchGraphic } from './graphics-bench';
import { benchPictures } from './picture-bench';
import { benchAreas, benchWindows } from './windows-bench';
import { drawGraphic, measureGraphic } from './paints';
import { fromBase64, toBase64 } from './base64';
import { ShowError } from '#core/desk/validate';
import { importShow } from '#engine/storage/show-file';
import { listShows } from '#engine/storage/shows';

/** The frame of a test picture, in the layout it names. */
function frameOf(name: string): VideoFrame {
  const picture = TEST_PICTURES[name];
  if (!picture) throw new Error(`no test picture ${name}`);
  const { width, height, layout } = picture;
  if (layout === 'rgba') {
    return new VideoFrame(rgbaOf(picture), {
      format: picture.opaque ? 'RGBX' : 'RGBA',
      codedWidth: width,
      codedHeight: height,
      timestamp: 0,
    });
  }
  return new VideoFrame(yuvOf(picture), {
    format: layout === 'i420' ? 'I420' : 'NV12',
    codedWidth: width,
    codedHeight: height,
    timestamp: 0,
    colorSpace: { matrix: 'bt709', primaries: 'bt709', transfer: 'bt709', fullRange: false },
  });
}

async function textures(gl: WebGL2RenderingContext, path: UploadPath): Promise<Map<string, FrameTexture>> {
  const made = new Map<string, FrameTexture>();
  for (const [name, picture] of Object.entries(TEST_PICTURES)) {
    const texture = new FrameTexture(gl);
    if (picture.opaque) {
      const frame = frameOf(name);
      await texture.fill(frame, path);
      frame.close();
    } else {
      // Pictures with alpha come as stills: by the driver, premultiplied.
      texture.fillWhole(
        await createImageBitmap(new ImageData(rgbaOf(picture), picture.width, picture.height), { premultiplyAlpha: 'premultiply' }),
      );
      if (texture.picture) texture.picture.opaque = false;
    }
    made.set(name, texture);
  }
  return made;
}

/** Draws plans with the real mixer and gives back RGBA, top row first. */
async function drawPlans(plans: PicturePlan[], raster: Raster, path: UploadPath): Promise<string[]> {
  const canvas = new OffscreenCanvas(raster.width, raster.height);
  const gl = canvas.getContext('webgl2', { alpha: false, antialias: false, preserveDrawingBuffer: true });
  if (!gl) throw new Error('no WebGL2');
  const known = await textures(gl, path);
  const mixer = new GlMixer(gl, (ref: TextureRef) => (ref.kind === 'source' ? (known.get(ref.id)?.picture ?? null) : null));
  const out = plans.map((plan) => {
    mixer.draw(plan, raster, { framebuffer: null, viewport: { x: 0, y: 0, ...raster }, flip: -1 });
    const upside = new Uint8Array(raster.width * raster.height * 4);
    gl.bindFramebuffer(gl.FRAMEBUFFER, null);
    gl.readPixels(0, 0, raster.width, raster.height, gl.RGBA, gl.UNSIGNED_BYTE, upside);
    const row = raster.width * 4;
    const data = new Uint8Array(upside.length);
    for (let y = 0; y < raster.height; y += 1) data.set(upside.subarray((raster.height - 1 - y) * row, (raster.height - y) * row), y * row);
    return toBase64(data);
  });
  const error = gl.getError();
  if (error !== gl.NO_ERROR) throw new Error(`WebGL error ${error}`);
  gl.getExtension('WEBGL_lose_context')?.loseContext();
  return out;
}

/** Draws plans with the software renderer, from frames and canvases, and gives back I420 bytes. */
async function drawPlansSoft(plans: PicturePlan[], raster: Raster): Promise<string[]> {
  const pictures = new Map<string, RefPicture>();
  for (const [name, picture] of Object.entries(TEST_PICTURES)) {
    const { width, height, opaque } = picture;
    const canvas = new OffscreenCanvas(width, height);
    canvas.getContext('2d', { willReadFrequently: true })?.putImageData(new ImageData(rgbaOf(picture), width, height), 0, 0);
    pictures.set(name, { image: opaque ? frameOf(name) : canvas, width, height, opaque, version: name });
  }
  const renderer = new SoftRenderer(raster, (ref) => (ref.kind === 'source' ? (pictures.get(ref.id) ?? null) : null));
  const out: string[] = [];
  for (const plan of plans) {
    const frame = await renderer.programme(plan, raster, 0, 40_000);
    const bytes = new Uint8Array(frame.allocationSize());
    await frame.copyTo(bytes);
    frame.close();
    out.push(toBase64(bytes));
  }
  for (const { image } of pictures.values()) if ('close' in image) image.close();
  return out;
}

/** Draws outputs with a real renderer, from frames, and gives back RGBA of the frames that leave. */
async function drawOutputs(jobs: OutputJob[], how: 'gl' | 'soft'): Promise<string[]> {
  const pictures = new Map<string, RefPicture>();
  for (const [name, { width, height, opaque }] of Object.entries(TEST_PICTURES))
    if (opaque) pictures.set(name, { image: frameOf(name), width, height, opaque, version: name });
  const lookup: PictureLookup = (ref) => (ref.kind === 'source' ? (pictures.get(ref.id) ?? null) : null);
  const raster = { width: 64, height: 36 };
  const canvas = new OffscreenCanvas(raster.width, raster.height);
  const gl = how === 'gl' ? canvas.getContext('webgl2', { alpha: false, antialias: false }) : null;
  const renderer = gl ? new GlRenderer(gl, lookup, 'planes') : new SoftRenderer(raster, lookup);
  const out: string[] = [];
  for (const job of jobs) {
    const frame = await renderer.output(job, 0, 40_000);
    const bytes = new Uint8Array(frame.allocationSize({ format: 'RGBA' }));
    await frame.copyTo(bytes, { format: 'RGBA' });
    if (frame.displayWidth !== job.size.width || frame.displayHeight !== job.size.height) throw new Error('another size');
    frame.close();
    out.push(toBase64(bytes));
  }
  for (const { image } of pictures.values()) if ('close' in image) image.close();
  const error = gl?.getError() ?? 0;
  if (gl && error !== gl.NO_ERROR) throw new Error(`WebGL error ${error}`);
  gl?.getExtension('WEBGL_lose_context')?.loseContext();
  return out;
}

/** Imports files one after another, and says what became of each; `changed` counts the shows in the list after it. */
async function importAll(files: string[]): Promise<{ outcome: string; shows: number }[]> {
  const out: { outcome: string; shows: number }[] = [];
  for (const file of files) {
    const outcome = await importShow(new Blob([fromBase64(file)])).then(
      () => 'imported',
      (error: unknown) => (error instanceof ShowError ? `refused: ${error.message}` : `broke: ${String(error)}`),
    );
    out.push({ outcome, shows: (await listShows()).length });
  }
  return out;
}

const harness = {
  renderOffline,
  readStrips,
  importAll,
  drawPlans,
  drawPlansSoft,
  drawOutputs,
  analyseFile,
  makeClip,
  makeTransparentClip,
  benchMixer,
  benchAnimation,
  benchGraphic,
  benchPictures,
  benchWindows,
  benchAreas,
  drawGraphic,
  measureGraphic,
};
export type Harness = typeof harness;

declare global {
  interface Window {
    harness: Harness;
  }
}
window.harness = harness;
