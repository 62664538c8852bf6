/** What the room Guests does itself. */
import { numberArg } from '#core/control/action';
import { type Acts } from '../client/acts';
import { focusSoon } from '../client/focus';
import { type ShowClient } from '#engine/client/show-client';
import { chooseGuest, listed, useGuestsRoom } from './room-state';

/** Chooses the comment so many places further down the list that is seen. */
function chooseComment({ state: { desk } }: ShowClient, by: number): void {
  const { comment, list } = useGuestsRoom.getState();
  const all = listed(desk.air.audience.inbox, new Set(desk.show.audience.queue.map((c) => c.id)), list);
  const at = all.findIndex((c) => c.id === comment);
  const next = all[at < 0 ? 0 : Math.min(all.length - 1, Math.max(0, at + by))];
  useGuestsRoom.setState({ comment: next?.id ?? null });
}

export const GUEST_ACTS: Acts = {
  'comments.older': ({ client, go }) => {
    go('guests');
    chooseComment(client, 1);
  },
  'comments.newer': ({ client, go }) => {
    go('guests');
    chooseComment(client, -1);
  },
  'guests.choose': ({ client, go }, args) => {
    go('guests');
    chooseGuest(client.state.desk.show.guests.list[numberArg(args, 'number') - 1]?.id ?? null);
  },
  'guests.note': ({ go }) => {
    go('guests');
    const { guest } = useGuestsRoom.getState();
    if (guest) focusSoon(`[data-guest="${CSS.escape(guest)}"] input[data-note]`);
  },
};
