/** Where a source is used. */
import { type Air, lanePictures } from './air';
import { type Show } from './show';

export interface Use {
  place: string;
  /** Seen by the audience at this moment. */
  onAir: boolean;
}

/** Every place that uses the source at `frame`, those on air first. */
export function usesOf(show: Show, air: Air, id: string, frame: number): Use[] {
  const uses: Use[] = [];
  if (air.onAirId === id) uses.push({ place: 'on air', onAir: true });
  if (air.transition?.fromId === id) uses.push({ place: 'the transition under way', onAir: true });
  for (const lane of show.lanes) {
    const state = air.lanes[lane.id];
    const shown = state && lanePictures(state, frame).some(({ picture }) => picture.kind === 'source' && picture.id === id);
    if (shown) uses.push({ place: `${lane.name}, on air`, onAir: true });
    if (lane.content?.kind === 'source' && lane.content.id === id) uses.push({ place: `${lane.name}, held ready`, onAir: false });
  }
  if (air.nextId === id) uses.push({ place: 'Next', onAir: false });
  return uses;
}
