/** What the room Screens does itself: choosing outputs, opening their windows, covering them. */
import { type ActWorld, type Acts } from '../client/acts';
import { focusSoon } from '../client/focus';
import { addOutput, nextTest, openWindow, toggleOver, withOutput } from './edits';
import { chooseOutput, chosenOutput, useScreensRoom } from './room-state';

function step({ client }: ActWorld, by: number): void {
  const { outputs } = client.state.desk.show.screens;
  const at = outputs.findIndex((o) => o.id === chosenOutput(client.state.desk.show, useScreensRoom.getState().outputId)?.id);
  const next = outputs[Math.min(outputs.length - 1, Math.max(0, at + by))];
  if (next) chooseOutput(next.id);
}

export const SCREEN_ACTS: Acts = {
  'screens.next': (world) => step(world, 1),
  'screens.before': (world) => step(world, -1),
  'screens.new': ({ client }) => {
    addOutput(client);
    focusSoon('input[aria-label="Name of the output"]');
  },
  'screens.window': ({ client }) => withOutput(client, (output) => openWindow(client, output)),
  'screens.card': ({ client }) => withOutput(client, (output) => toggleOver(client, output, { kind: 'card' })),
  'screens.black': ({ client }) => withOutput(client, (output) => toggleOver(client, output, { kind: 'black' })),
  'screens.test': ({ client }) => withOutput(client, (output) => nextTest(client, output)),
};
