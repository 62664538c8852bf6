/** Pictures for tests, made by formula: the same numbers in Node and in the browser. */

export interface TestPicture {
  width: number;
  height: number;
  /** How it reaches the mixer. */
  layout: 'rgba' | 'i420' | 'nv12';
  opaque: boolean;
  /** Straight (not premultiplied) RGBA of the pixel. */
  at: (x: number, y: number) => [number, number, number, number];
}

const clamp = (v: number) => Math.max(0, Math.min(255, Math.round(v)));

export const TEST_PICTURES: Record<string, TestPicture> = {
  slope: { width: 64, height: 36, layout: 'rgba', opaque: true, at: (x, y) => [clamp(x * 4), clamp(y * 7), 120, 255] },
  blocks: {
    width: 48,
    height: 48,
    layout: 'rgba',
    opaque: true,
    at: (x, y) => (((x >> 3) + (y >> 3)) % 2 ? [230, 60, 30, 255] : [20, 90, 200, 255]),
  },
  disc: {
    width: 64,
    height: 36,
    layout: 'rgba',
    opaque: false,
    at: (x, y) => [255, 220, 40, clamp(255 * (14 - Math.hypot(x - 31.5, y - 17.5)))],
  },
  video: { width: 64, height: 36, layout: 'i420', opaque: true, at: (x, y) => [clamp(40 + x * 2), clamp(60 + y * 3), clamp(200 - x), 255] },
  wide: { width: 80, height: 20, layout: 'nv12', opaque: true, at: (x) => [clamp(x * 3), 128, clamp(255 - x * 3), 255] },
};

/** All bytes of a picture as RGBA. */
export function rgbaOf(picture: TestPicture): Uint8ClampedArray<ArrayBuffer> {
  const data = new Uint8ClampedArray(picture.width * picture.height * 4);
  for (let y = 0; y < picture.height; y += 1)
    for (let x = 0; x < picture.width; x += 1) data.set(picture.at(x, y), (y * picture.width + x) * 4);
  return data;
}

/** Limited-range BT.709 Y′CbCr of a picture: I420, or NV12 with its chroma interleaved. */
export function yuvOf(picture: TestPicture): Uint8Array<ArrayBuffer> {
  const { width, height } = picture;
  const data = new Uint8Array((width * height * 3) / 2);
  const luma = ([r, g, b]: number[]) => 0.2126 * (r as number) + 0.7152 * (g as number) + 0.0722 * (b as number);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) data[y * width + x] = clamp(16 + (luma(picture.at(x, y)) * 219) / 255);
  const chroma = width * height;
  for (let y = 0; y < height / 2; y += 1) {
    for (let x = 0; x < width / 2; x += 1) {
      const four = [0, 1, 2, 3].map((i) => picture.at(x * 2 + (i & 1), y * 2 + (i >> 1)));
      const [r, g, b] = [0, 1, 2].map((c) => four.reduce((sum, p) => sum + (p[c] as number), 0) / 4) as [number, number, number];
      const l = luma([r, g, b]);
      const cb = clamp(128 + (((b - l) / 1.8556) * 224) / 255);
      const cr = clamp(128 + (((r - l) / 1.5748) * 224) / 255);
      const at = y * (width / 2) + x;
      if (picture.layout === 'i420') {
        data[chroma + at] = cb;
        data[chroma + chroma / 4 + at] = cr;
      } else {
        data[chroma + at * 2] = cb;
        data[chroma + at * 2 + 1] = cr;
      }
    }
  }
  return data;
}
