/** Commands for who listens, and for what is spoken and listened to over the desk. */
import { CommandError, defineCommand } from '../commands/command';
import { DeviceId, Flag, Nested, Num, OneOf, Ref, Refs, Text, Whole } from '../schema/fields';
import { TILE_COLOURS } from '../desk/create';
import { type Desk } from '../desk/air';
import {
  createBus,
  LISTENER_KINDS,
  type Listener,
  type ListenerKind,
  MOST_BUSES,
  Pair,
  PROGRAMME_BUS,
  type Rule,
  RULES,
  type Tap,
  TAPS,
} from './document';
import { Anyway, busOf, channelOf, guardLoops, listenerOf } from './edit';
import { remove } from '../desk/remove';

class AddArgs {
  @Text(60, 'name', { min: 1 }) name!: string;
  @OneOf(LISTENER_KINDS, 'who that is') kind!: ListenerKind;
  @Refs('channel', 64, 'channels that carry their own voice', { optional: true }) ownIds?: string[];
  @Ref('bus', 'bus they get; without it one is made for them', { optional: true }) bus?: string;
  @Anyway() anyway?: boolean;
}
class ListenerArg {
  @Ref('listener', 'listener') listener!: string;
}
class SetArgs extends ListenerArg {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @OneOf(RULES, 'what they should hear', { optional: true }) rule?: Rule;
  @Refs('channel', 64, 'channels that carry their own voice, or stand where they listen', { optional: true }) ownIds?: string[];
  @Ref('bus', 'bus they get', { optional: true }) busId?: string;
  @Nested(() => Pair, 'outputs they really listen to; null for their bus', { optional: true, nullable: true }) place?: Pair | null;
  @Flag('hears by a loudspeaker that their own microphones pick up', { optional: true }) open?: boolean;
  @Flag('gets talkback', { optional: true }) talkback?: boolean;
  @Anyway() anyway?: boolean;
}
class TalkSetArgs {
  @Ref('channel', 'channel of the talkback microphone; null for none', { optional: true, nullable: true }) channel?: string | null;
  @Num(-40, 0, 'how far a mix is turned down under talkback, dB', { optional: true }) dimDb?: number;
}

export const TALK_TO = ['guests', 'room', 'presenters', 'all'] as const;
class TalkArgs {
  @OneOf(TALK_TO, 'everybody of a kind who gets talkback', { optional: true }) to?: (typeof TALK_TO)[number];
  @Refs('listener', 64, 'listeners, by name', { optional: true }) listeners?: string[];
}
class NoArgs {}
class SoloArgs {
  @Ref('channel-or-bus', 'channel or bus') channel!: string;
  @Flag('without it, the other way', { optional: true }) on?: boolean;
  @OneOf(TAPS, 'after or before its fader', { optional: true }) tap?: Tap;
}
class BusArg {
  @Ref('bus', 'bus') bus!: string;
}
class HoldArgs extends BusArg {
  @Num(0, 60, 'how far it was turned down, dB') db!: number;
  @Whole(0, 24_000, 'frequency of the howl, Hz') hz!: number;
}
class TargetArgs {
  @Num(-40, -5, 'programme loudness, LUFS') lufs!: number;
}
class DeviceArgs {
  @DeviceId('device identity') deviceId!: string;
  @Text(300, 'why it does not play or listen; empty when it does') cause!: string;
}

/** The rule that fits each kind of listener. */
const FIRST_RULES: Record<ListenerKind, Rule> = {
  stream: 'programme',
  recording: 'programme',
  room: 'all-but-self',
  guest: 'all-but-self',
  producer: 'guests',
  presenter: 'all-but-self',
};

const KINDS_OF: Record<(typeof TALK_TO)[number], readonly ListenerKind[]> = {
  guests: ['guest'],
  room: ['room'],
  presenters: ['presenter'],
  all: ['guest', 'room', 'presenter'],
};

/** Listeners that talkback reaches: those named, or all of a kind, who get talkback. */
function talkTargets(desk: Desk, { to, listeners }: TalkArgs): Listener[] {
  if (listeners) return listeners.map((id) => listenerOf(desk, id, 'listeners')).filter((l) => l.talkback);
  const kinds = KINDS_OF[to ?? 'guests'];
  return desk.show.sound.listeners.filter((l) => l.talkback && kinds.includes(l.kind));
}

/** @throws CommandError when the programme is listened to by someone who gets talkback: it would be heard on air. */
function checkTalkback(desk: Desk, { talkback, busId, kind }: Listener): void {
  if (!talkback) return;
  if (kind === 'stream' || kind === 'recording')
    throw new CommandError('on-air', 'Talkback never reaches the stream or the recording.', 'talkback');
  if (busId === PROGRAMME_BUS)
    throw new CommandError('on-air', 'Whoever gets talkback needs a bus of their own: the programme is what goes on air.', 'talkback');
}

export const listenerCommands = [
  defineCommand({
    type: 'listener.add',
    title: 'Add a listener',
    about:
      'Somebody who hears a mix: a guest, the room, the presenter, the producer. Makes a bus for them whose sends follow the rule. Returns `id` and `bus`.',
    args: AddArgs,
    run: (desk, { name, kind, ownIds = [], bus, anyway }, { newId }) => {
      const { listeners, buses } = desk.show.sound;
      if (listeners.length >= 64) throw new CommandError('too-many', 'A show has at most 64 listeners.');
      for (const id of ownIds) channelOf(desk, id, 'ownIds');
      let busId = bus;
      if (busId !== undefined) busOf(desk, busId);
      else if (kind === 'stream' || kind === 'recording') busId = PROGRAMME_BUS;
      else {
        if (buses.length >= MOST_BUSES) throw new CommandError('too-many', `A show has at most ${MOST_BUSES} buses.`);
        busId = newId();
        buses.push(createBus(busId, name.slice(0, 40), TILE_COLOURS[buses.length % TILE_COLOURS.length] ?? '#5aa9c9', 'live'));
      }
      const id = newId();
      const talkback = (kind === 'guest' || kind === 'presenter') && busId !== PROGRAMME_BUS;
      listeners.push({ id, name, kind, busId, rule: FIRST_RULES[kind], ownIds, place: null, open: false, talkback });
      guardLoops(desk, anyway);
      return { id, bus: busId };
    },
  }),
  defineCommand({
    type: 'listener.set',
    title: 'Set a listener',
    about: 'What somebody should hear, which channels are their own, and where they listen. The matrix follows.',
    args: SetArgs,
    mergeKey: ({ listener, anyway: _, ...change }) => `${listener}:${Object.keys(change).join()}`,
    run: (desk, { listener, anyway, ...change }) => {
      const target = listenerOf(desk, listener);
      for (const id of change.ownIds ?? []) channelOf(desk, id, 'ownIds');
      if (change.busId !== undefined) busOf(desk, change.busId, 'busId');
      Object.assign(target, change);
      checkTalkback(desk, target);
      guardLoops(desk, anyway);
    },
  }),
  defineCommand({
    type: 'listener.remove',
    title: 'Remove a listener',
    about: 'A guest’s bus goes with them, unless something else uses it.',
    args: ListenerArg,
    run: (desk, { listener }) => {
      listenerOf(desk, listener);
      remove(desk, 'listener', listener);
    },
  }),
  defineCommand({
    type: 'talkback.set',
    title: 'Set talkback',
    about: 'Which microphone speaks, and how far mixes are turned down under it.',
    args: TalkSetArgs,
    run: (desk, { channel, dimDb }) => {
      if (channel) channelOf(desk, channel);
      if (channel !== undefined) desk.show.sound.talkbackId = channel;
      if (dimDb !== undefined) desk.show.sound.dimDb = dimDb;
    },
  }),
  defineCommand({
    type: 'talkback.start',
    title: 'Talk back',
    about: 'Speaks to one listener, or to all guests, the room or the presenters, until `talkback.stop`. Never reaches the programme.',
    args: TalkArgs,
    run: (desk, args) => {
      const { talkbackId } = desk.show.sound;
      if (talkbackId === null)
        throw new CommandError('no-microphone', 'No talkback microphone is chosen. Choose one in Sound, under Listeners.');
      const targets = talkTargets(desk, args);
      if (targets.length === 0)
        throw new CommandError('nobody', 'Nobody there gets talkback. Switch it on for them in Sound, under Listeners.', 'to');
      desk.air.sound.talkback = { listenerIds: targets.map((l) => l.id) };
    },
  }),
  defineCommand({
    type: 'talkback.stop',
    title: 'End talkback',
    about: 'Closes the talkback microphone.',
    args: NoArgs,
    run: ({ air }) => {
      air.sound.talkback = null;
    },
  }),
  defineCommand({
    type: 'sound.solo',
    personal: true,
    title: 'Solo',
    about: 'Listens to a channel or bus alone, after or before its fader. Only the operator’s ears: no mix is changed.',
    args: SoloArgs,
    run: (desk, { channel, on, tap = 'after' }) => {
      if (!desk.show.sound.buses.some((b) => b.id === channel)) channelOf(desk, channel);
      const { sound } = desk.air;
      const was = sound.solos.some((s) => s.id === channel);
      sound.solos = sound.solos.filter((s) => s.id !== channel);
      if (on ?? !was) sound.solos.push({ id: channel, tap });
    },
  }),
  defineCommand({
    type: 'sound.clearSolo',
    personal: true,
    title: 'Clear solo',
    about: 'The operator hears the chosen bus again.',
    args: NoArgs,
    run: ({ air }) => {
      air.sound.solos = [];
    },
  }),
  defineCommand({
    type: 'sound.listenTo',
    personal: true,
    title: 'Listen to a bus',
    about: 'The bus that the operator hears while nothing is soloed.',
    args: BusArg,
    run: (desk, { bus }) => {
      busOf(desk, bus);
      desk.air.sound.earsId = bus;
    },
  }),
  defineCommand({
    type: 'sound.hold',
    fromEngine: true,
    title: 'Hold a bus down',
    about: 'Turns a bus down because it howls. The engine says so when it has happened.',
    args: HoldArgs,
    run: (desk, { bus, db, hz }, { frame }) => {
      busOf(desk, bus);
      desk.air.sound.held[bus] = { db, frame, hz };
    },
  }),
  defineCommand({
    type: 'sound.release',
    title: 'Release a bus',
    about: 'Takes the turning down after a howl off again.',
    args: BusArg,
    run: (desk, { bus }) => {
      busOf(desk, bus);
      if (!desk.air.sound.held[bus]) throw new CommandError('not-held', 'This bus is not held down.', 'bus');
      delete desk.air.sound.held[bus];
    },
  }),
  defineCommand({
    type: 'loudness.start',
    title: 'Measure loudness',
    about: 'Starts the integrated loudness, range and true peak of a bus anew.',
    args: BusArg,
    run: (desk, { bus }, { frame }) => {
      busOf(desk, bus);
      desk.air.sound.loudness[bus] = { start: frame, stop: null };
    },
  }),
  defineCommand({
    type: 'loudness.stop',
    title: 'Stop measuring loudness',
    about: 'Keeps the measured values of a bus as they are.',
    args: BusArg,
    run: (desk, { bus }, { frame }) => {
      busOf(desk, bus);
      const run = desk.air.sound.loudness[bus];
      if (!run || run.stop !== null) throw new CommandError('not-measuring', 'The loudness of this bus is not being measured.', 'bus');
      run.stop = frame;
    },
  }),
  defineCommand({
    type: 'loudness.reset',
    title: 'Forget a loudness measurement',
    about: 'Takes the measured values of a bus away.',
    args: BusArg,
    run: (desk, { bus }) => {
      busOf(desk, bus);
      delete desk.air.sound.loudness[bus];
    },
  }),
  defineCommand({
    type: 'loudness.setTarget',
    title: 'Set the loudness target',
    about: 'Such as −23 LUFS (EBU R 128), −16 or −14 for the web.',
    args: TargetArgs,
    run: ({ show }, { lufs }) => {
      show.sound.targetLufs = lufs;
    },
  }),
  defineCommand({
    type: 'sound.reportDevice',
    fromEngine: true,
    title: 'Report a sound device',
    about: 'The engine says that a sound device does not play or listen, or does again.',
    args: DeviceArgs,
    run: ({ air }, { deviceId, cause }) => {
      const { lostDevices } = air.sound;
      if (cause === '') delete lostDevices[deviceId];
      else if (Object.keys(lostDevices).length < 64) lostDevices[deviceId] = cause;
    },
  }),
];
