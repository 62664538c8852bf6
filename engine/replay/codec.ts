/** Codecs of the replay recordings: what encoders and decoders are told. */
import { videoConfig } from '../output/codecs';
import { type RecordingFormat } from './messages';
import { fromBase64, type TrackConfig } from './segment-format';

type PictureTrack = Extract<TrackConfig, { kind: 'picture' }>;
type SoundTrack = Extract<TrackConfig, { kind: 'sound' }>;

/** H.264 baseline: no reordering, quick to decode, and every editor opens it. */
export function pictureConfig(width: number, height: number, { bitrate, framerate }: RecordingFormat): VideoEncoderConfig {
  return videoConfig({
    codec: 'h264',
    raster: { width, height },
    rate: { num: Math.round(framerate * 1000), den: 1000 },
    frameStep: 1,
    bitrate,
  });
}

/** Bits a second of recorded sound. */
export const REPLAY_SOUND_BITRATE = 128_000;

/** For decoding or muxing a recorded track of pictures. */
export function pictureDecoder({ codec, width, height, description }: PictureTrack): VideoDecoderConfig {
  const bytes = fromBase64(description);
  return { codec, codedWidth: width, codedHeight: height, ...(bytes && { description: bytes }) };
}

/** For decoding or muxing a recorded track of sound. */
export function soundDecoder({ codec, sampleRate, channels, description }: SoundTrack): AudioDecoderConfig {
  const bytes = fromBase64(description);
  return { codec, sampleRate, numberOfChannels: channels, ...(bytes && { description: bytes }) };
}
