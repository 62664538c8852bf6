/** What is chosen in the room Guests. */
import { create } from 'zustand';
import { type Comment } from '#core/audience/air';

/** Which comments are listed: those to be looked at, those with a star, those held back, and those that were hidden. */
export const COMMENT_LISTS = ['new', 'star', 'held', 'hidden'] as const;
export type CommentList = (typeof COMMENT_LISTS)[number];

/** What is seen of the audience. */
export type Side = 'comments' | 'polls';

export const useGuestsRoom = create<{ guest: string | null; comment: string | null; list: CommentList; side: Side }>(() => ({
  guest: null,
  comment: null,
  list: 'new',
  side: 'comments',
}));

export const chooseGuest = (guest: string | null): void => useGuestsRoom.setState({ guest });

/** The comments of a list, the newest first; what is in the queue is chosen already, and stands there. */
export function listed(inbox: readonly Comment[], queued: ReadonlySet<string>, list: CommentList): Comment[] {
  const stands = (c: Comment): boolean => {
    if (queued.has(c.id)) return false;
    if (list === 'hidden') return c.hidden;
    if (c.hidden) return false;
    return list === 'star' ? c.star : list === 'held' ? c.held !== '' : c.held === '';
  };
  return inbox.filter(stands).reverse();
}
