/** The mosaic: tiles never overlap, all fit, encoders can take it; pieces come back as they were. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MOSAIC_MOST, mosaicLayout, MOST_TILES, packPiece, together, unpackPiece } from './mosaic';

const tile = fc.record({ width: fc.integer({ min: 1, max: 1024 }), height: fc.integer({ min: 1, max: 1024 }) });
const wanted = fc.array(tile, { minLength: 1, maxLength: 90 }).map((list) => list.map((t, i) => ({ key: `t${i}`, ...t })));

describe('the mosaic', () => {
  it('has every tile once, beside the others, within what an encoder takes', () => {
    fc.assert(
      fc.property(wanted, (list) => {
        const { width, height, tiles } = mosaicLayout(list, 3)!;
        expect(tiles.map((t) => t.key).sort()).toEqual(
          list
            .slice(0, MOST_TILES)
            .map((t) => t.key)
            .sort(),
        );
        expect(width <= MOSAIC_MOST.width && height <= MOSAIC_MOST.height && width % 2 === 0 && height % 2 === 0).toBe(true);
        tiles.forEach((a, i) => {
          expect(a.x >= 0 && a.y >= 0 && a.x + a.width <= width && a.y + a.height <= height).toBe(true);
          expect([a.x % 2, a.y % 2, a.width % 2, a.height % 2]).toEqual([0, 0, 0, 0]);
          for (const b of tiles.slice(i + 1))
            expect(a.x + a.width <= b.x || b.x + b.width <= a.x || a.y + a.height <= b.y || b.y + b.height <= a.y).toBe(true);
        });
      }),
      { numRuns: 150 },
    );
  });

  it('has tiles as large as they are wanted where they fit, and is none for none', () => {
    expect(mosaicLayout([], 1)).toBeNull();
    const two = mosaicLayout(
      [
        { key: 'a', width: 480, height: 270 },
        { key: 'b', width: 320, height: 180 },
      ],
      1,
    );
    expect(two).toMatchObject({
      width: 800,
      height: 270,
      tiles: [
        { key: 'a', width: 480 },
        { key: 'b', x: 480, width: 320 },
      ],
    });
  });

  it('is of what all panels want, each picture once and as large as the largest', () => {
    const panels = [
      [{ key: 'a', width: 100, height: 50 }],
      [
        { key: 'a', width: 80, height: 90 },
        { key: 'b', width: 10, height: 10 },
      ],
      [],
    ];
    expect(together(panels)).toEqual([
      { key: 'a', width: 100, height: 90 },
      { key: 'b', width: 10, height: 10 },
    ]);
    expect(together([Array.from({ length: 500 }, (_, i) => ({ key: `${i}`, width: 1, height: 1 }))]).length).toBe(MOST_TILES);
  });
});

describe('a piece', () => {
  it('comes back as it was; what is none is none', () => {
    fc.assert(
      fc.property(fc.boolean(), fc.nat(0xffff), fc.nat(), fc.uint8Array({ minLength: 1, maxLength: 50 }), (isKey, version, stamp, data) => {
        expect(unpackPiece(packPiece({ isKey, version, stamp, data }))).toEqual({ isKey, version, stamp, data });
      }),
    );
    fc.assert(fc.property(fc.uint8Array({ maxLength: 40 }), (bytes) => (unpackPiece(bytes), true)));
    expect([unpackPiece(new Uint8Array(0)), unpackPiece(new Uint8Array(12).fill(1))]).toEqual([null, null]);
  });
});
