/** A show with some of its parts alone: what a file of parts holds. It is a show like any other, so it opens by itself too. */
import { ENTITIES, identityOf } from '../desk/entities';
import { type Gone, removeFrom } from '../desk/remove';
import { type Show } from '../desk/show';
import { createDelivery } from '../output/create';
import { createReplay } from '../replay/document';
import { type EntityKind } from '../schema/kinds';
import { plainCopy } from '../schema/plain-copy';
import { createScreens } from '../screens/create';
import { MIXER_OUTPUTS, PROGRAMME_OUTPUT } from '../screens/outputs';
import { PROGRAMME_BUS } from '../sound/document';
import { type Part, partKey, partsOf } from './kinds';

/** What belongs to one machine, or to one day: it never goes along. */
const STAYS: readonly EntityKind[] = ['angle', 'reel', 'clip', 'patch', 'air-path'];

/** A copy of the show with the parts that `keep` has by their keys, and what cannot be without the others gone with them: `lost`. */
export function subsetOf(show: Show, keep: ReadonlySet<string>, { output }: { output: boolean }): { show: Show; lost: Part[] } {
  const copy = plainCopy(show);
  const parts = partsOf(show);
  const goes = (part: Part) => !keep.has(partKey(part)) && !(part.kind === 'bus' && part.id === PROGRAMME_BUS);
  const gone: Gone[] = parts.filter(goes).map(({ kind, id }) => ({ kind, id }));
  for (const kind of STAYS) {
    const home = ENTITIES[kind].home?.(copy);
    for (const item of (home?.in[home.field] ?? []) as Record<string, unknown>[]) gone.push({ kind, id: identityOf(kind, item) });
  }
  const all = new Set(removeFrom(copy, gone).map(partKey));
  copy.sound.cards = [];
  copy.screens = createScreens();
  for (const one of [copy.output.recording, copy.output.stream])
    if (!MIXER_OUTPUTS.some((o) => o.id === one.outputId)) one.outputId = PROGRAMME_OUTPUT;
  copy.replay = createReplay(show.raster.height);
  // A stream's key is nobody else's.
  if (!output) copy.output = createDelivery(show.raster);
  return { show: copy, lost: parts.filter((part) => !goes(part) && all.has(partKey(part))) };
}
