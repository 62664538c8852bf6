/** The memory that the software mixer's kernels work in, and the kernels themselves. One for each thread. */
import { KERNELS } from './kernels/kernels.wasm';

/** The compiled functions of kernels/assembly.ts. */
export interface Kernels {
  mix(out: number, a: number, b: number, count: number, weight: number): void;
  tint(out: number, count: number, value: number, weight: number): void;
  mixWeights(out: number, a: number, b: number, weights: number, count: number): void;
  scale(out: number, outStride: number, count: number, rowCount: number, source: number, width: number, below: number, columns: number, rows: number, weight: number, spare: number): void;
  alphaRow(out: number, source: number, alpha: number, count: number, weight: number, step: number): void;
  convertLuma(y: number, u: number, v: number, count: number, ky: number, offset: number, a: number, b: number): void;
  convertChroma(u: number, v: number, count: number, a: number, b: number, c: number, d: number): void;
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

/** Room for `size` bytes, aligned to 16. @throws RangeError when all of the memory is in use. */
export function allocate(size: number): Piece {
  const rounded = (size + MARGIN + 15) & ~15;
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
  const rounded = (bytes.length + MARGIN + 15) & ~15;
  const list = free.get(rounded) ?? [];
  free.set(rounded, list);
  list.push(pointer);
}

/** A table of whole numbers for the kernels. */
export function allocateTable(values: Int32Array | Uint16Array): Piece {
  const piece = allocate(values.byteLength);
  piece.bytes.set(new Uint8Array(values.buffer, values.byteOffset, values.byteLength));
  return piece;
}
