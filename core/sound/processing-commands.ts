/** Commands for what channels and buses do to their sound, and for presets of it. */
import { CommandError, defineCommand } from '../commands/command';
import { Flag, Num, OneOf, Ref, Refs, Text, Whole } from '../schema/fields';
import { type Desk } from '../desk/air';
import { channelOf } from './edit';
import { MOST_CHANNELS } from './document';
import { BAND_COUNT, BAND_KINDS, type BandKind, type Equaliser, type Processing } from './strip';

class ChannelArg {
  @Ref('channel', 'channel') channel!: string;
}
class HighPassArgs extends ChannelArg {
  @Flag('in use', { optional: true }) on?: boolean;
  @Num(20, 400, 'corner frequency, Hz', { optional: true }) hz?: number;
}
class GateArgs extends ChannelArg {
  @Flag('in use', { optional: true }) on?: boolean;
  @Num(-80, 0, 'opens above, dBFS', { optional: true }) thresholdDb?: number;
  @Num(-80, 0, 'level while closed, dB', { optional: true }) rangeDb?: number;
  @Num(0.1, 200, 'opening, ms', { optional: true }) attackMs?: number;
  @Num(0, 2000, 'stays open after the sound, ms', { optional: true }) holdMs?: number;
  @Num(5, 4000, 'closing, ms', { optional: true }) releaseMs?: number;
}
class CompressorArgs extends ChannelArg {
  @Flag('in use', { optional: true }) on?: boolean;
  @Num(-60, 0, 'works above, dBFS', { optional: true }) thresholdDb?: number;
  @Num(1, 20, 'so many dB in for one dB out', { optional: true }) ratio?: number;
  @Num(0.1, 200, 'time to turn down, ms', { optional: true }) attackMs?: number;
  @Num(5, 4000, 'time to let go, ms', { optional: true }) releaseMs?: number;
  @Num(0, 24, 'width of the soft bend, dB', { optional: true }) kneeDb?: number;
  @Num(0, 24, 'gain after it, dB', { optional: true }) makeUpDb?: number;
}
class EqArgs {
  @Ref('channel-or-bus', 'channel or bus') channel!: string;
  @Flag('without it, the other way', { optional: true }) on?: boolean;
}
class BandArgs {
  @Ref('channel-or-bus', 'channel or bus') channel!: string;
  @Whole(1, BAND_COUNT, 'band, counted from the lowest') band!: number;
  @OneOf(BAND_KINDS, 'shape', { optional: true }) kind?: BandKind;
  @Num(20, 20_000, 'frequency, Hz', { optional: true }) hz?: number;
  @Num(-18, 18, 'boost or cut, dB', { optional: true }) gainDb?: number;
  @Num(0.2, 12, 'quality', { optional: true }) q?: number;
}
class StoreArgs extends ChannelArg {
  @Text(60, 'name', { min: 1 }) name!: string;
}
class ApplyArgs {
  @Ref('strip-preset', 'preset of a channel') stripPreset!: string;
  @Refs('channel', MOST_CHANNELS, 'channels') channels!: string[];
}
class PresetArg {
  @Ref('strip-preset', 'preset of a channel') stripPreset!: string;
}

/** The equaliser of a channel or a bus. */
function eqOf(desk: Desk, id: string): Equaliser {
  return desk.show.sound.buses.find((b) => b.id === id)?.eq ?? channelOf(desk, id).sound.eq;
}

function presetOf({ show }: Desk, id: string) {
  const found = show.sound.presets.find((p) => p.id === id);
  if (!found) throw new CommandError('unknown-preset', `There is no channel preset "${id}" in this show.`, 'stripPreset');
  return found;
}

const copyOf = ({ gainDb, pick, highPass, gate, eq, compressor }: Processing): Processing => ({
  gainDb,
  pick,
  highPass: { ...highPass },
  gate: { ...gate },
  eq: { on: eq.on, bands: eq.bands.map((b) => ({ ...b })) },
  compressor: { ...compressor },
});

export const processingCommands = [
  defineCommand({
    type: 'sound.setHighPass',
    title: 'Set the high-pass',
    about: 'Takes away what is below a frequency: wind, steps, handling.',
    args: HighPassArgs,
    mergeKey: ({ channel }) => channel,
    run: (desk, { channel, ...change }) => {
      Object.assign(channelOf(desk, channel).sound.highPass, change);
    },
  }),
  defineCommand({
    type: 'sound.setGate',
    title: 'Set the gate',
    about: 'Turns a channel down while nothing but noise comes.',
    args: GateArgs,
    mergeKey: ({ channel }) => channel,
    run: (desk, { channel, ...change }) => {
      Object.assign(channelOf(desk, channel).sound.gate, change);
    },
  }),
  defineCommand({
    type: 'sound.setCompressor',
    title: 'Set the compressor',
    about: 'Turns down what is too loud, so that all of it can be louder.',
    args: CompressorArgs,
    mergeKey: ({ channel }) => channel,
    run: (desk, { channel, ...change }) => {
      Object.assign(channelOf(desk, channel).sound.compressor, change);
    },
  }),
  defineCommand({
    type: 'sound.setEq',
    title: 'Switch an equaliser',
    about: 'Puts the equaliser of a channel or bus in or out.',
    args: EqArgs,
    run: (desk, { channel, on }) => {
      const eq = eqOf(desk, channel);
      eq.on = on ?? !eq.on;
    },
  }),
  defineCommand({
    type: 'sound.setBand',
    title: 'Set a band of an equaliser',
    about: 'Shape, frequency, gain and quality of one of the four bands; puts the equaliser in.',
    args: BandArgs,
    mergeKey: ({ channel, band }) => `${channel}:${band}`,
    run: (desk, { channel, band, ...change }) => {
      const eq = eqOf(desk, channel);
      const found = eq.bands[band - 1];
      if (!found) throw new CommandError('unknown-band', `This equaliser has ${eq.bands.length} bands.`, 'band');
      Object.assign(found, change);
      eq.on = true;
    },
  }),
  defineCommand({
    type: 'sound.storePreset',
    title: 'Store a channel preset',
    about: 'Keeps gain, high-pass, gate, equaliser and compressor of a channel under a name. Returns its `id`.',
    args: StoreArgs,
    run: (desk, { channel, name }, { newId }) => {
      const { presets } = desk.show.sound;
      if (presets.length >= 100) throw new CommandError('too-many', 'A show has at most 100 channel presets.');
      const id = newId();
      presets.push({ id, name, processing: copyOf(channelOf(desk, channel).sound) });
      return { id };
    },
  }),
  defineCommand({
    type: 'sound.applyPreset',
    title: 'Apply a channel preset',
    about: 'Fader, mute, delay and sends stay as they are.',
    args: ApplyArgs,
    run: (desk, { stripPreset, channels }) => {
      const { processing } = presetOf(desk, stripPreset);
      if (channels.length === 0) throw new CommandError('no-channels', 'No channel is named.', 'channels');
      for (const id of channels) Object.assign(channelOf(desk, id, 'channels').sound, copyOf(processing));
    },
  }),
  defineCommand({
    type: 'sound.removePreset',
    title: 'Remove a channel preset',
    about: 'Channels that it was applied to stay as they are.',
    args: PresetArg,
    run: (desk, { stripPreset }) => {
      const preset = presetOf(desk, stripPreset);
      desk.show.sound.presets.splice(desk.show.sound.presets.indexOf(preset), 1);
    },
  }),
];
