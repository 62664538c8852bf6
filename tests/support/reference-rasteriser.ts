/** Draws a picture plan pixel by pixel in plain TypeScript: what the WebGL2 mixer is held against. */
import { containRect, type DrawItem, type Mix, type PicturePlan, type Rect, type Scene, type TextureRef, wipeCoverage } from '#core/picture/plan';
import { type Raster } from '#core/show/show';
import { type TestPicture } from './test-pictures';

type Colour = [number, number, number];

export type PictureLookup = (ref: TextureRef) => TestPicture | null;

/** Bilinear sample at u, v (0 to 1), premultiplied, 0 to 1; edges repeat. */
function sample(picture: TestPicture, u: number, v: number): [number, number, number, number] {
  const x = u * picture.width - 0.5;
  const y = v * picture.height - 0.5;
  const [x0, y0] = [Math.floor(x), Math.floor(y)];
  const [fx, fy] = [x - x0, y - y0];
  const out: [number, number, number, number] = [0, 0, 0, 0];
  for (const [dx, dy, weight] of [[0, 0, (1 - fx) * (1 - fy)], [1, 0, fx * (1 - fy)], [0, 1, (1 - fx) * fy], [1, 1, fx * fy]] as const) {
    const px = Math.min(picture.width - 1, Math.max(0, x0 + dx));
    const py = Math.min(picture.height - 1, Math.max(0, y0 + dy));
    const [r, g, b, a] = picture.at(px, py);
    const alpha = a / 255;
    out[0] += (r / 255) * alpha * weight;
    out[1] += (g / 255) * alpha * weight;
    out[2] += (b / 255) * alpha * weight;
    out[3] += alpha * weight;
  }
  return out;
}

function place(item: DrawItem, picture: TestPicture): Rect {
  return item.fit === 'contain' ? containRect(item.target, picture.width, picture.height) : item.target;
}

/** `item` over `under` at the pixel centre (px, py). */
function over(under: Colour, item: DrawItem, lookup: PictureLookup, px: number, py: number): Colour {
  const picture = lookup(item.texture);
  if (!picture) return under;
  const r = place(item, picture);
  const [u, v] = [(px - r.x) / r.width, (py - r.y) / r.height];
  if (u < 0 || u >= 1 || v < 0 || v >= 1) return under;
  const [red, green, blue, alpha] = sample(picture, u, v);
  const rest = 1 - alpha * item.opacity;
  return [red * item.opacity + under[0] * rest, green * item.opacity + under[1] * rest, blue * item.opacity + under[2] * rest];
}

const scene = (items: Scene, lookup: PictureLookup, px: number, py: number): Colour =>
  items.reduce<Colour>((under, item) => over(under, item, lookup, px, py), [0, 0, 0]);

const blend = (a: Colour, b: Colour, share: number): Colour => [0, 1, 2].map((i) => (a[i] as number) * (1 - share) + (b[i] as number) * share) as Colour;

const parse = (hex: string): Colour => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16) / 255) as Colour;

function mixed(base: Colour, next: Colour, mix: Mix, u: number, v: number): Colour {
  if (mix.kind === 'dissolve') return blend(base, next, mix.position);
  if (mix.kind === 'wipe') return blend(base, next, wipeCoverage(mix, u, v));
  const colour = parse(mix.colour);
  return mix.position < 0.5 ? blend(base, colour, 2 * mix.position) : blend(next, colour, 2 - 2 * mix.position);
}

/** RGBA of the whole raster. */
export function rasterise(plan: PicturePlan, raster: Raster, lookup: PictureLookup): Uint8ClampedArray {
  const data = new Uint8ClampedArray(raster.width * raster.height * 4);
  for (let y = 0; y < raster.height; y += 1) {
    for (let x = 0; x < raster.width; x += 1) {
      const [px, py] = [x + 0.5, y + 0.5];
      let colour = scene(plan.base, lookup, px, py);
      if (plan.mix && plan.over) colour = mixed(colour, scene(plan.over, lookup, px, py), plan.mix, px / raster.width, py / raster.height);
      for (const item of plan.lanes) colour = over(colour, item, lookup, px, py);
      data.set([...colour.map((c) => c * (1 - plan.black) * 255), 255], (y * raster.width + x) * 4);
    }
  }
  return data;
}
