/** What the Desk does itself. */
import { numberArg } from '#core/control/action';
import { type Acts } from '../client/acts';
import { focusSoon } from '../client/focus';
import { SHELF_TABS, setDeskRoom, useDeskRoom } from './room-state';

export const DESK_ACTS: Acts = {
  'desk.length': ({ go }) => {
    go('desk');
    focusSoon('[data-role="length"]');
  },
  'desk.words': ({ client, go }) => {
    go('desk');
    const { show, air } = client.state.desk;
    // The card that is up, otherwise the one that a lane holds ready, otherwise the first.
    const up = show.lanes.map((l) => air.lanes[l.id]?.picture).find((p) => p?.kind === 'card')?.id;
    const ready = show.lanes.find((l) => l.content?.kind === 'card')?.content?.id;
    const card = [up, ready].find((id) => show.cards.some((c) => c.id === id)) ?? show.cards[0]?.id;
    setDeskRoom({ tab: 'cards' });
    focusSoon(card === undefined ? '[data-role="add-card"]' : `[data-card="${CSS.escape(card)}"]`);
  },
  'desk.transitions': ({ go }) => {
    go('desk');
    setDeskRoom({ transitions: !useDeskRoom.getState().transitions });
  },
  'desk.shelf': ({ go }, args) => {
    go('desk');
    const tab = SHELF_TABS[numberArg(args, 'number') - 1];
    if (tab) setDeskRoom({ tab });
    focusSoon('[data-region="shelf"] [role=tabpanel]:not([hidden]) :is(button, input, select)[tabindex="0"]');
  },
};
