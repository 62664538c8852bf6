/** Draws paints: every element with its fill, stroke, crop, mask and effects, at any scale. */
import { reach, turnMatrix } from '#core/graphics/bounds';
import { type Element } from '#core/graphics/element';
import { type Inked, type Moment, type Paint } from '#core/graphics/paint';
import { after, inverseOf, isTurned, type Projection, projectionOf, projectPixels } from '#core/graphics/perspective';
import { drawText } from './draw-text';
import { type Images } from './images';
import { type Context, drawImage, fillWith, rgba, shapePath, strokeShape, within } from './surface';

/** Pixels that one paint may have: three pictures of 4K. */
const MOST_PIXELS = 25_000_000;

const contextOf = (canvas: OffscreenCanvas): Context => {
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('This browser gives no 2D canvas in a worker.');
  return context;
};

/** Layers used again and again for elements with effects. */
class Layers {
  private readonly free: OffscreenCanvas[] = [];

  take(width: number, height: number): { canvas: OffscreenCanvas; context: Context } {
    const canvas = this.free.pop() ?? new OffscreenCanvas(1, 1);
    canvas.width = width;
    canvas.height = height;
    return { canvas, context: contextOf(canvas) };
  }

  give(canvas: OffscreenCanvas): void {
    if (this.free.length < 4) this.free.push(canvas);
  }
}

const layers = new Layers();

/** Goes into the element's own box: origin at its top left, turned and skewed about its middle. */
function enter(context: Context, element: Element): void {
  const [a, b, c, d] = turnMatrix(element);
  const [cx, cy] = [element.x + element.width / 2, element.y + element.height / 2];
  context.transform(a, b, c, d, cx, cy);
  context.translate(-element.width / 2, -element.height / 2);
}

/** Pixels that a box may have which is seen in perspective. */
const MOST_TURNED = 6_000_000;

/** Finer than the picture, for what comes near. */
const FINER = 1.4;

/**
 * Draws into the box of an element on a layer of the paint's size: origin at the box's top left, turned and skewed about its middle. What is
 * turned in depth is drawn flat first, and seen in perspective then.
 */
function drawInBox(on: Context, element: Element, { bounds, raster }: Paint, scale: number, draw: (box: Context) => void): void {
  if (!isTurned(element)) {
    on.save();
    on.setTransform(scale, 0, 0, scale, -bounds.x * scale, -bounds.y * scale);
    enter(on, element);
    draw(on);
    on.restore();
    return;
  }
  const { left } = reach({ ...element, shadow: null, glow: null, reflection: null });
  const [width, height] = [element.width + 2 * left, element.height + 2 * left];
  const fine = Math.min(scale * FINER, Math.sqrt(MOST_TURNED / Math.max(1, width * height)));
  const { canvas: flat, context: box } = layers.take(Math.max(1, Math.ceil(width * fine)), Math.max(1, Math.ceil(height * fine)));
  box.setTransform(fine, 0, 0, fine, left * fine, left * fine);
  draw(box);
  const toBox = inverseOf(projectionOf(element, raster));
  if (toBox) {
    const toRaster: Projection = [1 / scale, 0, bounds.x, 0, 1 / scale, bounds.y, 0, 0, 1];
    const toFlat: Projection = [fine, 0, left * fine, 0, fine, left * fine, 0, 0, 1];
    const { width: w, height: h } = on.canvas;
    const pixels = projectPixels(box.getImageData(0, 0, flat.width, flat.height), after(toFlat, after(toBox, toRaster)), w, h);
    on.putImageData(new ImageData(pixels, w, h), 0, 0);
  }
  layers.give(flat);
}

/** Pixels at which an animation is drawn for its element. */
export const animationSize = ({ width, height }: Element, scale: number): [number, number] => [
  Math.max(1, Math.round(width * scale)),
  Math.max(1, Math.round(height * scale)),
];

function drawAnimation(context: Context, element: Element, at: NonNullable<Moment['animation']>, images: Images, scale: number): void {
  const { content } = element;
  const [width, height] = animationSize(element, scale);
  const pixels = content.kind === 'animation' ? images.animations.draw(content, at, width, height) : null;
  if (!pixels) return;
  const { canvas, context: on } = layers.take(width, height);
  on.putImageData(pixels, 0, 0);
  context.drawImage(canvas, 0, 0, element.width, element.height);
  layers.give(canvas);
}

/** The element itself: fill, picture, words and stroke, without effects. */
function drawBody(context: Context, { element, moment }: Inked, images: Images, scale: number): void {
  const { content, width, height } = element;
  if (content.kind === 'animation') {
    if (moment?.animation) drawAnimation(context, element, moment.animation, images, scale);
    return;
  }
  if (content.kind === 'text' || content.kind === 'clock') {
    drawText(context, element, moment?.text ?? (content.kind === 'text' ? content.text : ''), content.style, moment, images);
    return;
  }
  if (content.kind === 'image') {
    const image = images.get(content.assetId);
    if (element.fill.kind !== 'none')
      fillWith(context, element.fill, width, height, images, () => (shapePath(context, element), context.fill()));
    if (image)
      within(
        context,
        'inside',
        (on) => drawImage(on, image, width, height, content.fit),
        (on) => {
          shapePath(on, element);
          on.fill();
        },
      );
  } else if (content.kind !== 'line')
    fillWith(context, element.fill, width, height, images, () => (shapePath(context, element), context.fill()));
  strokeShape(context, element);
}

/** Takes away what the crop cuts, with a soft edge on each side. In the element's box. */
function cropBody(context: Context, { crop, width, height }: Element): void {
  if (!crop) return;
  const out = 4000;
  const side = (
    share: number,
    feather: number,
    length: number,
    from: (at: number) => [number, number, number, number],
    area: (at: number) => [number, number, number, number],
  ) => {
    if (share <= 0 && feather <= 0) return;
    const at = share * length;
    context.fillStyle = '#000';
    context.fillRect(...area(at));
    if (feather > 0) {
      const soft = context.createLinearGradient(...from(at));
      soft.addColorStop(0, 'rgb(0 0 0 / 1)');
      soft.addColorStop(1, 'rgb(0 0 0 / 0)');
      context.fillStyle = soft;
      context.fillRect(-out, -out, width + 2 * out, height + 2 * out);
    }
  };
  context.save();
  context.globalCompositeOperation = 'destination-out';
  side(
    crop.left,
    crop.featherLeft,
    width,
    (at) => [at, 0, at + crop.featherLeft, 0],
    (at) => [-out, -out, out + at, height + 2 * out],
  );
  side(
    crop.right,
    crop.featherRight,
    width,
    (at) => [width - at, 0, width - at - crop.featherRight, 0],
    (at) => [width - at, -out, out + at, height + 2 * out],
  );
  side(
    crop.top,
    crop.featherTop,
    height,
    (at) => [0, at, 0, at + crop.featherTop],
    (at) => [-out, -out, width + 2 * out, out + at],
  );
  side(
    crop.bottom,
    crop.featherBottom,
    height,
    (at) => [0, height - at, 0, height - at - crop.featherBottom],
    (at) => [-out, height - at, width + 2 * out, out + at],
  );
  context.restore();
}

/** The element as the crop leaves it, where stroke and corners follow the cropped edge. */
function followed(element: Element): Element {
  const { crop } = element;
  if (!crop?.follows) return element;
  const width = Math.max(0, element.width * (1 - crop.left - crop.right));
  const height = Math.max(0, element.height * (1 - crop.top - crop.bottom));
  return {
    ...element,
    x: element.x + element.width * crop.left,
    y: element.y + element.height * crop.top,
    width,
    height,
    crop: { ...crop, left: 0, top: 0, right: 0, bottom: 0 },
  };
}

const hasEffects = ({ element: e, mask, moment }: Inked): boolean =>
  mask !== null ||
  e.crop !== null ||
  (e.shadow !== null && e.shadow.opacity > 0) ||
  (e.glow !== null && e.glow.opacity > 0) ||
  (e.reflection !== null && e.reflection.height > 0) ||
  (moment?.blur ?? 0) > 0 ||
  isTurned(e) ||
  e.opacity < 1;

/** The shape of a body in one colour, made larger by `spread` pixels of the canvas. */
function silhouette(body: OffscreenCanvas, colour: string, opacity: number, spread: number): OffscreenCanvas {
  const { canvas, context } = layers.take(body.width, body.height);
  const around = spread > 0 ? 16 : 0;
  for (let i = 0; i < around; i += 1) {
    const a = (i / around) * 2 * Math.PI;
    context.drawImage(body, Math.cos(a) * spread, Math.sin(a) * spread);
  }
  context.drawImage(body, 0, 0);
  context.globalCompositeOperation = 'source-in';
  context.fillStyle = rgba(colour, opacity);
  context.fillRect(0, 0, canvas.width, canvas.height);
  return canvas;
}

function under(
  context: Context,
  body: OffscreenCanvas,
  colour: string,
  opacity: number,
  spread: number,
  blur: number,
  x: number,
  y: number,
): void {
  const shape = silhouette(body, colour, opacity, spread);
  context.save();
  if (blur > 0) context.filter = `blur(${blur / 2}px)`;
  context.drawImage(shape, x, y);
  context.restore();
  layers.give(shape);
}

/** Draws the body mirrored below its element, fading. Upright elements; turned ones mirror at the lower edge of their box. */
function reflect(context: Context, body: OffscreenCanvas, element: Element, scale: number, bounds: { x: number; y: number }): void {
  const { reflection } = element;
  if (!reflection || reflection.height <= 0 || reflection.opacity <= 0) return;
  const { canvas, context: on } = layers.take(body.width, body.height);
  const bottom = (element.y + element.height - bounds.y) * scale;
  const gap = reflection.gap * scale;
  const reach = Math.max(1, element.height * reflection.height * scale);
  on.save();
  on.translate(0, 2 * bottom + gap);
  on.scale(1, -1);
  on.drawImage(body, 0, 0);
  on.restore();
  on.globalCompositeOperation = 'destination-in';
  const fade = on.createLinearGradient(0, bottom + gap, 0, bottom + gap + reach);
  fade.addColorStop(0, `rgb(0 0 0 / ${reflection.opacity})`);
  fade.addColorStop(1, 'rgb(0 0 0 / 0)');
  on.fillStyle = fade;
  on.fillRect(0, 0, canvas.width, canvas.height);
  on.clearRect(0, 0, canvas.width, bottom + gap);
  context.drawImage(canvas, 0, 0);
  layers.give(canvas);
}

/** One element on a context whose units are pixels of the graphic's raster from the corner of `bounds`. */
function drawInked(context: Context, inked: Inked, paint: Paint, scale: number, images: Images): void {
  const element = followed(inked.element);
  const shown = { ...inked, element };
  const { bounds } = paint;
  if (!hasEffects(shown)) {
    context.save();
    enter(context, element);
    drawBody(context, shown, images, scale);
    context.restore();
    return;
  }
  const { canvas: target } = context;
  const { canvas: body, context: on } = layers.take(target.width, target.height);
  drawInBox(on, element, paint, scale, (box) => {
    drawBody(box, shown, images, scale);
    cropBody(box, element);
  });
  if (inked.mask && inked.element.mask) {
    const { canvas: cover, context: m } = layers.take(target.width, target.height);
    const mask = { ...inked.mask, opacity: 1 };
    drawInBox(m, mask, paint, scale, (box) => drawBody(box, { element: mask, mask: null, moment: null }, images, scale));
    on.save();
    on.resetTransform();
    on.globalCompositeOperation = inked.element.mask.inside ? 'destination-in' : 'destination-out';
    on.drawImage(cover, 0, 0);
    on.restore();
    layers.give(cover);
  }
  context.save();
  context.resetTransform();
  context.globalAlpha = element.opacity;
  const { shadow, glow } = element;
  const blur = inked.moment?.blur ?? 0;
  if (shadow && shadow.opacity > 0)
    under(context, body, shadow.colour, shadow.opacity, shadow.spread * scale, shadow.blur * scale, shadow.x * scale, shadow.y * scale);
  if (glow && glow.opacity > 0) under(context, body, glow.colour, glow.opacity, glow.blur * scale * 0.2, glow.blur * scale, 0, 0);
  reflect(context, body, element, scale, bounds);
  if (blur > 0) context.filter = `blur(${blur * scale}px)`;
  context.drawImage(body, 0, 0);
  context.restore();
  layers.give(body);
}

/** Draws a paint into `width` × `height` pixels, and returns its canvas; it is used again by the next call. */
export function drawPaint(paint: Paint, width: number, height: number, images: Images, canvas: OffscreenCanvas): Context {
  if (width * height > MOST_PIXELS) throw new Error(`a picture of ${width} × ${height} is more than can be drawn`);
  canvas.width = width;
  canvas.height = height;
  const context = contextOf(canvas);
  const scale = width / paint.bounds.width;
  for (const inked of paint.inked) {
    context.setTransform(
      scale,
      0,
      0,
      height / paint.bounds.height,
      -paint.bounds.x * scale,
      (-paint.bounds.y * height) / paint.bounds.height,
    );
    drawInked(context, inked, paint, scale, images);
  }
  return context;
}

/** Pixels of a paint. An animation that is all of it needs no canvas: its player's pixels are those of the paint. */
export function paintPixels(paint: Paint, width: number, height: number, images: Images, canvas: OffscreenCanvas): ImageData {
  const [only] = paint.inked;
  if (only && paint.inked.length === 1 && only.element.content.kind === 'animation' && only.moment?.animation && !hasEffects(only)) {
    const { element } = only;
    const { bounds } = paint;
    const [w, h] = animationSize(element, width / bounds.width);
    const whole = element.x === bounds.x && element.y === bounds.y && w === width && h === height;
    if (whole && isUpright(element)) {
      const pixels = images.animations.draw(only.element.content, only.moment.animation, w, h);
      if (pixels) return pixels;
    }
  }
  return drawPaint(paint, width, height, images, canvas).getImageData(0, 0, width, height);
}

const isUpright = ({ rotation, skewX, skewY, flipX, flipY }: Element): boolean =>
  rotation % 360 === 0 && skewX === 0 && skewY === 0 && !flipX && !flipY;
