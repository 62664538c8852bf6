/** Outputs: what leaves the mixer as pictures of its own, for recorder, streamer, windows and replay. */
import { type Raster } from '../show/raster';
import { type Over, type ScreensAir } from './air';
import { type ScreenOutput, type Screens, type Shows } from './document';
import { type Surface } from './surface';

/** What can be seen: the programme, the programme below its lanes, what comes next, or any one picture. */
export type View = { kind: 'programme' | 'clean' | 'next' } | { kind: 'picture'; id: string };

/** A picture that leaves the mixer while somebody takes it. */
export interface Output {
  id: string;
  name: string;
  shows: Shows;
  /** Size that it is made in, pixels; null for the size that the show is worked in. */
  raster: Raster | null;
  /** Each how many-th frame of the show leaves; all without it. */
  frameStep?: number;
}

/** What the audience gets. */
export const PROGRAMME_OUTPUT = 'programme';
/** The programme below its lanes. */
export const CLEAN_OUTPUT = 'clean';

/** What every show has. */
export const MIXER_OUTPUTS: readonly Output[] = [
  { id: PROGRAMME_OUTPUT, name: 'Programme', shows: { kind: 'programme' }, raster: null },
  { id: CLEAN_OUTPUT, name: 'Clean programme', shows: { kind: 'clean' }, raster: null },
];

type HasScreens = { screens: Screens };

/** Every output of a show, the programme first. */
export const outputsOf = ({ screens }: HasScreens): readonly Output[] => [...MIXER_OUTPUTS, ...screens.outputs];

/** The output with this identity. */
export const findOutput = (show: HasScreens, id: string | null): Output | undefined => outputsOf(show).find((o) => o.id === id);

/** An output of the show's own; programme and clean programme are none. */
export const screenOutput = ({ screens }: HasScreens, id: string): ScreenOutput | undefined => screens.outputs.find((o) => o.id === id);

/** The surface with this identity. */
export const surfaceOf = ({ screens }: HasScreens, id: string | null): Surface | undefined => screens.surfaces.find((s) => s.id === id);

/** The surface that an output shows a part of; undefined for any other. */
export function surfaceShown(show: HasScreens, output: Output): string | null | undefined {
  const { shows } = screenOutput(show, output.id) ?? output;
  return shows.kind === 'surface' ? shows.surfaceId : undefined;
}

/** An output that is made only for whoever asks: one picture by itself. */
export const pictureOutput = (id: string, name: string): Output => ({
  id,
  name,
  shows: { kind: 'picture', pictureId: id },
  raster: null,
});

/** What covers an output for the moment; null for nothing. */
export const coverOf = ({ over }: ScreensAir, id: string): Over | null => (Object.hasOwn(over, id) ? (over[id] ?? null) : null);

/**
 * An output as it is now: of the show as it is, and with what stands in for the moment. One that is no longer in the show stays as it was.
 */
export function outputNow(show: HasScreens, screens: ScreensAir, output: Output): Output {
  const now = screenOutput(show, output.id) ?? output;
  const instead = coverOf(screens, output.id);
  return instead && instead.kind !== 'frozen' ? { ...now, shows: instead } : now;
}
