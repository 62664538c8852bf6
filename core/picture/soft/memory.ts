/** The memory that the software mixer's kernels work in, and the kernels themselves. One for each thread. */
import { KERNELS } from './kernels/kernels.wasm';

/** The compiled functions of kernels/assembly.ts and kernels/colour.ts. */
export interface Kernels {
  mix(out: number, a: number, b: number, count: number, weight: number): void;
  tint(out: number, count: number, value: number, weight: number): void;
  scale(
    out: number,
    outStride: number,
    count: number,
    rowCount: number,
    source: number,
    width: number,
    below: number,
    columns: number,
    rows: number,
    weight: number,
    spare: number,
  ): void;
  alphaRow(out: number, source: number, alpha: number, count: number, weight: number, step: number): void;
  convertLuma(y: number, u: number, v: number, count: number, ky: number, offset: number, a: number, b: number): void;
  convertChroma(u: number, v: number, count: number, a: number, b: number, c: number, d: number): void;
  tintMask(out: number, mask: number, count: number, value: number, weight: number, step: number): void;
  multiply(out: number, a: number, b: number, count: number, step: number): void;
  mixTurns(out: number, a: number, b: number, turns: number, count: number, edge: number, soft: number): void;
  sampleRow(out: number, count: number, source: number, width: number, height: number, u: number, v: number, du: number, dv: number): void;
  lookUp(out: number, a: number, count: number, table: number): void;
  chromaKey(
    u: number,
    v: number,
    outU: number,
    outV: number,
    alpha: number,
    count: number,
    ku: number,
    kv: number,
    near: number,
    gain: number,
    dx: number,
    dy: number,
    spill: number,
  ): void;
  doubleRow(out: number, a: number, b: number, count: number): void;
  gradeChroma(u: number, v: number, y: number, count: number, saturation: number, leanU: number, leanV: number): void;
  divideAlpha(out: number, alpha: number, count: number, base: number, step: number): void;
  mixLinear(
    outY: number,
    outU: number,
    outV: number,
    ay: number,
    au: number,
    av: number,
    by: number,
    bu: number,
    bv: number,
    count: number,
    stride: number,
    weight: number,
    toLight: number,
    toSignal: number,
  ): void;
  halveRow(out: number, a: number, b: number, width: number): void;
  toRgba(out: number, y: number, u: number, v: number, count: number): void;
  rgbaRows(top: number, bottom: number, y0: number, y1: number, u: number, v: number, count: number, swap: number): void;
}

/** Reserved, not used: the system gives pages as they are touched. */
const PAGES = 8192;
const PAGE = 65_536;
/** The kernels may read this far past the end of a piece. */
const MARGIN = 64;

const memory = new WebAssembly.Memory({ initial: PAGES, maximum: PAGES });
const module = new WebAssembly.Module(Uint8Array.from(atob(KERNELS), (c) => c.charCodeAt(0)));
export const kernels = new WebAssembly.Instance(module, { env: { memory } }).exports as unknown as Kernels;

export interface Piece {
  pointer: number;
  bytes: Uint8Array<ArrayBuffer>;
}

/** Pieces given back, by size: pictures of one show come in few sizes. */
const free = new Map<number, number[]>();
let top = 1024;

/** Sizes come in steps of an eighth, so that pieces of changing sizes find each other's room again. */
function roomFor(size: number): number {
  const least = size + MARGIN;
  const step = Math.max(256, 2 ** (Math.floor(Math.log2(least)) - 3));
  return Math.ceil(least / step) * step;
}

/** Room for `size` bytes, aligned to 16. @throws RangeError when all of the memory is in use. */
export function allocate(size: number): Piece {
  const rounded = roomFor(size);
  const again = free.get(rounded)?.pop();
  const pointer = again ?? top;
  if (again === undefined) {
    if (top + rounded > PAGES * PAGE) throw new RangeError('The software mixer has no memory left for another picture.');
    top += rounded;
  }
  return { pointer, bytes: new Uint8Array(memory.buffer, pointer, size) };
}

/** Gives a piece back; it must not be used any more. */
export function release({ pointer, bytes }: Piece): void {
  const rounded = roomFor(bytes.length);
  const list = free.get(rounded) ?? [];
  free.set(rounded, list);
  list.push(pointer);
}

/** A table of whole numbers for the kernels. */
export function allocateTable(values: Int32Array | Uint16Array | Uint8Array): Piece {
  const piece = allocate(values.byteLength);
  piece.bytes.set(new Uint8Array(values.buffer, values.byteOffset, values.byteLength));
  return piece;
}
