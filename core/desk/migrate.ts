/** Brings a show of any known version to the present one. */
import { createReplay } from '../replay/document';
import { createSound } from '../sound/document';
import { plainStrip } from '../sound/strip';
import { plainTransition } from '../picture/create';
import { SHOW_VERSION, type Show } from './show';
import { ShowError, showProblems } from './validate';

type Raw = Record<string, unknown>;

/** Outputs of a version that had one feed. */
function feeds(output: unknown): unknown {
  const { recording, stream } = (output ?? {}) as { recording?: Raw; stream?: Raw };
  return { recording: { ...recording, feed: 'programme' }, stream: { ...stream, feed: 'programme' } };
}

/** A number of an old form; anything else is as if it were not there, and what reads the show says so where it matters. */
const numberOf = (value: unknown, otherwise: number): number => (typeof value === 'number' && Number.isFinite(value) ? value : otherwise);

const list = (value: unknown): Raw[] =>
  Array.isArray(value) ? (value as unknown[]).filter((item): item is Raw => typeof item === 'object' && item !== null) : [];

/** `MIGRATIONS[n]` makes version n+1 out of version n; each is pure and stays for ever. */
const MIGRATIONS: Record<number, (raw: Raw) => Raw> = {
  // Version 0: drafts made before fade to black had a length of its own.
  0: (raw) => {
    const transition = raw.transition as Raw | undefined;
    return { ...raw, version: 1, blackFrames: raw.blackFrames ?? transition?.frames ?? 25 };
  },
  // Version 1: single sources only, four lanes that fade.
  1: (raw) => {
    const fade = (frames: unknown) => ({ kind: 'fade', edge: 'left', easing: 'linear', frames });
    const { direction, ...armed } = (raw.transition ?? {}) as Raw;
    const frames = numberOf(armed.frames, 25);
    const angle =
      new Map<unknown, number>([
        ['right', 0],
        ['down', 90],
        ['left', 180],
        ['up', 270],
      ]).get(direction) ?? 0;
    const transparent = (settings: Raw | undefined) =>
      settings?.kind === 'media' || settings?.kind === 'still' ? { ...settings, hasAlpha: settings.kind === 'still' } : settings;
    return {
      ...raw,
      version: 2,
      sources: list(raw.sources).map((s) => ({ ...s, settings: transparent(s.settings as Raw | undefined) })),
      lanes: list(raw.lanes).map(({ fadeFrames, ...lane }) => ({
        ...lane,
        in: fade(fadeFrames),
        out: fade(fadeFrames),
        rect: null,
        key: null,
        whileId: null,
        throughBlack: false,
      })),
      seats: [],
      eyes: [],
      framings: [],
      layouts: [],
      presets: [],
      styles: [],
      transition: { ...plainTransition(frames), ...armed, angle },
      transitions: [{ id: 'tr-dissolve', name: 'Dissolve', settings: plainTransition(frames) }],
      overrides: [],
      output: feeds(raw.output),
    };
  },
  // Version 2: no replay.
  2: (raw) => ({ ...raw, version: 3, replay: createReplay(numberOf((raw.raster as Raw | null | undefined)?.height, 360) || 360) }),
  // Version 3: one bus, channels with a fader only.
  3: (raw) => {
    const { programme, ...rest } = raw;
    const sound = createSound();
    Object.assign(sound.buses[0] as object, programme);
    return {
      ...rest,
      version: 4,
      sound,
      sources: list(raw.sources).map((s) => ({ ...s, sound: { ...plainStrip(), ...(s.sound as Raw | undefined) } })),
    };
  },
};

/**
 * `raw` as a sound show of the present version.
 * @throws ShowError when it is no show, is from a newer Bivoca, or is faulty: with every place.
 */
export function readShow(raw: unknown): Show {
  if (typeof raw !== 'object' || raw === null || (raw as Raw).format !== 'bivoca-show') {
    throw new ShowError('This is not a Bivoca show: its format mark is missing.');
  }
  let data = raw as Raw;
  const version = data.version;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 0) {
    throw new ShowError('This show does not say which version it is.', [{ path: 'version', message: 'is missing' }]);
  }
  if (version > SHOW_VERSION) {
    throw new ShowError(
      `This show was saved by a newer Bivoca (version ${version}; this one reads up to ${SHOW_VERSION}). Update Bivoca to open it.`,
    );
  }
  for (let v = version; v < SHOW_VERSION; v += 1) {
    const step = MIGRATIONS[v];
    if (!step) throw new ShowError(`Version ${v} of the show form is not known.`);
    try {
      data = step(data);
    } catch {
      throw new ShowError(`This show is damaged: it is not the form of version ${v} that it says it is.`);
    }
  }
  const problems = showProblems(data);
  if (problems.length > 0) {
    const first = problems[0];
    const more = problems.length > 1 ? ` (and ${problems.length - 1} more)` : '';
    throw new ShowError(`This show is damaged: ${first?.path} ${first?.message}${more}.`, problems);
  }
  return data as unknown as Show;
}
