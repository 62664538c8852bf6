/** The finish of an output on Y′CbCr planes: see core/screens/finish.ts. Tables are worked out once and used for every frame. */
import { type AreaFinish, type OutputFinish, type Shade, shadesOf } from '../../screens/finish';
import { type Homography, inverse, pulled, squareTo } from '../../screens/homography';
import { type Rect } from '../../show/geometry';
import { type Gain } from '../../screens/surface';
import { type Planes } from './planes';

const BLACK = [16, 128, 128] as const;

/** Of every pixel of an area: where it comes from in a plane, as a pixel and weights in 1/16; −1 where it stays black. */
interface Warp {
  from: Int32Array;
  weights: Uint8Array;
}

interface Made {
  finish: AreaFinish;
  shades: readonly Shade[];
  luma: Warp | null;
  chroma: Warp | null;
}

const halved = ({ x, y, width, height }: Rect): Rect => {
  const [left, top] = [x >> 1, y >> 1];
  return { x: left, y: top, width: ((x + width + 1) >> 1) - left, height: ((y + height + 1) >> 1) - top };
};

/** For the plane whose pixels are 1/`k` of the picture's, `stride` wide. */
function warpOf(map: Homography, area: Rect, whole: Rect, k: 1 | 2, stride: number): Warp {
  const place = k === 1 ? area : halved(area);
  const from = new Int32Array(place.width * place.height).fill(-1);
  const weights = new Uint8Array(place.width * place.height * 2);
  const [a, b, c, d, e, f, g, h, i9] = map;
  for (let y = 0, i = 0; y < place.height; y += 1)
    for (let x = 0; x < place.width; x += 1, i += 1) {
      const [px, py] = [(place.x + x + 0.5) * k, (place.y + y + 0.5) * k];
      const w = g * px + h * py + i9;
      const [u, v] = [(a * px + b * py + c) / w, (d * px + e * py + f) / w];
      if (!(u >= 0 && u <= 1 && v >= 0 && v <= 1)) continue;
      const sx = Math.min(place.width - 1, Math.max(0, (whole.x + u * whole.width) / k - place.x - 0.5));
      const sy = Math.min(place.height - 1, Math.max(0, (whole.y + v * whole.height) / k - place.y - 0.5));
      const [left, top] = [Math.min(Math.floor(sx), Math.max(0, place.width - 2)), Math.min(Math.floor(sy), Math.max(0, place.height - 2))];
      from[i] = (place.y + top) * stride + place.x + left;
      weights[i * 2] = Math.round((sx - left) * 16);
      weights[i * 2 + 1] = Math.round((sy - top) * 16);
    }
  return { from, weights };
}

/** Bilinear; `copy` is the plane as it was. */
function warpPlane(plane: Uint8Array, copy: Uint8Array, stride: number, place: Rect, { from, weights }: Warp, black: number): void {
  for (let y = 0, i = 0; y < place.height; y += 1) {
    let to = (place.y + y) * stride + place.x;
    for (let x = 0; x < place.width; x += 1, i += 1, to += 1) {
      const at = from[i] as number;
      if (at < 0) {
        plane[to] = black;
        continue;
      }
      const [wx, wy] = [weights[i * 2] as number, weights[i * 2 + 1] as number];
      // A neighbour without weight may lie beyond the plane.
      const right = wx > 0 ? 1 : 0;
      const below = wy > 0 ? stride : 0;
      const upper = (copy[at] as number) * (16 - wx) + (copy[at + right] as number) * wx;
      const lower = (copy[at + below] as number) * (16 - wx) + (copy[at + below + right] as number) * wx;
      plane[to] = (upper * (16 - wy) + lower * wy + 128) >> 8;
    }
  }
}

/** R′G′B′ each times its gain, worked in Y′CbCr of BT.709. */
function gainPlanes({ y, u, v, width }: Planes, area: Rect, gain: Gain): void {
  const [kr, kg, kb] = [0.2126, 0.7152, 0.0722];
  const place = halved(area);
  const half = (width + 1) >> 1;
  const clip = (n: number) => Math.min(255, Math.max(0, Math.round(n)));
  for (let cy = place.y; cy < place.y + place.height; cy += 1)
    for (let cx = place.x; cx < place.x + place.width; cx += 1) {
      const c = cy * half + cx;
      const [cb, cr] = [((u[c] as number) - 128) / 224, ((v[c] as number) - 128) / 224];
      const [red, blue] = [2 * (1 - kr) * cr, 2 * (1 - kb) * cb];
      const green = -(kr * red + kb * blue) / kg;
      let mean = 0;
      let count = 0;
      // What colour adds to Y′ is the same for the pixels that share it.
      const added = kr * gain.red * red + kg * gain.green * green + kb * gain.blue * blue;
      const scale = kr * gain.red + kg * gain.green + kb * gain.blue;
      for (let dy = 0; dy < 2; dy += 1)
        for (let dx = 0; dx < 2; dx += 1) {
          const [px, py] = [cx * 2 + dx, cy * 2 + dy];
          if (px < area.x || py < area.y || px >= area.x + area.width || py >= area.y + area.height) continue;
          const at = py * width + px;
          const luma = ((y[at] as number) - 16) / 219;
          mean += luma;
          count += 1;
          y[at] = clip(16 + 219 * (luma * scale + added));
        }
      const luma = count > 0 ? mean / count : 0;
      const level = luma * scale + added;
      u[c] = clip(128 + 224 * ((gain.blue * (luma + blue) - level) / (2 * (1 - kb))));
      v[c] = clip(128 + 224 * ((gain.red * (luma + red) - level) / (2 * (1 - kr))));
    }
}

function shadePlanes({ y, u, v, width }: Planes, shade: Shade): void {
  const { x: left, y: top, width: w, height: h, stays, lift } = shade;
  for (let row = 0, i = 0; row < h; row += 1) {
    let at = (top + row) * width + left;
    for (let x = 0; x < w; x += 1, i += 1, at += 1) {
      const part = stays[i] as number;
      if (part < 255 || lift[i] !== 0) y[at] = 16 + (((y[at] as number) - 16) * part + 219 * (lift[i] as number) + 127) / 255;
    }
  }
  const half = (width + 1) >> 1;
  const place = halved(shade);
  for (let cy = place.y; cy < place.y + place.height; cy += 1)
    for (let cx = place.x; cx < place.x + place.width; cx += 1) {
      const x = Math.min(w - 1, Math.max(0, cx * 2 + 1 - left));
      const row = Math.min(h - 1, Math.max(0, cy * 2 + 1 - top));
      const part = stays[row * w + x] as number;
      if (part === 255) continue;
      const c = cy * half + cx;
      u[c] = 128 + Math.round((((u[c] as number) - 128) * part) / 255);
      v[c] = 128 + Math.round((((v[c] as number) - 128) * part) / 255);
    }
}

function blacken({ y, u, v, width, height }: Planes, mask: Rect): void {
  const left = Math.max(0, Math.round(mask.x));
  const top = Math.max(0, Math.round(mask.y));
  const [end, low] = [Math.min(width, Math.round(mask.x + mask.width)), Math.min(height, Math.round(mask.y + mask.height))];
  if (end <= left || low <= top) return;
  for (let row = top; row < low; row += 1) y.fill(BLACK[0], row * width + left, row * width + end);
  const half = (width + 1) >> 1;
  for (let row = (top + 1) >> 1; row < (low + 1) >> 1; row += 1)
    for (const plane of [u, v]) plane.fill(BLACK[1], row * half + ((left + 1) >> 1), row * half + ((end + 1) >> 1));
}

/** A finish with its tables. One object for one output: an area is warped through a copy that is kept. */
export class SoftFinish {
  private readonly areas: readonly Made[];
  private copy = new Uint8Array(0);

  constructor(finish: NonNullable<OutputFinish>, width: number) {
    this.areas = finish.map((one): Made => {
      const { area, corners } = one;
      const map = corners && inverse(squareTo(pulled(area, corners)));
      return {
        finish: one,
        shades: shadesOf(one),
        luma: map && warpOf(map, area, area, 1, width),
        chroma: map && warpOf(map, area, area, 2, (width + 1) >> 1),
      };
    });
  }

  /** Does it to planes of the size that it was made for. */
  apply(planes: Planes): void {
    const { y, u, v, width } = planes;
    for (const { finish, shades, luma, chroma } of this.areas) {
      if (luma && chroma) {
        if (this.copy.length < planes.bytes.length) this.copy = new Uint8Array(planes.bytes.length);
        this.copy.set(planes.bytes);
        const [sizeY, sizeU] = [y.length, u.length];
        const half = (width + 1) >> 1;
        warpPlane(y, this.copy.subarray(0, sizeY), width, finish.area, luma, BLACK[0]);
        warpPlane(u, this.copy.subarray(sizeY, sizeY + sizeU), half, halved(finish.area), chroma, BLACK[1]);
        warpPlane(v, this.copy.subarray(sizeY + sizeU, sizeY + 2 * sizeU), half, halved(finish.area), chroma, BLACK[2]);
      }
      if (finish.gain) gainPlanes(planes, finish.area, finish.gain);
      for (const shade of shades) shadePlanes(planes, shade);
      for (const mask of finish.masks) blacken(planes, mask);
    }
  }
}
