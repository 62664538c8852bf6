/** Runs the desk as the audio thread does, and measures what comes out. */
import { type Desk } from '#core/desk/air';
import { deskConfig } from '#core/sound/desk-config';
import { type Howl } from '#core/sound/dsp/bus-processor';
import { DeskProcessor } from '#core/sound/dsp/desk-processor';
import { BLOCK, type Stereo } from '#core/sound/dsp/stereo';
import { planSound } from '#core/sound/plan';

const RATE = 48_000;

/** A signal by sample number. */
export type Signal = (sample: number) => number;

export const sine =
  (hz: number, amplitude: number, phase = 0): Signal =>
  (at) =>
    amplitude * Math.sin((2 * Math.PI * hz * at) / RATE + phase);

export const blockOf = (signal: Signal, at: number): Float32Array<ArrayBuffer> =>
  Float32Array.from({ length: BLOCK }, (_, i) => signal(at + i));

interface Track {
  left: number[];
  right: number[];
}

interface RunOptions {
  /** Of the tones. */
  amplitude?: number;
  seconds?: number;
  /** Further signals by feed key, on both sides. */
  feeds?: Record<string, Signal>;
  /** Signals of two sides. */
  sides?: Record<string, [Signal, Signal]>;
  processor?: DeskProcessor;
}

/** What every bus and the ears put out while each source sounds with its tone. The first fifth of a second is left out for tones. */
export function runDesk(
  { show, air }: Desk,
  tones: Record<string, number>,
  options: RunOptions = {},
): { buses: Record<string, Track>; ears: Track; howls: Howl[]; processor: DeskProcessor } {
  const { amplitude = 0.1, seconds = 0.7, feeds = {}, sides = {} } = options;
  const processor = options.processor ?? new DeskProcessor(RATE);
  processor.configure(deskConfig(show, air));
  processor.setGains({ ...planSound(show, air, 0), held: Object.keys(air.sound.held) });
  const signals = new Map<string, [Signal, Signal]>(Object.entries(sides));
  for (const [key, hz] of Object.entries(tones)) signals.set(key, [sine(hz, amplitude), sine(hz, amplitude)]);
  for (const [key, signal] of Object.entries(feeds)) signals.set(key, [signal, signal]);
  const buses: Record<string, Track> = Object.fromEntries(show.sound.buses.map((b) => [b.id, { left: [], right: [] }]));
  const ears: Track = { left: [], right: [] };
  const howls: Howl[] = [];
  const settle = Object.keys(tones).length > 0 && !options.processor ? RATE / 5 : 0;
  for (let at = 0; at < seconds * RATE; at += BLOCK) {
    const input = new Map<string, Stereo>([...signals].map(([key, [l, r]]) => [key, { left: blockOf(l, at), right: blockOf(r, at) }]));
    howls.push(...processor.process(input, BLOCK));
    if (at < settle) continue;
    for (const [id, track] of Object.entries(buses)) {
      const out = processor.outOf(id);
      track.left.push(...(out?.left ?? []));
      track.right.push(...(out?.right ?? []));
    }
    ears.left.push(...processor.ears.left);
    ears.right.push(...processor.ears.right);
  }
  return { buses, ears, howls, processor };
}
