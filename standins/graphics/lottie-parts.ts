/** Small parts that the demo's own animations are built of, in the open Lottie form. Colours are `#rrggbb`, frames those of the animation. */
type Raw = Record<string, unknown>;
type Key = readonly [frame: number, value: readonly number[]];

const still = (k: unknown): Raw => ({ a: 0, k });
/** A value that runs from key to key and comes to each softly. */
export const moving = (...keys: Key[]): Raw => ({
  a: 1,
  k: keys.map(([t, s]) => ({ t, s: [...s], i: { x: [0.2], y: [1] }, o: { x: [0.6], y: [0] } })),
});

const colourOf = (hex: string): number[] => [...[1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16) / 255), 1];

interface Moves {
  position?: Raw;
  opacity?: Raw;
  scale?: Raw;
  rotation?: Raw;
  anchor?: [number, number];
}

const transformOf = ({ position, opacity, scale, rotation, anchor = [0, 0] }: Moves, at: [number, number]): Raw => ({
  o: opacity ?? still(100),
  r: rotation ?? still(0),
  a: still(anchor),
  s: scale ?? still([100, 100]),
  p: position ?? still(at),
});

const LENGTH = 100;
const layer = (nm: string, ty: number, ks: Raw, change: Raw): Raw => ({ nm, ty, ks, ip: 0, op: LENGTH, st: 0, sr: 1, ...change });
const group = (nm: string, ...it: Raw[]): Raw => ({
  ty: 'gr',
  nm,
  it: [...it, { ty: 'tr', p: still([0, 0]), a: still([0, 0]), s: still([100, 100]), r: still(0), o: still(100) }],
});
const fill = (colour: string, opacity = 100): Raw => ({ ty: 'fl', nm: 'Fill', c: still(colourOf(colour)), o: still(opacity) });

/** A rectangle with round corners, its middle at `at`. */
export const plate = (
  nm: string,
  at: [number, number],
  [w, h]: [number, number],
  colour: string,
  moves: Moves = {},
  opacity = 100,
  change: Raw = {},
): Raw =>
  layer(nm, 4, transformOf(moves, at), {
    shapes: [group('Plate', { ty: 'rc', p: still([0, 0]), s: still([w, h]), r: still(Math.min(10, h / 4)) }, fill(colour, opacity))],
    ...change,
  });

/** A polygon by its corners, from the layer's own origin. */
export const polygon = (nm: string, at: [number, number], corners: readonly [number, number][], colour: string, moves: Moves = {}): Raw =>
  layer(nm, 4, transformOf(moves, at), {
    shapes: [
      group(
        'Shape',
        { ty: 'sh', ks: still({ c: true, v: corners, i: corners.map(() => [0, 0]), o: corners.map(() => [0, 0]) }) },
        fill(colour),
      ),
    ],
  });

/** A ring that is drawn round from frame to frame. */
export const ring = (nm: string, at: [number, number], size: number, width: number, colour: string, share: Raw, moves: Moves = {}): Raw =>
  layer(nm, 4, transformOf(moves, at), {
    shapes: [
      group(
        'Ring',
        { ty: 'el', p: still([0, 0]), s: still([size, size]) },
        { ty: 'tm', s: still(0), e: share, o: still(0), m: 1 },
        { ty: 'st', nm: 'Stroke', c: still(colourOf(colour)), o: still(100), w: still(width), lc: 2, lj: 2 },
      ),
    ],
  });

const FACES: Record<string, Raw> = {
  Oswald: { fName: 'Oswald-Bold', fFamily: 'Oswald', fStyle: 'Bold', ascent: 75 },
  Barlow: { fName: 'BarlowCondensed-SemiBold', fFamily: 'Barlow Condensed', fStyle: 'Semibold', ascent: 75 },
  Bitter: { fName: 'Bitter-Regular', fFamily: 'Bitter', fStyle: 'Regular', ascent: 75 },
};

/** Words on one line; `across` 0 begins at `at`, 1 ends there, 2 is centred. */
export const words = (
  nm: string,
  at: [number, number],
  text: string,
  face: keyof typeof FACES,
  size: number,
  colour: string,
  moves: Moves = {},
  across: 0 | 1 | 2 = 0,
): Raw =>
  layer(nm, 5, transformOf(moves, at), {
    t: {
      d: {
        k: [{ t: 0, s: { t: text, f: FACES[face]?.fName, s: size, j: across, fc: colourOf(colour).slice(0, 3), lh: size * 1.2, tr: 0 } }],
      },
      p: {},
      m: { g: 1, a: still([0, 0]) },
      a: [],
    },
  });

/** An animation of 100 frames, 25 a second, drawn for 1280 × 720, its layers front to back; it waits at `hold`. */
export const animation = (nm: string, layers: Raw[], hold: number | null, assets: Raw[] = []): Raw => ({
  v: '5.7.0',
  nm,
  fr: 25,
  ip: 0,
  op: LENGTH,
  w: 1280,
  h: 720,
  assets,
  fonts: { list: Object.values(FACES) },
  markers: hold === null ? [] : [{ cm: 'hold', tm: hold, dr: 0 }],
  layers: layers.map((l, i) => ({ ind: i + 1, ...l })),
});

/** An image, its middle at `at`. */
export const picture = (nm: string, refId: string, at: [number, number], [w, h]: [number, number], moves: Moves = {}): Raw =>
  layer(nm, 2, transformOf({ anchor: [w / 2, h / 2], ...moves }, at), { refId });

/** The image of one colour that an image layer shows until something is filled in. */
export const imageAsset = (id: string, [w, h]: [number, number]): Raw => ({
  id,
  w,
  h,
  u: '',
  e: 1,
  p: 'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAIAAACQd1PeAAAADElEQVR42mOIWnkSAAMtAc1PsZBpAAAAAElFTkSuQmCC',
});

/** A composition of layers, shown by a layer of its own. */
export const composition = (nm: string, id: string, moves: Moves, mask: Raw[] = []): Raw =>
  layer(nm, 0, transformOf(moves, [0, 0]), {
    refId: id,
    w: 1280,
    h: 720,
    ...(mask.length > 0 && { hasMask: true, masksProperties: mask }),
  });

/** A mask that opens from one rectangle to another. */
export const opening = (
  from: readonly [number, number, number, number],
  to: readonly [number, number, number, number],
  begin: number,
  end: number,
  out: [number, number],
): Raw => {
  const path = ([x, y, w, h]: readonly [number, number, number, number]) => ({
    c: true,
    v: [
      [x, y],
      [x + w, y],
      [x + w, y + h],
      [x, y + h],
    ],
    i: Array.from({ length: 4 }, () => [0, 0]),
    o: Array.from({ length: 4 }, () => [0, 0]),
  });
  const ease = { i: { x: 0.2, y: 1 }, o: { x: 0.6, y: 0 } };
  return {
    mode: 'a',
    inv: false,
    o: still(100),
    pt: {
      a: 1,
      k: [
        { t: begin, s: [path(from)], ...ease },
        { t: end, s: [path(to)], ...ease },
        { t: out[0], s: [path(to)], ...ease },
        { t: out[1], s: [path(from)], ...ease },
      ],
    },
  };
};
