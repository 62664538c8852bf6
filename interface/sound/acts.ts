/** What the room Sound does itself: choosing strips, turning banks, opening panels. */
import { numberArg } from '#core/control/action';
import { type Show } from '#core/desk/show';
import { channelsOf } from '#core/sound/channels';
import { type ActWorld, type Acts } from '../client/acts';
import { focusSoon } from '../client/focus';
import { setSoundRoom, type SoundTab, stripRoom, useSoundRoom } from './room-state';

/** Channels that the bank in view has room for. */
const roomFor = (show: Show): number => stripRoom(useSoundRoom.getState().fits, show.sound.buses.length).channels;

/** Identities of the channels of the bank in view, in order. */
export function bankOf(show: Show): string[] {
  const { first } = useSoundRoom.getState();
  return channelsOf(show)
    .slice(first, first + roomFor(show))
    .map((c) => c.id);
}

/** Chooses a strip, channels before buses, and turns to its bank. */
function choose(show: Show, index: number): void {
  const channels = channelsOf(show);
  const strips = [...channels, ...show.sound.buses];
  const strip = strips[Math.min(strips.length - 1, Math.max(0, index))];
  if (!strip) return;
  const { first } = useSoundRoom.getState();
  const place = channels.findIndex((c) => c.id === strip.id);
  const room = roomFor(show);
  const bank = place < 0 || (place >= first && place < first + room) ? first : place < first ? place : place - room + 1;
  setSoundRoom({ chosen: strip.id, first: bank });
}

function step({ client }: ActWorld, by: number): void {
  const { show } = client.state.desk;
  const at = [...channelsOf(show), ...show.sound.buses].findIndex((s) => s.id === useSoundRoom.getState().chosen);
  choose(show, at < 0 ? 0 : at + by);
}

/** A bank further or back; its first strip is chosen. */
function turn({ client }: ActWorld, banks: number): void {
  const { show } = client.state.desk;
  const { first, chosen } = useSoundRoom.getState();
  const channels = channelsOf(show);
  const room = roomFor(show);
  const start = Math.min(Math.max(0, channels.length - room), Math.max(0, first + banks * room));
  setSoundRoom({ first: start, chosen: channels[start]?.id ?? chosen });
}

export const SOUND_ACTS: Acts = {
  'sound.strip': ({ client }, args) => choose(client.state.desk.show, useSoundRoom.getState().first + numberArg(args, 'number') - 1),
  'sound.stripBefore': (world) => step(world, -1),
  'sound.stripAfter': (world) => step(world, 1),
  'sound.bankBefore': (world) => turn(world, -1),
  'sound.bankAfter': (world) => turn(world, 1),
  'sound.matrix': ({ go }) => {
    go('sound');
    const matrix = useSoundRoom.getState().view !== 'matrix';
    setSoundRoom({ view: matrix ? 'matrix' : 'strips' });
    // The row of the chosen strip, where there is one.
    const { chosen } = useSoundRoom.getState();
    if (matrix) focusSoon(chosen ? `[data-row="${CSS.escape(chosen)}"] button, [data-cell]` : '[data-cell]');
  },
  'sound.tab': ({ go }, { tab }) => {
    go('sound');
    setSoundRoom({ tab: tab as SoundTab });
  },
};
