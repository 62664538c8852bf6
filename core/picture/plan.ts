/**
 * What to draw, worked out from show, air and frame number alone. Coordinates are pixels of the show's raster, origin
 * at the top left. The WebGL2 mixer and the reference rasteriser both draw exactly this.
 */
import { playerState } from '../media/player';
import { type Air, type AirLane, fadeLevel, lanePictures, type LanePicture } from '../show/air';
import { findSource, type Lane, type NameCard, type Raster, type Show, type WipeDirection } from '../show/show';
import { type Source } from '../show/source';
import { runningTransition, transitionPosition } from './transition';

export interface Rect {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Where an item's picture comes from. */
export type TextureRef = { kind: 'source'; id: string } | { kind: 'card'; card: NameCard };

/** One picture placed on the raster, back to front in its scene. */
export interface DrawItem {
  texture: TextureRef;
  /** The whole picture is fitted into this: kept in proportion and centred (`contain`), or pulled to fill. */
  target: Rect;
  fit: 'contain' | 'fill';
  /** 0 to 1. */
  opacity: number;
}

/** Items over black. */
export type Scene = DrawItem[];

/** How `over` comes in over `base`; `position` 0 to 1. */
export type Mix =
  | { kind: 'dissolve'; position: number }
  | { kind: 'dip'; position: number; colour: string }
  | { kind: 'wipe'; position: number; direction: WipeDirection; softness: number };

/** One finished picture: base, perhaps mixed with another scene, lanes over both, black over all. */
export interface PicturePlan {
  base: Scene;
  over: Scene | null;
  mix: Mix | null;
  lanes: DrawItem[];
  /** 0 to 1. */
  black: number;
}

export interface FramePlan {
  frame: number;
  raster: Raster;
  programme: PicturePlan;
  next: PicturePlan;
}

function sourceScene(show: Show, air: Air, id: string | null, frame: number): Scene {
  const source = findSource(show, id);
  if (!source || id === null) return [];
  const { settings } = source;
  if (settings.kind === 'media' && playerState(air, id, settings, frame, show.rate).black) return [];
  return [sourceItem(show, source, 1)];
}

/** A source over the whole raster; a colour has no proportions of its own and fills it. */
export function sourceItem(show: Show, source: Source, opacity: number): DrawItem {
  const fit = source.settings.kind === 'colour' ? 'fill' : 'contain';
  return { texture: { kind: 'source', id: source.id }, target: fullRect(show.raster), fit, opacity };
}

export const fullRect = (raster: Raster): Rect => ({ x: 0, y: 0, width: raster.width, height: raster.height });

/** Where the plate of a name card sits: the lower third, inside the 90 % safe area (ST 2046-1). */
export function cardRect(raster: Raster): Rect {
  const width = Math.round(raster.width * 0.52);
  const height = Math.round(raster.height * 0.165);
  return { x: Math.round(raster.width * 0.05), y: Math.round(raster.height * 0.95) - height, width, height };
}

function laneItem(show: Show, picture: LanePicture, opacity: number): DrawItem[] {
  if (picture.kind === 'card') {
    return [{ texture: { kind: 'card', card: picture.card }, target: cardRect(show.raster), fit: 'fill', opacity }];
  }
  const source = findSource(show, picture.id);
  return source ? [sourceItem(show, source, opacity)] : [];
}

/** Lanes from the lowest to the highest at `frame`. */
function laneItems(show: Show, air: Air, frame: number): DrawItem[] {
  return show.lanes.flatMap((lane) => {
    const state = air.lanes[lane.id];
    return state ? lanePictures(state, frame).flatMap((p) => laneItem(show, p.picture, p.level)) : [];
  });
}

/** The lanes as they would stand after the next take: those up that stay, those armed that come. */
function nextLaneItems(show: Show, air: Air, frame: number): DrawItem[] {
  return show.lanes.flatMap((lane) => {
    const state = air.lanes[lane.id];
    if (!state?.armed) return [];
    const up = lanePictures(state, frame).some((p) => p.level > 0) && state.fade.to === 1;
    if (up || !lane.content) return [];
    const prepared = preparedPicture(show, lane.content);
    return prepared ? laneItem(show, prepared, 1) : [];
  });
}

/** What a lane would show if it were put up now; null when its content is gone. */
export function preparedPicture(show: Show, content: { kind: 'source' | 'card'; id: string }): LanePicture | null {
  if (content.kind === 'source') return findSource(show, content.id) ? { kind: 'source', id: content.id } : null;
  const card = show.cards.find((c) => c.id === content.id);
  return card ? { kind: 'card', id: card.id, card: { ...card } } : null;
}

/** True when two lane pictures would look alike: the same source, or a card of the same words. */
export const samePicture = (a: LanePicture | null, b: LanePicture | null): boolean => JSON.stringify(a) === JSON.stringify(b);

/** True when a lane holds something else ready than it shows: another card or source, or new words on the same card. */
export function laneHoldsNew(show: Show, lane: Lane, state: AirLane): boolean {
  const prepared = lane.content ? preparedPicture(show, lane.content) : null;
  return prepared !== null && !samePicture(prepared, state.picture);
}

/** The plan of every picture wanted at `frame`. Pure: the same answer in the editor, on air and in a dry run. */
export function planFrame(show: Show, air: Air, frame: number): FramePlan {
  const running = runningTransition(air, frame);
  const programme: PicturePlan = {
    base: sourceScene(show, air, running ? running.fromId : air.onAirId, frame),
    over: null,
    mix: null,
    lanes: laneItems(show, air, frame),
    black: fadeLevel(air.black, frame),
  };
  if (running) {
    const position = transitionPosition(running, frame);
    const { kind, dipColour, direction, softness } = running.settings;
    programme.over = sourceScene(show, air, running.toId, frame);
    programme.mix =
      kind === 'dissolve'
        ? { kind, position }
        : kind === 'dip'
          ? { kind, position, colour: dipColour }
          : { kind, position, direction, softness };
  }
  return {
    frame,
    raster: show.raster,
    programme,
    next: { base: sourceScene(show, air, air.nextId, frame), over: null, mix: null, lanes: nextLaneItems(show, air, frame), black: 0 },
  };
}

/** `target` shrunk to the proportions of a picture of `width` × `height`, centred. */
export function containRect(target: Rect, width: number, height: number): Rect {
  const scale = Math.min(target.width / width, target.height / height);
  const w = width * scale;
  const h = height * scale;
  return { x: target.x + (target.width - w) / 2, y: target.y + (target.height - h) / 2, width: w, height: h };
}

/**
 * Share of the new picture that a wipe shows at a place, 0 to 1. `u`,`v` are 0 to 1 across and down the raster. The
 * soft edge lies wholly inside the travel, so position 0 shows none of the new picture and 1 all of it.
 */
export function wipeCoverage(mix: Extract<Mix, { kind: 'wipe' }>, u: number, v: number): number {
  const along = mix.direction === 'right' ? u : mix.direction === 'left' ? 1 - u : mix.direction === 'down' ? v : 1 - v;
  const soft = Math.max(mix.softness, 1e-4);
  const edge = mix.position * (1 + soft);
  return Math.min(1, Math.max(0, (edge - along) / soft));
}
