/** How a show goes on from where it was left: the air that it goes on with, and the moment. Pure. */
import { withoutLines } from '../guests/air';
import { createAirLane } from '../picture/air';
import { frameToMicros, type Rate } from '../time/rate';
import { type Air, createAir } from './air';
import { type Show } from './show';

/** Air that was `kept` at the last act, of the present version, as it goes on: outputs have ended, and what is lost is found out anew. */
export function resumedAir(show: Show, kept: Air): Air {
  const fresh = createAir(show);
  const air: Air = {
    ...fresh,
    ...kept,
    lost: {},
    recording: null,
    stream: null,
    replay: { ...fresh.replay, ...kept.replay },
    sound: { ...fresh.sound, ...kept.sound, talkback: null, lostDevices: {} },
    lanes: { ...kept.lanes },
    guests: withoutLines(kept.guests),
  };
  for (const lane of show.lanes) air.lanes[lane.id] ??= createAirLane();
  return air;
}

/**
 * Show microseconds from which a show goes on: as much as has passed since its `epoch`, and never behind what was saved.
 * @param epoch wall time of show frame 0, milliseconds since 1970
 * @param savedFrame show frame at the last save
 * @param now wall time, milliseconds since 1970
 */
export const resumeMicros = (epoch: number, savedFrame: number, now: number, rate: Rate): number =>
  Math.max((now - epoch) * 1000, frameToMicros(savedFrame + 1, rate));
