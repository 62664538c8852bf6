/** Tally: in which role each picture is at a frame. */
import { type Air } from '../desk/air';
import { findGraphic } from '../graphics/find';
import { laneIsUp, lanePictures } from './air';
import { picturesWithin } from '../desk/pictures';
import { type Show } from '../desk/show';
import { liveAngle } from '../replay/deck';
import { runningTransition } from './transition';

export interface Tally {
  /** The programme's own picture, or one side of the transition under way. */
  onAir: boolean;
  /** What the next take brings. */
  next: boolean;
  /** Seen on air as part of something else: a lane, a layout, a seat. */
  inUse: boolean;
  /** Comes over the picture with the next take. */
  nextInUse: boolean;
}

export const NO_TALLY: Tally = { onAir: false, next: false, inUse: false, nextInUse: false };

/** Tally of every picture of the show, by identity. */
export function tallyOf(show: Show, air: Air, frame: number): Record<string, Tally> {
  const running = runningTransition(air, frame);
  const onAir = new Set([air.onAirId, running?.fromId ?? null]);
  const inUse = new Set<string>();
  const nextInUse = new Set<string>();
  const add = (set: Set<string>, id: string | null, itself: boolean) => {
    for (const part of picturesWithin(show, id)) {
      if (itself || part !== id) set.add(part);
      // A camera seen through a live deck is on air as much as in a layout.
      const angle = liveAngle(show, air, part, frame);
      if (angle) for (const seen of picturesWithin(show, angle.pictureId)) set.add(seen);
    }
  };
  for (const id of onAir) add(inUse, id, false);
  if (running?.settings.kind === 'stinger') add(inUse, running.settings.stingerId, true);
  add(nextInUse, air.nextId, false);
  for (const lane of show.lanes) {
    const state = air.lanes[lane.id];
    if (!state) continue;
    for (const { picture } of lanePictures(state, frame)) add(inUse, picture.id, true);
    // A lane put up at this very frame is still at level 0, and already on its way.
    if (state.picture && laneIsUp(state, frame)) add(inUse, state.picture.id, true);
    if (state.armed && lane.content) add(nextInUse, lane.content.id, true);
  }
  const pictures = [show.sources, show.framings, show.layouts, show.presets, show.seats, show.graphics.list, show.guests.gatherings].flat();
  // Of thousands of entries only those that are seen have a tally.
  const entries = [...new Set([...onAir, air.nextId, ...inUse, ...nextInUse])].filter((id) => findGraphic(show, id)?.entry);
  return Object.fromEntries(
    [...pictures.map((p) => p.id), ...entries.map(String)].map((id) => [
      id,
      { onAir: onAir.has(id), next: air.nextId === id, inUse: inUse.has(id), nextInUse: nextInUse.has(id) },
    ]),
  );
}
