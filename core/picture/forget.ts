/** Takes what is gone from the show out of mixer and players. */
import { type Desk } from '../desk/air';
import { type EntityKind, kindsOf } from '../schema/kinds';

/** Next is empty where it held the picture; a source's player and its report end with it. */
export function forgetInMixer({ air }: Desk, kind: EntityKind, id: string): void {
  if (!kindsOf('picture').includes(kind)) return;
  if (air.nextId === id) air.nextId = null;
  delete air.players[id];
  delete air.lost[id];
}
