/** What the room Guests does itself. */
import { numberArg } from '#core/control/action';
import { type Acts } from '../client/acts';
import { focusSoon } from '../client/focus';
import { chooseGuest, useGuestsRoom } from './room-state';

export const GUEST_ACTS: Acts = {
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
