/** Encodes what panels listen to: Opus of 20 ms, each choice once. */
import { SAMPLE_RATE, type SoundChunk } from './chunk';
import { type FromEars, type ToEars } from './ears-messages';

/** Bits a second of a stereo sound: good enough to judge a mix by. */
const BITRATE = 128_000;
const PACKET_US = 20_000;

interface Choice {
  port: MessagePort;
  encoder: AudioEncoder;
}

const choices = new Map<number, Choice>();
const say = (message: FromEars, transfer: Transferable[]): void => postMessage(message, { transfer });

function drop(number: number): void {
  const choice = choices.get(number);
  choices.delete(number);
  choice?.port.close();
  if (choice && choice.encoder.state !== 'closed') choice.encoder.close();
}

function add(number: number, port: MessagePort): void {
  drop(number);
  const encoder = new AudioEncoder({
    output: (chunk) => {
      const data = new Uint8Array(chunk.byteLength);
      chunk.copyTo(data);
      say({ number, data }, [data.buffer]);
    },
    error: () => drop(number),
  });
  encoder.configure({
    codec: 'opus',
    sampleRate: SAMPLE_RATE,
    numberOfChannels: 2,
    bitrate: BITRATE,
    opus: { frameDuration: PACKET_US },
  });
  // Its own count of time: what is heard goes on although the show's clock jumps.
  let samples = 0;
  port.onmessage = ({ data: { channels } }: MessageEvent<SoundChunk>) => {
    const [left, right = left] = channels;
    if (!left || !right || encoder.state !== 'configured') return;
    const planes = new Float32Array(left.length * 2);
    planes.set(left);
    planes.set(right, left.length);
    const sound = new AudioData({
      format: 'f32-planar',
      sampleRate: SAMPLE_RATE,
      numberOfFrames: left.length,
      numberOfChannels: 2,
      timestamp: (samples / SAMPLE_RATE) * 1e6,
      data: planes,
    });
    samples += left.length;
    encoder.encode(sound);
    sound.close();
  };
  choices.set(number, { port, encoder });
}

onmessage = ({ data }: MessageEvent<ToEars>) => (data.type === 'add' ? add(data.number, data.port) : drop(data.number));
