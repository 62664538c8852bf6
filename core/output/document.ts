/** Recording and stream in the show document. */
import { Colour, Flag, Id, ListOf, Nested, Num, OneOf, Text, Variant, Whole, Ref } from '../schema/fields';
import { type Rate } from '../time/rate';
import { type Rect, RectField } from '../show/geometry';
import { EyePoint, Framing, Layout, Preset, Seat, Style } from '../layout/document';
import { type Key, keyClass } from '../layout/look';
import { Replay } from '../replay/document';
import { Sound } from '../sound/document';
import { Source } from '../show/source';

export const CODECS = ['h264', 'vp9', 'av1'] as const;

export type Codec = (typeof CODECS)[number];

export class RecordingSettings {
  @OneOf(CODECS, 'picture codec: h264 makes MP4, the others WebM') codec!: Codec;
  @Num(0.2, 100, 'picture bitrate, megabits a second') megabits!: number;
  @Ref('output', 'output that is taken') outputId!: string;
}

export class StreamSettings {
  @Text(500, 'address the segments are put to, http or https') url!: string;
  @Text(200, 'key of the stream at that address') key!: string;
  @Num(0.2, 50, 'picture bitrate, megabits a second') megabits!: number;
  @Ref('output', 'output that is taken') outputId!: string;
}

/** How the show is recorded and streamed. */
export class Delivery {
  @Nested(() => RecordingSettings, 'recording') recording!: RecordingSettings;
  @Nested(() => StreamSettings, 'stream') stream!: StreamSettings;
}
