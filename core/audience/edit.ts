/** What the commands of the audience share. */
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { type Comment } from './air';
import { type Poll, type QueuedComment } from './document';

/** A comment that has come in. @throws CommandError when it is there no more */
export function commentOf({ air }: Desk, id: string): Comment {
  const found = air.audience.inbox.find((c) => c.id === id);
  if (!found) throw new CommandError('unknown-comment', `There is no comment "${id}" any more.`, 'comment');
  return found;
}

/** A comment that was chosen. @throws CommandError when it was not */
export function queuedOf({ show }: Desk, id: string): QueuedComment {
  const found = show.audience.queue.find((c) => c.id === id);
  if (!found) throw new CommandError('unknown-comment', `The comment "${id}" is not in the queue.`, 'comment');
  return found;
}

/** @throws CommandError when the show has no such poll */
export function pollOf({ show }: Desk, id: string): Poll {
  const found = show.audience.polls.find((p) => p.id === id);
  if (!found) throw new CommandError('unknown-poll', `There is no poll "${id}" in this show.`, 'poll');
  return found;
}
