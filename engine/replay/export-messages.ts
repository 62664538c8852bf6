/** What page and export worker say to each other. */
import { type RollItem } from '#core/replay/air';
import { type Run } from '#core/replay/timeline';
import { type Rate } from '#core/time/rate';

/** What becomes one file. */
export type ExportJob =
  | {
      kind: 'clips';
      items: RollItem[];
      joinFrames: number;
      /** MP4 holds H.264, WebM VP8; both Opus. */
      container: 'mp4' | 'webm';
      /** Bits a second, where it is encoded anew. */
      bitrate: number;
      blend: boolean;
      soundAtSpeed: boolean;
    }
  /** A whole angle between two show frames, as it was recorded. */
  | { kind: 'angle'; angleId: string; from: number; to: number };

export interface ToExport {
  type: 'start';
  showId: string;
  rate: Rate;
  fileName: string;
  job: ExportJob;
  /** Sound track of each angle, where it has one. */
  sounds: Record<string, string>;
  /** What the recorder says that it has recorded, by track: a file is not begun before that much of it is on disk. */
  recorded: Record<string, Run[]>;
}

export type FromExport =
  | { type: 'progress'; done: number; total: number }
  /** `copied` when the pictures are those of the recording, not encoded anew. */
  | { type: 'done'; seconds: number; copied: boolean; frames: number }
  | { type: 'failed'; message: string };

/** A file that is made, waits to be, or was. */
export interface ExportTask {
  id: string;
  name: string;
  state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';
  /** 0 to 1. */
  share: number;
  /** Milliseconds of the wall clock at which it began. */
  startedAt: number;
  message: string;
  /** The pictures are those of the recording, not encoded anew. */
  copied: boolean;
  frames: number;
}
