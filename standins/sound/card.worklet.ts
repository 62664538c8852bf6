/** The simulated sound card on the audio thread: inputs are its outputs' pairs, outputs its inputs' pairs and the monitor. */
import { type Stereo } from '#core/sound/dsp/stereo';
import { type CardPath, CARD_PAIRS, SimulatedCard } from './simulated-card';
import { CardVoices } from './card-voices';

declare const currentFrame: number;
declare const sampleRate: number;
declare function registerProcessor(name: string, of: new () => AudioWorkletProcessor): void;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}

/** What the page tells the card. */
export interface ToCard {
  paths?: readonly CardPath[];
  /** Pair of outputs that the monitor hears, from 0; null for none. */
  monitor?: number | null;
  end?: true;
}

class CardNode extends AudioWorkletProcessor {
  private readonly card = new SimulatedCard();
  private readonly voices = new CardVoices();
  private monitor: number | null = null;
  private open = true;

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<ToCard>) => {
      if (data.paths) this.card.configure(data.paths, sampleRate);
      if (data.monitor !== undefined) this.monitor = data.monitor;
      if (data.end) this.open = false;
    };
  }

  process(inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const played = inputs.slice(0, CARD_PAIRS).map(([left, right]): Stereo | null => (left ? { left, right: right ?? left } : null));
    this.card.process(played, this.voices.process(currentFrame, sampleRate));
    const put = (output: Float32Array[] | undefined, block: Stereo | undefined) => {
      if (!block) return;
      output?.[0]?.set(block.left);
      output?.[1]?.set(block.right);
    };
    this.card.inputs.forEach((block, p) => put(outputs[p], block));
    if (this.monitor !== null) put(outputs[CARD_PAIRS], this.card.outputs[this.monitor]);
    return this.open;
  }
}

registerProcessor('bivoca-simulated-card', CardNode);
