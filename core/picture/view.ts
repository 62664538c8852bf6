/**
 * Where a picture lands and which part of it is seen. Windows are rectangles in shares of the picture (0 to 1), targets
 * are pixels of the show's raster. Two stages: a framing makes a picture out of a source, a box shows part of that.
 */
import { betweenRects, containRect, type Point, type Rect } from '../show/geometry';
import { type Fit } from '../layout/document';
import { type Crop, NO_CROP } from '../layout/look';

interface Size {
  width: number;
  height: number;
}

/** The part of a framing that decides what is seen. */
export interface FramingStage {
  crop: Crop;
  zoom: number;
  panX: number;
  panY: number;
  aspect: number | null;
  mirror: boolean;
}

/** The part of a box that decides what is seen. */
export interface BoxView {
  crop: Crop;
  zoom: number;
  panX: number;
  panY: number;
}

/** All that places a picture. */
export interface Placing {
  target: Rect;
  fit: Fit;
  framing?: FramingStage;
  view?: BoxView;
  /** Place of the eyes in the whole picture, for the fit `eye`. */
  eye?: Point;
}

export interface Placement {
  target: Rect;
  /** Shares of the picture. */
  window: Rect;
  /** Drawn right to left. */
  mirror: boolean;
}

const WHOLE: Rect = { x: 0, y: 0, width: 1, height: 1 };
const PLAIN_VIEW: BoxView = { crop: NO_CROP, zoom: 1, panX: 0, panY: 0 };

/** Share of the height at which the fit `eye` puts the eyes: the upper third. */
export const EYE_LINE = 1 / 3;

/** What a crop leaves of `r`. A crop that leaves nothing leaves a hair, so that nothing divides by zero. */
function cropped(r: Rect, c: Crop): Rect {
  const width = Math.max(0.005, 1 - c.left - c.right);
  const height = Math.max(0.005, 1 - c.top - c.bottom);
  return {
    x: r.x + r.width * Math.min(c.left, 0.995),
    y: r.y + r.height * Math.min(c.top, 0.995),
    width: r.width * width,
    height: r.height * height,
  };
}

/** A window of `share` of `r`, moved by pan over the room that is left. */
function panned(r: Rect, shareX: number, shareY: number, panX: number, panY: number): Rect {
  const [width, height] = [r.width * shareX, r.height * shareY];
  return { x: r.x + ((r.width - width) * (1 + panX)) / 2, y: r.y + ((r.height - height) * (1 + panY)) / 2, width, height };
}

const clamp = (v: number, low: number, high: number) => Math.min(Math.max(v, low), Math.max(low, high));

/** The window of a framing in its source, and the natural size of the picture that it makes. */
export function framingWindow(framing: FramingStage | undefined, size: Size): { window: Rect; size: Size } {
  if (!framing) return { window: WHOLE, size };
  const natural = { width: framing.aspect === null ? size.width : size.height * framing.aspect, height: size.height };
  const rest = cropped(WHOLE, framing.crop);
  const window = panned(rest, 1 / framing.zoom, 1 / framing.zoom, framing.panX, framing.panY);
  return { window, size: { width: natural.width * rest.width, height: natural.height * rest.height } };
}

/** `inner`, in shares of `outer`, in shares of the whole; counted from the right when mirrored. */
function within(outer: Rect, inner: Rect, mirror: boolean): Rect {
  const x = mirror ? 1 - inner.x - inner.width : inner.x;
  return {
    x: outer.x + outer.width * x,
    y: outer.y + outer.height * inner.y,
    width: outer.width * inner.width,
    height: outer.height * inner.height,
  };
}

/** Shares of a picture of proportions `picture` that fill a box of proportions `box` without distortion. */
export function coverShares(picture: number, box: number): { x: number; y: number } {
  return picture > box ? { x: box / picture, y: 1 } : { x: 1, y: picture / box };
}

/**
 * Where a picture of `size` lands. `cover` and `eye` never distort; `contain` shrinks the target; `fill` pulls.
 * A picture without pixels is taken for square.
 */
export function place(placing: Placing, size: Size): Placement {
  const { target, fit, view = PLAIN_VIEW, framing } = placing;
  const mirror = framing?.mirror ?? false;
  const sound = { width: Math.max(1, size.width), height: Math.max(1, size.height) };
  const { window: outer, size: natural } = framingWindow(framing, sound);
  const rest = cropped(WHOLE, view.crop);
  const proportions = (natural.width * rest.width) / (natural.height * rest.height);
  if (fit === 'contain') {
    const inner = panned(rest, 1 / view.zoom, 1 / view.zoom, view.panX, view.panY);
    return { target: containRect(target, proportions, 1), window: within(outer, inner, mirror), mirror };
  }
  const shares = fit === 'fill' ? { x: 1, y: 1 } : coverShares(proportions, target.width / target.height);
  const [sx, sy] = [shares.x / view.zoom, shares.y / view.zoom];
  const inner =
    fit === 'eye' && placing.eye
      ? eyeWindow(rest, sx, sy, eyeInFraming(placing.eye, outer, mirror))
      : panned(rest, sx, sy, view.panX, view.panY);
  return { target, window: within(outer, inner, mirror), mirror };
}

/** The eye point in shares of the framing's own picture. */
function eyeInFraming(eye: Point, outer: Rect, mirror: boolean): Point {
  const x = (eye.x - outer.x) / outer.width;
  return { x: mirror ? 1 - x : x, y: (eye.y - outer.y) / outer.height };
}

function eyeWindow(rest: Rect, shareX: number, shareY: number, eye: Point): Rect {
  const [width, height] = [rest.width * shareX, rest.height * shareY];
  return {
    x: clamp(eye.x - width / 2, rest.x, rest.x + rest.width - width),
    y: clamp(eye.y - height * EYE_LINE, rest.y, rest.y + rest.height - height),
    width,
    height,
  };
}

/** Where in its box the eyes really stand, in shares; (0.5, 1/3) is where the fit `eye` wants them. */
export function eyeInBox(placing: Placing, size: Size): Point | null {
  if (!placing.eye) return null;
  const { window, mirror } = place(placing, size);
  const x = (placing.eye.x - window.x) / window.width;
  return { x: mirror ? 1 - x : x, y: (placing.eye.y - window.y) / window.height };
}

/** Halved at most so often before it is scaled. */
const MOST_HALVINGS = 5;

/**
 * How often a picture of `size` is halved before it is scaled into its place, so that scaling never skips its pixels.
 * `scale` is output pixels for each pixel of the target.
 */
export function halvings({ target, window }: Placement, size: Size, scale = 1): number {
  const across = (window.width * size.width) / (target.width * scale);
  const down = (window.height * size.height) / (target.height * scale);
  const times = Math.floor(Math.log2(Math.max(1, Math.min(across, down))) + 1e-9);
  return Math.min(MOST_HALVINGS, times);
}

/** A picture on its way from one placing to another. */
export function placeBetween(from: Placing, to: Placing, share: number, size: Size): Placement {
  if (share <= 0) return place(from, size);
  if (share >= 1) return place(to, size);
  const [a, b] = [place(from, size), place(to, size)];
  return {
    target: betweenRects(a.target, b.target, share),
    window: betweenRects(a.window, b.window, share),
    mirror: share < 0.5 ? a.mirror : b.mirror,
  };
}
