/** Outputs: what leaves the mixer as pictures of its own, for recorder, streamer, windows and replay. */
import { type Raster } from '../show/raster';

/** What can be seen: the programme, the programme below its lanes, what comes next, or any one picture. */
export type View = { kind: 'programme' | 'clean' | 'next' } | { kind: 'picture'; id: string };

/** A picture that leaves the mixer while somebody takes it. */
export interface Output {
  id: string;
  name: string;
  shows: View;
  /** Size that it is made in, pixels; null for the size that the show is worked in. */
  raster: Raster | null;
}

/** What the audience gets. */
export const PROGRAMME_OUTPUT = 'programme';
/** The programme below its lanes. */
export const CLEAN_OUTPUT = 'clean';

const MIXER_OUTPUTS: readonly Output[] = [
  { id: PROGRAMME_OUTPUT, name: 'Programme', shows: { kind: 'programme' }, raster: null },
  { id: CLEAN_OUTPUT, name: 'Clean programme', shows: { kind: 'clean' }, raster: null },
];

/** Every output of a show, the programme first. */
export const outputsOf = (_show: object): readonly Output[] => MIXER_OUTPUTS;

/** The output with this identity. */
export const findOutput = (show: object, id: string | null): Output | undefined => outputsOf(show).find((o) => o.id === id);

/** An output that is made only for whoever asks: one picture by itself. */
export const pictureOutput = (id: string, name: string): Output => ({ id, name, shows: { kind: 'picture', id }, raster: null });
