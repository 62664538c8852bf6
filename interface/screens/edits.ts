/** What the room Screens does with outputs and surfaces, by its controls and its keys. */
import { coverAfter, surfaceNow, type Over } from '#core/screens/air';
import { type ScreenOutput } from '#core/screens/document';
import { coverOf } from '#core/screens/outputs';
import { type Surface } from '#core/screens/surface';
import { type Rect } from '#core/show/geometry';
import { type ShowClient } from '#engine/client/show-client';
import { say } from '../client/say';
import { wholeView, zoomed } from './canvas-view';
import { openOn } from './displays';
import { chooseOutput, chooseSurface, chosenOf, chosenOutput, chosenSurface, setRoom, useScreensRoom } from './room-state';

/** What a dragged named place is known by. */
export const PLACE_DRAG = 'application/x-bivoca-place';

/** Sends a command; a refusal is said. What it answers, where it was done. */
function sent(client: ShowClient, type: string, args: Record<string, unknown> = {}): Record<string, unknown> | null {
  const done = client.dispatch({ type, args });
  if (done.ok) return done.result;
  say.caution(done.error.message, { id: 'hands' });
  return null;
}

export function addOutput(client: ShowClient): void {
  const done = sent(client, 'screen.add');
  if (done) chooseOutput(String(done.id));
}

export function addSurface(client: ShowClient): void {
  const done = sent(client, 'surface.add');
  if (done) chooseSurface(String(done.id));
}

export function addScreen(client: ShowClient, surface: Surface): void {
  const done = sent(client, 'surface.addScreen', { surface: surface.id });
  if (done) setRoom({ hand: 'screens', screenIds: [String(done.id)] });
}

export function addLayer(client: ShowClient, surface: Surface): void {
  const done = sent(client, 'layer.add', { surface: surface.id, content: { kind: 'colour', colour: '#16405a' } });
  if (done) setRoom({ hand: 'layers', layerIds: [String(done.id)] });
}

/** Opens the window of an output, and says what is in the way. */
export function openWindow(client: ShowClient, output: ScreenOutput): void {
  const trouble = openOn(client.showId, output);
  if (trouble !== null) say.caution(trouble, { id: 'window' });
}

/** Opens the window for the technician, with this output large. */
export function openTechnician({ showId }: ShowClient, { id }: ScreenOutput): void {
  const address = `/technician?${new URLSearchParams({ show: showId, output: id }).toString()}`;
  const opened = window.open(address, 'bivoca-technician', 'popup,width=1100,height=700');
  opened?.focus();
  if (!opened) say.caution('The browser has not opened the window: allow windows (pop-ups) at the address of this page.', { id: 'window' });
}

/** Does something with the chosen output, or says that there is none. */
export function withOutput(client: ShowClient, act: (output: ScreenOutput) => void): void {
  const output = chosenOutput(client.state.desk.show, useScreensRoom.getState().outputId);
  if (output) act(output);
  else say.caution('Add an output first.', { id: 'hands' });
}

/** Does something with the chosen surface, or says that there is none. */
export function withSurface(client: ShowClient, act: (surface: Surface) => void): void {
  const surface = chosenSurface(client.state.desk.show, useScreensRoom.getState().surfaceId);
  if (surface) act(surface);
  else say.caution('Add a surface first.', { id: 'hands' });
}

/** Does it with what stands on the stage. */
export function withShown(client: ShowClient, ofSurface: (surface: Surface) => void, ofOutput: (output: ScreenOutput) => void): void {
  const { what } = useScreensRoom.getState();
  if (what === 'surface' && client.state.desk.show.screens.surfaces.length > 0) withSurface(client, ofSurface);
  else withOutput(client, ofOutput);
}

/** Covers an output, or releases it when the same covers it already. */
export function toggleOver(client: ShowClient, { id }: ScreenOutput, over: Exclude<Over, { kind: 'test' }>): void {
  const now = coverOf(client.state.desk.air.screens, id);
  client.dispatch({ type: 'screen.over', args: { outputs: [id], over: coverAfter(now, over.kind) } });
}

/** Covers all screens of a surface, or releases them when the same covers them already. */
export function toggleSurfaceOver(client: ShowClient, { id }: Surface, over: Exclude<Over, { kind: 'test' }>): void {
  const now = surfaceNow(client.state.desk.air.screens, id, 0).over;
  client.dispatch({ type: 'surface.over', args: { surfaces: [id], over: coverAfter(now, over.kind) } });
}

/** The next test picture, and after the last none. */
export function nextTest(client: ShowClient, { id }: ScreenOutput): void {
  client.dispatch({ type: 'screen.over', args: { outputs: [id], over: coverAfter(coverOf(client.state.desk.air.screens, id), 'test') } });
}

export function nextSurfaceTest(client: ShowClient, { id }: Surface): void {
  client.dispatch({
    type: 'surface.over',
    args: { surfaces: [id], over: coverAfter(surfaceNow(client.state.desk.air.screens, id, 0).over, 'test') },
  });
}

/** Moves what is chosen on the canvas; false when nothing is. */
export function nudge(client: ShowClient, x: number, y: number): boolean {
  const { what, hand, screenIds, layerIds, surfaceId } = useScreensRoom.getState();
  const surface = chosenSurface(client.state.desk.show, surfaceId);
  if (what !== 'surface' || !surface) return false;
  const ids = hand === 'screens' ? chosenOf(surface.screens, screenIds) : chosenOf(surface.look.layers, layerIds);
  if (ids.length === 0) return false;
  const names = ids.map((i) => i.id);
  if (hand === 'screens') sent(client, 'surface.nudgeScreens', { surface: surface.id, screens: names, x, y });
  else sent(client, 'layer.nudge', { surface: surface.id, layers: names, x, y });
  return true;
}

/** Puts the chosen layers on a named place, by its number in the list from 1. */
export function putOnPlace(client: ShowClient, number: number): void {
  withSurface(client, (surface) => {
    const place = surface.places[number - 1];
    const layers = chosenOf(surface.look.layers, useScreensRoom.getState().layerIds).map((l) => l.id);
    if (!place) say.caution(`${surface.name} has ${surface.places.length} named places.`, { id: 'hands' });
    else if (layers.length === 0) say.caution(`Choose a layer first: it goes to ${place.name}.`, { id: 'hands' });
    else sent(client, 'layer.on', { surface: surface.id, layers, place: place.id });
  });
}

/** Takes away what is chosen on the canvas. */
export function removeChosen(client: ShowClient): void {
  const { hand, screenIds, layerIds } = useScreensRoom.getState();
  withSurface(client, (surface) => {
    const ids = (hand === 'screens' ? chosenOf(surface.screens, screenIds) : chosenOf(surface.look.layers, layerIds)).map((i) => i.id);
    if (ids.length === 0) return void say.caution('Choose a layer or a screen first.', { id: 'hands' });
    const done =
      hand === 'screens'
        ? sent(client, 'surface.removeScreens', { surface: surface.id, screens: ids })
        : sent(client, 'layer.remove', { surface: surface.id, layers: ids });
    if (done) setRoom({ screenIds: [], layerIds: [] });
    return undefined;
  });
}

/** Nearer or farther about the middle of what is seen. */
export function zoomBy(factor: number): void {
  const element = document.querySelector('[data-testid="surface"]');
  const canvas = element?.querySelector('svg rect');
  if (!element || !canvas) return;
  const length = (name: string) => Number(canvas.getAttribute(name));
  const whole: Rect = wholeView(
    { width: length('width'), height: length('height') },
    { width: element.clientWidth, height: element.clientHeight },
  );
  const view = useScreensRoom.getState().view ?? whole;
  setRoom({ view: zoomed(view, factor, { x: view.x + view.width / 2, y: view.y + view.height / 2 }, whole) });
}
