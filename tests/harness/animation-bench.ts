/** What an animation of many layers costs a frame: drawn by its player at the size of the picture, as the graphics worker draws it. */
import { animation, moving, plate } from '#standins/graphics/lottie-parts';
import { animationContent, animationGraphic } from '#core/graphics/animation/create';
import { readLottie } from '#core/graphics/animation/lottie';
import { paintOf } from '#core/graphics/paint';
import { Images } from '#engine/graphics/images';
import { animationSize, paintPixels } from '#engine/graphics/painter';
import { type Raster } from '#core/show/raster';

export interface AnimationFigures {
  /** Milliseconds of a frame while it moves: median and 95th percentile. */
  p50: number;
  p95: number;
  /** Milliseconds until its first frame is drawn, its player loaded before. */
  first: number;
}

export async function benchAnimation(layers: number, raster: Raster): Promise<AnimationFigures> {
  const doc = readLottie(
    animation(
      'Bench',
      Array.from({ length: layers }, (_, i) =>
        plate(`Plate ${i}`, [0, 0], [160, 60], i % 2 === 0 ? '#e2c48d' : '#5aa9c9', {
          position: moving([0, [100 + i * 8, 100 + (i % 12) * 40]], [80, [1100 - i * 8, 140 + (i % 10) * 50]]),
          rotation: moving([0, [0]], [80, [180]]),
          opacity: moving([0, [0]], [20, [90]]),
        }),
      ),
      90,
    ),
  );
  const images = new Images(() => Promise.resolve(new Blob([JSON.stringify(doc)])));
  const made = animationContent(doc, { assetId: 'bench', fileName: 'bench.json', rate: { num: 25, den: 1 }, problems: 0 });
  const element = animationGraphic('bench', 'Bench', made, raster).elements[0];
  if (element?.content.kind !== 'animation') throw new Error('no animation');
  const canvas = new OffscreenCanvas(1, 1);
  const times: number[] = [];
  for (let frame = 0; frame < 80; frame += 1) {
    const at = { frame, layers: null };
    const paint = paintOf([{ element, mask: null, moment: { animation: at } }], raster, { x: 0, y: 0, ...raster });
    await images.animations.load(element.content, at, ...animationSize(element, 1));
    const began = performance.now();
    paintPixels(paint, raster.width, raster.height, images, canvas);
    times.push(performance.now() - began);
  }
  const [first = NaN, ...rest] = times;
  const sorted = rest.sort((a, b) => a - b);
  return { first, p50: sorted[sorted.length >> 1] ?? NaN, p95: sorted[Math.floor(sorted.length * 0.95)] ?? NaN };
}
