/** Takes what is gone from the show out of the decks. */
import { type Desk } from '../desk/air';
import { type EntityKind } from '../schema/kinds';
import { DECKS } from './air';

/** A deck whose angle is gone goes on with the first one; music of a source that is gone ends. */
export function forgetInReplay({ show, air }: Desk, kind: EntityKind, id: string): void {
  const { replay } = air;
  if (kind === 'source' && replay.music?.sourceId === id) replay.music = null;
  if (kind !== 'angle') return;
  for (const n of DECKS) if (replay.decks[n].angleId === id) replay.decks[n].angleId = show.replay.angles[0]?.pictureId ?? null;
}
