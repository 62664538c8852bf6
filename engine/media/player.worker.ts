/** Plays one media file: pictures and sound at the show times that the player's anchor gives. */
import { workerScope } from '../worker-scope';
import { stateOfPlayer } from '#core/media/player';
import { type Player } from '#core/media/air';
import { type Raster } from '#core/show/raster';
import { type MediaSettings } from '#core/show/source';
import { frameToMicros, microsToFrame, type Rate } from '#core/time/rate';
import { drawPlaceholder, loadPlateFonts } from '../picture/plates';
import { SAMPLE_RATE, type SoundChunk, type SoundFlush } from '../sound/chunk';
import { SharedClock } from '../time/shared-clock';
import { openMedia } from './media-file';
import { MediaTrouble, mediaTrouble } from './media-trouble';
import { PictureReader } from './picture-reader';
import { SoundReader } from './sound-reader';

export type ToPlayer =
  | {
      type: 'start';
      clock: SharedArrayBuffer;
      rate: Rate;
      frameStep: number;
      working: Raster;
      file: File;
      settings: MediaSettings;
      player: Player | undefined;
      frames: MessagePort;
      sound: MessagePort;
    }
  | { type: 'player'; settings: MediaSettings; player: Player | undefined };

export type FromPlayer = { type: 'ready' } | { type: 'alive' } | { type: 'failed'; message: string };

const scope = workerScope;
const say = (message: FromPlayer) => scope.postMessage(message);

/** It says so often that it goes on, milliseconds. */
const ALIVE_MS = 1000;
/** Sound is sent this far ahead, seconds. */
const SOUND_AHEAD = 0.5;

let settings: MediaSettings;
let player: Player | undefined;
/** Next sample of show time to send; null while it stands still. */
let cursor: number | null = null;
let moved = true;

async function sendSound(reader: SoundReader, clock: SharedClock, rate: Rate, port: MessagePort): Promise<void> {
  const toFrame = (sample: number) => ((sample / SAMPLE_RATE) * rate.num) / rate.den;
  const until = Math.round((clock.now() / 1e6 + SOUND_AHEAD) * SAMPLE_RATE);
  if (moved && player) {
    moved = false;
    const from = Math.round((frameToMicros(player.start, rate) / 1e6) * SAMPLE_RATE);
    const flush: SoundFlush = { flush: from };
    port.postMessage(flush);
    cursor = player.playing ? Math.max(from, until - SAMPLE_RATE) : null;
  }
  while (cursor !== null && cursor < until && !moved) {
    const state = stateOfPlayer(player, settings, toFrame(cursor), rate);
    if (!state.playing) {
      cursor = null;
      return;
    }
    const count = Math.max(1, Math.min(until - cursor, Math.round(state.left * SAMPLE_RATE), SAMPLE_RATE / 5));
    const channels = await reader.read(state.position, count);
    const chunk: SoundChunk = { sample: cursor, channels };
    port.postMessage(
      chunk,
      channels.map((c) => c.buffer),
    );
    cursor += count;
  }
}

/** A file of sound alone shows its name. */
async function sendPlate({ frames, settings: { fileName }, working }: Extract<ToPlayer, { type: 'start' }>, stamp: number): Promise<void> {
  await loadPlateFonts().catch(() => undefined);
  const frame = new VideoFrame(drawPlaceholder(fileName, 'sound only', '#5aa9c9', working.width, working.height), { timestamp: stamp });
  frames.postMessage({ frame, stamp }, [frame]);
}

async function run(start: Extract<ToPlayer, { type: 'start' }>): Promise<void> {
  const { rate, frameStep, frames, sound } = start;
  const clock = new SharedClock(start.clock);
  settings = start.settings;
  player = start.player;
  const input = openMedia(start.file);
  const video = await input.getPrimaryVideoTrack();
  const audio = await input.getPrimaryAudioTrack();
  if (!video && !audio) throw new MediaTrouble('it holds neither pictures nor sound');
  if (video && !(await video.canDecode()))
    throw new MediaTrouble(`this browser cannot decode its pictures (${(await video.getCodec()) ?? 'unknown codec'})`);
  const pictures = video && new PictureReader(video);
  if (!pictures) await sendPlate(start, frameToMicros(microsToFrame(clock.now(), rate), rate));
  const sounds = audio && (await audio.canDecode()) ? new SoundReader(audio) : null;
  say({ type: 'ready' });
  let last = -1;
  let told = -Infinity;
  for (;;) {
    if (performance.now() - told > ALIVE_MS) {
      told = performance.now();
      say({ type: 'alive' });
    }
    const present = microsToFrame(clock.now(), rate);
    const frame = Math.max(last + frameStep, Math.floor(present / frameStep) * frameStep);
    await new Promise((resolve) => setTimeout(resolve, Math.max(0, clock.millisUntil(frameToMicros(frame, rate)))));
    last = frame;
    const state = stateOfPlayer(player, settings, frame, rate);
    const picture = await pictures?.read(Math.min(state.position, Math.max(0, settings.duration - 0.001)));
    if (picture) frames.postMessage({ frame: picture, stamp: frameToMicros(frame, rate) }, [picture]);
    if (sounds) await sendSound(sounds, clock, rate, sound);
  }
}

scope.onmessage = ({ data }: MessageEvent<ToPlayer>) => {
  if (data.type === 'player') {
    moved = moved || JSON.stringify(player) !== JSON.stringify(data.player);
    settings = data.settings;
    player = data.player;
    return;
  }
  run(data).catch((error: unknown) =>
    say({ type: 'failed', message: `${data.settings.fileName} cannot be played: ${mediaTrouble(error)}` }),
  );
};
