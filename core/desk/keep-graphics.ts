/** After every act: air holds copies of just the graphics that are seen, and lanes that follow show what has been edited. */
import { type Patch, produceWithPatches } from 'immer';
import { findGraphic } from '../graphics/find';
import { copiesFor } from '../graphics/showing';
import { laneIsUp } from '../picture/air';
import { raiseLane } from '../picture/mixer';
import { laneHoldsNew } from '../picture/plan';
import { runningTransition } from '../picture/transition';
import { type Desk } from './air';
import { picturesWithin } from './pictures';

/** Identities of graphics and entries that the audience sees outside of lanes. */
function seenGraphics({ show, air }: Desk, frame: number): Set<string> {
  const running = runningTransition(air, frame);
  const seen = new Set([...picturesWithin(show, air.onAirId), ...picturesWithin(show, running?.fromId ?? null)]);
  if (running?.settings.kind === 'stinger' && running.settings.stingerId !== null) seen.add(running.settings.stingerId);
  return new Set([...seen].filter((id) => air.graphics.shown[id] ?? findGraphic(show, id)));
}

/** The desk with its copies in order, with the patches of that; the same desk where nothing was to be done. */
export function keepGraphics(desk: Desk, frame: number): readonly [Desk, Patch[], Patch[]] {
  const copies = copiesFor(desk.air, seenGraphics(desk, frame), (id) => findGraphic(desk.show, id), frame);
  const following = desk.show.lanes.filter((lane) => {
    const state = desk.air.lanes[lane.id];
    return (
      lane.follows &&
      state?.picture?.kind === 'graphic' &&
      state.picture.id === lane.content?.id &&
      laneIsUp(state, frame) &&
      laneHoldsNew(desk.show, lane, state)
    );
  });
  if (!copies && following.length === 0) return [desk, [], []];
  return produceWithPatches(desk, (draft: Desk) => {
    if (copies) draft.air.graphics.shown = copies;
    for (const lane of following) raiseLane(draft, lane.id, frame, lane.in.frames);
  });
}
