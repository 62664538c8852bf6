/** What the host and the sound track recorder say to each other. */
import { type WavInfo } from '#core/sound/wav';

export interface TrackToRecord {
  /** Identity of its recording row; the file is `<id>.wav`. */
  id: string;
  /** Sound chunks come in here. */
  port: MessagePort;
  info: WavInfo;
}

export type ToTrackRecorder =
  /** All files begin at this show sample. */
  { type: 'start'; startSample: number; tracks: TrackToRecord[] } | { type: 'stop' };

export type FromTrackRecorder =
  | { type: 'status'; tracks: { id: string; bytes: number; seconds: number }[] }
  /** All are closed; `error` says why, when not by `stop`. `silence` is how much had to be filled in, samples. */
  | { type: 'ended'; tracks: { id: string; bytes: number; seconds: number; silence: number }[]; error: string };
