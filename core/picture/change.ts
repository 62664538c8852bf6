/** How one picture becomes the other at a moment of a transition: the scenes to draw and how to mix them. */
import { isKind, traitsOf } from '../show/source-kinds';
import { type Air } from '../desk/air';
import { fullRect } from '../show/geometry';
import { findPicture } from '../desk/pictures';
import { type Show } from '../desk/show';
import { findGraphic, type FoundGraphic } from '../graphics/find';
import { graphicItems } from '../graphics/items';
import { outLength } from '../graphics/lengths';
import { shownOrStored } from '../graphics/showing';
import { type Transition } from './document';
import { type DrawItem, type PicturePlan } from './draw';
import { ease } from './easing';
import { glide } from './glide';
import { sceneOf, windowsIn } from './scene';

export type Change = Pick<PicturePlan, 'base' | 'over' | 'mix'>;

/** A still is drawn so much wider than the picture, so that its edges may slant and still cover all at the cut. */
const SWEEP_WIDTH = 1.5;

/** A still sweeps across, left to right, and covers the picture at the cut; a clip stays where it is. */
function stingerItem(show: Show, air: Air, t: Transition, position: number, frame: number): DrawItem[] {
  const found = findGraphic(show, t.stingerId);
  if (found) return graphicOver(show, air, t.stingerId ?? '', found, position * t.frames, t.frames, frame);
  const source = show.sources.find((s) => s.id === t.stingerId);
  if (!source) return [];
  const target = fullRect(show.raster);
  if (source.settings.kind !== 'media') {
    const cut = Math.min(0.95, Math.max(0.05, t.cutFrame / t.frames));
    const way = position < cut ? position / cut - 1 : (position - cut) / (1 - cut);
    const { width } = show.raster;
    target.width = width * SWEEP_WIDTH;
    target.x = (width - target.width) / 2 + (way * (width + target.width)) / 2;
  }
  return [{ texture: { kind: 'source', id: source.id }, target, fit: 'fill', opacity: 1 }];
}

/** A graphic as a stinger: it comes, and goes in time to be gone at the end. */
function graphicOver(show: Show, air: Air, id: string, found: FoundGraphic, at: number, frames: number, frame: number): DrawItem[] {
  const filled = shownOrStored(air, id, found);
  const leaves = frames - outLength(filled.graphic);
  return graphicItems({
    filled: { graphic: filled.graphic, values: filled.values },
    phase: { in: at, out: at > leaves ? at - leaves : null },
    frame,
    target: fullRect(show.raster),
    clocks: show.graphics.clocks,
    air: air.graphics,
    rate: show.rate,
    slot: `stinger ${id}`,
    window: windowsIn(show, air, frame),
  });
}

/** The picture at `position` (0 to 1, without its pace) of a transition from one picture to another. */
export function changeAt(
  show: Show,
  air: Air,
  fromId: string | null,
  toId: string | null,
  t: Transition,
  position: number,
  frame: number,
): Change {
  const base = sceneOf(show, air, fromId, frame);
  const over = sceneOf(show, air, toId, frame);
  const p = ease(t.easing, position);
  switch (t.kind) {
    case 'cut':
      return { base: over, over: null, mix: null };
    case 'dissolve':
      return { base, over, mix: { kind: 'dissolve', position: p, ...(t.light === 'linear' && { linear: true }) } };
    case 'dip':
      return { base, over, mix: { kind: 'dip', position: p, colour: t.dipColour } };
    case 'wipe':
      return { base, over, mix: { kind: 'wipe', position: p, softness: t.softness, shape: t.shape, angle: t.angle } };
    case 'luma':
      return { base, over, mix: { kind: 'luma', position: p, softness: t.softness, image: { kind: 'source', id: t.imageId ?? '' } } };
    case 'push':
    case 'slide':
      return { base, over, mix: { kind: t.kind, position: p, direction: t.direction } };
    case 'zoom':
      return { base, over, mix: { kind: 'zoom', position: p } };
    case 'glide':
      return { base: glide(base, over, p), over: null, mix: null };
    case 'stinger':
      return {
        base: [...(position * t.frames < t.cutFrame ? base : over), ...stingerItem(show, air, t, position, frame)],
        over: null,
        mix: null,
      };
  }
}

/** Why a transition cannot be done as it is set, in words; null when it can. */
export function transitionTrouble(show: Show, air: Air, t: Transition): string | null {
  const id = t.kind === 'stinger' ? t.stingerId : t.kind === 'luma' ? t.imageId : null;
  if (t.kind !== 'stinger' && t.kind !== 'luma') return null;
  const what = t.kind === 'stinger' ? 'stinger' : 'wipe picture';
  const picture = findPicture(show, id);
  if (id === null) return `no ${what} is chosen`;
  if (t.kind === 'stinger' && picture?.kind === 'graphic') return null;
  if (picture?.kind !== 'source') return `its ${what} is no longer in the show`;
  const lost = air.lost[id];
  if (lost !== undefined) return `${picture.name}: ${lost}`;
  const { source } = picture;
  if (t.kind === 'luma') return null;
  if (!isKind(source, 'media') && !isKind(source, 'still')) return `${picture.name} is neither a clip nor a still`;
  return traitsOf(source).transparent(source.settings) ? null : `${picture.name} has no transparent parts`;
}

/** The transition that a change between two pictures really uses, and why it is not the armed one. */
export function transitionFor(
  show: Show,
  air: Air,
  fromId: string | null,
  toId: string | null,
): { settings: Transition; note: string | null } {
  const own =
    show.overrides.find((o) => o.toId === toId && o.fromId === fromId && fromId !== null) ??
    show.overrides.find((o) => o.toId === toId && o.fromId === null);
  const settings = own?.settings ?? show.transition;
  const trouble = transitionTrouble(show, air, settings);
  if (trouble !== null) return { settings: { ...settings, kind: 'dissolve' }, note: `dissolves, as ${trouble}` };
  const graphic = settings.kind === 'stinger' ? findGraphic(show, settings.stingerId)?.graphic : undefined;
  const timed = graphic ? { ...settings, frames: graphic.stingerFrames, cutFrame: graphic.cutFrame } : settings;
  return { settings: timed, note: own ? (own.fromId === null ? 'always so to this picture' : 'always so between these two') : null };
}
