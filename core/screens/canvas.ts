/**
 * From a canvas to the outputs that look into it. Canvas places are pixels of the canvas, output places pixels of the output; a screen takes
 * what lies in its rectangle, turned by quarters, into its active area.
 */
import { type DrawItem, type PicturePlan, type Scene } from '../picture/draw';
import { type Placing } from '../picture/view';
import { bottom, fullRect, intersect, type Point, type Rect, right } from '../show/geometry';
import { type Raster } from '../show/raster';
import { type Screen, type Turn } from './surface';

/** Degrees clockwise of a quarter turn. */
export const DEGREES: Record<Turn, 0 | 90 | 180 | 270> = { none: 0, right: 90, half: 180, left: 270 };

/** True when width and height change places. */
export const isSideways = (turn: Turn): boolean => turn === 'right' || turn === 'left';

/** The part of the output's pixels that a screen uses. */
export const areaOf = ({ area }: Pick<Screen, 'area'>, output: Raster): Rect => area ?? fullRect(output);

/** How a point of the canvas becomes one of the output. */
export interface Way {
  /** Pixels of the output for each pixel of the canvas, across and down the canvas. */
  sx: number;
  sy: number;
  turn: Turn;
  /** On the canvas. */
  from: Rect;
  /** On the output. */
  to: Rect;
}

export function wayOf(screen: Pick<Screen, 'rect' | 'turn'>, area: Rect): Way {
  const { rect: from, turn } = screen;
  const [across, down] = isSideways(turn) ? [area.height, area.width] : [area.width, area.height];
  return { sx: across / from.width, sy: down / from.height, turn, from, to: area };
}

/** A point of the canvas on the output. */
export function toOutput({ sx, sy, turn, from, to }: Way, { x, y }: Point): Point {
  const [u, v] = [(x - from.x) * sx, (y - from.y) * sy];
  switch (turn) {
    case 'none':
      return { x: to.x + u, y: to.y + v };
    case 'right':
      return { x: to.x + to.width - v, y: to.y + u };
    case 'half':
      return { x: to.x + to.width - u, y: to.y + to.height - v };
    case 'left':
      return { x: to.x + v, y: to.y + to.height - u };
  }
}

/** A point of the output on the canvas. */
export function toCanvas({ sx, sy, turn, from, to }: Way, { x, y }: Point): Point {
  const [a, b] = [x - to.x, y - to.y];
  const [u, v] = {
    none: [a, b],
    right: [b, to.width - a],
    half: [to.width - a, to.height - b],
    left: [to.height - b, a],
  }[turn] as [number, number];
  return { x: from.x + u / sx, y: from.y + v / sy };
}

const between = (a: Point, b: Point): Rect => ({
  x: Math.min(a.x, b.x),
  y: Math.min(a.y, b.y),
  width: Math.abs(b.x - a.x),
  height: Math.abs(b.y - a.y),
});

/** A rectangle of the canvas on the output. */
export const rectToOutput = (way: Way, { x, y, width, height }: Rect): Rect =>
  between(toOutput(way, { x, y }), toOutput(way, { x: x + width, y: y + height }));

/** A rectangle of the output on the canvas. */
export const rectToCanvas = (way: Way, { x, y, width, height }: Rect): Rect =>
  between(toCanvas(way, { x, y }), toCanvas(way, { x: x + width, y: y + height }));

/** The target of what is drawn about its middle and then turned: its own width and height, about where the middle lands. */
function turnedTarget(way: Way, target: Rect): Rect {
  const middle = toOutput(way, { x: target.x + target.width / 2, y: target.y + target.height / 2 });
  const [width, height] = [target.width * way.sx, target.height * way.sy];
  return { x: middle.x - width / 2, y: middle.y - height / 2, width, height };
}

const placingToOutput = (way: Way, placing: Placing): Placing => ({ ...placing, target: turnedTarget(way, placing.target) });

/** Where at most an item can leave marks, on the canvas: its target, turned, with its shadow. */
function reach({ target, rotation = 0, shadow }: DrawItem): Rect {
  let { x, y, width, height } = target;
  if (rotation % 360 !== 0) {
    const half = Math.hypot(width, height) / 2;
    [x, y, width, height] = [x + width / 2 - half, y + height / 2 - half, half * 2, half * 2];
  }
  if (!shadow || shadow.opacity <= 0) return { x, y, width, height };
  const far = shadow.blur * 2 + Math.max(Math.abs(shadow.x), Math.abs(shadow.y));
  return { x: x - far, y: y - far, width: width + far * 2, height: height + far * 2 };
}

/** An item of the canvas as the output draws it; null when nothing of it lands in the active area. */
function itemToOutput(way: Way, item: DrawItem, raster: Raster, whole: boolean): DrawItem | null {
  if (!intersect(reach(item), way.from)) return null;
  const clip = intersect(item.clip ? rectToOutput(way, item.clip) : way.to, way.to);
  if (!clip) return null;
  const scale = Math.min(way.sx, way.sy);
  const degrees = DEGREES[way.turn];
  const { texture, glide, shadow, border, radius } = item;
  const shift = shadow && degrees !== 0 ? turnedBy(degrees, shadow) : shadow;
  const out: DrawItem = { ...item, target: turnedTarget(way, item.target), clip };
  // Nothing lies beside an area that is all of the output.
  if (whole && !item.clip) delete out.clip;
  // A layout keeps the coordinates of the show.
  if (texture.kind === 'scene') out.texture = { ...texture, raster: texture.raster ?? raster };
  if (glide) out.glide = { from: placingToOutput(way, glide.from), to: placingToOutput(way, glide.to), share: glide.share };
  // An even colour stands upright however it is turned by quarters: it is drawn much quicker so.
  if (texture.kind === 'colour' && (item.rotation ?? 0) === 0 && !glide) out.target = rectToOutput(way, item.target);
  else if (degrees !== 0 || item.rotation !== undefined) out.rotation = ((item.rotation ?? 0) + degrees) % 360;
  if (shift) out.shadow = { ...shift, x: shift.x * scale, y: shift.y * scale, blur: shift.blur * scale };
  if (border) out.border = { ...border, width: border.width * scale };
  if (radius !== undefined) out.radius = radius * scale;
  return out;
}

/** What has a direction, turned clockwise. */
function turnedBy<T extends Point>(degrees: 90 | 180 | 270 | 0, point: T): T {
  const { x, y } = point;
  if (degrees === 90) return { ...point, x: -y, y: x };
  if (degrees === 180) return { ...point, x: -x, y: -y };
  return degrees === 270 ? { ...point, x: y, y: -x } : point;
}

/**
 * One picture of several ways: what each screen that an output of `pixels` feeds sees of the canvas. `raster` is that of layouts within the
 * plan.
 */
export function planToOutput(ways: readonly Way[], plan: PicturePlan, raster: Raster, pixels: Raster): PicturePlan {
  const isWhole = ({ to }: Way) => to.x <= 0 && to.y <= 0 && right(to) >= pixels.width && bottom(to) >= pixels.height;
  const all = (scene: Scene) => ways.flatMap((way) => scene.flatMap((item) => itemToOutput(way, item, raster, isWhole(way)) ?? []));
  return { ...plan, base: all(plan.base), over: plan.over && all(plan.over), lanes: all(plan.lanes) };
}
