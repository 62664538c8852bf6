/** Puts a stored whole into Next: only what differs from what is on air is made ready to move. */
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { laneIsUp } from './air';
import { type Tableau } from './document';
import { laneOf } from './mixer';
import { laneHoldsNew } from './plan';
import { runningTransition } from './transition';

/**
 * Sets Next, the armed transition, and which lanes change with the take. A lane that should show what it shows already is left alone.
 * @throws CommandError when the tableau sets nothing, or a transition runs.
 */
export function putInNext(desk: Desk, { name, pictureId, lanes, transition }: Tableau, frame: number): void {
  const { show, air } = desk;
  if (pictureId === null && lanes.length === 0)
    throw new CommandError('empty-tableau', `${name} sets neither a picture nor a lane. Choose what it sets in its settings.`, 'tableau');
  if (runningTransition(air, frame)) throw new CommandError('transition-running', 'A transition runs. Cut finishes it at once.', 'tableau');
  if (pictureId !== null) air.nextId = pictureId === air.onAirId ? null : pictureId;
  if (transition) show.transition = { ...transition };
  for (const { laneId, contentId } of lanes) {
    const { lane, state } = laneOf(desk, laneId);
    const up = laneIsUp(state, frame);
    state.changes = false;
    if (contentId === null) state.armed = up;
    else {
      lane.content = { kind: 'picture', id: contentId };
      state.armed = !up || laneHoldsNew(show, lane, state);
      state.changes = up && state.armed;
    }
  }
}
