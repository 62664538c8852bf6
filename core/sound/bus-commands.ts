/** Commands for buses, sends, the patch, and what is known of sound cards and rooms. */
import { type ErrorCode } from '../commands/codes';
import { CommandError, defineCommand } from '../commands/command';
import { Colour, DeviceId, Flag, Nested, Num, OneOf, Ref, Text, TextList, Whole } from '../schema/fields';
import { TILE_COLOURS } from '../desk/create';
import { type Desk } from '../desk/air';
import { current, isDraft } from 'immer';
import {
  CARD_ENDS,
  type Card,
  createBus,
  MOST_BUSES,
  MOST_PAIRS,
  Pair,
  PROGRAMME_BUS,
  type Tap,
  TAPS,
  TIMINGS,
  type Bus,
} from './document';
import { Anyway, busOf, channelOf, guardLoops } from './edit';
import { remove } from '../desk/remove';
import { FADER_FLOOR_DB, FADER_TOP_DB } from './level';
import { breaksOfLoop, loopReport } from './routing/loops';
import { matrixOf } from './routing/matrix';
import { type SignalEdge } from './routing/signal-graph';
import { MOST_DELAY_MS } from './strip';

class BusArg {
  @Ref('bus', 'bus') bus!: string;
}
class AddBusArgs {
  @Text(40, 'name: who listens', { min: 1 }) name!: string;
  @OneOf(TIMINGS, 'with the picture, or live', { optional: true }) timing?: Bus['timing'];
}
class SetBusArgs extends BusArg {
  @Text(40, 'name', { min: 1, optional: true }) name?: string;
  @Colour('colour of its strip', { optional: true }) colour?: string;
  @Num(FADER_FLOOR_DB, FADER_TOP_DB, 'fader, dB', { optional: true }) faderDb?: number;
  @Flag('muted', { optional: true }) muted?: boolean;
  @Num(-20, 0, 'limiter ceiling, dBFS', { optional: true }) ceilingDb?: number;
  @Num(0, MOST_DELAY_MS, 'delay, ms', { optional: true }) delayMs?: number;
  @OneOf(TIMINGS, 'with the picture, or live', { optional: true }) timing?: Bus['timing'];
  @Flag('recorded as a file of its own', { optional: true }) record?: boolean;
  @Anyway() anyway?: boolean;
}
class SendArg {
  @Ref('channel-or-bus', 'channel or bus that is sent') from!: string;
  @Ref('bus', 'bus that gets it') bus!: string;
}
class SetSendArgs extends SendArg {
  @Flag('open', { optional: true }) on?: boolean;
  @Num(FADER_FLOOR_DB, FADER_TOP_DB, 'level, dB', { optional: true }) levelDb?: number;
  @OneOf(TAPS, 'after or before the fader', { optional: true }) tap?: Tap;
  @Anyway() anyway?: boolean;
}
class ByRuleArgs extends SendArg {
  @Anyway() anyway?: boolean;
}
class PlugArgs extends BusArg {
  @Nested(() => Pair, 'outputs') to!: Pair;
  @Anyway() anyway?: boolean;
}
class UnplugArgs {
  @Ref('patch', 'patch') patch!: string;
}
class PortArgs {
  @OneOf(CARD_ENDS, 'inputs or outputs') end!: 'input' | 'output';
  @Nested(() => Pair, 'which') port!: Pair;
  @Text(60, 'what is plugged in there; empty for no name') name!: string;
}
class AddMixArgs {
  @DeviceId('device identity') deviceId!: string;
  @Text(256, 'device label') deviceLabel!: string;
  @OneOf(CARD_ENDS, 'what the card takes') from!: 'input' | 'output';
  @Whole(1, MOST_PAIRS, 'pair it takes') fromPair!: number;
  @OneOf(CARD_ENDS, 'where the card adds it') to!: 'input' | 'output';
  @Whole(1, MOST_PAIRS, 'pair it is added to') toPair!: number;
  @Anyway() anyway?: boolean;
}
class MixArg {
  @Ref('card-mix', 'path in the card’s mixer') mix!: string;
}
class SetMixArgs extends MixArg {
  @Flag('switched on at the card', { optional: true }) on?: boolean;
  @Num(FADER_FLOOR_DB, FADER_TOP_DB, 'level, dB', { optional: true }) levelDb?: number;
  @Anyway() anyway?: boolean;
}
class AddPathArgs {
  @Nested(() => Pair, 'outputs of the loudspeaker') from!: Pair;
  @Nested(() => Pair, 'inputs of the microphones') to!: Pair;
  @Num(-80, 12, 'level on arrival, dB', { optional: true }) levelDb?: number;
  @Num(0.3, 500, 'time on the way, ms', { optional: true }) delayMs?: number;
  @Anyway() anyway?: boolean;
}
class PathArg {
  @Ref('air-path', 'way through the air') path!: string;
}
class SetPathArgs extends PathArg {
  @Flag('loudspeaker and microphone are both switched on', { optional: true }) on?: boolean;
  @Num(-80, 12, 'level on arrival, dB', { optional: true }) levelDb?: number;
  @Num(0.3, 500, 'time on the way, ms', { optional: true }) delayMs?: number;
  @Anyway() anyway?: boolean;
}
class BreakArgs {
  @TextList(64, 120, 'the loop, by the keys of its nodes; without it, every loop', { optional: true }) loop?: string[];
}

function cardFor({ show }: Desk, deviceId: string, deviceLabel: string): Card {
  const known = show.sound.cards.find((c) => c.deviceId === deviceId);
  if (known) return known;
  if (show.sound.cards.length >= 16) throw new CommandError('too-many', 'A show knows at most 16 sound devices.');
  show.sound.cards.push({ deviceId, deviceLabel, inputs: [], outputs: [], mixes: [] });
  return show.sound.cards.at(-1) as Card;
}

function found<T>(item: T | undefined, code: ErrorCode, message: string, field: string): T {
  if (item === undefined) throw new CommandError(code, message, field);
  return item;
}

const mixOf = ({ show }: Desk, id: string) =>
  found(
    show.sound.cards.flatMap((c) => c.mixes).find((m) => m.id === id),
    'unknown-mix',
    `There is no path "${id}" in a sound card’s mixer.`,
    'mix',
  );
const pathOf = ({ show }: Desk, id: string) =>
  found(
    show.sound.paths.find((p) => p.id === id),
    'unknown-path',
    `There is no way through the air "${id}".`,
    'path',
  );

/** Takes one connection away. */
function take(desk: Desk, { kind, ref }: SignalEdge): void {
  const { sound } = desk.show;
  if (kind === 'patch') sound.patches = sound.patches.filter((p) => p.id !== ref);
  else if (kind === 'card') mixOf(desk, ref).on = false;
  else if (kind === 'send') {
    const [from, bus] = ref.split(' ') as [string, string];
    setSend(desk, from, bus, { on: false });
  }
}

function setSend(desk: Desk, from: string, bus: string, change: Partial<{ on: boolean; levelDb: number; tap: Tap }>): void {
  const { sends } = desk.show.sound;
  const known = sends.find((s) => s.fromId === from && s.busId === bus);
  if (known) Object.assign(known, change);
  else {
    const { on, levelDb, tap } = matrixOf(desk.show).at(from, bus);
    if (sends.length >= 6000) throw new CommandError('too-many', 'A show holds at most 6000 crosspoints set by hand.');
    sends.push({ fromId: from, busId: bus, on, levelDb, tap, ...change });
  }
}

/** @throws CommandError unless the crosspoint can be. */
function checkSend(desk: Desk, from: string, bus: string): void {
  busOf(desk, bus);
  if (from === bus) throw new CommandError('itself', 'A bus cannot be sent to itself.', 'from');
  if (!desk.show.sound.buses.some((b) => b.id === from)) channelOf(desk, from, 'from');
}

export const busCommands = [
  defineCommand({
    type: 'sound.addBus',
    title: 'Add a bus',
    about: 'A mix for somebody. Add a listener instead to have its sends made by rule. Returns its `id`.',
    args: AddBusArgs,
    run: ({ show }, { name, timing }, { newId }) => {
      const { buses } = show.sound;
      if (buses.length >= MOST_BUSES) throw new CommandError('too-many', `A show has at most ${MOST_BUSES} buses.`);
      const id = newId();
      buses.push(createBus(id, name, TILE_COLOURS[buses.length % TILE_COLOURS.length] ?? '#5aa9c9', timing));
      return { id };
    },
  }),
  defineCommand({
    type: 'sound.setBus',
    title: 'Set a bus',
    about: 'Name, fader, mute, limiter, delay and timing of a bus. The programme is the bus `programme`.',
    args: SetBusArgs,
    mergeKey: ({ bus, anyway: _, ...change }) => `${bus}:${Object.keys(change).join()}`,
    run: (desk, { bus, anyway, ...change }) => {
      const target = busOf(desk, bus);
      const check =
        (change.muted === false && target.muted) ||
        ((change.faderDb ?? FADER_FLOOR_DB) > FADER_FLOOR_DB && target.faderDb <= FADER_FLOOR_DB);
      Object.assign(target, change);
      if (check) guardLoops(desk, anyway);
    },
  }),
  defineCommand({
    type: 'sound.removeBus',
    title: 'Remove a bus',
    about: 'Removes a bus with its sends, patches and listeners. The programme stays.',
    args: BusArg,
    run: (desk, { bus }) => {
      busOf(desk, bus);
      if (bus === PROGRAMME_BUS)
        throw new CommandError('programme-stays', 'The programme bus cannot be removed: it is what is streamed and recorded.', 'bus');
      remove(desk, 'bus', bus);
    },
  }),
  defineCommand({
    type: 'sound.setSend',
    title: 'Set a send',
    about:
      'Opens, closes or sets a crosspoint of the matrix by hand, over what the rule makes of it. Without `on`, the other way; with level or tap only, as it is.',
    args: SetSendArgs,
    mergeKey: ({ from, bus, levelDb }) => `${from}:${bus}:${levelDb === undefined ? 'on' : 'level'}`,
    run: (desk, { from, bus, on, anyway, ...change }) => {
      checkSend(desk, from, bus);
      const turned = on ?? (Object.keys(change).length === 0 ? !matrixOf(desk.show).at(from, bus).on : undefined);
      setSend(desk, from, bus, { ...change, ...(turned !== undefined && { on: turned }) });
      guardLoops(desk, anyway);
    },
  }),
  defineCommand({
    type: 'sound.sendByRule',
    title: 'Leave a send to the rule',
    about: 'Takes what was set by hand off a crosspoint.',
    args: ByRuleArgs,
    run: (desk, { from, bus, anyway }) => {
      checkSend(desk, from, bus);
      const { sound } = desk.show;
      sound.sends = sound.sends.filter((s) => s.fromId !== from || s.busId !== bus);
      guardLoops(desk, anyway);
    },
  }),
  defineCommand({
    type: 'sound.plug',
    title: 'Plug a bus into outputs',
    about: 'Plays a bus on a pair of outputs of a sound device. Returns the patch as `id`.',
    args: PlugArgs,
    run: (desk, { bus, to, anyway }, { newId }) => {
      busOf(desk, bus);
      const { patches } = desk.show.sound;
      if (patches.some((p) => p.busId === bus && p.to.deviceId === to.deviceId && p.to.pair === to.pair))
        throw new CommandError('twice', 'This bus is plugged in there already.', 'to');
      if (patches.length >= 128) throw new CommandError('too-many', 'A show has at most 128 patches.');
      const id = newId();
      patches.push({ id, busId: bus, to });
      guardLoops(desk, anyway);
      return { id };
    },
  }),
  defineCommand({
    type: 'sound.unplug',
    title: 'Unplug a bus',
    about: 'Takes a bus off a pair of outputs.',
    args: UnplugArgs,
    run: ({ show }, { patch }) => {
      found(
        show.sound.patches.find((p) => p.id === patch),
        'unknown-patch',
        `There is no patch "${patch}" in this show.`,
        'patch',
      );
      show.sound.patches = show.sound.patches.filter((p) => p.id !== patch);
    },
  }),
  defineCommand({
    type: 'sound.nameSocket',
    title: 'Name a socket',
    about: 'Says what is plugged into a pair of inputs or outputs: paths are told with these names.',
    args: PortArgs,
    run: (desk, { end, port, name }) => {
      const card = cardFor(desk, port.deviceId, port.deviceLabel);
      const side = end === 'input' ? 'inputs' : 'outputs';
      card[side] = card[side].filter((p) => p.pair !== port.pair);
      if (name) card[side].push({ pair: port.pair, name });
    },
  }),
  defineCommand({
    type: 'sound.addCardMix',
    title: 'Add a path in a sound card’s mixer',
    about: 'Says that the card itself adds an input or output to another one. Returns its `id`.',
    args: AddMixArgs,
    run: (desk, { deviceId, deviceLabel, from, fromPair, to, toPair, anyway }, { newId }) => {
      if (from === to && fromPair === toPair) throw new CommandError('itself', 'A pair cannot be added to itself.', 'toPair');
      const { mixes } = cardFor(desk, deviceId, deviceLabel);
      if (mixes.length >= 64) throw new CommandError('too-many', 'A card’s mixer holds at most 64 paths here.');
      const id = newId();
      mixes.push({ id, from, fromPair, to, toPair, levelDb: 0, on: true });
      guardLoops(desk, anyway);
      return { id };
    },
  }),
  defineCommand({
    type: 'sound.setCardMix',
    title: 'Set a path in a sound card’s mixer',
    about: 'The simulated card obeys; at other cards the hand must follow.',
    args: SetMixArgs,
    mergeKey: ({ mix }) => mix,
    run: (desk, { mix, anyway, ...change }) => {
      Object.assign(mixOf(desk, mix), change);
      guardLoops(desk, anyway);
    },
  }),
  defineCommand({
    type: 'sound.removeCardMix',
    title: 'Remove a path in a sound card’s mixer',
    about: 'Says that the card does not do that.',
    args: MixArg,
    run: (desk, { mix }) => {
      mixOf(desk, mix);
      for (const card of desk.show.sound.cards)
        if (card.mixes.some((m) => m.id === mix)) card.mixes = card.mixes.filter((m) => m.id !== mix);
    },
  }),
  defineCommand({
    type: 'sound.addAirPath',
    title: 'Add a way through the air',
    about: 'Says that microphones pick up a loudspeaker. Returns its `id`.',
    args: AddPathArgs,
    run: (desk, { from, to, levelDb = -30, delayMs = 20, anyway }, { newId }) => {
      const { paths } = desk.show.sound;
      if (paths.length >= 64) throw new CommandError('too-many', 'A show has at most 64 ways through the air.');
      const id = newId();
      paths.push({ id, from, to, levelDb, delayMs, on: true });
      guardLoops(desk, anyway);
      return { id };
    },
  }),
  defineCommand({
    type: 'sound.setAirPath',
    title: 'Set a way through the air',
    about: 'Level and time from loudspeaker to microphone, and whether both are on. The simulated room obeys.',
    args: SetPathArgs,
    mergeKey: ({ path }) => path,
    run: (desk, { path, anyway, ...change }) => {
      Object.assign(pathOf(desk, path), change);
      guardLoops(desk, anyway);
    },
  }),
  defineCommand({
    type: 'sound.removeAirPath',
    title: 'Remove a way through the air',
    about: 'Says that the microphones do not pick the loudspeaker up.',
    args: PathArg,
    run: (desk, { path }) => {
      pathOf(desk, path);
      desk.show.sound.paths = desk.show.sound.paths.filter((p) => p.id !== path);
    },
  }),
  defineCommand({
    type: 'sound.breakLoops',
    title: 'Break loops',
    about:
      'Makes the fewest changes that break one loop, or every loop: closes sends, switches paths of the card’s mixer off, unplugs only where nothing else helps. Returns how many as `changes`.',
    args: BreakArgs,
    run: (desk, { loop }) => {
      const show = isDraft(desk) ? current(desk).show : desk.show;
      const report = loop ? null : loopReport(show);
      const edges = loop ? breaksOfLoop(show, loop) : report?.breaks;
      if (!edges) throw new CommandError('no-loop', 'This loop is not there any more.', 'loop');
      if (edges.length === 0) {
        const loops = loop ? 1 : (report?.loops.length ?? 0);
        throw loops === 0
          ? new CommandError('no-loop', 'There is no loop to break.')
          : new CommandError(
              'in-the-room',
              'Nothing here can break it: turn the loudspeaker or the microphone down, or ask the guest for headphones.',
            );
      }
      for (const edge of edges) take(desk, edge);
      return { changes: edges.length };
    },
  }),
];
