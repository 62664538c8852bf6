/** What the room Screens does itself: choosing outputs and surfaces, opening windows, covering, moving what is chosen. */
import { type ActionArgs } from '#core/control/action';
import { type ActWorld, type Acts } from '../client/acts';
import { focusSoon } from '../client/focus';
import {
  addLayer,
  addOutput,
  addScreen,
  addSurface,
  nextSurfaceTest,
  nextTest,
  nudge,
  openTechnician,
  openWindow,
  putOnPlace,
  removeChosen,
  toggleOver,
  toggleSurfaceOver,
  withOutput,
  withShown,
  withSurface,
} from './edits';
import { chooseOutput, chooseSurface, chosenOutput, chosenSurface, setRoom, useScreensRoom } from './room-state';

/** The thing after or before in the list of surfaces and outputs; what is chosen on the canvas is moved instead. */
function step({ client }: ActWorld, by: 1 | -1, far: boolean): void {
  if (nudge(client, 0, by * (far ? 10 : 1)) || far) return;
  const { show } = client.state.desk;
  const { what, outputId, surfaceId } = useScreensRoom.getState();
  const all = [
    ...show.screens.surfaces.map((s) => ({ id: s.id, surface: true })),
    ...show.screens.outputs.map((o) => ({ id: o.id, surface: false })),
  ];
  const surface = what === 'surface' && show.screens.surfaces.length > 0;
  const now = surface ? chosenSurface(show, surfaceId)?.id : chosenOutput(show, outputId)?.id;
  const at = all.findIndex((x) => x.id === now && x.surface === surface);
  const next = all[Math.min(all.length - 1, Math.max(0, at + by))];
  if (next) (next.surface ? chooseSurface : chooseOutput)(next.id);
}

const across = ({ client }: ActWorld, by: 1 | -1, { far }: ActionArgs): void => void nudge(client, by * (far === 'yes' ? 10 : 1), 0);

export const SCREEN_ACTS: Acts = {
  'screens.next': (world, { far }) => step(world, 1, far === 'yes'),
  'screens.before': (world, { far }) => step(world, -1, far === 'yes'),
  'screens.right': (world, args) => across(world, 1, args),
  'screens.left': (world, args) => across(world, -1, args),
  'screens.new': ({ client }) => {
    addOutput(client);
    focusSoon('input[aria-label="Name of the output"]');
  },
  'screens.newSurface': ({ client }) => {
    addSurface(client);
    focusSoon('input[aria-label="Name of the surface"]');
  },
  'screens.addScreen': ({ client }) => withSurface(client, (surface) => addScreen(client, surface)),
  'screens.addLayer': ({ client }) => withSurface(client, (surface) => addLayer(client, surface)),
  'screens.place': ({ client }, { number }) => putOnPlace(client, Number(number)),
  'screens.remove': ({ client }) => removeChosen(client),
  'screens.hand': () => setRoom({ hand: useScreensRoom.getState().hand === 'layers' ? 'screens' : 'layers' }),
  'screens.none': () => setRoom({ screenIds: [], layerIds: [] }),
  'screens.window': ({ client }) => withOutput(client, (output) => openWindow(client, output)),
  'screens.technician': ({ client }) => withOutput(client, (output) => openTechnician(client, output)),
  'screens.take': ({ client, send }) => withSurface(client, ({ id }) => void send('surface.take', { surfaces: [id] })),
  'screens.cut': ({ client, send }) => withSurface(client, ({ id }) => void send('surface.take', { surfaces: [id], cut: true })),
  'screens.card': ({ client }) =>
    withShown(
      client,
      (surface) => toggleSurfaceOver(client, surface, { kind: 'card' }),
      (output) => toggleOver(client, output, { kind: 'card' }),
    ),
  'screens.black': ({ client }) =>
    withShown(
      client,
      (surface) => toggleSurfaceOver(client, surface, { kind: 'black' }),
      (output) => toggleOver(client, output, { kind: 'black' }),
    ),
  'screens.freeze': ({ client }) =>
    withShown(
      client,
      (surface) => toggleSurfaceOver(client, surface, { kind: 'frozen' }),
      (output) => toggleOver(client, output, { kind: 'frozen' }),
    ),
  'screens.test': ({ client }) =>
    withShown(
      client,
      (surface) => nextSurfaceTest(client, surface),
      (output) => nextTest(client, output),
    ),
};
