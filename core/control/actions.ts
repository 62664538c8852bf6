/** Every action there is: of all rooms, in the order of lists. */
import { type Action } from './action';
import { AUTOMATION_ACTIONS } from './actions/automation';
import { SCREEN_ACTIONS } from './actions/screens';
import { DESK_ACTIONS } from './actions/desk';
import { EVERYWHERE_ACTIONS } from './actions/everywhere';
import { GRAPHICS_ACTIONS } from './actions/graphics';
import { GUEST_ACTIONS } from './actions/guests';
import { LAYOUT_ACTIONS } from './actions/layouts';
import { OUTPUT_ACTIONS } from './actions/output';
import { REPLAY_ACTIONS } from './actions/replay';
import { SOUND_ACTIONS } from './actions/sound';

export const ACTIONS: readonly Action[] = [
  ...EVERYWHERE_ACTIONS,
  ...DESK_ACTIONS,
  ...REPLAY_ACTIONS,
  ...SOUND_ACTIONS,
  ...GRAPHICS_ACTIONS,
  ...GUEST_ACTIONS,
  ...LAYOUT_ACTIONS,
  ...OUTPUT_ACTIONS,
  ...AUTOMATION_ACTIONS,
  ...SCREEN_ACTIONS,
];

const byId = new Map(ACTIONS.map((a) => [a.id, a]));

export const findAction = (id: string): Action | undefined => byId.get(id);
