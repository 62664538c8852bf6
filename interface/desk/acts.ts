/** What the Desk does itself. */
import { numberArg } from '#core/control/action';
import { findGraphic } from '#core/graphics/find';
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
    // The entry that is up, otherwise the one that a lane holds ready, otherwise the first there is.
    const up = show.lanes.map((l) => air.lanes[l.id]?.picture).flatMap((p) => (p?.kind === 'graphic' ? [p.id] : []));
    const ready = show.lanes.flatMap((l) => (l.content ? [l.content.id] : []));
    const found = [...up, ...ready].map((id) => findGraphic(show, id)).find((f) => f?.entry) ?? null;
    const graphic = found?.graphic ?? show.graphics.list.find((g) => g.entries.length > 0);
    const entry = found?.entry ?? graphic?.entries[0];
    setDeskRoom({ part: 'shelf', tab: 'graphics', ...(graphic && { graphicId: graphic.id }) });
    focusSoon(entry ? `[data-entry="${CSS.escape(entry.id)}"]` : '[data-role="add-entry"]');
  },
  'desk.transitions': ({ go }) => {
    go('desk');
    setDeskRoom({ transitions: !useDeskRoom.getState().transitions });
  },
  'desk.shelf': ({ go }, args) => {
    go('desk');
    const tab = SHELF_TABS[numberArg(args, 'number') - 1];
    if (tab) setDeskRoom({ part: 'shelf', tab });
    focusSoon('[data-region="shelf"] [role=tabpanel]:not([hidden]) :is(button, input, select)[tabindex="0"]');
  },
};
