/** Finding and checking surfaces, their screens, layers and presets for the commands that change them. */
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { bottom, FARTHEST, type Rect, right } from '../show/geometry';
import { isConvex, pulled } from './homography';
import { surfaceOf } from './outputs';
import { type Corners, type Layer, type Look, type NamedPlace, type Screen, type Surface, type SurfacePreset } from './surface';

/** @throws CommandError naming `field` when the show has no such surface */
export function needSurface({ show }: Desk, id: string, field = 'surface'): Surface {
  const surface = surfaceOf(show, id);
  if (!surface) throw new CommandError('unknown-surface', `There is no surface "${id}" in this show.`, field);
  return surface;
}

/** Surfaces by their identities; all for none. */
export const needSurfaces = (desk: Desk, ids: readonly string[]): Surface[] =>
  ids.length > 0 ? ids.map((id) => needSurface(desk, id, 'surfaces')) : [...desk.show.screens.surfaces];

/** @throws CommandError for the first screen that the surface does not have */
export const needScreens = (surface: Surface, ids: readonly string[], field = 'screens'): Screen[] =>
  ids.map((id) => {
    const screen = surface.screens.find((s) => s.id === id);
    if (!screen) throw new CommandError('unknown-screen', `${surface.name} has no screen "${id}".`, field);
    return screen;
  });

/** @throws CommandError for the first layer that the surface does not have */
export const needLayers = (surface: Surface, ids: readonly string[], field = 'layers'): Layer[] =>
  ids.map((id) => {
    const layer = surface.look.layers.find((l) => l.id === id);
    if (!layer) throw new CommandError('unknown-layer', `${surface.name} has no layer "${id}".`, field);
    return layer;
  });

/** @throws CommandError when the surface has no such place */
export function needPlace(surface: Surface, id: string): NamedPlace {
  const place = surface.places.find((p) => p.id === id);
  if (!place) throw new CommandError('unknown-place', `${surface.name} has no place "${id}".`, 'place');
  return place;
}

/** @throws CommandError when the show has no such preset */
export function needPreset({ show }: Desk, id: string): SurfacePreset {
  const preset = show.screens.presets.find((p) => p.id === id);
  if (!preset) throw new CommandError('unknown-preset', `There is no preset of surfaces "${id}".`, 'preset');
  return preset;
}

/** A rectangle on whole pixels: its edges are rounded, not its size, so that what met still meets. At least a pixel is left. */
export function wholeRect(r: Rect): Rect {
  const [x, y] = [Math.round(r.x), Math.round(r.y)];
  return { x, y, width: Math.max(1, Math.round(right(r)) - x), height: Math.max(1, Math.round(bottom(r)) - y) };
}

/** Puts a screen, layer or place somewhere, on whole pixels. @throws CommandError when that is farther away, or larger, than anything may be */
export function put(one: { name: string; rect: Rect }, rect: Rect): void {
  const whole = wholeRect(rect);
  if (Math.max(Math.abs(whole.x), Math.abs(whole.y), whole.width, whole.height) > FARTHEST)
    throw new CommandError('outside', `${one.name} would be more than ${FARTHEST} pixels away, or larger than that.`, 'rect');
  one.rect = whole;
}

/** @throws CommandError when a side of a canvas is odd: colour is kept for every second pixel */
export function checkCanvas({ width, height }: { width?: number; height?: number }): void {
  for (const [field, value] of Object.entries({ width, height }))
    if (value !== undefined && value % 2 !== 0)
      throw new CommandError('odd-canvas', `A canvas is even: ${value - 1} or ${value + 1} pixels, not ${value}.`, field);
}

/** @throws CommandError when the picture in an area of this size would be folded */
export function checkCorners(corners: Corners | null | undefined, area: Rect): void {
  if (corners && !isConvex(pulled(area, corners)))
    throw new CommandError('not-convex', 'A corner is pulled past a line between two others: the picture would be folded.', 'corners');
}

/** @throws CommandError when a screen is protected */
export function checkFreeToMove(screens: readonly Screen[]): void {
  const locked = screens.find((s) => s.locked);
  if (locked) throw new CommandError('locked', `Screen ${locked.name} is locked. Unlock it first.`, 'screens');
}

/** True when two looks show the same. */
export const sameLook = (a: Look, b: Look): boolean => JSON.stringify(a) === JSON.stringify(b);
