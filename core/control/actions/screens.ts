/** Actions of outputs: to cover and release all of them everywhere, and to work on one in its room. */
import { type Action, command } from '../action';
import { actionsOf } from '../make';

const everywhere = actionsOf('all', 'Screens');
const screens = actionsOf('screens', 'Outputs');

export const SCREEN_ACTIONS: readonly Action[] = [
  everywhere.press('screens.cards', 'Every output shows its card', 'All cards', () =>
    command('screen.over', { outputs: [], over: { kind: 'card' } }),
  ),
  everywhere.press('screens.blackAll', 'Black on every output', 'All black', () =>
    command('screen.over', { outputs: [], over: { kind: 'black' } }),
  ),
  everywhere.press('screens.releaseAll', 'Release every output', 'Release', () => command('screen.over', { outputs: [], over: null }), {
    lit: ({ desk }) => Object.keys(desk.air.screens.over).length > 0,
  }),
  screens.act('screens.before', 'Choose the output before', 'Before'),
  screens.act('screens.next', 'Choose the next output', 'Next'),
  screens.act('screens.new', 'Add an output', 'New'),
  screens.act('screens.window', 'Open the window of the output', 'Window'),
  screens.act('screens.card', 'The output shows its card; pressed again, what it shows otherwise', 'Card'),
  screens.act('screens.black', 'Black on the output; pressed again, what it shows otherwise', 'Black'),
  screens.act('screens.test', 'The next test picture on the output; after the last, what it shows otherwise', 'Test'),
];
