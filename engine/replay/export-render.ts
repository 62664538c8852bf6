/** Exports that are drawn anew: slow motion, several pieces, dissolves, another container. */
import { AudioSample, AudioSampleSource, type Output, VideoSample, VideoSampleSource } from 'mediabunny';
import { type Roll, type RollItem } from '#core/replay/air';
import { rollPictures } from '#core/replay/deck';
import { rollPlace, totalFrames } from '#core/replay/roll';
import { frameToMicros, frameToSeconds, type Rate } from '#core/time/rate';
import { SAMPLE_RATE } from '../sound/chunk';
import { type ExportJob } from './export-messages';
import { type Material } from './material';
import { PictureCache } from './picture-cache';
import { SoundCache } from './sound-cache';

const CACHE_BYTES = 60e6;
/** After this much work the thread rests as long, so that the show on the same machine keeps its frames. */
const WORK_MS = 24;

type Clips = Extract<ExportJob, { kind: 'clips' }>;

/** Draws and encodes every frame of a play-out. Returns how many there are. */
export async function renderClips(
  material: Material,
  output: Output,
  job: Clips,
  sounds: Record<string, string>,
  rate: Rate,
  progress: (share: number) => void,
): Promise<number> {
  const { items, joinFrames, container, bitrate, blend, soundAtSpeed } = job;
  const roll: Roll = { items, index: 0, joinFrames, after: 'hold', runOn: 0 };
  const total = totalFrames(items, joinFrames);
  const [first] = items;
  if (!first) throw new Error('there is nothing to draw');
  const pictures = new PictureCache(material, CACHE_BYTES);
  const cache = new SoundCache(material);
  const [width, height] = sizeOf(material, items);
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { alpha: false });
  if (!context) throw new Error('this browser gives no canvas to draw on');
  const video = new VideoSampleSource({ codec: container === 'mp4' ? 'avc' : 'vp8', bitrate, keyFrameInterval: 1, latencyMode: 'quality' });
  output.addVideoTrack(video, { frameRate: rate.num / rate.den });
  const heard = items.some((i) => sounds[i.angleId] !== undefined && (i.speed === 100 || soundAtSpeed));
  const audio = heard ? new AudioSampleSource({ codec: 'opus', bitrate: 128_000 }) : null;
  if (audio) output.addAudioTrack(audio);
  await output.start();
  const samplesUntil = (frame: number) => Math.round((frame * SAMPLE_RATE * rate.den) / rate.num);
  let worked = performance.now();
  for (let at = 0; at < total; at += 1) {
    const place = rollPlace(roll, first.in, at);
    const item = items[place.index] as RollItem;
    context.fillStyle = '#000000';
    context.globalAlpha = 1;
    context.fillRect(0, 0, width, height);
    for (const layer of rollPictures(roll, place, item.speed / 100, blend)) {
      const frame = await pictures.frameAt(layer.angleId, frameToMicros(layer.position, rate), item.speed / 100);
      if (!frame) continue;
      context.globalAlpha = layer.level;
      context.drawImage(frame, 0, 0, width, height);
      frame.close();
    }
    const sample = new VideoSample(canvas, { timestamp: frameToSeconds(at, rate), duration: frameToSeconds(1, rate) });
    await video.add(sample);
    sample.close();
    if (audio)
      await addSound(
        audio,
        cache,
        item,
        sounds[item.angleId],
        place.position,
        [samplesUntil(at), samplesUntil(at + 1)],
        soundAtSpeed,
        rate,
      );
    progress((at + 1) / total);
    const busy = performance.now() - worked;
    if (busy > WORK_MS) {
      await new Promise((resolve) => setTimeout(resolve, Math.min(busy, 60)));
      worked = performance.now();
    }
  }
  pictures.close();
  return total;
}

/** Sound of one frame: of the angle that is seen, silence where there is none or the speed leaves none. */
async function addSound(
  audio: AudioSampleSource,
  cache: SoundCache,
  item: RollItem,
  track: string | undefined,
  position: number,
  [from, to]: [number, number],
  atSpeed: boolean,
  rate: Rate,
): Promise<void> {
  const count = to - from;
  const data = new Float32Array(count * 2);
  if (track !== undefined && (item.speed === 100 || atSpeed)) {
    const start = Math.round((position * SAMPLE_RATE * rate.den) / rate.num);
    const [left, right] = await cache.read(track, start, count, item.speed / 100);
    data.set(left);
    data.set(right, count);
  }
  const sample = new AudioSample({
    data,
    format: 'f32-planar',
    numberOfChannels: 2,
    sampleRate: SAMPLE_RATE,
    timestamp: from / SAMPLE_RATE,
  });
  await audio.add(sample);
  sample.close();
}

/** Size of the file: that of the largest angle in it. */
function sizeOf(material: Material, items: readonly RollItem[]): [number, number] {
  let best: [number, number] = [0, 0];
  for (const { angleId } of items) {
    for (const { config } of material.segmentsOf(angleId))
      if (config.kind === 'picture' && config.width * config.height > best[0] * best[1]) best = [config.width, config.height];
  }
  if (best[0] === 0) throw new Error('nothing of it is recorded any more');
  return best;
}
