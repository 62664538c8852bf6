import { describe, expect, it } from 'vitest';
import { createSound } from '#core/sound/document';
import { BLOCK, type Stereo } from '#core/sound/dsp/stereo';
import { CardVoices } from './card-voices';
import { CARD_PAIRS, cardPaths, type CardPath, SIMULATED_CARD, SimulatedCard } from './simulated-card';

const RATE = 48_000;
const constant = (value: number): Stereo => ({ left: new Float32Array(BLOCK).fill(value), right: new Float32Array(BLOCK).fill(value) });
const none = Array<Stereo | null>(CARD_PAIRS).fill(null);

/** Runs the card until its gains have settled. */
function settled(paths: CardPath[], played: (Stereo | null)[], live: (Stereo | null)[] = none): SimulatedCard {
  const card = new SimulatedCard();
  card.configure(paths, RATE);
  for (let i = 0; i < 40; i += 1) card.process(played, live);
  return card;
}

describe('the simulated sound card', () => {
  it('plays what it is given, and hears what sounds at its inputs', () => {
    const card = settled([], [constant(0.25), null, null, null], [null, constant(0.5), null, null]);
    expect(card.outputs[0]?.left[0]).toBe(0.25);
    expect(card.outputs[1]?.left[0]).toBe(0);
    expect(card.inputs[1]?.right[0]).toBe(0.5);
  });

  it('mixes inside: inputs to outputs, outputs ganged to outputs, outputs back to inputs', () => {
    const path = (from: 'input' | 'output', fromPair: number, to: 'input' | 'output', toPair: number): CardPath => ({
      from,
      fromPair,
      to,
      toPair,
      gain: 0.5,
      delaySamples: 0,
    });
    const card = settled(
      [path('output', 0, 'output', 1), path('input', 2, 'output', 3), path('output', 0, 'input', 3)],
      [constant(0.4), null, null, null],
      [null, null, constant(0.2), null],
    );
    expect(card.outputs[1]?.left[0]).toBeCloseTo(0.2, 6);
    expect(card.outputs[3]?.left[0]).toBeCloseTo(0.1, 6);
    expect(card.inputs[3]?.left[0]).toBeCloseTo(0.2, 6);
  });

  it('carries sound through the air, later and weaker', () => {
    const card = new SimulatedCard();
    card.configure([{ from: 'output', fromPair: 0, to: 'input', toPair: 1, gain: 0.25, delaySamples: 1680 }], RATE);
    for (let i = 0; i < 40; i += 1) card.process(none, none);
    const heard: number[] = [];
    for (let i = 0; i < 30; i += 1) {
      const click = constant(0);
      if (i === 0) click.left[0] = 0.8;
      card.process([click, null, null, null], none);
      heard.push(...(card.inputs[1]?.left ?? []));
    }
    expect(heard.findIndex((v) => v > 0.1)).toBe(1680);
    expect(heard[1680]).toBeCloseTo(0.2, 6);
  });

  it('clips at full scale whatever it is fed', () => {
    const card = settled(
      [{ from: 'output', fromPair: 0, to: 'output', toPair: 1, gain: 4, delaySamples: 0 }],
      [constant(1), constant(1), null, null],
    );
    for (const block of [...card.outputs, ...card.inputs])
      for (const v of [...block.left, ...block.right]) expect(Math.abs(v)).toBeLessThanOrEqual(1);
  });

  it('obeys what the show says of it, and nothing that is switched off or of other devices', () => {
    const here = { deviceId: SIMULATED_CARD, deviceLabel: '' };
    const mix = { id: 'm', from: 'output' as const, fromPair: 1, to: 'output' as const, toPair: 2, levelDb: -6, on: true };
    const air = { id: 'a', from: { ...here, pair: 1 }, to: { ...here, pair: 2 }, levelDb: -20, delayMs: 10, on: true };
    const sound = {
      ...createSound(),
      cards: [{ ...here, inputs: [], outputs: [], mixes: [mix, { ...mix, id: 'off', on: false }] }],
      paths: [air, { ...air, id: 'b', from: { ...air.from, deviceId: 'real' } }],
    };
    const paths = cardPaths(sound);
    expect(paths).toHaveLength(2);
    expect(paths[0]?.gain).toBeCloseTo(0.501, 3);
    expect(paths[1]).toMatchObject({ from: 'output', to: 'input', fromPair: 0, toPair: 1, delaySamples: 480 });
    expect(paths[1]?.gain).toBeCloseTo(0.1, 6);
  });

  it('has people, pier and music at its inputs, well below full scale', () => {
    const voices = new CardVoices();
    const peaks = [0, 0, 0, 0];
    for (let at = 0; at < RATE * 6; at += BLOCK)
      voices.process(at, RATE).forEach((block, p) => (peaks[p] = Math.max(peaks[p] as number, ...block.left.map(Math.abs))));
    for (const p of [0, 1, 2]) {
      expect(peaks[p]).toBeGreaterThan(0.01);
      expect(peaks[p]).toBeLessThan(0.7);
    }
    expect(peaks[3]).toBe(0);
  });
});
