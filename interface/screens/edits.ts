/** What the room Screens does with outputs, by its controls and its keys. */
import { PATTERNS, type ScreenOutput } from '#core/screens/document';
import { coverOf } from '#core/screens/outputs';
import { type ShowClient } from '#engine/client/show-client';
import { say } from '../client/say';
import { openOn } from './displays';
import { chooseOutput, chosenOutput, useScreensRoom } from './room-state';

export function addOutput(client: ShowClient): void {
  const done = client.dispatch({ type: 'screen.add', args: {} });
  if (done.ok) chooseOutput(String(done.result.id));
  else say.caution(done.error.message, { id: 'hands' });
}

/** Opens the window of an output, and says what is in the way. */
export function openWindow(client: ShowClient, output: ScreenOutput): void {
  const trouble = openOn(client.showId, output);
  if (trouble !== null) say.caution(trouble, { id: 'window' });
}

/** Does something with the chosen output, or says that there is none. */
export function withOutput(client: ShowClient, act: (output: ScreenOutput) => void): void {
  const output = chosenOutput(client.state.desk.show, useScreensRoom.getState().outputId);
  if (output) act(output);
  else say.caution('Add an output first.', { id: 'hands' });
}

/** Covers an output, or releases it when the same covers it already. */
export function toggleOver(client: ShowClient, { id }: ScreenOutput, over: { kind: 'black' } | { kind: 'card' }): void {
  const now = coverOf(client.state.desk.air.screens, id);
  client.dispatch({ type: 'screen.over', args: { outputs: [id], over: now?.kind === over.kind ? null : over } });
}

/** The next test picture, and after the last none. */
export function nextTest(client: ShowClient, { id }: ScreenOutput): void {
  const now = coverOf(client.state.desk.air.screens, id);
  const pattern = PATTERNS[now?.kind === 'test' ? PATTERNS.indexOf(now.pattern) + 1 : 0];
  client.dispatch({ type: 'screen.over', args: { outputs: [id], over: pattern ? { kind: 'test', pattern } : null } });
}
