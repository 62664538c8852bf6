/** Actions of the room Sound. */
import { channelsOf } from '../../sound/channels';
import { FADER_FLOOR_DB, FADER_TOP_DB, faderDbAt, faderPlace } from '../../sound/level';
import { command, numberArg, refuse, type Action, type ActionArgs, type Hands, type LeverAction, type Meaning } from '../action';
import { actionsOf, number, word } from '../make';

const strips = actionsOf('sound', 'Strips');
const levels = actionsOf('sound', 'Chosen strip');
const room = actionsOf('sound', 'Go to');

/** Strips that a fader of a controller can be: those of the bank in view. */
const MOST_STRIPS = 32;

interface Strip {
  id: string;
  bus: boolean;
  faderDb: number;
  muted: boolean;
}

/** A channel or bus of the desk. */
function stripOf({ desk: { show } }: Hands, id: string | null | undefined): Strip | null {
  const bus = show.sound.buses.find((b) => b.id === id);
  if (bus) return { id: bus.id, bus: true, faderDb: bus.faderDb, muted: bus.muted };
  const channel = channelsOf(show).find((c) => c.id === id);
  return channel ? { id: channel.id, bus: false, faderDb: channel.sound.faderDb, muted: channel.sound.muted } : null;
}

/** The strip of an argument, by its place in the bank; without one, the chosen strip. */
const stripFor = (hands: Hands, args: ActionArgs): Strip | null =>
  stripOf(hands, args.strip === undefined ? hands.chosen.strip : hands.chosen.bank[numberArg(args, 'strip') - 1]);

const NONE = 'No strip is chosen. Press a number, or the arrows.';
const MATRIX = 'The matrix is in view: arrows move in it. Go back to the strips to move a fader.';

function setFader(strip: Strip, db: number): Meaning {
  const value = Math.min(FADER_TOP_DB, Math.max(FADER_FLOOR_DB, Math.round(db * 10) / 10));
  return strip.bus
    ? command('sound.setBus', { bus: strip.id, faderDb: value })
    : command('sound.setFader', { channel: strip.id, db: value });
}

/** Does something with the strip that is meant. */
const withStrip =
  (run: (strip: Strip, hands: Hands, args: ActionArgs) => Meaning) =>
  (hands: Hands, args: ActionArgs): Meaning => {
    const strip = stripFor(hands, args);
    return strip ? run(strip, hands, args) : refuse(args.strip === undefined ? NONE : `The bank in view has no strip ${args.strip}.`);
  };

const STRIP = { ...number('strip', 'Place in the bank; without it, the chosen strip', 1, MOST_STRIPS), optional: true };
const channelOnly = (strip: Strip, type: string): Meaning =>
  strip.bus ? refuse('That is for channels. Choose one of them.') : command(type, { channel: strip.id });

const fader = (
  id: string,
  does: string,
  find: (hands: Hands, args: ActionArgs) => Strip | null,
  params: LeverAction['params'],
): LeverAction => ({
  id,
  room: 'sound',
  group: 'Strips',
  does,
  short: 'Fader',
  ...(params ? { params } : {}),
  takes: 'level',
  span: 'one',
  move: (hands, args, level) => {
    const strip = find(hands, args);
    return strip ? setFader(strip, faderDbAt(level)) : refuse(NONE);
  },
  present: (hands, args) => {
    const strip = find(hands, args);
    return strip ? faderPlace(strip.faderDb) : null;
  },
});

export const SOUND_ACTIONS: readonly Action[] = [
  strips.act('sound.strip', 'Choose strip {number} of the bank', 'Strip {number}', {
    params: [number('number', 'Place in the bank', 1, MOST_STRIPS)],
    lit: ({ chosen }, args) => chosen.strip !== null && chosen.bank[numberArg(args, 'number') - 1] === chosen.strip,
  }),
  strips.act('sound.stripBefore', 'The strip before', '◀', { repeats: true }),
  strips.act('sound.stripAfter', 'The strip after', '▶', { repeats: true }),
  strips.act('sound.bankBefore', 'The bank before', 'Bank −'),
  strips.act('sound.bankAfter', 'The bank after', 'Bank +'),
  fader('sound.fader', 'Fader of strip {strip}; without one, of the chosen strip', stripFor, [STRIP]),
  fader('sound.programmeFader', 'Fader of the programme', (hands) => stripOf(hands, 'programme'), undefined),
  levels.press(
    'sound.faderBy',
    'Fader by {tenths} tenths of a dB',
    '{tenths}',
    (hands, args) =>
      hands.chosen.matrix && hands.chosen.room === 'sound'
        ? refuse(MATRIX)
        : withStrip((strip) => setFader(strip, strip.faderDb + numberArg(args, 'tenths') / 10))(hands, args),
    { params: [number('tenths', 'Tenths of a dB, down when negative', -600, 600), STRIP], repeats: true },
  ),
  levels.press(
    'sound.faderZero',
    'Fader to 0 dB',
    '0 dB',
    withStrip((strip) => setFader(strip, 0)),
    { params: [STRIP] },
  ),
  levels.press(
    'sound.mute',
    'Mute',
    'Mute',
    withStrip((strip) =>
      strip.bus ? command('sound.setBus', { bus: strip.id, muted: !strip.muted }) : command('sound.mute', { channel: strip.id }),
    ),
    { params: [STRIP], lit: (hands, args) => stripFor(hands, args)?.muted ?? false },
  ),
  ...(['after', 'before'] as const).map((tap) =>
    levels.press(
      tap === 'after' ? 'sound.solo' : 'sound.soloBefore',
      tap === 'after' ? 'Solo' : 'Solo before the fader',
      tap === 'after' ? 'Solo' : 'Solo pre',
      withStrip((strip) => command('sound.solo', { channel: strip.id, tap })),
      {
        params: [STRIP],
        lit: (hands, args) => hands.desk.air.sound.solos.some((s) => s.id === stripFor(hands, args)?.id && s.tap === tap),
      },
    ),
  ),
  levels.press(
    'sound.follow',
    'Sound follows its picture, or not',
    'Follow',
    withStrip((strip) => channelOnly(strip, 'sound.follow')),
    {
      params: [STRIP],
    },
  ),
  levels.press('sound.clearSolo', 'Clear all solos', 'No solo', () => command('sound.clearSolo')),
  room.act('sound.matrix', 'Matrix, or strips', 'Matrix', { lit: ({ chosen }) => chosen.matrix }),
  room.act('sound.tab', 'Panel {tab}', '{tab}', {
    params: [word('tab', 'Panel', ['channel', 'listeners', 'patch', 'routing', 'loudness'])],
  }),
];
