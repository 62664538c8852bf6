/** Shapes and fills of elements on a 2D context, in the element's own box: origin at its top left, before it is turned. */
import { type Element } from '#core/graphics/element';
import { type Fill, type GradientFill, type ImageFit } from '#core/graphics/fill';
import { gradientLine, spreadStops } from '#core/graphics/gradient';
import { type Images } from './images';

export type Context = OffscreenCanvasRenderingContext2D;

/** `#rrggbb` with an opacity, as canvas takes it. */
export const rgba = (colour: string, opacity: number): string => {
  const part = (i: number) => parseInt(colour.slice(1 + 2 * i, 3 + 2 * i), 16);
  return `rgb(${part(0)} ${part(1)} ${part(2)} / ${opacity})`;
};

/** The outline of a shape, made smaller by `inset` on each side. */
export function shapePath(context: Context, { content, width, height, corners }: Element, inset = 0): void {
  const [w, h] = [Math.max(0, width - 2 * inset), Math.max(0, height - 2 * inset)];
  context.beginPath();
  if (content.kind === 'ellipse') context.ellipse(width / 2, height / 2, w / 2, h / 2, 0, 0, 2 * Math.PI);
  else if (content.kind === 'polygon') {
    for (let i = 0; i < content.sides; i += 1) {
      const a = (i / content.sides) * 2 * Math.PI - Math.PI / 2;
      context.lineTo(width / 2 + (Math.cos(a) * w) / 2, height / 2 + (Math.sin(a) * h) / 2);
    }
    context.closePath();
  } else if (content.kind === 'line') {
    context.moveTo(0, 0);
    context.lineTo(width, height);
  } else {
    const most = Math.min(w, h) / 2;
    // A sharp corner stays sharp on the way out.
    const radius = (r: number) => (r <= 0 ? 0 : Math.max(0, Math.min(most, r - inset)));
    context.roundRect(inset, inset, w, h, [corners.topLeft, corners.topRight, corners.bottomRight, corners.bottomLeft].map(radius));
  }
}

function gradient(context: Context, fill: GradientFill, width: number, height: number): CanvasGradient {
  let made: CanvasGradient;
  if (fill.kind === 'linear') {
    const { x0, y0, x1, y1 } = gradientLine(width, height, fill.angle);
    made = context.createLinearGradient(x0, y0, x1, y1);
  } else
    made = context.createRadialGradient(width / 2, height / 2, 0, width / 2, height / 2, Math.max(0.01, Math.hypot(width, height) / 2));
  for (const stop of spreadStops(fill)) made.addColorStop(Math.min(1, Math.max(0, stop.at)), rgba(stop.colour, stop.opacity));
  return made;
}

const layer = new OffscreenCanvas(1, 1);

/**
 * Draws what `draw` draws, just inside of what `cover` covers or just outside of it, with soft edges: what a browser clips has hard ones. Both
 * get a context with the place of this one.
 */
export function within(context: Context, side: 'inside' | 'outside', draw: (on: Context) => void, cover: (on: Context) => void): void {
  layer.width = context.canvas.width;
  layer.height = context.canvas.height;
  const on = layer.getContext('2d', { willReadFrequently: true });
  if (!on) return;
  on.setTransform(context.getTransform());
  on.save();
  draw(on);
  on.restore();
  on.globalCompositeOperation = side === 'inside' ? 'destination-in' : 'destination-out';
  on.fillStyle = '#000';
  cover(on);
  context.save();
  context.resetTransform();
  context.drawImage(layer, 0, 0);
  context.restore();
}

/** Draws an image into a box; what would reach out of the box is left out. */
export function drawImage(context: Context, image: ImageBitmap, width: number, height: number, fit: ImageFit): void {
  context.imageSmoothingQuality = 'high';
  if (fit === 'tile') {
    const pattern = context.createPattern(image, 'repeat');
    if (pattern) {
      context.fillStyle = pattern;
      context.fillRect(0, 0, width, height);
    }
  } else if (fit === 'fill') context.drawImage(image, 0, 0, width, height);
  else if (fit === 'contain') {
    const scale = Math.min(width / image.width, height / image.height);
    const [w, h] = [image.width * scale, image.height * scale];
    context.drawImage(image, (width - w) / 2, (height - h) / 2, w, h);
  } else {
    const scale = Math.max(width / image.width, height / image.height);
    const [w, h] = [width / scale, height / scale];
    context.drawImage(image, (image.width - w) / 2, (image.height - h) / 2, w, h, 0, 0, width, height);
  }
}

/** Fills what `cover` draws: with a style where there is one, else through a layer of its own. */
export function fillWith(context: Context, fill: Fill, width: number, height: number, images: Images, cover: () => void): void {
  if (fill.kind === 'none') return;
  if (fill.kind === 'colour') {
    context.fillStyle = rgba(fill.colour, fill.opacity);
    cover();
    return;
  }
  if (fill.kind === 'linear' || fill.kind === 'radial') {
    context.fillStyle = gradient(context, fill, width, height);
    cover();
    return;
  }
  if (fill.kind !== 'picture') return;
  const image = images.get(fill.assetId);
  if (!image) return;
  const tile = new OffscreenCanvas(Math.max(1, Math.ceil(width)), Math.max(1, Math.ceil(height)));
  const on = tile.getContext('2d');
  if (!on) return;
  drawImage(on, image, width, height, fill.fit);
  const pattern = context.createPattern(tile, 'no-repeat');
  if (!pattern) return;
  context.save();
  context.globalAlpha *= fill.opacity;
  context.fillStyle = pattern;
  cover();
  context.restore();
}

/** Draws the outline of an element inside, on, or outside of its edge. */
export function strokeShape(context: Context, element: Element): void {
  const { stroke, content } = element;
  if (stroke.width <= 0 || stroke.opacity <= 0) return;
  const { place } = stroke;
  context.save();
  context.strokeStyle = rgba(stroke.colour, stroke.opacity);
  dashOf(context, element);
  // Corners are as sharp as the shape's own.
  context.lineJoin = 'miter';
  if (content.kind === 'line' || place === 'centre' || stroke.dash !== 'solid') {
    const half = stroke.width / 2;
    context.lineWidth = stroke.width;
    shapePath(context, element, content.kind === 'line' || place === 'centre' ? 0 : place === 'inside' ? half : -half);
  } else {
    // Twice as wide on the edge itself, and just the half of it that is wanted: right for every shape.
    const { strokeStyle } = context;
    within(
      context,
      place,
      (on) => {
        Object.assign(on, { strokeStyle, lineJoin: 'miter', lineWidth: stroke.width * 2 });
        shapePath(on, element);
        on.stroke();
      },
      (on) => {
        shapePath(on, element);
        on.fill();
      },
    );
    context.restore();
    return;
  }
  context.stroke();
  context.restore();
}

/** Sets the dash of an element's stroke. */
export function dashOf(context: Context, { stroke }: Element): void {
  context.lineCap = stroke.dash === 'dotted' ? 'round' : 'butt';
  context.lineJoin = 'round';
  context.setLineDash(
    stroke.dash === 'dashed' ? [stroke.width * 3, stroke.width * 2] : stroke.dash === 'dotted' ? [0.01, stroke.width * 2] : [],
  );
}
