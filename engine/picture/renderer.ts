/** What draws: on the graphics card, or in software where there is none. */
import { type DrawItem, type PicturePlan, type TextureRef } from '#core/picture/draw';
import { type OutputFinish } from '#core/screens/finish';
import { type Rect } from '#core/show/geometry';
import { type Raster } from '#core/show/raster';

/** The picture of a reference at this moment; it stays its owner's. */
export interface RefPicture {
  /** A frame from a driver, a canvas that the app has drawn or decoded, or pixels from the graphics worker. */
  image: VideoFrame | OffscreenCanvas | ImageData;
  width: number;
  height: number;
  opaque: boolean;
  /** Changes whenever the picture does. */
  version: string;
}

/** The picture of a reference; null when there is nothing to show at all. What is drawn for the asker is drawn at `size`, pixels, where that is said. */
export type PictureLookup = (ref: TextureRef, size?: { width: number; height: number }) => RefPicture | null;

/** Where a monitor's pixels go: a canvas, or its place in a larger picture. */
export type PixelTarget = Pick<OffscreenCanvasRenderingContext2D, 'putImageData'>;

/** A small picture for a monitor's canvas. */
export interface MonitorJob {
  plan: PicturePlan;
  /** Raster of its coordinates, where that is another than that of all. */
  raster?: Raster;
  context: PixelTarget;
  width: number;
  height: number;
  /** Done to its pixels before they are shown: RGBA, the picture at a place of rows of `stride` pixels. */
  after?: (data: Uint8ClampedArray, place: { x: number; y: number; width: number; height: number; stride: number }) => void;
  /** It has been drawn. */
  done: () => void;
}

/** An output in pixels of its own. */
export interface OutputJob {
  plan: PicturePlan;
  /** Raster of its coordinates. */
  raster: Raster;
  /** Pixels that leave. */
  size: Raster;
  /** Where in these the picture stands, on even pixels; beside it is black. */
  place: Rect;
  finish: OutputFinish;
  /** Where its pictures come from, where that is not where all others do. */
  pictures?: PictureLookup;
}

export interface Renderer {
  /** For people: which one it is, and how frames go in. */
  readonly description: string;
  /** The programme's frame; the caller's to close. `raster` is that of the plan's coordinates. */
  programme(plan: PicturePlan, raster: Raster, stamp: number, duration: number): Promise<VideoFrame>;
  /** A frame of an output in pixels of its own; the caller's to close. @throws Error when it is larger than can be drawn */
  output(job: OutputJob, stamp: number, duration: number): Promise<VideoFrame>;
  /** Draws monitors in their order, for as long as `mayGoOn` says so before each. */
  monitors(jobs: readonly MonitorJob[], raster: Raster, mayGoOn: () => boolean): Promise<void>;
  /** Works out ahead what the first frame of a mix would wait for. */
  readyFor(mix: PicturePlan['mix']): void;
  /** Pixels of the programme from now on. */
  resize(raster: Raster): void;
}

/** One name for one picture, whatever its version. */
export function refKey(ref: TextureRef): string {
  switch (ref.kind) {
    case 'source':
      return ref.second ? `${ref.id} second` : ref.id;
    case 'paint':
      return `paint ${ref.slot}`;
    case 'seat':
      return `seat ${ref.colour} ${ref.name}`;
    case 'colour':
      return `colour ${ref.colour}`;
    case 'output':
      return `output ${ref.id}`;
    case 'scene':
      return `scene ${ref.id}`;
  }
}

/** All references of items, those inside scenes and of keys too; scenes themselves are not among them. */
function refsOfItems(items: readonly DrawItem[]): TextureRef[] {
  return items.flatMap(({ texture, key }) => [
    ...(texture.kind === 'scene' ? refsOfItems(texture.scene) : [texture]),
    ...(key?.kind === 'fill' ? [key.texture] : []),
  ]);
}

/** All references of a plan. */
export const refsOf = (plan: PicturePlan): TextureRef[] => [
  ...refsOfItems([...plan.base, ...(plan.over ?? []), ...plan.lanes, ...(plan.top ?? [])]),
  ...(plan.mix?.kind === 'luma' ? [plan.mix.image] : []),
];

export const isFrame = (image: RefPicture['image']): image is VideoFrame => 'displayWidth' in image;
