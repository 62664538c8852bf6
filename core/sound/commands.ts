/** Commands for channels: level, processing, groups and presets. */
import { CommandError, defineCommand } from '../commands/command';
import { Colour, Flag, Num, OneOf, Ref, Refs, Text, Variant, Whole } from '../schema/fields';
import { TILE_COLOURS } from '../desk/create';
import { type Desk } from '../desk/air';
import { remove } from '../desk/remove';
import { Anyway, channelOf, faderGroupOf, guardLoops } from './edit';
import { feedClass, type Feed, MOST_CHANNELS } from './document';
import { FADER_FLOOR_DB, FADER_TOP_DB } from './level';
import { type ChannelStrip, MOST_DELAY_MS, type Pick, PICKS, plainStrip } from './strip';

class ChannelArg {
  @Ref('channel', 'channel: a source with sound, or a channel of its own') channel!: string;
}
class FaderArgs extends ChannelArg {
  @Num(FADER_FLOOR_DB, FADER_TOP_DB, 'dB; the lowest is silence') db!: number;
  @Anyway() anyway?: boolean;
}
class MuteArgs extends ChannelArg {
  @Flag('without it, the other way', { optional: true }) on?: boolean;
  @Anyway() anyway?: boolean;
}
class FollowArgs extends ChannelArg {
  @Flag('without it, the other way', { optional: true }) on?: boolean;
}
class SetArgs {
  @Refs('channel', MOST_CHANNELS, 'channels') channels!: string[];
  @Num(-30, 40, 'gain at the entry, dB', { optional: true }) gainDb?: number;
  @OneOf(PICKS, 'both sides, their sum, or one of them on both', { optional: true }) pick?: Pick;
  @Num(0, MOST_DELAY_MS, 'delay, ms', { optional: true }) delayMs?: number;
  @Num(-1, 1, 'from left (−1) to right (1)', { optional: true }) pan?: number;
  @Num(FADER_FLOOR_DB, FADER_TOP_DB, 'fader, dB', { optional: true }) faderDb?: number;
  @Flag('muted', { optional: true }) muted?: boolean;
  @Flag('heard only while its picture is on air', { optional: true }) follows?: boolean;
  @Whole(0, 500, 'fade when its picture comes, frames; null with the transition', { optional: true, nullable: true }) inFrames?:
    number | null;
  @Whole(0, 500, 'fade when its picture goes, frames; null with the transition', { optional: true, nullable: true }) outFrames?:
    number | null;
  @Ref('fader-group', 'fader group; null for none', { optional: true, nullable: true }) groupId?: string | null;
  @Flag('recorded as a file of its own', { optional: true }) iso?: boolean;
  @Anyway() anyway?: boolean;
}
class AddArgs {
  @Text(80, 'name', { min: 1 }) name!: string;
  @Variant(feedClass, 'where its sound comes from; fields depend on `kind`') feed!: Feed;
  @Anyway() anyway?: boolean;
}
class EditArgs extends ChannelArg {
  @Text(80, 'name', { min: 1, optional: true }) name?: string;
  @Colour('colour of its strip', { optional: true }) colour?: string;
  @Variant(feedClass, 'where its sound comes from', { optional: true }) feed?: Feed;
  @Anyway() anyway?: boolean;
}
class GroupNameArgs {
  @Text(40, 'name', { min: 1 }) name!: string;
}
class GroupArg {
  @Ref('fader-group', 'fader group') faderGroup!: string;
}
class GroupRemoveArgs extends GroupArg {
  @Anyway() anyway?: boolean;
}
class GroupSetArgs extends GroupArg {
  @Text(40, 'name', { min: 1, optional: true }) name?: string;
  @Num(FADER_FLOOR_DB, FADER_TOP_DB, 'fader, dB', { optional: true }) faderDb?: number;
  @Flag('muted', { optional: true }) muted?: boolean;
  @Anyway() anyway?: boolean;
}

/** @throws CommandError when the seat of a feed is not there. */
function checkFeed(desk: Desk, feed: Feed): void {
  if (feed.kind !== 'seat') return;
  if (!desk.show.seats.some((s) => s.id === feed.seatId))
    throw new CommandError('unknown-seat', `There is no seat "${feed.seatId}" in this show.`, 'feed.seatId');
}

/** True when a change can let sound through that was not heard before. */
const opens = (before: ChannelStrip, change: Partial<ChannelStrip>) =>
  (change.muted === false && before.muted) ||
  ((change.faderDb ?? FADER_FLOOR_DB) > FADER_FLOOR_DB && before.faderDb <= FADER_FLOOR_DB) ||
  (change.groupId !== undefined && change.groupId !== before.groupId);

export const soundCommands = [
  defineCommand({
    type: 'sound.setFader',
    title: 'Set a fader',
    says: 'Set the fader of {channel} to {db} dB',
    about: 'Level of a channel after its processing.',
    args: FaderArgs,
    mergeKey: ({ channel }) => `fader:${channel}`,
    run: (desk, { channel, db, anyway }) => {
      const { sound } = channelOf(desk, channel);
      const check = opens(sound, { faderDb: db });
      sound.faderDb = db;
      if (check) guardLoops(desk, anyway);
    },
  }),
  defineCommand({
    type: 'sound.mute',
    title: 'Mute',
    says: 'Mute {channel}: {muted}',
    about: 'Silences a channel everywhere, or opens it again.',
    args: MuteArgs,
    run: (desk, { channel, on, anyway }) => {
      const { sound } = channelOf(desk, channel);
      sound.muted = on ?? !sound.muted;
      if (!sound.muted) guardLoops(desk, anyway);
    },
  }),
  defineCommand({
    type: 'sound.follow',
    title: 'Sound follows picture',
    about: 'Whether a channel is heard only while its picture is on air.',
    args: FollowArgs,
    run: (desk, { channel, on }) => {
      const { sound } = channelOf(desk, channel);
      sound.follows = on ?? !sound.follows;
    },
  }),
  defineCommand({
    type: 'sound.setChannel',
    title: 'Set channels',
    about: 'Sets any of the values of one channel or of several at once.',
    args: SetArgs,
    mergeKey: ({ channels, anyway: _, ...change }) => `${channels.join()}:${Object.keys(change).join()}`,
    run: (desk, { channels, anyway, ...change }) => {
      if (change.groupId) faderGroupOf(desk, change.groupId, 'groupId');
      const strips = channels.map((id) => channelOf(desk, id, 'channels').sound);
      if (strips.length === 0) throw new CommandError('no-channels', 'No channel is named.', 'channels');
      const check = strips.some((s) => opens(s, change));
      for (const strip of strips) Object.assign(strip, change);
      if (check) guardLoops(desk, anyway);
    },
  }),
  defineCommand({
    type: 'sound.addChannel',
    title: 'Add a channel',
    about: 'Adds a microphone, a line input, the channel of a seat, or a test tone. Returns its `id`.',
    args: AddArgs,
    run: (desk, { name, feed, anyway }, { newId }) => {
      checkFeed(desk, feed);
      const { inputs } = desk.show.sound;
      if (inputs.length >= MOST_CHANNELS) throw new CommandError('too-many', `A show has at most ${MOST_CHANNELS} channels of their own.`);
      const id = newId();
      inputs.push({
        id,
        name,
        colour: TILE_COLOURS[inputs.length % TILE_COLOURS.length] ?? '#5aa9c9',
        feed,
        sound: plainStrip({ follows: feed.kind === 'seat', muted: feed.kind === 'tone' }),
      });
      guardLoops(desk, anyway);
      return { id };
    },
  }),
  defineCommand({
    type: 'sound.editChannel',
    title: 'Edit a channel',
    about: 'Name, colour and feed of a channel that is no source’s own.',
    args: EditArgs,
    mergeKey: ({ channel, feed }) => `channel:${channel}${feed ? ':feed' : ''}`,
    run: (desk, { channel, anyway, ...change }) => {
      const input = desk.show.sound.inputs.find((c) => c.id === channel);
      if (!input) {
        channelOf(desk, channel);
        throw new CommandError('source-channel', 'This channel belongs to a source: edit the source.', 'channel');
      }
      if (change.feed) checkFeed(desk, change.feed);
      Object.assign(input, change);
      if (change.feed) guardLoops(desk, anyway);
    },
  }),
  defineCommand({
    type: 'sound.removeChannel',
    title: 'Remove a channel',
    about: 'Removes a channel that is no source’s own, with its sends.',
    args: ChannelArg,
    run: (desk, { channel }) => {
      const { inputs } = desk.show.sound;
      if (!inputs.some((c) => c.id === channel)) {
        channelOf(desk, channel);
        throw new CommandError('source-channel', 'This channel belongs to a source: remove the source.', 'channel');
      }
      remove(desk, 'input', channel);
    },
  }),
  defineCommand({
    type: 'sound.addGroup',
    title: 'Add a fader group',
    about: 'One fader over many channels. Returns its `id`.',
    args: GroupNameArgs,
    run: ({ show }, { name }, { newId }) => {
      if (show.sound.groups.length >= 16) throw new CommandError('too-many', 'A show has at most 16 fader groups.');
      const id = newId();
      show.sound.groups.push({ id, name, faderDb: 0, muted: false });
      return { id };
    },
  }),
  defineCommand({
    type: 'sound.setGroup',
    title: 'Set a fader group',
    about: 'Name, fader and mute of a fader group.',
    args: GroupSetArgs,
    mergeKey: ({ faderGroup }) => `group:${faderGroup}`,
    run: (desk, { faderGroup, anyway, ...change }) => {
      const group = faderGroupOf(desk, faderGroup);
      const check =
        (change.muted === false && group.muted) || ((change.faderDb ?? FADER_FLOOR_DB) > FADER_FLOOR_DB && group.faderDb <= FADER_FLOOR_DB);
      Object.assign(group, change);
      if (check) guardLoops(desk, anyway);
    },
  }),
  defineCommand({
    type: 'sound.removeGroup',
    title: 'Remove a fader group',
    about: 'Its channels keep their own faders.',
    args: GroupRemoveArgs,
    run: (desk, { faderGroup, anyway }) => {
      faderGroupOf(desk, faderGroup);
      remove(desk, 'fader-group', faderGroup);
      guardLoops(desk, anyway);
    },
  }),
];
