/** The outputs' thread: encodes the programme once for each set of settings, records and streams it. */
import { causeOf } from '#core/schema/cause';
import { type SoundChunk } from '../sound/chunk';
import { takeFrames } from '../picture/frame-outlet';
import { workerScope } from '../worker-scope';
import { type EncodeSettings, type EncoderStatus, type FromEncoder, type ToEncoder } from './messages';
import { ProgrammeEncode } from './programme-encode';
import { Recorder } from './recorder';
import { Streamer } from './streamer';

const say = (message: FromEncoder) => workerScope.postMessage(message);

interface Running<T> {
  output: T;
  encode: ProgrammeEncode;
}

const encodes = new Map<string, ProgrammeEncode>();
let recording: Running<Recorder> | null = null;
/** The file of the recording that is being opened. */
let opening: Promise<void> = Promise.resolve();
let stream: Running<Streamer> | null = null;
let doubled = 0;
let silence = 0;

function encodeFor(settings: EncodeSettings): ProgrammeEncode {
  const key = JSON.stringify(settings);
  const running = encodes.get(key);
  if (running) return running;
  const made = new ProgrammeEncode(settings);
  encodes.set(key, made);
  return made;
}

/** Takes an output off its encode; the encode ends with its last output. */
async function leave({ output, encode }: Running<Recorder | Streamer>): Promise<void> {
  // Only the last one waits for what is still in the encoder: a flush in the middle would tear the others' sound.
  if (encode.members === 1) await encode.flush().catch(() => undefined);
  encode.leave(output);
  if (encode.members > 0) return;
  for (const [key, value] of encodes) if (value === encode) encodes.delete(key);
  doubled += encode.doubled;
  silence += encode.silence;
  encode.close();
}

async function record({ id, fileName, settings }: Extract<ToEncoder, { type: 'record' }>): Promise<void> {
  try {
    const output = await Recorder.open(id, fileName, settings.codec, () => void stopRecording());
    const encode = encodeFor(settings);
    recording = { output, encode };
    encode.join(output);
  } catch (error) {
    say({ type: 'recording-ended', id, seconds: 0, bytes: 0, error: causeOf(error) });
  }
}

async function stopRecording(): Promise<void> {
  await opening;
  const running = recording;
  if (!running) return;
  recording = null;
  await leave(running);
  await running.output.close();
  const { id, seconds, bytes, error } = running.output;
  say({ type: 'recording-ended', id, seconds, bytes, error });
}

function startStream({ id, url, key, settings }: Extract<ToEncoder, { type: 'stream' }>): void {
  try {
    const output = new Streamer(id, url, key, () => void stopStream());
    const encode = encodeFor(settings);
    stream = { output, encode };
    encode.join(output);
  } catch (error) {
    say({ type: 'stream-ended', id, error: causeOf(error) });
  }
}

async function stopStream(): Promise<void> {
  const running = stream;
  if (!running) return;
  stream = null;
  await leave(running);
  await running.output.close();
  say({ type: 'stream-ended', id: running.output.id, error: running.output.error });
}

function status(): EncoderStatus {
  const all = [...encodes.values()];
  return {
    recording: recording?.output.status() ?? null,
    stream: stream?.output.status() ?? null,
    doubled: doubled + all.reduce((sum, e) => sum + e.doubled, 0),
    encodes: all.length,
    silenceMs: Math.round((silence + all.reduce((sum, e) => sum + e.silence, 0)) / 48),
  };
}

/** Every encode of the output gets a frame of its own; the frame itself ends here. */
function takeFrame(frame: VideoFrame, outputId: string): void {
  for (const encode of encodes.values()) if (encode.settings.outputId === outputId) encode.frame(frame.clone());
  frame.close();
}

workerScope.onmessage = ({ data }: MessageEvent<ToEncoder>) => {
  switch (data.type) {
    case 'sound':
      data.sound.onmessage = (event: MessageEvent<SoundChunk>) => {
        for (const encode of encodes.values()) encode.sound(event.data);
      };
      setInterval(() => say({ type: 'status', status: status() }), 500);
      return;
    case 'output':
      takeFrames(data.frames, ({ frame }) => takeFrame(frame, data.outputId));
      return;
    case 'record':
      opening = record(data);
      return;
    case 'stop-recording':
      void stopRecording();
      return;
    case 'stream':
      startStream(data);
      return;
    case 'stop-stream':
      void stopStream();
      return;
  }
};
