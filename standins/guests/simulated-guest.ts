/**
 * A guest who is drawn and voiced here, and joins as everybody does: camera, microphone and screen of the same shape as a browser's. Their picture
 * carries the wall time, so that one can measure how long it takes to the programme.
 */
import { type GuestDevices } from '#engine/guests/driver';
import { drawnStream } from '../pictures/drawn-stream';

/** Pixels and frames a second of the drawn camera. */
const WIDTH = 320;
const HEIGHT = 180;
const RATE = 25;
/** Frequencies of the voices, Hz: far enough apart to be told from each other in any mix. */
const VOICES = [330, 470, 620, 810, 1040, 1330, 1700, 2150] as const;
const COLOURS = ['#33566b', '#6b4a33', '#3f6b45', '#5c3f6b', '#6b333f', '#336b66', '#6b6433', '#40486b'] as const;

/** Length of a clap, milliseconds. */
const CLAP_MS = 120;

/** Burned-in time: 32 cells along the top, one bit each, the highest first, milliseconds modulo 2^32; white is 1. */
export const TIME_STRIP = { x: 0, y: 0, cell: 10, height: 10, bits: 32 } as const;

function drawTime(context: CanvasRenderingContext2D, at: number): void {
  const value = Math.floor(at) % 2 ** TIME_STRIP.bits;
  for (let i = 0; i < TIME_STRIP.bits; i += 1) {
    const bit = Math.floor(value / 2 ** (TIME_STRIP.bits - 1 - i)) % 2;
    context.fillStyle = bit === 1 ? '#ffffff' : '#000000';
    context.fillRect(TIME_STRIP.x + i * TIME_STRIP.cell, TIME_STRIP.y, TIME_STRIP.cell, TIME_STRIP.height);
  }
}

/** The moment that a picture carries, milliseconds modulo 2^32; `luma` gives brightness 0 to 255 at a pixel of a picture of 320 × 180. */
export function readTime(luma: (x: number, y: number) => number): number {
  let value = 0;
  for (let i = 0; i < TIME_STRIP.bits; i += 1)
    value = value * 2 + (luma(TIME_STRIP.x + (i + 0.5) * TIME_STRIP.cell, TIME_STRIP.y + TIME_STRIP.height / 2) > 127 ? 1 : 0);
  return value;
}

function drawPerson(context: CanvasRenderingContext2D, name: string, number: number, seconds: number, speaks: boolean): void {
  const sway = Math.sin(seconds * 0.9 + number) * 4;
  context.fillStyle = COLOURS[number % COLOURS.length] ?? '#33566b';
  context.fillRect(0, 0, WIDTH, HEIGHT);
  context.fillStyle = '#d9b999';
  context.beginPath();
  context.ellipse(160 + sway, 82, 34, 42, 0, 0, 7);
  context.fill();
  context.fillStyle = '#27404a';
  context.beginPath();
  context.ellipse(160 + sway / 2, 190, 84, 62, 0, 0, 7);
  context.fill();
  context.fillStyle = '#1b2a2e';
  for (const x of [147, 173]) context.fillRect(x + sway - 3, 72, 6, 6);
  const open = speaks ? 3 + Math.abs(Math.sin(seconds * 9)) * 9 : 2;
  context.fillRect(148 + sway, 102 - open / 2, 24, open);
  context.fillStyle = '#e8efe9';
  context.font = '15px sans-serif';
  context.textAlign = 'center';
  context.fillText(name, 160, 172);
}

export interface SimulatedGuest extends GuestDevices {
  /** Whether they say something now. */
  speak(on: boolean): void;
  /** Once a second they are seen white and heard as a beep, at the same moment: by it one can measure how picture and sound agree. */
  clap(on: boolean): void;
  /** Their microphone takes up what they hear, as with a loudspeaker; null ends that. */
  echo(heard: MediaStream | null): void;
}

/** `number` chooses voice and colour. */
export function simulatedGuest(name: string, number: number): SimulatedGuest {
  let speaks = true;
  let claps = false;
  let voice: GainNode | null = null;
  let microphone: MediaStreamAudioDestinationNode | null = null;
  let endEcho: (() => void) | null = null;
  const sound = (): MediaStreamTrack[] => {
    const context = new AudioContext();
    void context.resume();
    const to = new MediaStreamAudioDestinationNode(context);
    microphone = to;
    voice = new GainNode(context, { gain: speaks ? 0.2 : 0 });
    const oscillator = new OscillatorNode(context, { frequency: VOICES[number % VOICES.length] ?? 330 });
    // Syllables, some a second, of each at a pace of their own: a tone that stands still is what a howl is taken for.
    const syllables = new GainNode(context, { gain: 0.55 });
    const pace = new OscillatorNode(context, { frequency: 2.3 + 0.55 * (number % VOICES.length) });
    const depth = new GainNode(context, { gain: 0.45 });
    pace.connect(depth).connect(syllables.gain);
    oscillator.connect(syllables).connect(voice).connect(to);
    oscillator.start();
    pace.start();
    return to.stream.getAudioTracks();
  };
  return {
    open: () => {
      const stream = drawnStream(WIDTH, HEIGHT, RATE, (context) => {
        const now = performance.timeOrigin + performance.now();
        if (claps && now % 1000 < CLAP_MS) {
          context.fillStyle = '#ffffff';
          context.fillRect(0, 0, WIDTH, HEIGHT);
          return;
        }
        drawPerson(context, name, number, now / 1000, speaks);
        drawTime(context, now);
      });
      for (const track of sound()) stream.addTrack(track);
      return Promise.resolve(stream);
    },
    list: () =>
      Promise.resolve([
        { kind: 'videoinput', id: 'drawn', name: `Drawn camera of ${name}` },
        { kind: 'audioinput', id: 'made', name: `Voice at ${VOICES[number % VOICES.length]} Hz` },
      ]),
    share: () =>
      Promise.resolve(
        drawnStream(640, 360, 5, (context) => {
          context.fillStyle = '#e8efe9';
          context.fillRect(0, 0, 640, 360);
          context.fillStyle = '#142023';
          context.font = '40px sans-serif';
          context.fillText(`Wind chart of ${name}`, 40, 80);
          for (let i = 0; i < 8; i += 1) {
            const h = 60 + 50 * Math.sin(performance.now() / 900 + i);
            context.fillRect(60 + i * 65, 320 - h, 40, h);
          }
        }),
      ),
    echo: (heard) => {
      endEcho?.();
      endEcho = null;
      if (!heard || !microphone || heard.getAudioTracks().length === 0) return;
      const context = microphone.context as AudioContext;
      const source = context.createMediaStreamSource(heard);
      // Across a room and back.
      const path = new DelayNode(context, { delayTime: 0.02 });
      const loss = new GainNode(context, { gain: 0.6 });
      source.connect(path).connect(loss).connect(microphone);
      endEcho = () => {
        source.disconnect();
        loss.disconnect();
      };
    },
    clap: (on) => {
      claps = on;
      const context = microphone?.context;
      if (!context || !microphone || !on) return;
      // A minute of them, on the very moments at which the picture is white.
      const beep = new OscillatorNode(context as AudioContext, { frequency: 1000 });
      const gate = new GainNode(context as AudioContext, { gain: 0 });
      beep.connect(gate).connect(microphone);
      const now = performance.timeOrigin + performance.now();
      const first = context.currentTime + (1000 - (now % 1000)) / 1000;
      for (let n = 0; n < 60; n += 1) {
        gate.gain.setValueAtTime(0.5, first + n);
        gate.gain.setValueAtTime(0, first + n + CLAP_MS / 1000);
      }
      beep.start();
      beep.stop(first + 61);
    },
    speak: (on) => {
      speaks = on;
      voice?.gain.setTargetAtTime(on ? 0.2 : 0, 0, 0.01);
    },
  };
}
