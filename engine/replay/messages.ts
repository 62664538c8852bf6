/** What page, recorder and decks say to each other. */
import { type Angle, type Budget, type ReplaySettings } from '#core/replay/document';
import { type ReplayAir } from '#core/replay/air';
import { type Run, type Segment } from '#core/replay/timeline';
import { type Rate } from '#core/time/rate';
import { type Group, type Packet, type TrackConfig } from './segment-format';

/** A segment with what is needed to read it. */
export interface StoredSegment extends Segment {
  config: TrackConfig;
  groups: Group[];
}

export interface RecordingFormat {
  /** Height of the recorded pictures; 0 as they come. */
  height: number;
  /** Bits a second. */
  bitrate: number;
  /** Frames a second that sources bring, for the encoder's rate control. */
  framerate: number;
}

export type ToReplayRecorder =
  | { type: 'start'; showId: string; index: MessagePort }
  | { type: 'format'; format: RecordingFormat }
  | { type: 'track'; trackId: string; name: string; port: MessagePort }
  | { type: 'track-gone'; trackId: string }
  | { type: 'record'; on: boolean }
  | { type: 'protect'; spans: Run[]; budget: Budget; now: number }
  /** Closes the open segments, so that all that is recorded can be read from disk; answered by `closed`. */
  | { type: 'close-segments'; key: number };

export interface TrackStatus {
  id: string;
  name: string;
  state: 'recording' | 'waiting' | 'failed';
  /** Why it fails or waits, in words; empty when all is well. */
  trouble: string;
  /** Since recording began. */
  frames: number;
  missed: number;
  /** Measured, bytes a second. */
  bytesPerSecond: number;
}

export interface ReplayStatus {
  recording: boolean;
  tracks: TrackStatus[];
  /** Unbroken stretches by track, show microseconds. */
  runs: Record<string, Run[]>;
  usedBytes: number;
  limitBytes: number;
  /** Seconds until the oldest must go, at the measured bitrate; −1 when unknown. */
  secondsLeft: number;
  overfull: boolean;
  /** Bytes a second of all tracks, measured. */
  bytesPerSecond: number;
}

export type FromReplayRecorder =
  { type: 'status'; status: ReplayStatus } | { type: 'trouble'; message: string } | { type: 'closed'; key: number };

/** From the recorder to whoever reads. */
export type IndexMessage =
  | { type: 'segments'; segments: StoredSegment[] }
  | { type: 'opened'; segment: StoredSegment }
  | { type: 'packet'; segmentId: string; packet: Packet }
  | { type: 'closed'; segment: StoredSegment }
  | { type: 'dropped'; ids: string[] };

/** What the decks need of show and air. */
export interface DecksDesk {
  replay: ReplayAir;
  settings: ReplaySettings;
  angles: Angle[];
}

export type ToDecks =
  | { type: 'start'; clock: SharedArrayBuffer; rate: Rate; frameStep: number; index: MessagePort; size: { width: number; height: number } }
  | { type: 'desk'; desk: DecksDesk }
  | { type: 'connect'; deck: 1 | 2; frames: MessagePort; second: MessagePort; sound: MessagePort }
  | { type: 'disconnect'; deck: 1 | 2 }
  /** Without `exact` the key frame before it will do. */
  | { type: 'thumbnail'; key: string; trackId: string; micros: number; width: number; exact: boolean }
  /** Answers with how long reading one frame took: for the bench. */
  | { type: 'probe'; key: string; trackId: string; micros: number };

export type FromDecks =
  | { type: 'thumbnail'; key: string; image: ImageBitmap | null }
  | { type: 'probe'; key: string; ms: number; stamp: number | null }
  /** Bytes of decoded frames that are kept. */
  | { type: 'cache'; bytes: number };
