/** What the room Settings does itself. */
import { type Acts } from '../client/acts';
import { setSettingsRoom } from './room-state';

export const SETTINGS_ACTS: Acts = {
  'parts.open': ({ go }) => {
    go('settings');
    setSettingsRoom({ tab: 'parts' });
  },
};
