/** Test pictures: bars with tone, and flash with beep for checking that picture and sound agree. */
import { workerScope } from '../worker-scope';
import { drawBars } from '../picture/plates';
import { frameToMicros, type Rate } from '#core/time/rate';
import { dbToGain } from '#core/sound/level';
import { SAMPLE_RATE } from '../sound/chunk';
import { type Painter, runDrawnSources } from './drawn-source';

/** Alignment tone: 1 kHz at −18 dBFS (EBU R 68). */
const TONE_HZ = 1000;
const TONE_GAIN = dbToGain(-18);
const FLASH_FRAMES = 2;
const BEEP_SECONDS = 0.08;

const tone = (sample: number, gain: number) => gain * Math.sin((2 * Math.PI * TONE_HZ * sample) / SAMPLE_RATE);

function stereo(from: number, count: number, at: (sample: number) => number): [Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>] {
  const left = new Float32Array(count);
  for (let i = 0; i < count; i += 1) left[i] = at(from + i);
  return [left, left.slice()];
}

const bars = (width: number, height: number): Painter => ({
  still: true,
  paint: (context) => drawBars(context, width, height),
  sound: (from, count) => stereo(from, count, (n) => tone(n, TONE_GAIN)),
});

function sync(width: number, height: number, rate: Rate): Painter {
  const period = Math.round(rate.num / rate.den);
  return {
    paint(context, frame) {
      context.fillStyle = frame % period < FLASH_FRAMES ? '#ffffff' : '#101010';
      context.fillRect(0, 0, width, height);
      context.fillStyle = '#e2c48d';
      context.fillRect(0, height * 0.9, ((frame % period) / period) * width, height * 0.1);
    },
    sound: (from, count) =>
      stereo(from, count, (n) => {
        const micros = (n / SAMPLE_RATE) * 1e6;
        const beat = Math.floor((micros * rate.num) / (rate.den * 1e6) / period + 1e-9);
        const since = (micros - frameToMicros(beat * period, rate)) / 1e6;
        return since >= 0 && since < BEEP_SECONDS ? tone(n, 0.5) : 0;
      }),
  };
}

runDrawnSources(workerScope, (settings, { width, height }, rate) => {
  if (settings.kind !== 'test') return null;
  return settings.pattern === 'bars' ? bars(width, height) : sync(width, height, rate);
});
