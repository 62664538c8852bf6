/** Writes sound tracks as WAV files into OPFS, all from the same sample on. */
import { causeOf } from '#core/schema/cause';
import { WAV_HEAD } from '#core/sound/wav';
import { openForWriting } from '../storage/opfs';
import { workerScope } from '../worker-scope';
import { type SoundChunk } from './chunk';
import { type FromTrackRecorder, type ToTrackRecorder } from './track-messages';
import { WavTrack } from './wav-track';

const say = (message: FromTrackRecorder) => workerScope.postMessage(message);

let tracks: WavTrack[] = [];
let timer: ReturnType<typeof setInterval> | undefined;

const figures = () => tracks.map(({ track, bytes, seconds, silence }) => ({ id: track.id, bytes: WAV_HEAD + bytes, seconds, silence }));

function end(error: string): void {
  clearInterval(timer);
  const ended = figures();
  for (const track of tracks) track.close();
  tracks = [];
  say({ type: 'ended', tracks: ended, error });
}

function wordsOf(error: unknown): string {
  if (error instanceof DOMException && error.name === 'QuotaExceededError') return 'the disk is full';
  return causeOf(error);
}

async function start({ startSample, tracks: wanted }: Extract<ToTrackRecorder, { type: 'start' }>): Promise<void> {
  try {
    // Chunks wait in their ports until every file is open.
    for (const track of wanted) tracks.push(new WavTrack(track, await openForWriting('recordings', `${track.id}.wav`), startSample));
  } catch (error) {
    return end(wordsOf(error));
  }
  for (const track of tracks) {
    track.track.port.onmessage = ({ data }: MessageEvent<SoundChunk>) => {
      try {
        track.write(data);
      } catch (error) {
        end(wordsOf(error));
      }
    };
  }
  timer = setInterval(() => say({ type: 'status', tracks: figures() }), 1000);
}

/** A stop that comes while files are still being opened waits for them: none may stay open. */
let starting: Promise<void> = Promise.resolve();

workerScope.onmessage = ({ data }: MessageEvent<ToTrackRecorder>) => {
  if (data.type === 'start') starting = start(data);
  else void starting.then(() => end(''));
};
