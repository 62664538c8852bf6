import { describe, expect, it } from 'vitest';
import { extensionOf, videoConfig } from './codecs';
import { type PictureSettings } from './messages';

const settings = (width: number, height: number, fps: number, frameStep = 1): PictureSettings => ({
  codec: 'h264',
  bitrate: 2e6,
  raster: { width, height },
  rate: { num: fps, den: 1 },
  frameStep,
});

describe('codec strings', () => {
  it.each([
    [640, 360, 25, 'avc1.42001e'],
    [1280, 720, 25, 'avc1.42001f'],
    [1920, 1080, 25, 'avc1.420028'],
    [1920, 1080, 50, 'avc1.42002a'],
    [3840, 2160, 25, 'avc1.420033'],
  ])('names the H.264 level that %i×%i at %i needs', (width, height, fps, codec) => {
    expect(videoConfig(settings(width, height, fps)).codec).toBe(codec);
  });

  it('tells the encoder the rate that is really drawn', () => {
    expect(videoConfig(settings(640, 360, 50, 2)).framerate).toBe(25);
  });

  it('puts H.264 into MP4 and the others into WebM', () => {
    expect((['h264', 'vp9', 'av1'] as const).map(extensionOf)).toEqual(['mp4', 'webm', 'webm']);
  });
});
