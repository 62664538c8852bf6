/** The sound at each camera: wind on the microphone, and at the desk two voices that take turns. Synthesised. */
import { type SimulatedCamera } from '#core/show/source';
import { SAMPLE_RATE } from '#engine/sound/chunk';

interface Character {
  wind: number;
  /** One-pole low-pass coefficient: the smaller, the darker the wind. */
  brightness: number;
  voice: number;
  /** Hz. */
  pitch: number;
}

const CHARACTERS: Record<SimulatedCamera, Character> = {
  shore: { wind: 0.5, brightness: 0.05, voice: 0, pitch: 0 },
  line: { wind: 0.7, brightness: 0.12, voice: 0.05, pitch: 190 },
  mast: { wind: 0.9, brightness: 0.03, voice: 0, pitch: 0 },
  hut: { wind: 0.03, brightness: 0.02, voice: 0.28, pitch: 172 },
  desk: { wind: 0.06, brightness: 0.04, voice: 0.3, pitch: 128 },
};

/** A generator of stereo sound by sample number; the random part goes on from call to call. */
export function createCameraSound(
  camera: SimulatedCamera,
): (from: number, count: number) => [Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>] {
  const { wind, brightness, voice, pitch } = CHARACTERS[camera];
  let seed = camera.charCodeAt(0) * 7919;
  const low = [0, 0];
  const noise = () => {
    // Linear congruential generator with the constants of Numerical Recipes.
    seed = (Math.imul(seed, 1664525) + 1013904223) | 0;
    return seed / 2 ** 31;
  };
  return (from, count) => {
    const channels: [Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>] = [new Float32Array(count), new Float32Array(count)];
    for (let i = 0; i < count; i += 1) {
      const t = (from + i) / SAMPLE_RATE;
      const gust = 0.55 + 0.3 * Math.sin(t * 0.7) + 0.15 * Math.sin(t * 2.9);
      let spoken = 0;
      if (voice > 0) {
        const syllable = Math.max(0, Math.sin(t * 21)) * Math.max(0, Math.sin(t * 1.15 + 0.4));
        const f = pitch * (1 + 0.08 * Math.sin(t * 3.1) + (Math.sin(t * 0.58) > 0 ? 0.35 : 0));
        for (let h = 1; h <= 5; h += 1) spoken += Math.sin(2 * Math.PI * f * h * t) / (h * h * 0.6 + 0.4);
        spoken *= voice * syllable * 0.35;
      }
      channels.forEach((channel, side) => {
        const kept = (low[side] ?? 0) + brightness * (noise() - (low[side] ?? 0));
        low[side] = kept;
        channel[i] = kept * wind * gust + spoken;
      });
    }
    return channels;
  };
}
