/** The simulated sound card as a device: of the same shape as a real one, and obeying what the show says of its mixer and room. */
import { type Sound } from '#core/sound/document';
import { type OpenDevice, type SoundDeviceDriver } from '#engine/sound/device-driver';
import { type ToCard } from './card.worklet';
import { CARD_PAIRS, cardPaths, SIMULATED_CARD, SIMULATED_CARD_LABEL } from './simulated-card';
import workletUrl from './card.worklet.ts?worker&url';

/** A driver with one card, which is made when it is first used. */
export function createCardDriver(): SoundDeviceDriver {
  let card: { context: AudioContext; node: AudioWorkletNode; delays: DelayNode[] } | null = null;
  let making: Promise<void> | null = null;
  let sound: Sound | null = null;
  const say = (message: ToCard) => card?.node.port.postMessage(message);

  const open = async (context: AudioContext): Promise<NonNullable<typeof card>> => {
    if (card?.context !== context) {
      making ??= (async () => {
        await context.audioWorklet.addModule(workletUrl);
        const node = new AudioWorkletNode(context, 'bivoca-simulated-card', {
          numberOfInputs: CARD_PAIRS,
          numberOfOutputs: CARD_PAIRS + 1,
          outputChannelCount: Array.from({ length: CARD_PAIRS + 1 }, () => 2),
          channelCount: 2,
          channelCountMode: 'explicit',
        });
        // A way back into the desk needs a delay of a block in Web Audio, as a real card has.
        const delays = Array.from({ length: CARD_PAIRS }, (_, p) => {
          const delay = new DelayNode(context, { delayTime: 128 / context.sampleRate, maxDelayTime: 0.1 });
          node.connect(delay, p);
          return delay;
        });
        card = { context, node, delays };
        if (sound) say({ paths: cardPaths(sound) });
      })().finally(() => {
        making = null;
      });
      await making;
    }
    return card as NonNullable<typeof card>;
  };

  const check = (what: string, pair: number) => {
    if (pair > CARD_PAIRS) throw new Error(`it has ${CARD_PAIRS * 2} ${what}: ${what} ${pair * 2 - 1}–${pair * 2} do not exist there`);
  };

  return {
    list: () =>
      Promise.resolve([
        { deviceId: SIMULATED_CARD, label: SIMULATED_CARD_LABEL, inputPairs: CARD_PAIRS, outputPairs: CARD_PAIRS, monitored: true },
      ]),
    owns: (deviceId) => deviceId === SIMULATED_CARD,
    openInput: async (context): Promise<OpenDevice> => {
      const { delays } = await open(context);
      return {
        note: '',
        pairs: CARD_PAIRS,
        pair: (pair) => {
          check('inputs', pair);
          return delays[pair - 1] as DelayNode;
        },
        index: () => 0,
        close: () => undefined,
      };
    },
    openOutput: async (context): Promise<OpenDevice> => {
      const { node } = await open(context);
      return {
        note: '',
        pairs: CARD_PAIRS,
        pair: (pair) => {
          check('outputs', pair);
          return node;
        },
        index: (pair) => pair - 1,
        close: () => undefined,
      };
    },
    obey: (next) => {
      if (sound && sound.cards === next.cards && sound.paths === next.paths) return;
      sound = next;
      say({ paths: cardPaths(next) });
    },
    listen: (pair, ears) => {
      if (!card) return;
      try {
        card.node.disconnect(ears, CARD_PAIRS, 0);
      } catch {
        // It was not connected.
      }
      if (pair !== null) card.node.connect(ears, CARD_PAIRS, 0);
      say({ monitor: pair === null ? null : pair - 1 });
    },
  };
}
