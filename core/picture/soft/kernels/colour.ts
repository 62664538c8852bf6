/**
 * Colour in the software mixer's memory: conversions, correction, keys and linear light. Compiled together with
 * assembly.ts, whose conventions hold here too.
 */

// @ts-ignore: decorator
@inline
function luma4(pixels: v128, weights: v128): v128 {
  const low = i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(pixels), weights);
  const high = i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(pixels), weights);
  const sum = i32x4.add(v128.shuffle<i32>(low, high, 0, 2, 4, 6), v128.shuffle<i32>(low, high, 1, 3, 5, 7));
  return i32x4.add(i32x4.shr_s(i32x4.add(sum, i32x4.splat(128)), 8), i32x4.splat(16));
}

/** Sums of two by two pixels of two rows: two of them, as r g b a r g b a. */
// @ts-ignore: decorator
@inline
function quads(top: v128, bottom: v128): v128 {
  const low = i16x8.add(i16x8.extend_low_i8x16_u(top), i16x8.extend_low_i8x16_u(bottom));
  const high = i16x8.add(i16x8.extend_high_i8x16_u(top), i16x8.extend_high_i8x16_u(bottom));
  return i16x8.add(v128.shuffle<i64>(low, high, 0, 2), v128.shuffle<i64>(low, high, 1, 3));
}

// @ts-ignore: decorator
@inline
function chroma4(first: v128, second: v128, weights: v128): v128 {
  const low = i32x4.dot_i16x8_s(first, weights);
  const high = i32x4.dot_i16x8_s(second, weights);
  const sum = i32x4.add(v128.shuffle<i32>(low, high, 0, 2, 4, 6), v128.shuffle<i32>(low, high, 1, 3, 5, 7));
  return i32x4.add(i32x4.shr_s(i32x4.add(sum, i32x4.splat(512)), 10), i32x4.splat(128));
}

/** Eight pixels of two rows of RGBA (or BGRA with `swap`) to BT.709 limited planes; `count` is a multiple of 8. */
export function rgbaRows(top: usize, bottom: usize, y0: usize, y1: usize, u: usize, v: usize, count: i32, swap: bool): void {
  const wy = swap ? i16x8(16, 157, 47, 0, 16, 157, 47, 0) : i16x8(47, 157, 16, 0, 47, 157, 16, 0);
  const wu = swap ? i16x8(112, -86, -26, 0, 112, -86, -26, 0) : i16x8(-26, -86, 112, 0, -26, -86, 112, 0);
  const wv = swap ? i16x8(-10, -102, 112, 0, -10, -102, 112, 0) : i16x8(112, -102, -10, 0, 112, -102, -10, 0);
  for (let i = 0; i < count; i += 8) {
    const at = i << 2;
    const a = v128.load(top + at), b = v128.load(top + at, 16);
    const c = v128.load(bottom + at), d = v128.load(bottom + at, 16);
    const first = i16x8.narrow_i32x4_s(luma4(a, wy), luma4(b, wy));
    const second = i16x8.narrow_i32x4_s(luma4(c, wy), luma4(d, wy));
    v128.store64_lane(y0 + i, i8x16.narrow_i16x8_u(first, first), 0);
    v128.store64_lane(y1 + i, i8x16.narrow_i16x8_u(second, second), 0);
    const p = quads(a, c), q = quads(b, d);
    const cu = i16x8.narrow_i32x4_s(chroma4(p, q, wu), chroma4(p, q, wv));
    const bytes = i8x16.narrow_i16x8_u(cu, cu);
    v128.store32_lane(u + (i >> 1), bytes, 0);
    v128.store32_lane(v + (i >> 1), bytes, 1);
  }
}

/**
 * One row of luma to another matrix and range: y·ky/256 + offset + (u−128)·a/256 + (v−128)·b/256, in place. Chroma is
 * that of the picture before, at half the width.
 */
export function convertLuma(y: usize, u: usize, v: usize, count: i32, ky: i32, offset: i32, a: i32, b: i32): void {
  const wa = i16x8.splat(<i16>a), wb = i16x8.splat(<i16>b), wy = i16x8.splat(<i16>ky);
  const middle = i16x8.splat(128), base = i16x8.splat(<i16>offset);
  let i = 0;
  for (; i + 16 <= count; i += 16) {
    const cu = i16x8.sub(i16x8.extend_low_i8x16_u(v128.load64_zero(u + (i >> 1))), middle);
    const cv = i16x8.sub(i16x8.extend_low_i8x16_u(v128.load64_zero(v + (i >> 1))), middle);
    const term = i16x8.add(i16x8.shr_s(i16x8.add(i16x8.add(i16x8.mul(cu, wa), i16x8.mul(cv, wb)), middle), 8), base);
    const luma = v128.load(y + i);
    let low = i16x8.extend_low_i8x16_u(luma), high = i16x8.extend_high_i8x16_u(luma);
    if (ky != 256) {
      low = i16x8.shr_u(i16x8.add(i16x8.mul(low, wy), middle), 8);
      high = i16x8.shr_u(i16x8.add(i16x8.mul(high, wy), middle), 8);
    }
    low = i16x8.add(low, v128.shuffle<i16>(term, term, 0, 0, 1, 1, 2, 2, 3, 3));
    high = i16x8.add(high, v128.shuffle<i16>(term, term, 4, 4, 5, 5, 6, 6, 7, 7));
    v128.store(y + i, i8x16.narrow_i16x8_u(low, high));
  }
  for (; i < count; i++) {
    const cu = <i32>load<u8>(u + (i >> 1)) - 128, cv = <i32>load<u8>(v + (i >> 1)) - 128;
    const value = ((<i32>load<u8>(y + i) * ky + 128) >> 8) + offset + ((cu * a + cv * b + 128) >> 8);
    store<u8>(y + i, <u8>(value < 0 ? 0 : value > 255 ? 255 : value));
  }
}

/** Chroma to another matrix and range, in place: u·a + v·b and u·c + v·d around 128, in 1/128 steps. */
export function convertChroma(u: usize, v: usize, count: i32, a: i32, b: i32, c: i32, d: i32): void {
  const wa = i16x8.splat(<i16>a), wb = i16x8.splat(<i16>b), wc = i16x8.splat(<i16>c), wd = i16x8.splat(<i16>d);
  const middle = i16x8.splat(128), round = i16x8.splat(64);
  let i = 0;
  for (; i + 8 <= count; i += 8) {
    const cu = i16x8.sub(i16x8.extend_low_i8x16_u(v128.load64_zero(u + i)), middle);
    const cv = i16x8.sub(i16x8.extend_low_i8x16_u(v128.load64_zero(v + i)), middle);
    const nu = i16x8.add(i16x8.shr_s(i16x8.add(i16x8.add(i16x8.mul(cu, wa), i16x8.mul(cv, wb)), round), 7), middle);
    const nv = i16x8.add(i16x8.shr_s(i16x8.add(i16x8.add(i16x8.mul(cu, wc), i16x8.mul(cv, wd)), round), 7), middle);
    v128.store64_lane(u + i, i8x16.narrow_i16x8_u(nu, nu), 0);
    v128.store64_lane(v + i, i8x16.narrow_i16x8_u(nv, nv), 0);
  }
  for (; i < count; i++) {
    const cu = <i32>load<u8>(u + i) - 128, cv = <i32>load<u8>(v + i) - 128;
    const nu = ((cu * a + cv * b + 64) >> 7) + 128, nv = ((cu * c + cv * d + 64) >> 7) + 128;
    store<u8>(u + i, <u8>(nu < 0 ? 0 : nu > 255 ? 255 : nu));
    store<u8>(v + i, <u8>(nv < 0 ? 0 : nv > 255 ? 255 : nv));
  }
}

/** out[i] = table[a[i]], a table of 256 bytes. */
export function lookUp(out: usize, a: usize, count: i32, table: usize): void {
  for (let i = 0; i < count; i++) store<u8>(out + i, load<u8>(table + load<u8>(a + i)));
}

/**
 * Chroma key: alpha by the distance of (u, v) from (ku, kv), all of it from `near` on with `gain` for each step, and
 * chroma without what points towards the key: `spill` share along the direction (dx, dy).
 */
export function chromaKey(u: usize, v: usize, outU: usize, outV: usize, alpha: usize, count: i32, ku: f32, kv: f32, near: f32, gain: f32, dx: f32, dy: f32, spill: f32): void {
  const middle = f32x4.splat(128), zero = f32x4.splat(0), full = f32x4.splat(255), half = f32x4.splat(0.5);
  const KU = f32x4.splat(ku), KV = f32x4.splat(kv), NEAR = f32x4.splat(near), GAIN = f32x4.splat(gain);
  const DX = f32x4.splat(dx), DY = f32x4.splat(dy), SPILL = f32x4.splat(spill);
  for (let k = 0; k < count; k += 4) {
    // The last block overlaps the one before: `count` is at least 4, and in and out are different planes.
    const i = k + 4 <= count ? k : count - 4;
    const a = f32x4.sub(f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(u + i)))), middle);
    const b = f32x4.sub(f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(v + i)))), middle);
    const x = f32x4.sub(a, KU), y = f32x4.sub(b, KV);
    const distance = f32x4.sqrt(f32x4.add(f32x4.mul(x, x), f32x4.mul(y, y)));
    const share = f32x4.min(full, f32x4.max(zero, f32x4.mul(f32x4.sub(distance, NEAR), GAIN)));
    const along = f32x4.mul(SPILL, f32x4.max(zero, f32x4.add(f32x4.mul(a, DX), f32x4.mul(b, DY))));
    const nu = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.sub(a, f32x4.mul(along, DX)), f32x4.add(middle, half)));
    const nv = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.sub(b, f32x4.mul(along, DY)), f32x4.add(middle, half)));
    const na = i32x4.trunc_sat_f32x4_s(f32x4.add(share, half));
    const words = i16x8.narrow_i32x4_s(nu, nv), bytes = i8x16.narrow_i16x8_u(words, i16x8.narrow_i32x4_s(na, na));
    v128.store32_lane(outU + i, bytes, 0);
    v128.store32_lane(outV + i, bytes, 1);
    v128.store32_lane(alpha + i, bytes, 2);
  }
}

/** Two rows of twice the width between rows `a` and `b` of `count`; each place lies between its neighbours. */
export function doubleRow(out: usize, a: usize, b: usize, count: i32): void {
  let i = 0;
  for (; i + 16 < count; i += 16) {
    const here = i8x16.avgr_u(v128.load(a + i), v128.load(b + i));
    const next = i8x16.avgr_u(v128.load(a + i, 1), v128.load(b + i, 1));
    const mid = i8x16.avgr_u(here, next);
    v128.store(out + (i << 1), v128.shuffle<i8>(here, mid, 0, 16, 1, 17, 2, 18, 3, 19, 4, 20, 5, 21, 6, 22, 7, 23));
    v128.store(out + (i << 1), v128.shuffle<i8>(here, mid, 8, 24, 9, 25, 10, 26, 11, 27, 12, 28, 13, 29, 14, 30, 15, 31), 16);
  }
  for (; i < count; i++) {
    const here = (<i32>load<u8>(a + i) + <i32>load<u8>(b + i) + 1) >> 1;
    const n = i + 1 < count ? i + 1 : i;
    const next = (<i32>load<u8>(a + n) + <i32>load<u8>(b + n) + 1) >> 1;
    store<u8>(out + (i << 1), <u8>here);
    store<u8>(out + (i << 1) + 1, <u8>((here + next + 1) >> 1));
  }
}

/** Colour correction of chroma: scaled around 128, and leaned in step with luma. Scales in 1/256; `y` steps by two. */
export function gradeChroma(u: usize, v: usize, y: usize, count: i32, saturation: i32, leanU: i32, leanV: i32): void {
  for (let i = 0; i < count; i++) {
    const luma = <i32>load<u8>(y + (i << 1)) - 16;
    const a = 128 + (((<i32>load<u8>(u + i) - 128) * saturation + luma * leanU + 128) >> 8);
    const b = 128 + (((<i32>load<u8>(v + i) - 128) * saturation + luma * leanV + 128) >> 8);
    store<u8>(u + i, <u8>(a < 0 ? 0 : a > 255 ? 255 : a));
    store<u8>(v + i, <u8>(b < 0 ? 0 : b > 255 ? 255 : b));
  }
}

/** Takes a multiplied-in alpha out again: base + (x − base) · 255 / alpha. `step` 2 takes every second alpha. */
export function divideAlpha(out: usize, alpha: usize, count: i32, base: i32, step: i32): void {
  for (let i = 0; i < count; i++) {
    const a = <i32>load<u8>(alpha + i * step);
    if (a == 0 || a == 255) continue;
    const x = base + ((<i32>load<u8>(out + i) - base) * 255) / a;
    store<u8>(out + i, <u8>(x < 0 ? 0 : x > 255 ? 255 : x));
  }
}

/**
 * Dissolve in linear light, two rows of `count` pixels (even) with one row of chroma: R′G′B′ of both pictures through
 * `toLight` (256 u16 of 0 to 4095), mixed, and back through `toSignal` (4096 bytes).
 */
export function mixLinear(
  outY: usize, outU: usize, outV: usize,
  ay: usize, au: usize, av: usize,
  by: usize, bu: usize, bv: usize,
  count: i32, stride: i32, weight: i32, toLight: usize, toSignal: usize,
): void {
  for (let x = 0; x < count; x += 2) {
    const c = x >> 1;
    const cua = <i32>load<u8>(au + c) - 128, cva = <i32>load<u8>(av + c) - 128;
    const cub = <i32>load<u8>(bu + c) - 128, cvb = <i32>load<u8>(bv + c) - 128;
    let sr = 0, sg = 0, sb = 0;
    for (let k = 0; k < 4; k++) {
      const at = x + (k & 1) + (k >> 1) * stride;
      const la = (<i32>load<u8>(ay + at) - 16) * 298, lb = (<i32>load<u8>(by + at) - 16) * 298;
      const r = blend(la + 459 * cva, lb + 459 * cvb, weight, toLight, toSignal);
      const g = blend(la - 55 * cua - 136 * cva, lb - 55 * cub - 136 * cvb, weight, toLight, toSignal);
      const b = blend(la + 541 * cua, lb + 541 * cub, weight, toLight, toSignal);
      store<u8>(outY + at, <u8>(((47 * r + 157 * g + 16 * b + 128) >> 8) + 16));
      sr += r; sg += g; sb += b;
    }
    store<u8>(outU + c, <u8>(((-26 * sr - 86 * sg + 112 * sb + 512) >> 10) + 128));
    store<u8>(outV + c, <u8>(((112 * sr - 102 * sg - 10 * sb + 512) >> 10) + 128));
  }
}

// @ts-ignore: decorator
@inline
function blend(a: i32, b: i32, weight: i32, toLight: usize, toSignal: usize): i32 {
  const x = (a + 128) >> 8, y = (b + 128) >> 8;
  const p = <i32>load<u16>(toLight + ((x < 0 ? 0 : x > 255 ? 255 : x) << 1));
  const q = <i32>load<u16>(toLight + ((y < 0 ? 0 : y > 255 ? 255 : y) << 1));
  return <i32>load<u8>(toSignal + ((p * (256 - weight) + q * weight + 128) >> 8));
}

/** A row of planes as RGBA, for monitors; chroma at half the width. */
export function toRgba(out: usize, y: usize, u: usize, v: usize, count: i32): void {
  for (let i = 0; i < count; i++) {
    const c = i >> 1;
    const l = (<i32>load<u8>(y + i) - 16) * 298 + 128;
    const cu = <i32>load<u8>(u + c) - 128, cv = <i32>load<u8>(v + c) - 128;
    const r = (l + 459 * cv) >> 8, g = (l - 55 * cu - 136 * cv) >> 8, b = (l + 541 * cu) >> 8;
    const pixel = (r < 0 ? 0 : r > 255 ? 255 : r) | ((g < 0 ? 0 : g > 255 ? 255 : g) << 8) | ((b < 0 ? 0 : b > 255 ? 255 : b) << 16) | (255 << 24);
    store<i32>(out + (i << 2), pixel);
  }
}
