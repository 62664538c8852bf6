/** The plan of every picture wanted at a frame, worked out from show, air and frame number alone. */
import { type View } from '../screens/outputs';
import { type Air } from '../desk/air';
import { type Shown } from '../graphics/air';
import { type WholeMove } from '../graphics/element';
import { graphicItems } from '../graphics/items';
import { inLength, outLength } from '../graphics/lengths';
import { type Graphic } from '../graphics/document';
import { type Phase } from '../graphics/motion';
import { sameFilled, shownAt } from '../graphics/showing';
import { type AirLane, type LanePicture, lanePictures, type LaneShown } from './air';
import { fadeLevel } from '../time/fade';
import { fullRect, intersect } from '../show/geometry';
import { findPicture } from '../desk/pictures';
import { type Lane, type Move, type LaneContent } from './document';
import { type Raster } from '../show/raster';
import { type Show } from '../desk/show';
import { changeAt } from './change';
import { type DrawItem, type FramePlan, plainPlan, type PicturePlan } from './draw';
import { ease } from './easing';
import { uncovered, wayOut } from './moving';
import { keyPlan, sceneOf, windowsIn } from './scene';
import { runningTransition, transitionPosition } from './transition';

/** An item on its way in or out, `level` 0 (gone) to 1. */
function moved(item: DrawItem, move: Move, level: number, raster: Raster): DrawItem {
  const share = ease(move.easing, level);
  if (share >= 1) return item;
  if (move.kind === 'fade') return { ...item, opacity: item.opacity * share };
  const { target } = item;
  if (move.kind === 'slide') {
    const way = wayOut(move.edge, target, raster);
    return { ...item, target: { ...target, x: target.x + way.x * (1 - share), y: target.y + way.y * (1 - share) } };
  }
  const shown = uncovered(move.edge, share, target);
  return { ...item, clip: (item.clip && intersect(item.clip, shown)) ?? shown };
}

/** How a lane moves what comes and goes in it, for graphics that have no moves of their own. */
const asWholeMove = ({ kind, edge, easing, frames }: Move): WholeMove => ({ way: kind, edge, easing, start: 0, frames });

/** Where a graphic in a lane is on its way. One that is sent off before it has come goes from where it is; one that is called back comes the way it went. */
function phaseIn(graphic: Graphic, shown: Shown, frame: number, { level, going, fade }: Omit<LaneShown, 'picture'>): Phase {
  const [comes, goes] = [inLength(graphic), outLength(graphic)];
  const stands = Math.max(comes, frame - shown.start);
  if (going) {
    const had = fade.from < 1 ? fade.from * comes : Math.max(comes, fade.start - shown.start);
    return { in: had, out: (1 - (fade.from > 0 ? level / fade.from : 0)) * goes };
  }
  if (level >= 1) return { in: stands, out: null };
  return fade.from > 0 ? { in: stands, out: (1 - level) * goes } : { in: level * comes, out: null };
}

/** At rest, or as far as `level` on its way in. */
const at = (level: number): Omit<LaneShown, 'picture'> => ({ level, going: false, fade: { from: 0, to: 1, start: 0, frames: 0 } });

/** A graphic in a lane: it moves by its own moves, or by the lane's where it has none. */
function laneGraphic(
  show: Show,
  air: Air,
  lane: Lane,
  id: string,
  shown: Shown,
  frame: number,
  way: Omit<LaneShown, 'picture'>,
): DrawItem[] {
  const { graphic: own, values, before } = shown;
  const graphic = {
    ...own,
    in: own.in ?? (inLength(own) > 0 ? null : asWholeMove(lane.in)),
    out: own.out ?? (outLength(own) > 0 ? null : asWholeMove(lane.out)),
  };
  const key = lane.key && keyPlan(show, lane.key);
  const items = graphicItems({
    filled: { graphic, values },
    before: before && { filled: before, frames: frame - before.start },
    phase: phaseIn(graphic, shown, frame, way),
    hold: { index: shown.hold.index, frames: frame - shown.hold.start },
    frame,
    target: lane.rect ?? fullRect(show.raster),
    clocks: show.graphics.clocks,
    air: air.graphics,
    rate: show.rate,
    slot: `${lane.id}/${id}`,
    window: windowsIn(show, air, frame),
  });
  return key ? items.map((item) => ({ ...item, key })) : items;
}

function laneScene(show: Show, air: Air, lane: Lane, picture: LanePicture, frame: number): DrawItem[] {
  if (picture.kind === 'graphic') return laneGraphic(show, air, lane, picture.id, picture.shown, frame, at(1));
  const place = lane.rect ?? fullRect(show.raster);
  const key = lane.key && keyPlan(show, lane.key);
  const scene = sceneOf(show, air, picture.id, frame);
  const only = scene[0];
  if (!only) return [];
  // A layout moves and keys as one picture.
  const one: DrawItem =
    findPicture(show, picture.id)?.kind === 'layout'
      ? { texture: { kind: 'scene', id: picture.id, scene }, target: place, fit: 'contain', opacity: 1 }
      : { ...only, target: place };
  return [{ ...one, ...(key && { key }) }];
}

/** Lanes from the lowest to the highest at `frame`. */
function laneItems(show: Show, air: Air, frame: number, throughBlack: boolean): DrawItem[] {
  return show.lanes.flatMap((lane) => {
    const state = air.lanes[lane.id];
    if (!state || lane.throughBlack !== throughBlack) return [];
    return lanePictures(state, frame).flatMap(({ picture, ...way }) =>
      picture.kind === 'graphic'
        ? laneGraphic(show, air, lane, picture.id, picture.shown, frame, way)
        : laneScene(show, air, lane, picture, frame).map((item) => moved(item, way.going ? lane.out : lane.in, way.level, show.raster)),
    );
  });
}

/** The lanes that the next take brings. */
function nextLaneItems(show: Show, air: Air, frame: number): DrawItem[] {
  return show.lanes.flatMap((lane) => {
    const state = air.lanes[lane.id];
    const comes = state?.armed || (lane.whileId !== null && lane.whileId === air.nextId);
    if (!state || !comes || !lane.content) return [];
    const up = lanePictures(state, frame).some((p) => p.level > 0) && state.fade.to === 1;
    const prepared = up && !state.changes ? null : preparedPicture(show, lane.content, frame);
    return prepared ? laneScene(show, air, lane, prepared, frame) : [];
  });
}

/** Items of everything that may be shown with the next press: what lanes hold ready and what is in Next, as it begins and as it stays. */
export function preparedItems(show: Show, air: Air, frame: number): DrawItem[] {
  const lanes = show.lanes.flatMap((lane) => {
    const prepared = lane.content && preparedPicture(show, lane.content, frame);
    if (prepared?.kind !== 'graphic') return [];
    const { id, shown } = prepared;
    const length = Math.max(inLength(shown.graphic), lane.in.frames, 1);
    return [0, 1, 2, length].map((f) => f / length).flatMap((level) => laneGraphic(show, air, lane, id, shown, frame, at(level)));
  });
  const next = findPicture(show, air.nextId)?.kind === 'graphic' ? sceneOf(show, air, air.nextId, frame) : [];
  return [...lanes, ...next];
}

/** How a picture would look in a lane, at rest, over what is on air at the frame of `plan` or over what is in Next. */
export function previewPlan(show: Show, air: Air, plan: FramePlan, over: 'air' | 'next', laneId: string, id: string): PicturePlan {
  const base = over === 'air' ? plan.clean : plainPlan(plan.next.base);
  const lanes = show.lanes.flatMap((lane) => {
    const state = air.lanes[lane.id];
    if (lane.id === laneId) {
      const prepared = preparedPicture(show, { kind: 'picture', id }, plan.frame - RESTING);
      return prepared ? laneScene(show, air, lane, prepared, plan.frame) : [];
    }
    return state ? lanePictures(state, plan.frame).flatMap(({ picture }) => laneScene(show, air, lane, picture, plan.frame)) : [];
  });
  return { ...base, lanes };
}

/** Frames after which every graphic has come. */
const RESTING = 100_000;

/** What a lane would show if it were put up now; null when its content is gone. */
export function preparedPicture(show: Show, { id }: LaneContent, frame: number): LanePicture | null {
  const picture = findPicture(show, id);
  if (picture?.kind === 'graphic') return { kind: 'graphic', id, shown: shownAt(picture, frame) };
  return picture && { kind: 'picture', id };
}

/** True when two lane pictures look alike: the same source, or the same graphic with the same values. */
export const samePicture = (a: LanePicture | null, b: LanePicture | null): boolean =>
  a?.kind === 'graphic' && b?.kind === 'graphic' ? a.id === b.id && sameFilled(a.shown, b.shown) : a?.kind === b?.kind && a?.id === b?.id;

/** True when a lane holds something else ready than it shows: another entry or source, or new values of the same entry. */
export function laneHoldsNew(show: Show, lane: Lane, state: AirLane): boolean {
  const prepared = lane.content ? preparedPicture(show, lane.content, 0) : null;
  return prepared !== null && !samePicture(prepared, state.picture);
}

/** What a view shows in the frame that is planned. */
export function planView(plan: FramePlan, show: Show, air: Air, view: View): PicturePlan {
  return view.kind === 'picture' ? plainPlan(sceneOf(show, air, view.id, plan.frame)) : plan[view.kind];
}

/** The plan of every picture wanted at `frame`. Pure: the same answer in the editor, on air and in a dry run. */
export function planFrame(show: Show, air: Air, frame: number): FramePlan {
  const running = runningTransition(air, frame);
  const change = running
    ? changeAt(show, air, running.fromId, running.toId, running.settings, transitionPosition(running, frame), frame)
    : { base: sceneOf(show, air, air.onAirId, frame), over: null, mix: null };
  const top = laneItems(show, air, frame, true);
  const black = fadeLevel(air.black, frame);
  const clean: PicturePlan = { ...change, lanes: [], black };
  return {
    frame,
    raster: show.raster,
    programme: { ...clean, lanes: laneItems(show, air, frame, false), ...(top.length > 0 && { top }) },
    clean,
    next: { ...plainPlan(sceneOf(show, air, air.nextId, frame)), lanes: nextLaneItems(show, air, frame) },
  };
}
