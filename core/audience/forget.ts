/** What is forgotten of the audience in air when something is gone from the show. */
import { type Desk } from '../desk/air';

export function forgetInAudience({ show, air }: Desk): void {
  const { poll } = air.audience;
  if (poll && !show.audience.polls.some((p) => p.id === poll.id)) air.audience.poll = null;
}
