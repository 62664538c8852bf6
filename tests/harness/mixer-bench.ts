/** The cost of a programme frame, beside the same pictures made with a 2D canvas, from the same decoded frames. */
import { type DrawItem, type PicturePlan } from '#core/picture/draw';
import { type Raster } from '#core/show/raster';
import { GlRenderer } from '#engine/picture/gl-renderer';
import { type PictureLookup, type Renderer } from '#engine/picture/renderer';
import { SoftRenderer } from '#engine/picture/soft-renderer';
import { chooseUploadPath } from '#engine/picture/upload-trial';

type Scene = 'full' | 'dissolve' | 'boxes';

/** Frames as a decoder gives them: encoded and decoded again, different from round to round. */
export async function decodedFrames({ width, height }: Raster, count: number): Promise<VideoFrame[]> {
  const frames: VideoFrame[] = [];
  const decoder = new VideoDecoder({ output: (frame) => frames.push(frame), error: (e) => console.error(e) });
  const encoder = new VideoEncoder({
    output: (chunk, meta) => {
      if (meta?.decoderConfig) decoder.configure(meta.decoderConfig);
      decoder.decode(chunk);
    },
    error: (e) => console.error(e),
  });
  encoder.configure({ codec: 'vp8', width, height, bitrate: 2e6, framerate: 25, latencyMode: 'realtime' });
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { alpha: false });
  for (let i = 0; i < count; i += 1) {
    for (let k = 0; k < 24 && context; k += 1) {
      context.fillStyle = `hsl(${(i * 37 + k * 15) % 360} 60% ${30 + k}%)`;
      context.fillRect((k * width) / 24, ((i * 13 + k * 29) % height) / 2, width / 12, height);
    }
    const frame = new VideoFrame(canvas, { timestamp: i * 40_000, alpha: 'discard' });
    encoder.encode(frame, { keyFrame: i === 0 });
    frame.close();
  }
  await encoder.flush();
  await decoder.flush();
  encoder.close();
  return frames;
}

const item = (id: string, x: number, y: number, width: number, height: number, opacity = 1): DrawItem => ({
  texture: { kind: 'source', id },
  target: { x, y, width, height },
  fit: 'fill',
  opacity,
});

function planOf(scene: Scene, { width: w, height: h }: Raster): PicturePlan {
  const plain: PicturePlan = { base: [item('0', 0, 0, w, h)], over: null, mix: null, lanes: [], black: 0 };
  if (scene === 'full') return plain;
  if (scene === 'dissolve') return { ...plain, over: [item('1', 0, 0, w, h)], mix: { kind: 'dissolve', position: 0.5 } };
  const boxes = [1, 2, 3, 4].map((n, i) => item(String(n), w * (0.05 + 0.46 * (i % 2)), h * (0.05 + 0.46 * (i >> 1)), w * 0.44, h * 0.44));
  return { ...plain, base: [...plain.base, ...boxes], lanes: [item('plate', w * 0.05, h * 0.785, w * 0.52, h * 0.165, 0.9)] };
}

function plate({ width, height }: Raster): OffscreenCanvas {
  const canvas = new OffscreenCanvas(Math.round(width * 0.52), Math.round(height * 0.165));
  const context = canvas.getContext('2d');
  if (context) {
    context.fillStyle = 'rgba(13,21,23,0.85)';
    context.fillRect(0, 0, canvas.width, canvas.height);
    context.fillStyle = '#fff';
    context.fillRect(20, 10, canvas.width / 2, canvas.height / 3);
  }
  return canvas;
}

export const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] ?? NaN;

/** Medians, in milliseconds, of a programme frame made in each way. */
export interface RaceFigures {
  soft: number;
  gl: number;
  canvas2d: number;
}

/** Runs the three ways in turn, round by round; the first five warm up. */
export async function race(
  rounds: number,
  begin: (round: number) => void,
  ways: Record<keyof RaceFigures, () => Promise<number> | number>,
): Promise<RaceFigures> {
  const times: Record<keyof RaceFigures, number[]> = { soft: [], gl: [], canvas2d: [] };
  for (let round = 0; round < rounds + 5; round += 1) {
    begin(round);
    for (const way of ['soft', 'gl', 'canvas2d'] as const) {
      const took = await ways[way]();
      if (round >= 5) times[way].push(took);
    }
  }
  return { soft: median(times.soft), gl: median(times.gl), canvas2d: median(times.canvas2d) };
}

export interface MixerFigures extends RaceFigures {
  scene: Scene;
  raster: string;
}

/** Draws it with each way in turn, frame by frame, in one run. */
export async function benchMixer(raster: Raster, scene: Scene, rounds: number): Promise<MixerFigures> {
  const frames = await decodedFrames(raster, 12);
  const gl = new OffscreenCanvas(raster.width, raster.height).getContext('webgl2', { alpha: false, antialias: false });
  const flat = new OffscreenCanvas(raster.width, raster.height).getContext('2d', { alpha: false });
  if (!gl || !flat) throw new Error('no context');
  const cardPicture = plate(raster);
  const plan = planOf(scene, raster);
  let round = 0;
  const source = (n: number) => frames[(round + n * 2) % frames.length] as VideoFrame;
  const lookup: PictureLookup = (ref) => {
    if (ref.kind !== 'source') return null;
    if (ref.id === 'plate')
      return { image: cardPicture, width: cardPicture.width, height: cardPicture.height, opaque: false, version: 'plate' };
    return { image: source(Number(ref.id)), width: raster.width, height: raster.height, opaque: true, version: `${round} ${ref.id}` };
  };
  const renderers: Record<'soft' | 'gl', Renderer> = {
    soft: new SoftRenderer(raster, lookup),
    gl: new GlRenderer(gl, lookup, await chooseUploadPath(gl)),
  };
  const withRenderer = async (renderer: Renderer) => {
    const started = performance.now();
    (await renderer.programme(plan, raster, round, 40_000)).close();
    return performance.now() - started;
  };
  const withCanvas = () => {
    const started = performance.now();
    const draw = (d: DrawItem) => {
      flat.globalAlpha = d.opacity;
      const id = d.texture.kind === 'source' ? d.texture.id : '';
      flat.drawImage(id === 'plate' ? cardPicture : source(Number(id)), d.target.x, d.target.y, d.target.width, d.target.height);
    };
    plan.base.forEach(draw);
    plan.over?.forEach((d) => draw({ ...d, opacity: plan.mix?.position ?? 1 }));
    plan.lanes.forEach(draw);
    new VideoFrame(flat.canvas, { timestamp: round, alpha: 'discard' }).close();
    return performance.now() - started;
  };
  const figures = await race(
    rounds,
    (n) => {
      round = n;
    },
    { soft: () => withRenderer(renderers.soft), gl: () => withRenderer(renderers.gl), canvas2d: withCanvas },
  );
  frames.forEach((f) => f.close());
  gl.getExtension('WEBGL_lose_context')?.loseContext();
  return { scene, raster: `${raster.width}×${raster.height}`, ...figures };
}
