/** Actions of outputs: to cover and release all of them everywhere, and to work on one in its room. */
import { type Action, command } from '../action';
import { actionsOf, number, word } from '../make';

/** By ten pixels. */
const FAR = { params: [{ ...word('far', 'By ten', ['yes', 'no']), optional: true }] };

const everywhere = actionsOf('all', 'Screens');
const screens = actionsOf('screens', 'Outputs');

export const SCREEN_ACTIONS: readonly Action[] = [
  everywhere.press('screens.cards', 'Every output shows its card', 'All cards', () =>
    command('screen.over', { outputs: [], over: { kind: 'card' } }),
  ),
  everywhere.press('screens.blackAll', 'Black on every output', 'All black', () =>
    command('screen.over', { outputs: [], over: { kind: 'black' } }),
  ),
  everywhere.press('screens.takeAll', 'Take all surfaces', 'Take screens', () => command('surface.take', { surfaces: [] })),
  everywhere.press('screens.releaseAll', 'Release every output', 'Release', () => command('screen.over', { outputs: [], over: null }), {
    lit: ({ desk }) => Object.keys(desk.air.screens.over).length > 0,
  }),
  screens.act('screens.before', 'Up: what is chosen on the canvas by a pixel, else the surface or output before', 'Up', {
    ...FAR,
    repeats: true,
  }),
  screens.act('screens.next', 'Down: what is chosen on the canvas by a pixel, else the next surface or output', 'Down', {
    ...FAR,
    repeats: true,
  }),
  screens.act('screens.left', 'What is chosen on the canvas to the left by a pixel', 'Left', { ...FAR, repeats: true }),
  screens.act('screens.right', 'What is chosen on the canvas to the right by a pixel', 'Right', { ...FAR, repeats: true }),
  screens.act('screens.take', 'Take the surface: Next comes on air', 'Take'),
  screens.act('screens.cut', 'Cut the surface: Next is on air at once', 'Cut'),
  screens.act('screens.hand', 'The mouse works on layers, or on screens', 'Layers or screens'),
  screens.act('screens.none', 'Leave nothing chosen on the canvas', 'None'),
  screens.act('screens.addLayer', 'Add a layer to the surface', 'Layer'),
  screens.act('screens.addScreen', 'Add a screen to the surface', 'Screen'),
  screens.act('screens.place', 'Put the chosen layers on a named place', 'Place', {
    params: [number('number', 'Number of the place', 1, 100)],
  }),
  screens.act('screens.remove', 'Remove what is chosen on the canvas', 'Remove'),
  screens.act('screens.newSurface', 'Add a surface', 'Surface'),
  screens.act('screens.freeze', 'Freeze the surface or output; pressed again, it goes on', 'Freeze'),
  screens.act('screens.new', 'Add an output', 'New'),
  screens.act('screens.window', 'Open the window of the output', 'Window'),
  screens.act('screens.technician', 'Open the window for the technician: the output large, with what can be put over it', 'Technician'),
  screens.act('screens.card', 'Card of the output, names across the surface; pressed again, what it shows otherwise', 'Card'),
  screens.act('screens.black', 'Black on the output or surface; pressed again, what it shows otherwise', 'Black'),
  screens.act('screens.test', 'The next test picture on the output or surface; after the last, what it shows otherwise', 'Test'),
];
