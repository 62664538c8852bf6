/** What a take does to surfaces. Works on a draft; used by the commands. */
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { type Show } from '../desk/show';
import { plainCopy } from '../schema/plain-copy';
import { type AirSurface, type ScreensAir, surfaceNow } from './air';
import { sameLook } from './surface-edit';
import { type Look, type Surface } from './surface';

/** A surface on air in the draft, with what has ended forgotten; made if it was never taken. */
export function airOf({ air }: Desk, id: string, frame: number): AirSurface {
  const now = plainCopy(surfaceNow(air.screens, id, frame));
  air.screens.surfaces[id] = now;
  return now;
}

/** Puts a look on air by the change of its surface, or at once. Refused while one comes: cut finishes it. */
export function show(desk: Desk, surface: Surface, look: Look, frame: number, atOnce: boolean): void {
  const now = airOf(desk, surface.id, frame);
  if (now.change && !atOnce)
    throw new CommandError(
      'transition-running',
      `The change of ${surface.name} has ${now.change.start + now.change.frames - frame} frames to go. A cut finishes it at once.`,
      'surfaces',
    );
  const from = now.look;
  now.look = plainCopy(look);
  now.change = atOnce || surface.change.kind === 'cut' ? null : { ...plainCopy(surface.change), from, start: frame };
}

/** Takes Next of surfaces to air. @throws CommandError when Next of all of them is on air already */
export function takeSurfaces(desk: Desk, surfaces: readonly Surface[], frame: number, atOnce: boolean): void {
  const due = surfaces.filter((s) => {
    const now = surfaceNow(desk.air.screens, s.id, frame);
    return !sameLook(now.look, s.look) || (atOnce && now.change);
  });
  if (due.length === 0) {
    const names = surfaces.map((s) => s.name).join(', ');
    throw new CommandError(
      'nothing-changes',
      names === '' ? 'The show has no surface.' : `What is in Next of ${names} is on air.`,
      'surfaces',
    );
  }
  for (const surface of due) show(desk, surface, surface.look, frame, atOnce);
}

/** Surfaces that are taken with the programme and would change by it. */
export const takenWith = ({ screens }: Pick<Show, 'screens'>, air: ScreensAir): Surface[] =>
  screens.surfaces.filter((s) => s.withTake && !sameLook(surfaceNow(air, s.id, Infinity).look, s.look));

/** Takes the surfaces that go with the programme; one that is on its way goes on. */
export function takeWithProgramme(desk: Desk, frame: number, atOnce: boolean): void {
  for (const surface of takenWith(desk.show, desk.air.screens))
    if (atOnce || !surfaceNow(desk.air.screens, surface.id, frame).change) show(desk, surface, surface.look, frame, atOnce);
}
