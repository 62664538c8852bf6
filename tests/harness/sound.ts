/** The real audio node rendered offline, fed with a tone for each source. */
import { type DeskConfig } from '#core/sound/desk-config';
import { type DeskGains } from '#core/sound/dsp/desk-processor';
import { DESK_INPUTS, type ToDesk } from '#engine/sound/desk-messages';
import workletUrl from '#engine/sound/worklets.ts?worker&url';
import { levelAt } from '#tests/support/levels';

const RATE = 48_000;

export interface OfflineDesk {
  config: DeskConfig;
  gains: DeskGains;
  /** Hz of each feed, by key. */
  tones: Record<string, number>;
  amplitude: number;
  seconds: number;
}

export interface OfflineBus {
  /** Amplitude of each tone on the left and right, by feed key. */
  left: Record<string, number>;
  right: Record<string, number>;
  /** Highest sample. */
  peak: number;
}

/** What each bus puts out, measured over the second half. */
export async function renderOffline({ config, gains, tones, amplitude, seconds }: OfflineDesk): Promise<Record<string, OfflineBus>> {
  const buses = config.buses.map((b) => b.id);
  const context = new OfflineAudioContext({ numberOfChannels: buses.length * 2, length: seconds * RATE, sampleRate: RATE });
  await context.audioWorklet.addModule(workletUrl);
  const count = buses.length + 1;
  const node = new AudioWorkletNode(context, 'bivoca-desk', {
    numberOfInputs: DESK_INPUTS,
    numberOfOutputs: count,
    outputChannelCount: Array.from({ length: count }, () => 2),
    channelCount: 2,
    channelCountMode: 'explicit',
  });
  const post = (message: ToDesk) => node.port.postMessage(message);
  const merger = new ChannelMergerNode(context, { numberOfInputs: buses.length * 2 });
  merger.connect(context.destination);
  buses.forEach((_, b) => {
    const splitter = new ChannelSplitterNode(context, { numberOfOutputs: 2 });
    node.connect(splitter, b + 1);
    splitter.connect(merger, 0, b * 2);
    splitter.connect(merger, 1, b * 2 + 1);
  });
  Object.entries(tones).forEach(([key, frequency], input) => {
    const tone = new OscillatorNode(context, { frequency });
    tone.connect(new GainNode(context, { gain: amplitude })).connect(node, 0, input);
    tone.start();
    post({ type: 'feed-input', key, input });
  });
  post({ type: 'config', config, outputs: Object.fromEntries(buses.map((id, b) => [id, b + 1])) });
  post({ type: 'gains', at: 0, gains });
  // Messages reach the audio thread before it begins to render.
  await new Promise((resolve) => setTimeout(resolve, 300));
  const rendered = await context.startRendering();
  return Object.fromEntries(
    buses.map((id, b): [string, OfflineBus] => {
      const [left, right] = [rendered.getChannelData(b * 2), rendered.getChannelData(b * 2 + 1)];
      const half = Math.floor(left.length / 2);
      const measure = (side: Float32Array) =>
        Object.fromEntries(Object.entries(tones).map(([key, hz]) => [key, levelAt(side.subarray(half), hz)]));
      return [id, { left: measure(left), right: measure(right), peak: Math.max(...left.map(Math.abs), ...right.map(Math.abs)) }];
    }),
  );
}
