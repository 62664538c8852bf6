/** Where a media player stands at a frame: worked out from its anchor, never counted along. */
import { type Air } from '../desk/air';
import { type Player } from './air';
import { type MediaSettings } from '../show/source';
import { frameToSeconds, type Rate } from '../time/rate';

export interface PlayerState {
  /** Seconds from the start of the file. */
  position: number;
  /** Moving at this frame. */
  playing: boolean;
  /** Has reached its out point and stands there. */
  ended: boolean;
  /** Shows nothing: ended, and set to go to black. */
  black: boolean;
  /** Seconds to the out point, of this round when it loops. */
  left: number;
}

/** In and out points in seconds, held inside the file. */
export function mediaSpan(settings: MediaSettings): { from: number; to: number } {
  const to = Math.min(settings.out ?? settings.duration, settings.duration);
  return { from: Math.min(settings.in, Math.max(0, to)), to };
}

/** A player that stands at the in point. */
export const cuedPlayer = (settings: MediaSettings): Player => ({
  playing: false,
  start: 0,
  position: mediaSpan(settings).from,
});

/** State of the player of `sourceId` at `frame`. */
export function playerState(air: Air, sourceId: string, settings: MediaSettings, frame: number, rate: Rate): PlayerState {
  return stateOfPlayer(air.players[sourceId], settings, frame, rate);
}

/**
 * State of a player at `frame`, which may be a fraction; without a player, cued. Speed is 1; a file shorter than one
 * frame stands still.
 */
export function stateOfPlayer(player: Player | undefined, settings: MediaSettings, frame: number, rate: Rate): PlayerState {
  const { from, to } = mediaSpan(settings);
  if (!player) return { position: from, playing: false, ended: false, black: false, left: to - from };
  const clamped = Math.min(Math.max(player.position, from), to);
  if (!player.playing) {
    const ended = clamped >= to && to > from;
    return { position: clamped, playing: false, ended, black: false, left: to - clamped };
  }
  let position = clamped + Math.max(0, frameToSeconds(frame - player.start, rate));
  const length = to - from;
  if (position >= to) {
    if (settings.atEnd !== 'loop' || length <= frameToSeconds(1, rate)) {
      return { position: to, playing: false, ended: true, black: settings.atEnd === 'black', left: 0 };
    }
    position = from + ((position - from) % length);
  }
  return { position, playing: true, ended: false, black: false, left: to - position };
}
