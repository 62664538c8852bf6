/** Tally: in which role each source is at a frame. */
import { type Air, laneIsUp, lanePictures } from '../show/air';
import { type Show } from '../show/show';
import { runningTransition } from './transition';

export interface Tally {
  /** The programme's own picture, or one side of the transition under way. */
  onAir: boolean;
  /** What the next take brings. */
  next: boolean;
  /** Seen on air as part of something else: a lane. */
  inUse: boolean;
  /** Comes over the picture with the next take. */
  nextInUse: boolean;
}

export const NO_TALLY: Tally = { onAir: false, next: false, inUse: false, nextInUse: false };

/** Tally of every source of the show, by identity. */
export function tallyOf(show: Show, air: Air, frame: number): Record<string, Tally> {
  const running = runningTransition(air, frame);
  const onAir = new Set([air.onAirId, running?.fromId ?? null]);
  const inUse = new Set<string>();
  const nextInUse = new Set<string>();
  for (const lane of show.lanes) {
    const state = air.lanes[lane.id];
    if (!state) continue;
    const shown = lanePictures(state, frame);
    for (const { picture } of shown) if (picture.kind === 'source') inUse.add(picture.id);
    // A lane put up at this very frame is still at level 0, and already on its way.
    if (state.picture?.kind === 'source' && laneIsUp(state, frame)) inUse.add(state.picture.id);
    if (state.armed && lane.content?.kind === 'source') nextInUse.add(lane.content.id);
  }
  return Object.fromEntries(
    show.sources.map(({ id }) => [
      id,
      { onAir: onAir.has(id), next: air.nextId === id, inUse: inUse.has(id), nextInUse: nextInUse.has(id) },
    ]),
  );
}
