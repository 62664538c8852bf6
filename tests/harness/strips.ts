/** Reads the burned-in time of every frame of a file. */
import { ALL_FORMATS, AudioSampleSink, BlobSource, Input, VideoSampleSink } from 'mediabunny';
import { readStrip } from '#standins/pictures/frame-strip';
import { fromBase64 } from './base64';

export interface BurnedFrame {
  /** Seconds. */
  time: number;
  camera: string | null;
  frame: number | null;
}

/** Frames of a file that are seen (times from 0 on), its loudest sample, and its codec. */
export async function readStrips(base64: string): Promise<{ frames: BurnedFrame[]; peak: number; codec: string | null }> {
  const input = new Input({ source: new BlobSource(new Blob([fromBase64(base64)])), formats: ALL_FORMATS });
  const video = await input.getPrimaryVideoTrack();
  const audio = await input.getPrimaryAudioTrack();
  if (!video) throw new Error('no pictures');
  const canvas = new OffscreenCanvas(640, 360);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  const frames: BurnedFrame[] = [];
  for await (const sample of new VideoSampleSink(video).samples()) {
    const time = sample.timestamp;
    const frame = sample.toVideoFrame();
    context?.drawImage(frame, 0, 0, 640, 360);
    frame.close();
    sample.close();
    if (time < -0.001) continue;
    const data = context?.getImageData(0, 0, 640, 60).data ?? new Uint8ClampedArray();
    const found = readStrip((x, y) => {
      const at = (Math.round(y) * 640 + Math.round(x)) * 4;
      return 0.2126 * (data[at] ?? 0) + 0.7152 * (data[at + 1] ?? 0) + 0.0722 * (data[at + 2] ?? 0);
    });
    frames.push({ time, camera: found?.camera ?? null, frame: found?.frame ?? null });
  }
  let peak = 0;
  if (audio) {
    for await (const sample of new AudioSampleSink(audio).samples()) {
      const data = new Float32Array(sample.numberOfFrames);
      sample.copyTo(data, { planeIndex: 0, format: 'f32-planar' });
      for (const value of data) peak = Math.max(peak, Math.abs(value));
      sample.close();
    }
  }
  const codec = await video.getCodec();
  input.dispose();
  return { frames, peak, codec };
}
