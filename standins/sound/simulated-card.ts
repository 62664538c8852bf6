/**
 * A sound card with eight outputs and eight inputs, its own mixer, and the room around it: loudspeakers on its outputs sound
 * through the air into microphones on its inputs. Pairs count from 0 here.
 */
import { DelayLine } from '#core/sound/dsp/delay-line';
import { type Sound } from '#core/sound/document';
import { dbToGain, faderGain } from '#core/sound/level';
import { add, Ramp } from '#core/sound/dsp/ramp';
import { BLOCK, silence, stereo, type Stereo } from '#core/sound/dsp/stereo';

export const SIMULATED_CARD = 'simulated-card';
export const SIMULATED_CARD_LABEL = 'Simulated sound card';
export const CARD_PAIRS = 4;

/** A path inside the card or through the air. */
export interface CardPath {
  from: 'input' | 'output';
  fromPair: number;
  to: 'input' | 'output';
  toPair: number;
  gain: number;
  /** 0 inside the card. */
  delaySamples: number;
}

interface Running {
  path: CardPath;
  gain: Ramp;
  line: DelayLine | null;
  wanted: boolean;
}

/** No path of a card may blow up its neighbour: its converters stop at full scale. */
const clip = ({ left, right }: Stereo) => {
  for (const side of [left, right]) for (let i = 0; i < side.length; i += 1) side[i] = Math.max(-1, Math.min(1, side[i] as number));
};

export class SimulatedCard {
  /** What leaves by each pair of outputs, the card's own mixer worked in. */
  readonly outputs: readonly Stereo[] = Array.from({ length: CARD_PAIRS }, stereo);
  /** What each pair of inputs hears. */
  readonly inputs: readonly Stereo[] = Array.from({ length: CARD_PAIRS }, stereo);
  private paths = new Map<string, Running>();
  private readonly scratch = stereo();

  /** Takes paths over; what stays goes on without a click. */
  configure(paths: readonly CardPath[], sampleRate: number): void {
    for (const running of this.paths.values()) running.wanted = false;
    for (const path of paths) {
      const key = JSON.stringify({ ...path, gain: 0 });
      const known = this.paths.get(key) ?? { path, gain: new Ramp(0), line: path.delaySamples > 0 ? new DelayLine() : null, wanted: true };
      known.wanted = true;
      known.line?.fit(path.delaySamples);
      known.gain.to(path.gain, sampleRate * 0.01);
      this.paths.set(key, known);
    }
    for (const running of this.paths.values()) if (!running.wanted) running.gain.to(0, sampleRate * 0.01);
  }

  /** Works out one block from what is played into the outputs and what sounds at the inputs by itself. */
  process(played: readonly (Stereo | null)[], live: readonly (Stereo | null)[]): void {
    const start = (block: Stereo, from: Stereo | null | undefined) => {
      if (!from) return silence(block);
      block.left.set(from.left);
      block.right.set(from.right);
    };
    // What goes from an input to an output is heard one block later, as in any card.
    const before = this.inputs.map((block) => ({ left: block.left.slice(), right: block.right.slice() }));
    this.outputs.forEach((block, p) => start(block, played[p]));
    this.inputs.forEach((block, p) => start(block, live[p]));
    for (const running of this.paths.values()) if (running.path.to === 'output') this.run(running, before);
    for (const block of this.outputs) clip(block);
    for (const running of this.paths.values()) if (running.path.to === 'input') this.run(running, before);
    for (const block of this.inputs) clip(block);
    for (const [key, { wanted, gain }] of this.paths) if (!wanted && gain.silent) this.paths.delete(key);
  }

  private run({ path, gain, line }: Running, before: readonly Stereo[]): void {
    const from = path.from === 'output' ? (this.outputs[path.fromPair] as Stereo) : (before[path.fromPair] as Stereo);
    const to = (path.to === 'output' ? this.outputs : this.inputs)[path.toPair] as Stereo;
    let block = from;
    if (line) {
      line.write(from.left, from.right, BLOCK);
      line.read(path.delaySamples, this.scratch.left, this.scratch.right, BLOCK);
      block = this.scratch;
    }
    const g0 = gain.value;
    const g1 = gain.advance(BLOCK);
    add(block.left, to.left, BLOCK, g0, g1);
    add(block.right, to.right, BLOCK, g0, g1);
  }
}

const RATE = 48_000;

/** The paths that the show declares for this card, as the card runs them. */
export function cardPaths(sound: Sound): CardPath[] {
  const card = sound.cards.find((c) => c.deviceId === SIMULATED_CARD);
  const mixes = (card?.mixes ?? [])
    .filter((m) => m.on)
    .map((m): CardPath => ({
      from: m.from,
      fromPair: m.fromPair - 1,
      to: m.to,
      toPair: m.toPair - 1,
      gain: faderGain(m.levelDb),
      delaySamples: 0,
    }));
  const air = sound.paths
    .filter((p) => p.on && p.from.deviceId === SIMULATED_CARD && p.to.deviceId === SIMULATED_CARD)
    .map((p): CardPath => ({
      from: 'output',
      fromPair: p.from.pair - 1,
      to: 'input',
      toPair: p.to.pair - 1,
      gain: dbToGain(p.levelDb),
      delaySamples: Math.round((p.delayMs * RATE) / 1000),
    }));
  return [...mixes, ...air].filter((p) => p.fromPair < CARD_PAIRS && p.toPair < CARD_PAIRS);
}
