/** Codec strings and what this browser can really encode. */
import { type Codec, CODECS } from '#core/output/document';
import { type Raster } from '#core/show/raster';
import { type PictureSettings } from './messages';

/** Sound bitrate, bits a second. */
export const SOUND_BITRATE = 160_000;

/** H.264 level by macroblocks a second (ITU-T H.264 table A-1), as the last byte of the codec string. */
function h264Level(raster: Raster, fps: number): string {
  const perSecond = Math.ceil(raster.width / 16) * Math.ceil(raster.height / 16) * fps;
  const levels: [number, string][] = [
    [40_500, '1e'],
    [108_000, '1f'],
    [245_760, '28'],
    [522_240, '2a'],
    [983_040, '33'],
  ];
  return levels.find(([limit]) => perSecond <= limit)?.[1] ?? '34';
}

export function videoConfig(settings: PictureSettings): VideoEncoderConfig {
  const { codec, raster, rate, frameStep, bitrate } = settings;
  const framerate = rate.num / rate.den / frameStep;
  const common = { width: raster.width, height: raster.height, bitrate, framerate, latencyMode: 'realtime' as const };
  if (codec === 'h264') return { ...common, codec: `avc1.4200${h264Level(raster, framerate)}`, avc: { format: 'avc' } };
  return { ...common, codec: codec === 'vp9' ? 'vp09.00.40.08' : 'av01.0.08M.08' };
}

export const SOUND_CONFIG: AudioEncoderConfig = { codec: 'opus', sampleRate: 48_000, numberOfChannels: 2, bitrate: SOUND_BITRATE };

/** The codecs that this browser encodes at the given size. */
export async function supportedCodecs(settings: Omit<PictureSettings, 'codec'>): Promise<Codec[]> {
  const answers = await Promise.all(
    CODECS.map(async (codec) => {
      const { supported } = await VideoEncoder.isConfigSupported(videoConfig({ ...settings, codec })).catch(() => ({ supported: false }));
      return supported ? codec : null;
    }),
  );
  return answers.filter((codec) => codec !== null);
}

export const extensionOf = (codec: Codec): 'mp4' | 'webm' => (codec === 'h264' ? 'mp4' : 'webm');
