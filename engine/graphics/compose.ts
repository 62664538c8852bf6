/** Puts the items of a graphic together on one canvas: small pictures, the drawing stage, trials. What is on air is composed by the mixers. */
import { type Paint } from '#core/graphics/paint';
import { type DrawItem } from '#core/picture/draw';
import { type Raster } from '#core/show/raster';
import { type Images } from './images';
import { drawPaint } from './painter';

/** A live picture stands as a plain pane here, or as a hole to see it through: its own pictures are the mixer's. */
function drawPane(context: OffscreenCanvasRenderingContext2D, item: DrawItem, scale: number, hole: boolean): void {
  const { x, y, width, height } = item.target;
  context.translate((x + width / 2) * scale, (y + height / 2) * scale);
  context.rotate(((item.rotation ?? 0) * Math.PI) / 180);
  context.translate(-(x + width / 2) * scale, -(y + height / 2) * scale);
  context.fillStyle = '#1b2a2e';
  if (hole) context.globalCompositeOperation = 'destination-out';
  context.beginPath();
  context.roundRect(x * scale, y * scale, width * scale, height * scale, (item.radius ?? 0) * scale);
  context.fill();
  context.globalCompositeOperation = 'source-over';
  if (hole && !item.border) return;
  context.strokeStyle = item.border?.colour ?? '#5aa9c9';
  context.lineWidth = item.border ? item.border.width * scale : 1;
  context.stroke();
}

/** Pixels that a paint is drawn in, where `scale` is that of the picture: what is on its way from one size to another keeps its own. */
export function paintSize({ bounds }: Paint, { scaled, target }: DrawItem, scale: number): [number, number] {
  const sharp = scale * (scaled ? 1 : target.width / bounds.width);
  return [Math.max(1, Math.round(bounds.width * sharp)), Math.max(1, Math.round(bounds.height * sharp))];
}

/** Draws items, whose coordinates are those of `raster`, into `width` × `height` pixels; what is not covered stays clear. */
export function composeItems(
  items: readonly DrawItem[],
  raster: Raster,
  width: number,
  height: number,
  images: Images,
  holes: boolean,
): OffscreenCanvas {
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d');
  if (!context) throw new Error('This browser gives no 2D canvas in a worker.');
  const scale = width / raster.width;
  const layer = new OffscreenCanvas(1, 1);
  for (const item of items) {
    context.save();
    if (item.clip) {
      context.beginPath();
      context.rect(item.clip.x * scale, item.clip.y * scale, item.clip.width * scale, item.clip.height * scale);
      context.clip();
    }
    context.globalAlpha = item.opacity;
    const { x, y, width: w, height: h } = item.target;
    if (item.texture.kind === 'paint') {
      const { paint } = item.texture;
      drawPaint(paint, ...paintSize(paint, item, scale), images, layer);
      context.drawImage(layer, x * scale, y * scale, w * scale, h * scale);
    } else drawPane(context, item, scale, holes);
    context.restore();
  }
  return canvas;
}
