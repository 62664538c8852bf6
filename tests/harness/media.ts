/** Makes and takes apart real media files in the browser. */
import {
  ALL_FORMATS,
  AudioBufferSource,
  AudioSampleSink,
  BlobSource,
  BufferTarget,
  CanvasSource,
  Input,
  Mp4OutputFormat,
  Output,
  VideoSampleSink,
  WebMOutputFormat,
} from 'mediabunny';
import { fromBase64, toBase64 } from './base64';

export interface Analysis {
  duration: number;
  format: string;
  videoCodec: string | null;
  audioCodec: string | null;
  width: number;
  height: number;
  /** One for each picture: its time, and the mean colour of the nine places of a 3 × 3 grid. */
  pictures: { time: number; grid: [number, number, number][] }[];
  /** Highest sample of each millisecond. */
  envelope: number[];
  /** Seconds at which the envelope begins. */
  soundStart: number;
}

/** Decodes a whole file. */
export async function analyseFile(base64: string, span = { from: 0, to: Infinity }): Promise<Analysis> {
  const input = new Input({ source: new BlobSource(new Blob([fromBase64(base64)])), formats: ALL_FORMATS });
  const video = await input.getPrimaryVideoTrack();
  const audio = await input.getPrimaryAudioTrack();
  if (!video) throw new Error('no pictures');
  const pictures: Analysis['pictures'] = [];
  const canvas = new OffscreenCanvas(90, 90);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  for await (const sample of new VideoSampleSink(video).samples(span.from, span.to)) {
    const frame = sample.toVideoFrame();
    context?.drawImage(frame, 0, 0, 90, 90);
    frame.close();
    const data = context?.getImageData(0, 0, 90, 90).data ?? new Uint8ClampedArray();
    const grid = Array.from({ length: 9 }, (_, cell) => mean(data, (cell % 3) * 30 + 8, Math.floor(cell / 3) * 30 + 8, 14));
    pictures.push({ time: sample.timestamp, grid });
    sample.close();
  }
  const envelope: number[] = [];
  let soundStart = NaN;
  if (audio) {
    for await (const sample of new AudioSampleSink(audio).samples(span.from, span.to)) {
      if (Number.isNaN(soundStart)) soundStart = sample.timestamp;
      const data = new Float32Array(sample.numberOfFrames);
      sample.copyTo(data, { planeIndex: 0, format: 'f32-planar' });
      data.forEach((value, i) => {
        const ms = Math.floor((sample.timestamp - soundStart + i / sample.sampleRate) * 1000);
        if (ms >= 0) envelope[ms] = Math.max(envelope[ms] ?? 0, Math.abs(value));
      });
      sample.close();
    }
  }
  const format = (await input.getFormat()).name;
  const result = {
    duration: await input.computeDuration(),
    format,
    videoCodec: await video.getCodec(),
    audioCodec: audio ? await audio.getCodec() : null,
    width: await video.getDisplayWidth(),
    height: await video.getDisplayHeight(),
    pictures,
    envelope: Array.from(envelope, (v) => v ?? 0),
    soundStart,
  };
  input.dispose();
  return result;
}

function mean(data: Uint8ClampedArray, x0: number, y0: number, size: number): [number, number, number] {
  const sum = [0, 0, 0];
  for (let y = y0; y < y0 + size; y += 1)
    for (let x = x0; x < x0 + size; x += 1) for (let c = 0; c < 3; c += 1) (sum[c] as number) += data[(y * 90 + x) * 4 + c] as number;
  return sum.map((v) => Math.round(v / size / size)) as [number, number, number];
}

/** A clip whose picture is `colours`, one a second, with a 500 Hz tone; 25 frames a second. */
export async function makeClip(kind: 'mp4' | 'webm', colours: string[], width = 320, height = 180): Promise<string> {
  const target = new BufferTarget();
  const output = new Output({ format: kind === 'mp4' ? new Mp4OutputFormat() : new WebMOutputFormat(), target });
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { alpha: false });
  const pictures = new CanvasSource(canvas, { codec: kind === 'mp4' ? 'avc' : 'vp9', bitrate: 1e6, keyFrameInterval: 1 });
  const sound = new AudioBufferSource({ codec: 'opus', bitrate: 96_000 });
  output.addVideoTrack(pictures, { frameRate: 25 });
  output.addAudioTrack(sound);
  await output.start();
  const length = colours.length;
  const buffer = new AudioBuffer({ length: 48_000 * length, numberOfChannels: 1, sampleRate: 48_000 });
  buffer.copyToChannel(
    Float32Array.from({ length: 48_000 * length }, (_, i) => 0.25 * Math.sin((2 * Math.PI * 500 * i) / 48_000)),
    0,
  );
  await sound.add(buffer);
  for (let i = 0; i < length * 25; i += 1) {
    if (context) {
      context.fillStyle = colours[Math.floor(i / 25)] ?? '#000';
      context.fillRect(0, 0, width, height);
    }
    await pictures.add(i / 25, 1 / 25);
  }
  await output.finalize();
  return toBase64(new Uint8Array(target.buffer ?? new ArrayBuffer(0)));
}

/** A transparent clip of `seconds` with an opaque band of `colour` across its middle, and a 500 Hz tone; VP9 in WebM. */
export async function makeTransparentClip(colour: string, seconds: number, width = 320, height = 180): Promise<string> {
  const target = new BufferTarget();
  const output = new Output({ format: new WebMOutputFormat(), target });
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d');
  const pictures = new CanvasSource(canvas, { codec: 'vp9', bitrate: 1e6, keyFrameInterval: 1, alpha: 'keep' });
  const sound = new AudioBufferSource({ codec: 'opus', bitrate: 96_000 });
  output.addVideoTrack(pictures, { frameRate: 25 });
  output.addAudioTrack(sound);
  await output.start();
  const buffer = new AudioBuffer({ length: 48_000 * seconds, numberOfChannels: 1, sampleRate: 48_000 });
  buffer.copyToChannel(
    Float32Array.from({ length: 48_000 * seconds }, (_, i) => 0.25 * Math.sin((2 * Math.PI * 500 * i) / 48_000)),
    0,
  );
  await sound.add(buffer);
  for (let i = 0; i < seconds * 25; i += 1) {
    context?.clearRect(0, 0, width, height);
    if (context) {
      context.fillStyle = colour;
      context.fillRect(0, height / 3, width, height / 3);
    }
    await pictures.add(i / 25, 1 / 25);
  }
  await output.finalize();
  return toBase64(new Uint8Array(target.buffer ?? new ArrayBuffer(0)));
}
