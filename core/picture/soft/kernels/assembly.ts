/**
 * The inner loops of the software mixer in AssemblyScript, for WebAssembly SIMD. Compiled by `npm run kernels` into
 * kernels.wasm.ts. Pointers are byte addresses in the module's memory; weights are 0 to 256. Rows may be read up to
 * 32 bytes past their end: the allocator leaves room.
 */

/** `a` towards `b` by `weight`, 16 bytes. */
// @ts-ignore: decorator
@inline
function mix16(a: v128, b: v128, weight: v128, rest: v128): v128 {
  const round = i16x8.splat(128);
  const low = i16x8.add(i16x8.add(i16x8.mul(i16x8.extend_low_i8x16_u(a), rest), i16x8.mul(i16x8.extend_low_i8x16_u(b), weight)), round);
  const high = i16x8.add(i16x8.add(i16x8.mul(i16x8.extend_high_i8x16_u(a), rest), i16x8.mul(i16x8.extend_high_i8x16_u(b), weight)), round);
  return i8x16.narrow_i16x8_u(i16x8.shr_u(low, 8), i16x8.shr_u(high, 8));
}

/** out[i] = a[i] towards b[i] by one weight. */
export function mix(out: usize, a: usize, b: usize, count: i32, weight: i32): void {
  const w = i16x8.splat(<i16>weight);
  const rest = i16x8.splat(<i16>(256 - weight));
  let i = 0;
  for (; i + 16 <= count; i += 16) v128.store(out + i, mix16(v128.load(a + i), v128.load(b + i), w, rest));
  for (; i < count; i++) store<u8>(out + i, <u8>((<i32>load<u8>(a + i) * (256 - weight) + <i32>load<u8>(b + i) * weight + 128) >> 8));
}

/** out[i] = out[i] towards `value`. */
export function tint(out: usize, count: i32, value: i32, weight: i32): void {
  const w = i16x8.splat(<i16>weight);
  const rest = i16x8.splat(<i16>(256 - weight));
  const v = i8x16.splat(<i8>value);
  let i = 0;
  for (; i + 16 <= count; i += 16) v128.store(out + i, mix16(v128.load(out + i), v, w, rest));
  for (; i < count; i++) store<u8>(out + i, <u8>((<i32>load<u8>(out + i) * (256 - weight) + value * weight + 128) >> 8));
}

/**
 * Draws rows of a scaled plane. `columns` and `rows` hold (index << 9 | weight) for each target pixel; `spare` is room
 * for one source row and one target row.
 */
export function scale(
  out: usize, outStride: i32, count: i32, rowCount: i32,
  source: usize, width: i32, below: i32,
  columns: usize, rows: usize, weight: i32, spare: usize,
): void {
  const line = spare + ((width + 47) & ~15);
  for (let row = 0; row < rowCount; row++) {
    const packed = load<i32>(rows + (row << 2));
    const top = source + <usize>((packed >> 9) * width);
    mix(spare, top, top + below, width, packed & 511);
    const target = weight == 256 ? out + row * outStride : line;
    for (let i = 0; i < count; i++) {
      const c = load<i32>(columns + (i << 2));
      const at = spare + (c >> 9);
      const a = <i32>load<u8>(at);
      store<u8>(target + i, <u8>(((a << 8) + (<i32>load<u8>(at + 1) - a) * (c & 511) + 128) >> 8));
    }
    if (weight != 256) mix(out + row * outStride, out + row * outStride, line, count, weight);
  }
}

/** One row by its own alpha (0 to 255) times `weight`; `step` 2 takes every second alpha, for chroma. */
export function alphaRow(out: usize, source: usize, alpha: usize, count: i32, weight: i32, step: i32): void {
  const w = i16x8.splat(<i16>weight);
  const full = i16x8.splat(256);
  const round = i16x8.splat(128);
  let i = 0;
  for (; i + 8 <= count; i += 8) {
    let share: v128;
    if (step == 1) share = i16x8.extend_low_i8x16_u(v128.load64_zero(alpha + i));
    else share = v128.and(v128.load(alpha + (i << 1)), i16x8.splat(255));
    // 255 becomes 256, so that full alpha covers fully; 256 × 256 would not fit, so full weight skips the product.
    share = i16x8.add(share, i16x8.shr_u(share, 7));
    if (weight != 256) share = i16x8.shr_u(i16x8.mul(share, w), 8);
    const x = i16x8.extend_low_i8x16_u(v128.load64_zero(out + i));
    const y = i16x8.extend_low_i8x16_u(v128.load64_zero(source + i));
    const sum = i16x8.add(i16x8.add(i16x8.mul(x, i16x8.sub(full, share)), i16x8.mul(y, share)), round);
    v128.store64_lane(out + i, i8x16.narrow_i16x8_u(i16x8.shr_u(sum, 8), sum), 0);
  }
  for (; i < count; i++) {
    let share = <i32>load<u8>(alpha + i * step);
    share = ((share + (share >> 7)) * weight) >> 8;
    store<u8>(out + i, <u8>((<i32>load<u8>(out + i) * (256 - share) + <i32>load<u8>(source + i) * share + 128) >> 8));
  }
}

/** out[i] towards `value` by its own mask (0 to 255) times `weight`; `step` 2 takes every second mask, for chroma. */
export function tintMask(out: usize, mask: usize, count: i32, value: i32, weight: i32, step: i32): void {
  const w = i16x8.splat(<i16>weight);
  const full = i16x8.splat(256);
  const round = i16x8.splat(128);
  const v = i16x8.splat(<i16>value);
  let i = 0;
  for (; i + 8 <= count; i += 8) {
    let share: v128;
    if (step == 1) share = i16x8.extend_low_i8x16_u(v128.load64_zero(mask + i));
    else share = v128.and(v128.load(mask + (i << 1)), i16x8.splat(255));
    share = i16x8.add(share, i16x8.shr_u(share, 7));
    if (weight != 256) share = i16x8.shr_u(i16x8.mul(share, w), 8);
    const x = i16x8.extend_low_i8x16_u(v128.load64_zero(out + i));
    const sum = i16x8.add(i16x8.add(i16x8.mul(x, i16x8.sub(full, share)), i16x8.mul(v, share)), round);
    v128.store64_lane(out + i, i8x16.narrow_i16x8_u(i16x8.shr_u(sum, 8), sum), 0);
  }
  for (; i < count; i++) {
    let share = <i32>load<u8>(mask + i * step);
    share = ((share + (share >> 7)) * weight) >> 8;
    store<u8>(out + i, <u8>((<i32>load<u8>(out + i) * (256 - share) + value * share + 128) >> 8));
  }
}

/** out[i] = a[i] · b[i] / 255; `step` 2 takes every second b. */
export function multiply(out: usize, a: usize, b: usize, count: i32, step: i32): void {
  let i = 0;
  if (step == 1) {
    for (; i + 8 <= count; i += 8) {
      const x = i16x8.extend_low_i8x16_u(v128.load64_zero(a + i));
      const y = i16x8.extend_low_i8x16_u(v128.load64_zero(b + i));
      const product = i16x8.mul(x, i16x8.add(y, i16x8.shr_u(y, 7)));
      v128.store64_lane(out + i, i8x16.narrow_i16x8_u(i16x8.shr_u(i16x8.add(product, i16x8.splat(128)), 8), product), 0);
    }
  }
  for (; i < count; i++) {
    const m = <i32>load<u8>(b + i * step);
    store<u8>(out + i, <u8>((<i32>load<u8>(a + i) * (m + (m >> 7)) + 128) >> 8));
  }
}

/** As mix, where each place has its turn (u16, 0 to 32767): all of `b` once `edge` is `soft` past it. */
export function mixTurns(out: usize, a: usize, b: usize, turns: usize, count: i32, edge: i32, soft: i32): void {
  const gain = i32x4.splat((256 << 15) / soft);
  const most = i32x4.splat(soft);
  const zero = i32x4.splat(0);
  const e = i32x4.splat(edge);
  const full = i16x8.splat(256);
  const round = i16x8.splat(128);
  let i = 0;
  for (; i + 8 <= count; i += 8) {
    const t = v128.load(turns + (i << 1));
    let low = i32x4.min_s(most, i32x4.max_s(zero, i32x4.sub(e, i32x4.extend_low_i16x8_u(t))));
    let high = i32x4.min_s(most, i32x4.max_s(zero, i32x4.sub(e, i32x4.extend_high_i16x8_u(t))));
    low = i32x4.shr_u(i32x4.add(i32x4.mul(low, gain), i32x4.splat(16384)), 15);
    high = i32x4.shr_u(i32x4.add(i32x4.mul(high, gain), i32x4.splat(16384)), 15);
    const w = i16x8.min_s(full, i16x8.narrow_i32x4_s(low, high));
    const x = i16x8.extend_low_i8x16_u(v128.load64_zero(a + i));
    const y = i16x8.extend_low_i8x16_u(v128.load64_zero(b + i));
    const sum = i16x8.add(i16x8.add(i16x8.mul(x, i16x8.sub(full, w)), i16x8.mul(y, w)), round);
    v128.store64_lane(out + i, i8x16.narrow_i16x8_u(i16x8.shr_u(sum, 8), sum), 0);
  }
  for (; i < count; i++) {
    const past = edge - <i32>load<u16>(turns + (i << 1));
    const w = past <= 0 ? 0 : past >= soft ? 256 : (past * 256) / soft;
    store<u8>(out + i, <u8>((<i32>load<u8>(a + i) * (256 - w) + <i32>load<u8>(b + i) * w + 128) >> 8));
  }
}

/**
 * One row of a turned picture: bilinear samples from (u, v) on, stepping (du, dv), in 1/65536 of a source pixel. Places
 * outside repeat the edge.
 */
export function sampleRow(out: usize, count: i32, source: usize, width: i32, height: i32, u: i32, v: i32, du: i32, dv: i32): void {
  const right = (width - 1) << 16, bottom = (height - 1) << 16;
  for (let i = 0; i < count; i++) {
    const x = u < 0 ? 0 : u > right ? right : u;
    const y = v < 0 ? 0 : v > bottom ? bottom : v;
    const at = source + <usize>((y >> 16) * width + (x >> 16));
    const fx = (x >> 8) & 255, fy = (y >> 8) & 255;
    const down = y < bottom ? width : 0, along = x < right ? 1 : 0;
    const top = (<i32>load<u8>(at) << 8) + (<i32>load<u8>(at + along) - <i32>load<u8>(at)) * fx;
    const low = (<i32>load<u8>(at + down) << 8) + (<i32>load<u8>(at + down + along) - <i32>load<u8>(at + down)) * fx;
    store<u8>(out + i, <u8>(((top << 8) + (low - top) * fy + 32768) >> 16));
    u += du;
    v += dv;
  }
}

/** One row of half the width from two rows of `width`: the mean of each two by two. An odd last pixel stands alone. */
export function halveRow(out: usize, a: usize, b: usize, width: i32): void {
  const count = width >> 1;
  let i = 0;
  for (; i + 16 <= count; i += 16) {
    const at = i << 1;
    const low = i8x16.avgr_u(v128.load(a + at), v128.load(b + at));
    const high = i8x16.avgr_u(v128.load(a + at, 16), v128.load(b + at, 16));
    const even = v128.shuffle<i8>(low, high, 0, 2, 4, 6, 8, 10, 12, 14, 16, 18, 20, 22, 24, 26, 28, 30);
    const odd = v128.shuffle<i8>(low, high, 1, 3, 5, 7, 9, 11, 13, 15, 17, 19, 21, 23, 25, 27, 29, 31);
    v128.store(out + i, i8x16.avgr_u(even, odd));
  }
  for (; i < count; i++) {
    const at = i << 1;
    store<u8>(out + i, <u8>((<i32>load<u8>(a + at) + <i32>load<u8>(a + at + 1) + <i32>load<u8>(b + at) + <i32>load<u8>(b + at + 1) + 2) >> 2));
  }
  if (width & 1) store<u8>(out + count, <u8>((<i32>load<u8>(a + width - 1) + <i32>load<u8>(b + width - 1) + 1) >> 1));
}
