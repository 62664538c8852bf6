/**
 * What a plan says: pictures to draw, in which order and how. Plain data; coordinates are pixels of the show's raster,
 * origin at the top left. Both mixers and the reference rasteriser draw exactly this.
 */
import { fullRect, type Rect } from '../show/geometry';
import { type Border, type Shadow } from '../layout/document';
import { type ChromaKey, type Grade, type LumaKey } from '../layout/look';
import { type Direction, type WipeShape } from './document';
import { type Paint } from '../graphics/paint';
import { type Raster } from '../show/raster';
import { type Placement, type Placing, place, placeBetween } from './view';

/** Where an item's picture comes from. A scene is a picture of the whole raster, drawn from items of its own. */
export type TextureRef =
  /** `second` is the other picture of a deck, while it dissolves or blends. */
  | { kind: 'source'; id: string; second?: true }
  /** Drawn elements of a graphic. `slot` tells one showing from another: what it showed last stands in until a paint is drawn. */
  | { kind: 'paint'; paint: Paint; slot: string }
  | { kind: 'seat'; name: string; colour: string }
  | { kind: 'colour'; colour: string }
  /** What an output showed last: the frame before this one. */
  | { kind: 'output'; id: string }
  /** `raster` is that of its coordinates, where it is another than that of what it stands in. */
  | { kind: 'scene'; id: string; scene: Scene; raster?: Raster };

export type KeyPlan = ChromaKey | LumaKey | { kind: 'fill'; texture: TextureRef; premultiplied: boolean; invert: boolean };

/** One picture placed on the raster, back to front in its scene. */
export interface DrawItem extends Placing {
  texture: TextureRef;
  /** 0 to 1. */
  opacity: number;
  /** Degrees clockwise about the middle of where it lands. */
  rotation?: number;
  /** Of the corners, pixels. */
  radius?: number;
  border?: Border;
  shadow?: Shadow;
  grade?: Grade;
  key?: KeyPlan;
  /** On its way from one size to another: its picture is scaled, not drawn anew for each. */
  scaled?: true;
  /** Shows the key itself, white where the picture stays. */
  matte?: boolean;
  /** Nothing is drawn outside of this. */
  clip?: Rect;
  /** On its way from one placing to another, `share` 0 to 1. */
  glide?: { from: Placing; to: Placing; share: number };
  /** Who is in it: glide finds partners by seat, then by source. */
  seatId?: string;
  sourceId?: string;
  layer?: 'background' | 'frame';
}

/** Items over black. */
export type Scene = DrawItem[];

/** How `over` comes in over `base`; `position` 0 to 1, its pace already in it. */
export type Mix =
  | { kind: 'dissolve'; position: number; linear?: boolean }
  | { kind: 'dip'; position: number; colour: string }
  | { kind: 'wipe'; position: number; softness: number; shape: WipeShape; angle: number }
  | { kind: 'luma'; position: number; softness: number; image: TextureRef }
  | { kind: 'push' | 'slide'; position: number; direction: Direction }
  | { kind: 'zoom'; position: number };

/** One finished picture: base, perhaps mixed with another scene, lanes over both, black over all but `top`. */
export interface PicturePlan {
  base: Scene;
  over: Scene | null;
  mix: Mix | null;
  lanes: DrawItem[];
  /** 0 to 1. */
  black: number;
  /** Lanes that stay over black. */
  top?: DrawItem[];
}

export interface FramePlan {
  frame: number;
  raster: Raster;
  programme: PicturePlan;
  /** The programme below the lanes. */
  clean: PicturePlan;
  next: PicturePlan;
}

/** Pixels of the largest scene that is drawn apart for what it stands in. */
const LARGEST_SCENE = 8_000_000;

/** Pixels in which a scene with a raster of its own is drawn where its whole picture is wanted at `width` × `height`: in its own shape, even. */
export function sceneSize(raster: Raster, width: number, height: number): Raster {
  // Nothing is asked for where it is scaled on its way: its own size.
  const wanted = width > 0 ? Math.max(width / raster.width, height / raster.height, 16 / raster.width) : 1;
  const scale = Math.min(wanted, Math.sqrt(LARGEST_SCENE / (raster.width * raster.height)));
  const even = (n: number) => Math.max(2, Math.round((n * scale) / 2) * 2);
  return { width: even(raster.width), height: even(raster.height) };
}

/** Where an item's picture of `size` lands, and which part of it is seen. */
export const placementOf = (item: DrawItem, size: { width: number; height: number }): Placement =>
  item.glide ? placeBetween(item.glide.from, item.glide.to, item.glide.share, size) : place(item, size);

/** What tells one picture from another; what a paint is drawn of is known by its key. */
export const looksOf = (plan: PicturePlan): string =>
  JSON.stringify(plan, (name, value: unknown) => (name === 'inked' ? undefined : value));

export const plainPlan = (base: Scene): PicturePlan => ({ base, over: null, mix: null, lanes: [], black: 0 });

/** One picture that fills the raster. */
export const wholePicture = (texture: TextureRef, raster: Raster): PicturePlan =>
  plainPlan([{ texture, fit: 'fill', target: fullRect(raster), opacity: 1 }]);
