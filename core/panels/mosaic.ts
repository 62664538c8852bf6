/**
 * One picture of all monitors that panels look at, so that it is encoded once however many there are. Here: where each stands in it, and how a
 * piece of the encoded picture is marked on its way. Pure.
 */

/** A picture that somebody looks at, by a name that is the same for all who look at the same, and the pixels that it is shown at. */
export interface WantedTile {
  key: string;
  width: number;
  height: number;
}

/** A tile's place in the mosaic, pixels. */
export interface Tile extends WantedTile {
  x: number;
  y: number;
}

export interface MosaicLayout {
  /** Counts up with every layout of a show: pieces of one are never shown by another. */
  version: number;
  width: number;
  height: number;
  tiles: readonly Tile[];
}

export const MOST_TILES = 64;
/** The mosaic is never larger: what does not fit is made smaller. */
export const MOSAIC_MOST = { width: 1280, height: 720 } as const;
/** Smallest side of a tile and of the mosaic: encoders take no less. */
const LEAST = 32;

const even = (n: number): number => Math.max(LEAST, 2 * Math.round(n / 2));

/** Rows of tiles, the highest first; null when they do not fit. */
function rows(tiles: readonly WantedTile[], scale: number): Omit<MosaicLayout, 'version'> | null {
  const sized = tiles
    .map(({ key, width, height }) => ({ key, width: even(width * scale), height: even(height * scale) }))
    .sort((a, b) => b.height - a.height || b.width - a.width || (a.key < b.key ? -1 : 1));
  const placed: Tile[] = [];
  let [x, y, row, widest] = [0, 0, 0, 0];
  for (const tile of sized) {
    if (x > 0 && x + tile.width > MOSAIC_MOST.width) [x, y, row] = [0, y + row, 0];
    placed.push({ ...tile, x, y });
    x += tile.width;
    row = Math.max(row, tile.height);
    widest = Math.max(widest, x);
  }
  return widest <= MOSAIC_MOST.width && y + row <= MOSAIC_MOST.height ? { width: widest, height: y + row, tiles: placed } : null;
}

/** Where tiles stand, as large as they are wanted or as they fit. Null for none. */
export function mosaicLayout(wanted: readonly WantedTile[], version: number): MosaicLayout | null {
  const tiles = wanted.slice(0, MOST_TILES);
  if (tiles.length === 0) return null;
  for (let scale = 1; scale > 0.02; scale *= 0.9) {
    const made = rows(tiles, scale);
    if (made) return { version, ...made };
  }
  return { version, ...(rows(tiles, 0.01) ?? { width: LEAST, height: LEAST, tiles: [] }) };
}

/** What several panels want, together: each picture once, as large as the largest of them. */
export function together(panels: Iterable<readonly WantedTile[]>): WantedTile[] {
  const all = new Map<string, WantedTile>();
  for (const tiles of panels)
    for (const { key, width, height } of tiles) {
      const known = all.get(key);
      if (!known && all.size >= MOST_TILES) continue;
      all.set(key, { key, width: Math.max(known?.width ?? 0, width), height: Math.max(known?.height ?? 0, height) });
    }
  return [...all.values()].sort((a, b) => (a.key < b.key ? -1 : 1));
}

/** First byte of binary messages. */
export const BINARY = { picture: 1, meters: 2, sound: 3, talk: 4 } as const;
/** Bytes before an encoded picture. */
const HEAD = 12;

export interface Piece {
  /** It can be decoded without those before. */
  isKey: boolean;
  version: number;
  /** Show microseconds of what is seen. */
  stamp: number;
  data: Uint8Array;
}

/** A piece of the encoded mosaic as one binary message: kind, key, version (16 bits), stamp (64-bit float), data; little endian. */
export function packPiece({ isKey, version, stamp, data }: Piece): Uint8Array {
  const bytes = new Uint8Array(HEAD + data.length);
  const view = new DataView(bytes.buffer);
  view.setUint8(0, BINARY.picture);
  view.setUint8(1, isKey ? 1 : 0);
  view.setUint16(2, version % 0x10000, true);
  view.setFloat64(4, stamp, true);
  bytes.set(data, HEAD);
  return bytes;
}

/** The piece that a binary message holds; null when it is none. */
export function unpackPiece(bytes: Uint8Array): Piece | null {
  if (bytes.length <= HEAD || bytes[0] !== BINARY.picture) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return { isKey: bytes[1] === 1, version: view.getUint16(2, true), stamp: view.getFloat64(4, true), data: bytes.subarray(HEAD) };
}
