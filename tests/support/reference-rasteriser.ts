/** A plain rasteriser of picture plans, pixel by pixel from core's formulas: what both mixers are held against. */
import { type DrawItem, type KeyPlan, type Mix, placementOf, type PicturePlan, type Scene, type TextureRef } from '#core/picture/draw';
import { gradePixel } from '#core/picture/grade';
import { chromaAlpha, chromaNumbers, insideGarbage, lumaAlpha, toRgb, toYcc, withoutSpill } from '#core/picture/key';
import { borderCoverage, edgeCoverage, roundedDistance, shadowCoverage, turnedBack } from '#core/picture/shape';
import { halvings } from '#core/picture/view';
import { wipeCoverage, wipeTurn } from '#core/picture/wipe';
import { zoomBlurTaps } from '#core/picture/zoom-blur';
import { type Raster } from '#core/show/raster';
import { type TestPicture } from './test-pictures';

type Colour = [number, number, number];
/** Straight alpha, 0 to 1. */
type Sample = [number, number, number, number];

export type PictureLookup = (ref: TextureRef) => TestPicture | null;

interface Context {
  lookup: PictureLookup;
  raster: Raster;
}

const parse = (hex: string): Colour => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16) / 255) as Colour;
const clamp = (v: number) => Math.min(1, Math.max(0, v));
const blend = (a: Colour, b: Colour, share: number): Colour =>
  [0, 1, 2].map((i) => (a[i] as number) * (1 - share) + (b[i] as number) * share) as Colour;

/** Bilinear sample at u, v (0 to 1), premultiplied, 0 to 1; edges repeat. */
function sample(picture: TestPicture, u: number, v: number): Sample {
  const x = u * picture.width - 0.5;
  const y = v * picture.height - 0.5;
  const [x0, y0] = [Math.floor(x), Math.floor(y)];
  const [fx, fy] = [x - x0, y - y0];
  const out: Sample = [0, 0, 0, 0];
  for (const [dx, dy, weight] of [
    [0, 0, (1 - fx) * (1 - fy)],
    [1, 0, fx * (1 - fy)],
    [0, 1, (1 - fx) * fy],
    [1, 1, fx * fy],
  ] as const) {
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

function sizeOf(ref: TextureRef, { lookup, raster }: Context): { width: number; height: number } | null {
  return ref.kind === 'scene' ? (ref.raster ?? raster) : lookup(ref);
}

const halves = new WeakMap<TestPicture, TestPicture>();

/** A picture halved so many times: the mean of each two by two pixels. */
function reduced(picture: TestPicture, times: number): TestPicture {
  if (times <= 0) return picture;
  const known = halves.get(picture);
  if (known) return reduced(known, times - 1);
  const { width, height } = picture;
  const half: TestPicture = {
    ...picture,
    width: (width + 1) >> 1,
    height: (height + 1) >> 1,
    at: (x, y) => {
      const four = [0, 1, 2, 3].map((i) => picture.at(Math.min(width - 1, 2 * x + (i & 1)), Math.min(height - 1, 2 * y + (i >> 1))));
      return [0, 1, 2, 3].map((c) => four.reduce((sum, p) => sum + (p[c] as number), 0) / 4) as [number, number, number, number];
    },
  };
  halves.set(picture, half);
  return reduced(half, times - 1);
}

/** Straight colour and alpha of a reference at u, v of its picture, halved so many times. */
function textureAt(ref: TextureRef, u: number, v: number, context: Context, times = 0): Sample | null {
  if (ref.kind === 'scene') {
    const own = { ...context, raster: ref.raster ?? context.raster };
    if (times > 0) return sceneHalved(ref.scene, u, v, own, times);
    return [...sceneAt(ref.scene, own, u * own.raster.width, v * own.raster.height), 1];
  }
  const whole = context.lookup(ref);
  if (!whole) return null;
  const [r, g, b, a] = sample(reduced(whole, times), u, v);
  return a <= 0 ? [0, 0, 0, 0] : [r / a, g / a, b / a, a];
}

/** A scene as a picture of its own, halved. */
const drawnScenes = new WeakMap<Scene, TestPicture>();
function sceneHalved(scene: Scene, u: number, v: number, context: Context, times: number): Sample {
  let picture = drawnScenes.get(scene);
  if (!picture) {
    const { width, height } = context.raster;
    const pixels = Array.from(
      { length: width * height },
      (_, i) => sceneAt(scene, context, (i % width) + 0.5, Math.floor(i / width) + 0.5).map((c) => c * 255) as Colour,
    );
    picture = { width, height, layout: 'rgba', opaque: true, at: (x, y) => [...(pixels[y * width + x] as Colour), 255] };
    drawnScenes.set(scene, picture);
  }
  return sample(reduced(picture, times), u, v);
}

/** A keyed colour: straight colour and alpha. */
function keyedColour(key: KeyPlan, [r, g, b, a]: Sample, u: number, v: number, context: Context): Sample {
  const [y, cb, cr] = toYcc(r, g, b);
  if (key.kind === 'chroma') {
    const numbers = chromaNumbers(key);
    const stays = insideGarbage(u, v, key) ? chromaAlpha(cb, cr, numbers) : 0;
    const [pb, pr] = withoutSpill(cb, cr, numbers);
    return [...toRgb([y, pb, pr]), a * stays];
  }
  if (key.kind === 'luma') return [r, g, b, a * lumaAlpha(y, key)];
  const second = textureAt(key.texture, u, v, context);
  if (!second) return [r, g, b, a];
  const alpha = lumaAlpha(toYcc(second[0], second[1], second[2])[0], { clip: 0, gain: 1, invert: key.invert });
  const colour: Colour = key.premultiplied && alpha > 0 ? [clamp(r / alpha), clamp(g / alpha), clamp(b / alpha)] : [r, g, b];
  return [...colour, a * alpha];
}

/** `item` over `under` at the pixel centre (px, py). */
function over(under: Colour, item: DrawItem, context: Context, px: number, py: number): Colour {
  const size = sizeOf(item.texture, context);
  if (!size || item.opacity <= 0) return under;
  const { clip } = item;
  if (clip && (px < clip.x || py < clip.y || px >= clip.x + clip.width || py >= clip.y + clip.height)) return under;
  const seen = placementOf(item, size);
  const times = halvings(seen, size);
  const { target: r, window, mirror } = seen;
  const [hw, hh, radius, rotation] = [r.width / 2, r.height / 2, item.radius ?? 0, item.rotation ?? 0];
  let colour = under;
  const { shadow, border } = item;
  if (shadow && shadow.opacity > 0) {
    const p = turnedBack(px, py, { ...r, x: r.x + shadow.x, y: r.y + shadow.y }, rotation);
    // A shadow falls around the box, not into it: a keyed picture stands before what is behind it.
    const own = turnedBack(px, py, r, rotation);
    const outside = 1 - edgeCoverage(roundedDistance(own.x, own.y, hw, hh, radius));
    colour = blend(
      colour,
      [0, 0, 0],
      shadowCoverage(roundedDistance(p.x, p.y, hw, hh, radius), shadow.blur) * outside * shadow.opacity * item.opacity,
    );
  }
  const p = turnedBack(px, py, r, rotation);
  const distance = roundedDistance(p.x, p.y, hw, hh, radius);
  // Upright square corners end at the last pixel whose centre is inside; rounded and turned outlines are soft.
  const covered = radius > 0 || rotation !== 0 ? edgeCoverage(distance) : p.x >= -hw && p.x < hw && p.y >= -hh && p.y < hh ? 1 : 0;
  if (covered > 0) {
    const across = (p.x + hw) / r.width;
    const u = window.x + window.width * (mirror ? 1 - across : across);
    const v = window.y + (window.height * (p.y + hh)) / r.height;
    let picture = textureAt(item.texture, u, v, context, times);
    if (!picture) return under;
    if (item.grade) picture = [...toRgb(gradePixel(toYcc(picture[0], picture[1], picture[2]), item.grade)), picture[3]];
    if (item.key) picture = keyedColour(item.key, picture, u, v, context);
    if (item.matte) picture = [picture[3], picture[3], picture[3], 1];
    // Values outside of the gamut are held only here, so that a key sees the chroma that the correction made.
    colour = blend(colour, [clamp(picture[0]), clamp(picture[1]), clamp(picture[2])], picture[3] * covered * item.opacity);
  }
  if (border && border.width > 0)
    colour = blend(colour, parse(border.colour), borderCoverage(p.x, p.y, hw, hh, radius, border.width) * item.opacity);
  return colour;
}

const sceneAt = (items: Scene, context: Context, px: number, py: number): Colour =>
  items.reduce<Colour>((under, item) => over(under, item, context, px, py), [0, 0, 0]);

const toLight = (v: number) => clamp(v) ** 2.4;
const toSignal = (v: number) => clamp(v) ** (1 / 2.4);

function mixed(base: Scene, next: Scene, mix: Mix, context: Context, px: number, py: number): Colour {
  const { raster } = context;
  const at = (items: Scene, x: number, y: number) => sceneAt(items, context, x, y);
  const [a, b] = [at(base, px, py), at(next, px, py)];
  switch (mix.kind) {
    case 'dissolve':
      if (!mix.linear) return blend(a, b, mix.position);
      return blend(a.map(toLight) as Colour, b.map(toLight) as Colour, mix.position).map(toSignal) as Colour;
    case 'dip': {
      const colour = parse(mix.colour);
      return mix.position < 0.5 ? blend(a, colour, 2 * mix.position) : blend(b, colour, 2 - 2 * mix.position);
    }
    case 'wipe':
      return blend(
        a,
        b,
        wipeCoverage(
          mix.position,
          mix.softness,
          wipeTurn(mix.shape, mix.angle, px / raster.width, py / raster.height, raster.width, raster.height),
        ),
      );
    case 'luma': {
      const image = textureAt(mix.image, px / raster.width, py / raster.height, context);
      return image
        ? blend(a, b, wipeCoverage(mix.position, mix.softness, toYcc(image[0], image[1], image[2])[0]))
        : blend(a, b, mix.position);
    }
    case 'push':
    case 'slide': {
      const [dx, dy] = { left: [-1, 0], right: [1, 0], up: [0, -1], down: [0, 1] }[mix.direction] as [number, number];
      const even = (n: number) => Math.round(n / 2) * 2;
      const x = px - even(dx * raster.width * (mix.position - 1));
      const y = py - even(dy * raster.height * (mix.position - 1));
      if (x >= 0 && y >= 0 && x < raster.width && y < raster.height) return at(next, x, y);
      return mix.kind === 'slide' ? a : at(base, px - even(dx * raster.width * mix.position), py - even(dy * raster.height * mix.position));
    }
    case 'zoom':
      return zoomBlurTaps(mix.position).reduce<Colour>(
        (under, tap) => {
          const x = (px - raster.width / 2) / tap.scale + raster.width / 2;
          const y = (py - raster.height / 2) / tap.scale + raster.height / 2;
          return blend(under, at(tap.over ? next : base, x, y), tap.weight);
        },
        [0, 0, 0],
      );
  }
}

/** RGBA of the whole raster. */
export function rasterise(plan: PicturePlan, raster: Raster, lookup: PictureLookup): Uint8ClampedArray {
  const data = new Uint8ClampedArray(raster.width * raster.height * 4);
  const context = { lookup, raster };
  for (let y = 0; y < raster.height; y += 1) {
    for (let x = 0; x < raster.width; x += 1) {
      const [px, py] = [x + 0.5, y + 0.5];
      let colour = plan.mix && plan.over ? mixed(plan.base, plan.over, plan.mix, context, px, py) : sceneAt(plan.base, context, px, py);
      for (const item of plan.lanes) colour = over(colour, item, context, px, py);
      colour = colour.map((c) => c * (1 - plan.black)) as Colour;
      for (const item of plan.top ?? []) colour = over(colour, item, context, px, py);
      data.set([...colour.map((c) => c * 255), 255], (y * raster.width + x) * 4);
    }
  }
  return data;
}
