/** The sound twin of the frame plan: how loud each source is in the programme at a frame. */
import { runningTransition, transitionPosition } from '../picture/transition';
import { type Air, fadeLevel, lanePictures } from '../show/air';
import { picturesWithin } from '../show/pictures';
import { type Show } from '../show/show';
import { playerState } from '../media/player';
import { faderGain } from './level';

export interface SoundPlan {
  /** Amplitude factor by source identity. */
  channels: Record<string, number>;
  /** Amplitude factor of the programme bus, fade to black worked in. */
  programme: number;
}

/** How far the picture of each source is on air, 0 to 1. */
function presence(show: Show, air: Air, frame: number): Map<string, number> {
  const shares = new Map<string, number>();
  const add = (id: string | null, share: number) => {
    for (const part of picturesWithin(show, id)) shares.set(part, Math.max(shares.get(part) ?? 0, share));
  };
  const running = runningTransition(air, frame);
  if (running) {
    const p = transitionPosition(running, frame);
    // Equal power: sounds of two places are unrelated, so their powers add (sin² + cos² = 1).
    add(running.fromId, Math.cos((p * Math.PI) / 2));
    add(running.toId, Math.sin((p * Math.PI) / 2));
    // What both pictures show sounds on through the change.
    const stays = picturesWithin(show, running.toId);
    for (const part of picturesWithin(show, running.fromId)) if (stays.has(part)) shares.set(part, 1);
    if (running.settings.kind === 'stinger') add(running.settings.stingerId, 1);
  } else add(air.onAirId, 1);
  for (const lane of show.lanes) {
    const state = air.lanes[lane.id];
    if (!state) continue;
    for (const { picture, level } of lanePictures(state, frame)) if (picture.kind === 'source') add(picture.id, level);
  }
  return shares;
}

/** Gains at `frame`. A fade to black takes the sound down with the picture. */
export function planSound(show: Show, air: Air, frame: number): SoundPlan {
  const shares = presence(show, air, frame);
  const channels: Record<string, number> = {};
  for (const source of show.sources) {
    const { faderDb, muted, follows } = source.sound;
    let gain = muted ? 0 : faderGain(faderDb) * (follows ? (shares.get(source.id) ?? 0) : 1);
    if (source.settings.kind === 'media' && !playerState(air, source.id, source.settings, frame, show.rate).playing) gain = 0;
    channels[source.id] = gain;
  }
  return { channels, programme: faderGain(show.programme.faderDb) * (1 - fadeLevel(air.black, frame)) };
}
