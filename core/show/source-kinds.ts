/** What is true of each kind of source, said once. */
import { LIVE_WAIT_MS, REMOTE_WAIT_MS } from '../sound/timing';
import { type Source, type SourceKind, type SourceSettings } from './source';

type SettingsOf<K extends SourceKind> = Extract<SourceSettings, { kind: K }>;

/** A source of one kind. */
export type SourceOf<K extends SourceKind> = Source & { settings: SettingsOf<K> };

interface SourceTraits<K extends SourceKind> {
  /** Its sound and picture come as they happen: so many milliseconds the sound has to wait for the picture; 0 for what needs no waiting. */
  soundWaitMs: number;
  /** Its picture changes by itself, so that recording it for replay makes sense. */
  moves: boolean;
  /** A person at the machine must press a key each time before it may be opened. */
  needsPress: boolean;
  /** It is played: it has a place, a play and a pause (see core/media). */
  plays: boolean;
  /** People may be seen in it, so that marking eyes makes sense. */
  people: boolean;
  /** It fills whatever it is put into, whatever its proportions. */
  fills: boolean;
  /** First level of its channel, dB. */
  firstLevelDb: number;
  /** It can bring sound as it is set. */
  sound: (settings: SettingsOf<K>) => boolean;
  /** Its picture can have transparent parts. */
  transparent: (settings: SettingsOf<K>) => boolean;
  /** It is started anew when this changes; all other changes are told while it runs. */
  startedFor: (settings: SettingsOf<K>) => string;
}

const whole = (settings: SourceSettings): string => JSON.stringify(settings);
const PLAIN = {
  soundWaitMs: 0,
  moves: true,
  needsPress: false,
  plays: false,
  people: true,
  fills: false,
  firstLevelDb: 0,
  sound: () => true,
  transparent: () => false,
  startedFor: whole,
};

/** The table. A new kind of source is a line here, a class of settings (source.ts) and a driver. */
export const SOURCE_KINDS: { [K in SourceKind]: SourceTraits<K> } = {
  camera: { ...PLAIN, soundWaitMs: LIVE_WAIT_MS, sound: ({ audioDeviceId }) => audioDeviceId !== null },
  screen: { ...PLAIN, soundWaitMs: LIVE_WAIT_MS, needsPress: true, sound: ({ withSound }) => withSound },
  media: {
    ...PLAIN,
    plays: true,
    sound: ({ hasSound }) => hasSound,
    transparent: ({ hasAlpha }) => hasAlpha,
    startedFor: ({ assetId }) => assetId,
  },
  still: { ...PLAIN, moves: false, sound: () => false, transparent: ({ hasAlpha }) => hasAlpha },
  colour: { ...PLAIN, moves: false, people: false, fills: true, sound: () => false },
  test: { ...PLAIN, people: false, firstLevelDb: -6 },
  simulated: PLAIN,
  deck: PLAIN,
  guest: { ...PLAIN, soundWaitMs: REMOTE_WAIT_MS },
  encoder: { ...PLAIN, soundWaitMs: REMOTE_WAIT_MS },
};

/** What is true of this source. */
export const traitsOf = ({ settings }: Pick<Source, 'settings'>): SourceTraits<SourceKind> =>
  SOURCE_KINDS[settings.kind] as unknown as SourceTraits<SourceKind>;

/** True for a source of this kind; narrows its settings. */
export const isKind = <K extends SourceKind>(source: Source | undefined, kind: K): source is SourceOf<K> => source?.settings.kind === kind;

/** True for sources that can bring sound. */
export const hasSound = (source: Source): boolean => traitsOf(source).sound(source.settings);
