/** Which comment is on air. Pure. */
import { type Desk } from '../desk/air';
import { laneIsUp } from '../picture/air';

/** The comment that the chosen lane shows at a frame; null for none. */
export function shownComment({ show, air }: Desk, frame: number): string | null {
  const { graphicId, laneId } = show.audience;
  const state = laneId === null ? undefined : air.lanes[laneId];
  const entryId = state && laneIsUp(state, frame) ? state.picture?.id : undefined;
  const entry = show.graphics.list.find((g) => g.id === graphicId)?.entries.find((e) => e.id === entryId);
  return entry?.rowKey ?? null;
}
