/** What the page and the audio thread say to each other. */
import { type Ears } from '#core/panels/sound-line';
import { type DeskConfig } from '#core/sound/desk-config';
import { type Howl } from '#core/sound/dsp/bus-processor';
import { type DeskGains, type DeskMeters } from '#core/sound/dsp/desk-processor';
import { type LoudnessReading } from '#core/sound/loudness/loudness-meter';

/** Inputs of the desk's node: streams of the browser and sockets of sound devices, a pair each. */
export const DESK_INPUTS = 48;
/** The first output is the operator's ears; then one for each bus. */
export const EARS_OUTPUT = 0;

/** What an outlet hands on: a feed as it comes in, a bus as it leaves, or what somebody else listens to. */
export type OutletSource = { kind: 'feed'; key: string } | { kind: 'bus'; busId: string } | { kind: 'ears'; ears: Ears };

export type ToDesk =
  | { type: 'config'; config: DeskConfig; outputs: Record<string, number> }
  /** Gains from this sample of the audio context on. */
  | { type: 'gains'; at: number; gains: DeskGains }
  /** Audio context sample at which show sample 0 plays. */
  | { type: 'offset'; samples: number }
  | { type: 'feed-port'; key: string; port: MessagePort }
  | { type: 'feed-input'; key: string; input: number }
  | { type: 'feed-gone'; key: string }
  | { type: 'outlet'; id: string; from: OutletSource; port: MessagePort }
  | { type: 'outlet-gone'; id: string }
  /** Channel whose loudness is shown; null for none. */
  | { type: 'watch'; id: string | null };

export type FromDesk =
  | { type: 'meters'; meters: DeskMeters; lateSamples: number }
  | { type: 'loudness'; readings: Record<string, LoudnessReading> }
  | ({ type: 'howl' } & Howl);
