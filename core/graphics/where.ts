/** Where the entries of a graphic are: held ready, on air, or on air with other words. */
import { type Air } from '../desk/air';
import { type Show } from '../desk/show';
import { type Filled } from './air';
import { type Graphic } from './document';
import { filledOf } from './find';
import { sameFilled } from './showing';

export type Where =
  | { sign: 'ready' | 'air'; laneId: string | null }
  /** On air as it was. `laneId` is the lane that shows it; null where it is, or is within, the picture. */
  | { sign: 'edited'; laneId: string | null };

/** By identity of the entry, or of the graphic by itself. */
export function whereEntries({ lanes }: Pick<Show, 'lanes'>, air: Air, graphic: Graphic): ReadonlyMap<string, Where> {
  const where = new Map<string, Where>();
  for (const { id, content } of lanes) if (content) where.set(content.id, { sign: 'ready', laneId: id });
  const put = (id: string, shown: Filled, laneId: string | null) => {
    const entry = graphic.entries.find((e) => e.id === id) ?? null;
    if (entry || id === graphic.id) where.set(id, { sign: sameFilled(shown, filledOf({ graphic, entry })) ? 'air' : 'edited', laneId });
  };
  for (const [laneId, { picture, fade }] of Object.entries(air.lanes))
    if (picture?.kind === 'graphic' && fade.to === 1) put(picture.id, picture.shown, laneId);
  for (const [id, shown] of Object.entries(air.graphics.shown)) put(id, shown, null);
  return where;
}
