/** Boxes with every look, a glide, and a chroma key: beside the same pictures made with a 2D canvas, from the same frames. */
import { type DrawItem, type PicturePlan, placementOf, plainPlan, type Scene } from '#core/picture/draw';
import { glide } from '#core/picture/glide';
import { type Raster } from '#core/show/raster';
import { GREEN_KEY } from '#core/layout/look';
import { starterBoxes } from '#core/layout/starters';
import { GlRenderer } from '#engine/picture/gl-renderer';
import { isFrame, type PictureLookup, type Renderer } from '#engine/picture/renderer';
import { SoftRenderer } from '#engine/picture/soft-renderer';
import { chooseUploadPath } from '#engine/picture/upload-trial';
import { decodedFrames, race, type RaceFigures } from './mixer-bench';

export type PictureScene = 'sixteen' | 'glide' | 'key';

const SOURCES = 4;

const look = { radius: 16, border: { width: 4, colour: '#e2c48d' }, shadow: { x: 6, y: 8, blur: 18, opacity: 0.6 } };

const source = (n: number) => ({ kind: 'source' as const, id: String(n % SOURCES) });

function sixteen({ width, height }: Raster): Scene {
  const boxes = Array.from({ length: 16 }, (_, i): DrawItem => ({
    texture: source(i + 1),
    target: {
      x: 30 + (i % 4) * (width / 4 - 8),
      y: 20 + Math.floor(i / 4) * (height / 4 - 4),
      width: width / 4 - 44,
      height: height / 4 - 36,
    },
    fit: 'cover',
    opacity: 1,
    ...look,
  }));
  return [{ texture: source(0), target: { x: 0, y: 0, width, height }, fit: 'cover', opacity: 1, layer: 'background' }, ...boxes];
}

function fourBoxes(raster: Raster, starter: 'four' | 'strip'): Scene {
  const rects = starterBoxes(starter, raster).slice(-4);
  const background: DrawItem = {
    texture: { kind: 'colour', colour: '#16405a' },
    target: { x: 0, y: 0, ...raster },
    fit: 'fill',
    opacity: 1,
    layer: 'background',
  };
  return [
    background,
    ...rects.map((target, i): DrawItem => ({ texture: source(i), sourceId: String(i), target, fit: 'cover', opacity: 1, ...look })),
  ];
}

function planOf(scene: PictureScene, raster: Raster, round: number): PicturePlan {
  if (scene === 'sixteen') return plainPlan(sixteen(raster));
  if (scene === 'glide') return plainPlan(glide(fourBoxes(raster, 'four'), fourBoxes(raster, 'strip'), 0.05 + ((round * 7) % 90) / 100));
  return plainPlan([
    { texture: { kind: 'colour', colour: '#16405a' }, target: { x: 0, y: 0, ...raster }, fit: 'fill', opacity: 1 },
    {
      texture: source(0),
      target: { x: 0, y: 0, ...raster },
      fit: 'fill',
      opacity: 1,
      key: { ...GREEN_KEY, similarity: 0.3, softness: 0.3, spill: 0.6 },
    },
  ]);
}

/** The same key by reading pixels back: the only way a 2D canvas has. */
function keyPixels(context: OffscreenCanvasRenderingContext2D, width: number, height: number): void {
  const image = context.getImageData(0, 0, width, height);
  const { data } = image;
  const [kr, kg, kb] = [31 / 255, 160 / 255, 74 / 255];
  const ky = 0.2126 * kr + 0.7152 * kg + 0.0722 * kb;
  const [kcb, kcr] = [(kb - ky) / 1.8556, (kr - ky) / 1.5748];
  for (let i = 0; i < data.length; i += 4) {
    const r = (data[i] as number) / 255,
      g = (data[i + 1] as number) / 255,
      b = (data[i + 2] as number) / 255;
    const y = 0.2126 * r + 0.7152 * g + 0.0722 * b;
    const cb = (b - y) / 1.8556 - kcb,
      cr = (r - y) / 1.5748 - kcr;
    data[i + 3] = 255 * Math.min(1, Math.max(0, (Math.sqrt(cb * cb + cr * cr) - 0.18) / 0.18));
  }
  context.putImageData(image, 0, 0);
}

export interface PictureFigures extends RaceFigures {
  scene: PictureScene;
  raster: string;
}

export async function benchPictures(raster: Raster, scene: PictureScene, rounds: number): Promise<PictureFigures> {
  const frames = await decodedFrames(raster, 12);
  const gl = new OffscreenCanvas(raster.width, raster.height).getContext('webgl2', { alpha: false, antialias: false });
  const flat = new OffscreenCanvas(raster.width, raster.height).getContext('2d', { alpha: false });
  const side = new OffscreenCanvas(raster.width, raster.height).getContext('2d', { willReadFrequently: true });
  const harbour = new OffscreenCanvas(16, 16);
  const paint = harbour.getContext('2d', { willReadFrequently: true });
  if (!gl || !flat || !side || !paint) throw new Error('no context');
  paint.fillStyle = '#16405a';
  paint.fillRect(0, 0, 16, 16);
  let round = 0;
  const lookup: PictureLookup = (ref) => {
    if (ref.kind === 'colour') return { image: harbour, width: 16, height: 16, opaque: true, version: ref.colour };
    if (ref.kind !== 'source') return null;
    const image = frames[(round + Number(ref.id) * 2) % frames.length] as VideoFrame;
    return { image, width: raster.width, height: raster.height, opaque: true, version: `${round} ${ref.id}` };
  };
  const renderers: Record<'soft' | 'gl', Renderer> = {
    soft: new SoftRenderer(raster, lookup),
    gl: new GlRenderer(gl, lookup, await chooseUploadPath(gl)),
  };
  const withRenderer = async (renderer: Renderer) => {
    const plan = planOf(scene, raster, round);
    const started = performance.now();
    (await renderer.programme(plan, raster, round, 40_000)).close();
    return performance.now() - started;
  };
  const drawBox = (item: DrawItem) => {
    const picture = lookup(item.texture);
    if (!picture) return;
    const { target: t, window: w } = placementOf(item, picture);
    flat.globalAlpha = item.opacity;
    const part: [number, number, number, number] = [
      w.x * picture.width,
      w.y * picture.height,
      w.width * picture.width,
      w.height * picture.height,
    ];
    if (!item.radius) {
      flat.drawImage(picture.image as OffscreenCanvas, ...part, t.x, t.y, t.width, t.height);
      return;
    }
    const outline = () => {
      flat.beginPath();
      flat.roundRect(t.x, t.y, t.width, t.height, item.radius);
    };
    flat.save();
    flat.shadowColor = `rgba(0,0,0,${item.shadow?.opacity ?? 0})`;
    flat.shadowBlur = item.shadow?.blur ?? 0;
    flat.shadowOffsetX = item.shadow?.x ?? 0;
    flat.shadowOffsetY = item.shadow?.y ?? 0;
    outline();
    flat.fill();
    flat.restore();
    flat.save();
    outline();
    flat.clip();
    flat.drawImage(picture.image as OffscreenCanvas, ...part, t.x, t.y, t.width, t.height);
    flat.lineWidth = 2 * (item.border?.width ?? 0);
    flat.strokeStyle = item.border?.colour ?? '#000';
    flat.stroke();
    flat.restore();
  };
  const withCanvas = () => {
    const plan = planOf(scene, raster, round);
    const started = performance.now();
    for (const item of plan.base) {
      if (!item.key) {
        drawBox(item);
        continue;
      }
      const picture = lookup(item.texture);
      if (picture && isFrame(picture.image)) side.drawImage(picture.image, 0, 0);
      keyPixels(side, raster.width, raster.height);
      flat.drawImage(side.canvas, 0, 0);
    }
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
