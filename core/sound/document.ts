/** The sound desk in the show document: channels of their own, buses, sends, who listens, and what is plugged in where. */
import { Colour, byKind, DeviceId, Flag, Id, ListOf, Nested, Num, OneOf, Text, Variant, Whole, Ref, Refs } from '../schema/fields';
import { FADER_FLOOR_DB, FADER_TOP_DB } from './level';
import { ChannelStrip, Equaliser, flatEqualiser, MOST_DELAY_MS, plainProcessing, Processing } from './strip';

/** The bus that is streamed and recorded; it is always there. */
export const PROGRAMME_BUS = 'programme';
export const MOST_BUSES = 32;
export const MOST_CHANNELS = 128;
/** Pairs of a device's inputs or outputs. */
export const MOST_PAIRS = 16;

/** A microphone or line input. */
export class DeviceFeed {
  @OneOf(['device'], 'input of a sound device') kind!: 'device';
  @DeviceId('device identity; empty for the default one') deviceId!: string;
  @Text(256, 'device label: finds it again when its identity has changed') deviceLabel!: string;
  @Whole(1, 32, 'input, counted from 1; the left one of a pair') first!: number;
  @Flag('this input and the next as left and right') stereo!: boolean;
}

/** The sound of whoever fills a seat. */
export class SeatFeed {
  @OneOf(['seat'], 'whoever fills a seat') kind!: 'seat';
  @Ref('seat', 'seat') seatId!: string;
}

/** A tone for lining up. */
export class ToneFeed {
  @OneOf(['tone'], 'test tone') kind!: 'tone';
  @Num(20, 20_000, 'frequency, Hz') hz!: number;
  @Num(-60, 0, 'level of the sine’s peak, dBFS') levelDb!: number;
}

export type Feed = DeviceFeed | SeatFeed | ToneFeed;
/** The class of a channel's feed. */
export const feedClass = byKind<Feed['kind']>({ device: DeviceFeed, seat: SeatFeed, tone: ToneFeed });

/** A channel that is no source's own: a microphone, a line, a seat, a tone. */
export class InputChannel {
  @Id('identity; never that of a source') id!: string;
  @Text(80, 'name', { min: 1 }) name!: string;
  @Colour('colour of its strip') colour!: string;
  @Variant(feedClass, 'where its sound comes from; fields depend on `kind`') feed!: Feed;
  @Nested(() => ChannelStrip, 'its settings') sound!: ChannelStrip;
}

export const TIMINGS = ['picture', 'live'] as const;

/** A mix, named by who listens to it. */
export class Bus {
  @Id('identity') id!: string;
  @Text(40, 'name: who listens', { min: 1 }) name!: string;
  @Colour('colour of its strip') colour!: string;
  @Num(FADER_FLOOR_DB, FADER_TOP_DB, 'fader, dB; the lowest is silence') faderDb!: number;
  @Flag('muted') muted!: boolean;
  @Nested(() => Equaliser, 'equaliser') eq!: Equaliser;
  @Num(-20, 0, 'limiter ceiling, dBFS') ceilingDb!: number;
  @Num(0, MOST_DELAY_MS, 'delay, ms') delayMs!: number;
  @OneOf(TIMINGS, '`picture`: live inputs wait for their pictures; `live`: as soon as they come, for people in the room')
  timing!: (typeof TIMINGS)[number];
  @Flag('recorded as a stereo file of its own') record!: boolean;
}

export const TAPS = ['after', 'before'] as const;
export type Tap = (typeof TAPS)[number];

/** A crosspoint set by hand; where there is none, the rule of the bus's listener decides. */
export class Send {
  @Ref('channel-or-bus', 'channel or bus that is sent', { counts: false }) fromId!: string;
  @Ref('bus', 'bus that gets it', { counts: false }) busId!: string;
  @Flag('open') on!: boolean;
  @Num(FADER_FLOOR_DB, FADER_TOP_DB, 'level, dB') levelDb!: number;
  @OneOf(TAPS, 'after or before the fader') tap!: Tap;
}

export const LISTENER_KINDS = ['stream', 'recording', 'room', 'guest', 'producer', 'presenter'] as const;
export type ListenerKind = (typeof LISTENER_KINDS)[number];
export const RULES = ['programme', 'all-but-self', 'guests', 'hand'] as const;
export type Rule = (typeof RULES)[number];

/** Two channels of a device, counted from pair 1 (channels 1 and 2). */
export class Pair {
  @DeviceId('device identity; empty for the default one') deviceId!: string;
  @Text(256, 'device label') deviceLabel!: string;
  @Whole(1, MOST_PAIRS, 'pair: 1 is channels 1–2') pair!: number;
}

/** Somebody, or something, that hears a bus. */
export class Listener {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @OneOf(LISTENER_KINDS, 'who that is') kind!: ListenerKind;
  @Ref('bus', 'bus made for them') busId!: string;
  @OneOf(RULES, 'what they should hear') rule!: Rule;
  @Refs('channel', 64, 'channels that carry their own voice, or stand where they listen', { counts: false }) ownIds!: string[];
  @Nested(() => Pair, 'outputs they really listen to; null for the bus itself, or wherever it is patched', { nullable: true })
  place!: Pair | null;
  @Flag('hears by a loudspeaker that their own microphones pick up') open!: boolean;
  @Flag('gets talkback') talkback!: boolean;
}

/** A bus plugged into a pair of outputs. */
export class Patch {
  @Id('identity') id!: string;
  @Ref('bus', 'bus') busId!: string;
  @Nested(() => Pair, 'outputs') to!: Pair;
}

export class PortName {
  @Whole(1, MOST_PAIRS, 'pair') pair!: number;
  @Text(60, 'what is plugged in there', { min: 1 }) name!: string;
}

export const CARD_ENDS = ['input', 'output'] as const;

/** A path inside the sound card's own mixer, which Bivoca cannot see: the crew declares it. */
export class CardMix {
  @Id('identity') id!: string;
  @OneOf(CARD_ENDS, 'what the card takes') from!: 'input' | 'output';
  @Whole(1, MOST_PAIRS, 'pair it takes') fromPair!: number;
  @OneOf(CARD_ENDS, 'where the card adds it') to!: 'input' | 'output';
  @Whole(1, MOST_PAIRS, 'pair it is added to') toPair!: number;
  @Num(FADER_FLOOR_DB, FADER_TOP_DB, 'level, dB') levelDb!: number;
  @Flag('switched on at the card') on!: boolean;
}

/** What is known of a sound device: the names of its sockets and its own mixer. */
export class Card {
  @DeviceId('device identity') deviceId!: string;
  @Text(256, 'device label') deviceLabel!: string;
  @ListOf(() => PortName, MOST_PAIRS, 'names of input pairs') inputs!: PortName[];
  @ListOf(() => PortName, MOST_PAIRS, 'names of output pairs') outputs!: PortName[];
  @ListOf(() => CardMix, 64, 'its own mixer') mixes!: CardMix[];
}

/** Sound through the air: from a loudspeaker to a microphone. */
export class AirPath {
  @Id('identity') id!: string;
  @Nested(() => Pair, 'outputs of the loudspeaker') from!: Pair;
  @Nested(() => Pair, 'inputs of the microphones') to!: Pair;
  @Num(-80, 12, 'level on arrival, dB') levelDb!: number;
  @Num(0.3, 500, 'time on the way, ms; 2.9 ms a metre') delayMs!: number;
  @Flag('loudspeaker and microphone are both switched on') on!: boolean;
}

/** One fader over many channels. */
export class FaderGroup {
  @Id('identity') id!: string;
  @Text(40, 'name', { min: 1 }) name!: string;
  @Num(FADER_FLOOR_DB, FADER_TOP_DB, 'fader, dB, added to those of its channels') faderDb!: number;
  @Flag('muted') muted!: boolean;
}

export class StripPreset {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @Nested(() => Processing, 'settings') processing!: Processing;
}

export class Sound {
  @ListOf(() => InputChannel, MOST_CHANNELS, 'channels that are no source’s own') inputs!: InputChannel[];
  @ListOf(() => Bus, MOST_BUSES, 'buses; the first is the programme') buses!: Bus[];
  @ListOf(() => Send, 6000, 'crosspoints set by hand') sends!: Send[];
  @ListOf(() => Listener, 64, 'who listens') listeners!: Listener[];
  @ListOf(() => Patch, 128, 'what is plugged into outputs') patches!: Patch[];
  @ListOf(() => Card, 16, 'sound devices and their own mixers') cards!: Card[];
  @ListOf(() => AirPath, 64, 'loudspeakers that microphones pick up') paths!: AirPath[];
  @ListOf(() => FaderGroup, 16, 'fader groups') groups!: FaderGroup[];
  @ListOf(() => StripPreset, 100, 'presets of channels') presets!: StripPreset[];
  @Ref('channel', 'channel of the talkback microphone; null for none', { nullable: true, as: 'the talkback microphone' }) talkbackId!:
    string | null;
  @Num(-40, 0, 'how far a mix is turned down under talkback, dB') dimDb!: number;
  @Num(-40, -5, 'target of the programme loudness, LUFS') targetLufs!: number;
}

export const createBus = (id: string, name: string, colour: string, timing: Bus['timing'] = 'picture'): Bus => ({
  id,
  name,
  colour,
  faderDb: 0,
  muted: false,
  eq: flatEqualiser(),
  ceilingDb: -1,
  delayMs: 0,
  timing,
  record: false,
});

/** Presets that every new show has. */
function firstPresets(): StripPreset[] {
  const p = plainProcessing;
  const band = (i: number, gainDb: number, change = {}) => ({ ...(p().eq.bands[i] as Equaliser['bands'][0]), gainDb, ...change });
  return [
    {
      id: 'sp-voice',
      name: 'Voice, close',
      processing: {
        ...p(),
        pick: 'mono',
        highPass: { on: true, hz: 90 },
        compressor: { ...p().compressor, on: true, thresholdDb: -22, ratio: 3, makeUpDb: 3 },
        eq: { on: true, bands: [band(0, 0), band(1, -3), band(2, 2, { hz: 3200 }), band(3, 1)] },
      },
    },
    {
      id: 'sp-wind',
      name: 'Field microphone in wind',
      processing: {
        ...p(),
        highPass: { on: true, hz: 160 },
        eq: { on: true, bands: [band(0, -6, { hz: 200 }), band(1, -2), band(2, 0), band(3, -2)] },
      },
    },
    {
      id: 'sp-remote',
      name: 'Remote guest',
      processing: {
        ...p(),
        pick: 'mono',
        highPass: { on: true, hz: 100 },
        gate: { ...p().gate, on: true, thresholdDb: -50, rangeDb: -18 },
        compressor: { ...p().compressor, on: true, thresholdDb: -24, ratio: 4, makeUpDb: 4 },
      },
    },
    { id: 'sp-flat', name: 'Flat', processing: p() },
  ];
}

/** The desk of a new show: one bus, heard by stream and recording. */
export function createSound(): Sound {
  const listener = (kind: 'stream' | 'recording', name: string): Listener => ({
    id: kind,
    name,
    kind,
    busId: PROGRAMME_BUS,
    rule: 'programme',
    ownIds: [],
    place: null,
    open: false,
    talkback: false,
  });
  return {
    inputs: [],
    buses: [createBus(PROGRAMME_BUS, 'Programme', '#e2c48d')],
    sends: [],
    listeners: [listener('stream', 'Stream'), listener('recording', 'Recording')],
    patches: [],
    cards: [],
    paths: [],
    groups: [],
    presets: firstPresets(),
    talkbackId: null,
    dimDb: -12,
    targetLufs: -23,
  };
}
