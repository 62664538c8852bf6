/** Levels for panels, 20 times a second, as bytes: their order is told whenever it changes, the values are in its order. Pure. */
import { type MeterReading } from '../sound/meter';
import { BINARY } from './mosaic';

/** Readings that go out at most. */
export const MOST_METERS = 1000;

/** Whose levels come, in order; `version` counts up (16 bits) with every other order. */
export interface MeterOrder {
  version: number;
  ids: readonly string[];
}

type Sides = readonly [Pick<MeterReading, 'level' | 'peak'>, Pick<MeterReading, 'level' | 'peak'>];

/** Bytes before the values. */
const HEAD = 4;
/** Hundredths of a dB, as far as 16 bits reach. */
const short = (db: number): number => Math.round(Math.min(300, Math.max(-300, Number.isFinite(db) ? db : -300)) * 100);

/** Level and peak of both sides of each, hundredths of dBFS, 16 bits, little endian. */
export function packMeters(version: number, sides: readonly Sides[]): Uint8Array {
  const bytes = new Uint8Array(HEAD + sides.length * 8);
  const view = new DataView(bytes.buffer);
  view.setUint8(0, BINARY.meters);
  view.setUint16(2, version % 0x10000, true);
  sides.forEach((side, i) =>
    side.forEach(({ level, peak }, j) => {
      view.setInt16(HEAD + i * 8 + j * 4, short(level), true);
      view.setInt16(HEAD + i * 8 + j * 4 + 2, short(peak), true);
    }),
  );
  return bytes;
}

/** The values by their identities, in dBFS; null for bytes that are of another order, or none. `at` is when they came, seconds. */
export function unpackMeters(
  bytes: Uint8Array,
  { version, ids }: MeterOrder,
  at: number,
): Map<string, [MeterReading, MeterReading]> | null {
  if (bytes.length !== HEAD + ids.length * 8 || bytes[0] !== BINARY.meters) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.getUint16(2, true) !== version) return null;
  const side = (i: number, j: number): MeterReading => ({
    level: view.getInt16(HEAD + i * 8 + j * 4, true) / 100,
    peak: view.getInt16(HEAD + i * 8 + j * 4 + 2, true) / 100,
    peakAt: at,
    at,
  });
  return new Map(ids.map((id, i) => [id, [side(i, 0), side(i, 1)]]));
}
