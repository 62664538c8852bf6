/** The graphics worker: draws paints as they are wanted, each when its fonts and images are there. At rest it does nothing. */
import { type Inked, type Paint } from '#core/graphics/paint';
import { causeOf } from '#core/schema/cause';
import { workerScope } from '../worker-scope';
import { Images } from './images';
import { composeItems, paintSize } from './compose';
import {
  type FromGraphics,
  type GlyphsMissing,
  type PaintWanted,
  type PictureMade,
  type PictureWanted,
  type SizesTold,
  type ToGraphics,
} from './messages';
import { animationSize, paintPixels } from './painter';
import { loadAll, loadFor, missingFont, missingGlyphs, sizesOf, tellFonts } from './type';

const images = new Images();
const canvas = new OffscreenCanvas(1, 1);

const assetsOf = ({ element, mask }: Inked): string[] =>
  [element, mask].flatMap((e) => {
    if (!e) return [];
    const own = e.content.kind === 'image' ? e.content.assetId : null;
    const fill = e.fill.kind === 'picture' ? e.fill.assetId : null;
    return [own, fill].filter((id): id is string => id !== null);
  });

/** Everything that a paint is drawn with. */
async function ready(paint: Paint, scale: number): Promise<void> {
  const wanted: Promise<unknown>[] = [];
  for (const inked of paint.inked) {
    const { content } = inked.element;
    if (content.kind === 'text') wanted.push(loadAll(content.style, content.accents, inked.moment?.text ?? content.text));
    if (content.kind === 'animation' && inked.moment?.animation)
      wanted.push(images.animations.load(content, inked.moment.animation, ...animationSize(inked.element, scale)));
    if (content.kind === 'clock') wanted.push(loadFor(content.style, inked.moment?.text ?? ''));
    for (const id of assetsOf(inked)) wanted.push(images.load(id));
  }
  await Promise.all(wanted);
}

/** Assets of a paint that could not be had. Asked after `ready`. */
const missingOf = (paint: Paint): string[] => [
  ...paint.inked.flatMap(({ element: { content } }) => (content.kind === 'animation' ? images.animations.missing(content) : [])),
  ...paint.inked.flatMap(assetsOf).filter((id) => images.get(id) === null),
  ...paint.inked.flatMap(({ element: { content } }) => ('style' in content ? missingFont(content.style.family) : [])),
];

async function paint(port: MessagePort, { paint: wanted, width, height }: PaintWanted): Promise<void> {
  const say = (message: FromGraphics, transfer: Transferable[] = []) => port.postMessage(message, transfer);
  try {
    await ready(wanted, width / wanted.bounds.width);
    const started = performance.now();
    const { data } = paintPixels(wanted, width, height, images, canvas);
    const pixels = data as Uint8ClampedArray<ArrayBuffer>;
    say({ type: 'painted', key: wanted.key, width, height, pixels, millis: performance.now() - started, missing: missingOf(wanted) }, [
      pixels.buffer,
    ]);
  } catch (error) {
    say({ type: 'failed', key: wanted.key, width, height, message: causeOf(error) });
  }
}

async function picture({ id, items, raster, width, height, holes }: PictureWanted): Promise<void> {
  let made: PictureMade;
  try {
    const scale = width / raster.width;
    await Promise.all(
      items.flatMap((item) => {
        if (item.texture.kind !== 'paint') return [];
        const { paint: wanted } = item.texture;
        return [ready(wanted, paintSize(wanted, item, scale)[0] / wanted.bounds.width)];
      }),
    );
    const image = composeItems(items, raster, width, height, images, holes).transferToImageBitmap();
    const missing = items.flatMap(({ texture }) => (texture.kind === 'paint' ? missingOf(texture.paint) : []));
    made = { type: 'picture', id, image, message: '', missing: [...new Set(missing)] };
  } catch (error) {
    made = { type: 'picture', id, image: null, message: causeOf(error), missing: [] };
  }
  workerScope.postMessage(made, made.image ? [made.image] : []);
}

function serve(port: MessagePort): void {
  port.onmessage = ({ data }: MessageEvent<ToGraphics>) => {
    if (data.type === 'paint') void paint(port, data);
  };
}

workerScope.onmessage = ({ data }: MessageEvent<ToGraphics>) => {
  if (data.type === 'port') serve(data.port);
  if (data.type === 'picture') void picture(data);
  if (data.type === 'glyphs')
    void missingGlyphs(data.text, data.style).then((missing) =>
      workerScope.postMessage({ type: 'glyphs', id: data.id, missing } satisfies GlyphsMissing),
    );
  if (data.type === 'sizes')
    void sizesOf(data.texts).then((sizes) => workerScope.postMessage({ type: 'sizes', id: data.id, sizes } satisfies SizesTold));
  if (data.type === 'fonts') tellFonts(data.fonts);
};
