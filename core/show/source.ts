/** Sources: what can be put on air, by kind. */
import { GuestSettings } from '../guests/document';
import { Raster } from './raster';
import { ChannelStrip } from '../sound/strip';
import { Colour, byKind, Flag, Id, Nested, Num, OneOf, Text, Variant, Whole, Ref } from '../schema/fields';

/** A capture device seen by the browser: webcam, capture card, with an optional microphone. */
export class CameraSettings {
  @OneOf(['camera'], 'capture device') kind!: 'camera';
  @Text(256, 'device identity as the browser gives it; empty for the default device') deviceId!: string;
  @Text(256, 'device label: finds the device again when its identity has changed') deviceLabel!: string;
  @Whole(0, 7680, 'wanted width in pixels; 0 leaves it to the device') width!: number;
  @Whole(0, 4320, 'wanted height in pixels; 0 leaves it to the device') height!: number;
  @Num(0, 240, 'wanted frames a second; 0 leaves it to the device') frameRate!: number;
  @Text(256, 'microphone identity; null for no sound', { nullable: true }) audioDeviceId!: string | null;
  @Text(256, 'microphone label') audioDeviceLabel!: string;
}

/** A screen, window or tab, chosen in the browser's own dialog each time. */
export class ScreenSettings {
  @OneOf(['screen'], 'screen or window capture') kind!: 'screen';
  @Flag('capture its sound too, where the browser can') withSound!: boolean;
}

/** What a player does when a media file reaches its out point. */
export const AT_END = ['hold', 'loop', 'black'] as const;
export type AtEnd = (typeof AT_END)[number];

/** A video file kept in this browser's storage. */
export class MediaSettings {
  @OneOf(['media'], 'media file') kind!: 'media';
  @Ref('asset', 'asset that holds the bytes') assetId!: string;
  @Text(256, 'name of the file as it came') fileName!: string;
  @Num(0, 864000, 'length in seconds') duration!: number;
  @Flag('has a sound track') hasSound!: boolean;
  @Flag('its pictures have transparent parts') hasAlpha!: boolean;
  @Num(0, 864000, 'in point in seconds') in!: number;
  @Num(0, 864000, 'out point in seconds; null for the end', { nullable: true }) out!: number | null;
  @Flag('play from the in point when it goes on air') startOnTake!: boolean;
  @OneOf(AT_END, 'what happens at the out point') atEnd!: AtEnd;
}

export class StillSettings {
  @OneOf(['still'], 'still picture') kind!: 'still';
  @Ref('asset', 'asset that holds the bytes') assetId!: string;
  @Text(256, 'name of the file as it came') fileName!: string;
  @Flag('has transparent parts') hasAlpha!: boolean;
}

export class ColourSettings {
  @OneOf(['colour'], 'one even colour') kind!: 'colour';
  @Colour('the colour') colour!: string;
}

export const TEST_PATTERNS = ['bars', 'sync'] as const;

/** Bars with a 1 kHz tone at −18 dBFS (EBU R 68 alignment), or a flash and a beep each second. */
export class TestSettings {
  @OneOf(['test'], 'test picture with sound') kind!: 'test';
  @OneOf(TEST_PATTERNS, 'bars with tone, or flash and beep') pattern!: (typeof TEST_PATTERNS)[number];
}

export const SIMULATED_CAMERAS = ['shore', 'line', 'mast', 'desk', 'hut'] as const;
export type SimulatedCamera = (typeof SIMULATED_CAMERAS)[number];

/** What the simulated cameras are called. */
export const CAMERA_NAMES: Readonly<Record<SimulatedCamera, string>> = {
  shore: 'Shore, wide',
  line: 'Flight line, tight',
  mast: 'Mast, overhead',
  desk: 'Commentary desk',
  hut: 'Weather hut',
};

/** A camera of the simulated kite flight. */
export class SimulatedSettings {
  @OneOf(['simulated'], 'simulated camera') kind!: 'simulated';
  @OneOf(SIMULATED_CAMERAS, 'where the camera stands') camera!: SimulatedCamera;
}

/** A replay player: shows what the angles have recorded, or the angle itself while it is live. */
export class DeckSettings {
  @OneOf(['deck'], 'replay player') kind!: 'deck';
  @Whole(1, 2, 'which deck') deck!: 1 | 2;
}

/** Pictures and sound that an encoder sends by WHIP (RFC 9725), with a key of its own. */
export class EncoderSettings {
  @OneOf(['encoder'], 'encoder that sends by WHIP') kind!: 'encoder';
}

export type SourceSettings =
  | CameraSettings
  | ScreenSettings
  | MediaSettings
  | StillSettings
  | ColourSettings
  | TestSettings
  | SimulatedSettings
  | DeckSettings
  | GuestSettings
  | EncoderSettings;

export type SourceKind = SourceSettings['kind'];

/** The class of a source's settings. */
export const settingsClass = byKind<SourceKind>({
  camera: CameraSettings,
  screen: ScreenSettings,
  media: MediaSettings,
  still: StillSettings,
  colour: ColourSettings,
  test: TestSettings,
  simulated: SimulatedSettings,
  deck: DeckSettings,
  guest: GuestSettings,
  encoder: EncoderSettings,
});

export class Source {
  @Id('identity; never changes and is never used again') id!: string;
  @Text(80, 'name', { min: 1 }) name!: string;
  @Colour('colour of its tile') colour!: string;
  @Whole(1, 99, 'number on keys; null for none', { nullable: true }) number!: number | null;
  @Ref('group', 'group it is listed in; null for none', { nullable: true }) groupId!: string | null;
  @Flag('feeds layouts and lanes only: not in the switching list') feedsOnly!: boolean;
  @Nested(() => ChannelStrip, 'its sound') sound!: ChannelStrip;
  @Nested(() => Raster, 'pixels that it is planned to come with; null for none', { nullable: true }) expects!: Raster | null;
  @Variant(settingsClass, 'what it is; fields depend on `kind`') settings!: SourceSettings;
}
