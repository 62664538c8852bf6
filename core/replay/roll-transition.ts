/** How a play-out goes to air and back. */
import { transitionTrouble } from '../picture/change';
import { type Desk } from '../desk/air';
import { type Transition } from '../picture/document';

/** The transition of rolls and look-backs: the chosen one, the armed one, or a dissolve where that cannot be done. */
export function rollTransition({ show, air }: Pick<Desk, 'show' | 'air'>): Transition {
  const chosen = show.transitions.find((t) => t.id === show.replay.settings.transitionId)?.settings ?? show.transition;
  return transitionTrouble(show, air, chosen) === null ? chosen : { ...chosen, kind: 'dissolve' };
}
