/** Codecs of the replay recordings. */
import { videoConfig } from '../output/codecs';
import { type RecordingFormat } from './messages';

export const H264_TRACK = 'avc1';

/** H.264 baseline: no reordering, quick to decode, and every editor opens it. */
export function pictureConfig(width: number, height: number, { bitrate, framerate }: RecordingFormat): VideoEncoderConfig {
  return videoConfig({ codec: 'h264', raster: { width, height }, rate: { num: Math.round(framerate * 1000), den: 1000 }, frameStep: 1, bitrate, feed: 'programme' });
}

/** Bits a second of recorded sound. */
export const REPLAY_SOUND_BITRATE = 128_000;
