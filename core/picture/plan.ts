/** The plan of every picture wanted at a frame, worked out from show, air and frame number alone. */
import { type View } from '../screens/outputs';
import { type Air } from '../desk/air';
import { type AirLane, type LanePicture, lanePictures } from './air';
import { fadeLevel } from '../time/fade';
import { fullRect, intersect, type Rect } from '../show/geometry';
import { findPicture } from '../desk/pictures';
import { type Lane, type Move, type LaneContent } from './document';
import { type Raster } from '../show/raster';
import { type Show } from '../desk/show';
import { changeAt } from './change';
import { type DrawItem, type FramePlan, plainPlan, type PicturePlan } from './draw';
import { ease } from './easing';
import { keyPlan, sceneOf } from './scene';
import { runningTransition, transitionPosition } from './transition';

/** Where the plate of a name card sits: the lower third, inside the 90 % safe area (ST 2046-1). */
export function cardRect(raster: Raster): Rect {
  const width = Math.round(raster.width * 0.52);
  const height = Math.round(raster.height * 0.165);
  return { x: Math.round(raster.width * 0.05), y: Math.round(raster.height * 0.95) - height, width, height };
}

/** An item on its way in or out, `level` 0 (gone) to 1. */
function moved(item: DrawItem, move: Move, level: number, raster: Raster): DrawItem {
  const share = ease(move.easing, level);
  if (share >= 1) return item;
  if (move.kind === 'fade') return { ...item, opacity: item.opacity * share };
  const { target: t } = item;
  const rest = 1 - share;
  if (move.kind === 'slide') {
    const x = move.edge === 'left' ? -(t.x + t.width) : move.edge === 'right' ? raster.width - t.x : 0;
    const y = move.edge === 'top' ? -(t.y + t.height) : move.edge === 'bottom' ? raster.height - t.y : 0;
    return { ...item, target: { ...t, x: t.x + x * rest, y: t.y + y * rest } };
  }
  const shown: Rect = {
    x: move.edge === 'right' ? t.x + t.width * rest : t.x,
    y: move.edge === 'bottom' ? t.y + t.height * rest : t.y,
    width: move.edge === 'left' || move.edge === 'right' ? t.width * share : t.width,
    height: move.edge === 'top' || move.edge === 'bottom' ? t.height * share : t.height,
  };
  return { ...item, clip: (item.clip && intersect(item.clip, shown)) ?? shown };
}

function laneScene(show: Show, air: Air, lane: Lane, picture: LanePicture, frame: number): DrawItem[] {
  const place = lane.rect ?? (picture.kind === 'card' ? cardRect(show.raster) : fullRect(show.raster));
  const key = lane.key && keyPlan(show, lane.key);
  if (picture.kind === 'card') {
    return [
      {
        texture: { kind: 'card', card: picture.card },
        target: place,
        fit: lane.rect ? 'contain' : 'fill',
        opacity: 1,
        ...(key && { key }),
      },
    ];
  }
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
    return lanePictures(state, frame).flatMap(({ picture, level, going }) =>
      laneScene(show, air, lane, picture, frame).map((item) => moved(item, going ? lane.out : lane.in, level, show.raster)),
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
    const prepared = up ? null : preparedPicture(show, lane.content);
    return prepared ? laneScene(show, air, lane, prepared, frame) : [];
  });
}

/** What a lane would show if it were put up now; null when its content is gone. */
export function preparedPicture(show: Show, content: LaneContent): LanePicture | null {
  if (content.kind === 'picture') return findPicture(show, content.id) ? { kind: 'picture', id: content.id } : null;
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
