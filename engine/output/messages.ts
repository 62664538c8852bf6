/** What page and encoder worker say to each other. */
import { type Codec } from '#core/output/document';
import { type Raster } from '#core/show/raster';
import { type Rate } from '#core/time/rate';

/** Everything that decides how the programme is encoded; equal settings share one encode. */
export interface EncodeSettings {
  codec: Codec;
  /** Bits a second of the picture. */
  bitrate: number;
  raster: Raster;
  rate: Rate;
  frameStep: number;
  /** Output that is taken. */
  outputId: string;
}

/** How a picture is encoded, whichever it is. */
export type PictureSettings = Omit<EncodeSettings, 'outputId'>;

export type StreamState = 'connecting' | 'live' | 'retrying' | 'ending';

export interface RecordingStatus {
  id: string;
  seconds: number;
  /** Pictures in the file. */
  pictures: number;
  bytes: number;
  /** Bits a second over the last seconds. */
  bitrate: number;
}

export interface StreamStatus {
  id: string;
  state: StreamState;
  seconds: number;
  bitrate: number;
  /** Segments waiting to be sent, and their seconds. */
  queued: number;
  queuedSeconds: number;
  /** Segments given up because the queue was full, and their seconds. */
  dropped: number;
  lostSeconds: number;
  reconnects: number;
  /** The last trouble, in plain words; empty when there is none. */
  trouble: string;
}

export interface EncoderStatus {
  recording: RecordingStatus | null;
  stream: StreamStatus | null;
  /** Pictures put in again because the mixer gave up a frame. */
  doubled: number;
  /** Encodes running: one serves both outputs where their settings agree. */
  encodes: number;
  /** Milliseconds of silence put in where no sound came. */
  silenceMs: number;
}

/** Before anything is recorded or streamed. */
export const IDLE_ENCODER: EncoderStatus = { recording: null, stream: null, doubled: 0, encodes: 0, silenceMs: 0 };

export type ToEncoder =
  /** The programme's sound. */
  | { type: 'sound'; sound: MessagePort }
  /** Frames of an output, for as long as a recording or stream wants them. */
  | { type: 'output'; outputId: string; frames: MessagePort }
  | { type: 'record'; id: string; fileName: string; settings: EncodeSettings }
  | { type: 'stop-recording' }
  | { type: 'stream'; id: string; url: string; key: string; settings: EncodeSettings }
  | { type: 'stop-stream' };

export type FromEncoder =
  | { type: 'status'; status: EncoderStatus }
  | { type: 'recording-ended'; id: string; seconds: number; bytes: number; error: string }
  | { type: 'stream-ended'; id: string; error: string };
