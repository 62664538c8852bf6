/** Recording and stream in the show document. */
import { Nested, Num, OneOf, Text, Ref } from '../schema/fields';

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
