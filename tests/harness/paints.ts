/** Graphics drawn by the painter itself, as pixels. */
import { type Filled } from '#core/graphics/air';
import { growingOf, type Sizes } from '#core/graphics/grow';
import { paintWhole } from '#core/graphics/paint';
import { drawnElements, withValues } from '#core/graphics/values';
import { Images } from '#engine/graphics/images';
import { drawPaint } from '#engine/graphics/painter';
import { loadAll, sizesOf } from '#engine/graphics/type';
import { toBase64 } from './base64';

const images = new Images();
const canvas = new OffscreenCanvas(1, 1);

/** Sizes of the texts that grow in a filled graphic. */
export const measureGraphic = ({ graphic, values }: Filled): Promise<Sizes> => sizesOf(growingOf(withValues(graphic, values)));

/** RGBA of a filled graphic at rest, top row first, `scale` pixels for one of its raster. */
export async function drawGraphic({ graphic, values }: Filled, sizes: Sizes = {}, scale = 1): Promise<string> {
  const drawn = drawnElements({ graphic, values }, sizes);
  for (const { element } of drawn)
    if (element.content.kind === 'text') await loadAll(element.content.style, element.content.accents, element.content.text);
  const inked = drawn.map(({ element, mask }) => ({ element, mask, moment: null }));
  const [width, height] = [graphic.raster.width * scale, graphic.raster.height * scale];
  const context = drawPaint(paintWhole(inked, drawn, graphic.raster), width, height, images, canvas);
  return toBase64(new Uint8Array(context.getImageData(0, 0, width, height).data));
}
