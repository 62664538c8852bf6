/** Takes what is gone from the show out of the graphics on air. */
import { type Desk } from '../desk/air';
import { type Show } from '../desk/show';
import { type EntityKind } from '../schema/kinds';

/** A clock that is gone stands still; a copy on air stays until it is hidden. */
export function forgetInGraphics({ air }: Desk, kind: EntityKind, id: string): void {
  if (kind === 'clock') delete air.graphics.clocks[id];
}

/** The entries of a graphic go with it. */
export const goesWithGraphics = ({ graphics }: Show, { kind, id }: { kind: EntityKind; id: string }): { kind: EntityKind; id: string }[] =>
  kind === 'graphic' ? (graphics.list.find((g) => g.id === id)?.entries ?? []).map((e) => ({ kind: 'entry', id: e.id })) : [];
