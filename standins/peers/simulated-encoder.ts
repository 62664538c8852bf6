/** What a simulated encoder sends: a drawn picture that moves, and a tone, of the shape of an encoder's. */
import { drawnStream } from '../pictures/drawn-stream';

const WIDTH = 640;
const HEIGHT = 360;
const RATE = 25;
/** Colour and tone by which it is known from others. */
export const ENCODER_COLOUR = '#2f6d7a';
export const ENCODER_HZ = 900;

/** Ends when its tracks are stopped. */
export function encoderStream(name: string): MediaStream {
  const stream = drawnStream(WIDTH, HEIGHT, RATE, (context) => {
    const seconds = performance.now() / 1000;
    context.fillStyle = ENCODER_COLOUR;
    context.fillRect(0, 0, WIDTH, HEIGHT);
    context.fillStyle = '#e8efe9';
    context.fillRect(320 + Math.sin(seconds) * 220 - 20, 250, 40, 40);
    context.font = '36px sans-serif';
    context.textAlign = 'center';
    context.fillText(name, WIDTH / 2, 120);
    context.fillText(new Date().toISOString().slice(11, 23), WIDTH / 2, 180);
  });
  const context = new AudioContext();
  void context.resume();
  const to = new MediaStreamAudioDestinationNode(context);
  const tone = new OscillatorNode(context, { frequency: ENCODER_HZ });
  tone.connect(new GainNode(context, { gain: 0.15 })).connect(to);
  tone.start();
  const [sound] = to.stream.getAudioTracks();
  if (sound) {
    stream.addTrack(sound);
    sound.addEventListener('ended', () => void context.close());
  }
  return stream;
}
