/** After every act: who is in the gathered views of guests, and since when. */
import { type Patch, produceWithPatches } from 'immer';
import { gatheredNow } from '../guests/gathered';
import { type Desk } from './air';

/** The desk with that in order, with the patches of it; the same desk where nothing has changed. */
export function keepGuests(desk: Desk, frame: number): readonly [Desk, Patch[], Patch[]] {
  const next = gatheredNow(desk.show, desk.air, frame);
  if (!next) return [desk, [], []];
  return produceWithPatches(desk, (draft: Desk) => {
    draft.air.guests.gathered = next;
  });
}
