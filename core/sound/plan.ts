/** The sound twin of the frame plan: how loud each source is in the programme at a frame. */
import { runningTransition, transitionPosition } from '../picture/transition';
import { type Air, fadeLevel, lanePictures } from '../show/air';
import { deckPlace, liveAngle, rollLeft } from '../replay/deck';
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

/** Everything heard with a picture: what is seen in it, and behind a live deck its angle. */
function soundingWithin(show: Show, air: Air, id: string | null, frame: number): Set<string> {
  const parts = new Set(picturesWithin(show, id));
  for (const part of [...parts]) {
    const angle = liveAngle(show, air, part, frame);
    if (angle && angle.soundId !== null) parts.add(angle.soundId);
  }
  return parts;
}

/** How far music lies under a play-out, 0 to 1: it fades out at the end. */
function musicShare(show: Show, air: Air, frame: number): number {
  const { music, decks } = air.replay;
  if (!music) return 0;
  const deck = decks[music.deck];
  const left = rollLeft(deck, deckPlace(deck, air.replay, frame, show.rate));
  return left === null ? 0 : music.fadeFrames === 0 ? Number(left.all > 0) : Math.min(1, left.all / music.fadeFrames);
}

/** How far the picture of each source is on air, 0 to 1. */
function presence(show: Show, air: Air, frame: number): Map<string, number> {
  const shares = new Map<string, number>();
  const add = (id: string | null, share: number) => {
    for (const part of soundingWithin(show, air, id, frame)) shares.set(part, Math.max(shares.get(part) ?? 0, share));
  };
  const running = runningTransition(air, frame);
  if (running) {
    const p = transitionPosition(running, frame);
    // Equal power: sounds of two places are unrelated, so their powers add (sin² + cos² = 1).
    add(running.fromId, Math.cos((p * Math.PI) / 2));
    add(running.toId, Math.sin((p * Math.PI) / 2));
    // What both pictures show sounds on through the change.
    const stays = soundingWithin(show, air, running.toId, frame);
    for (const part of soundingWithin(show, air, running.fromId, frame)) if (stays.has(part)) shares.set(part, 1);
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
  const { music } = air.replay;
  for (const source of show.sources) {
    const { faderDb, muted, follows } = source.sound;
    let gain = muted ? 0 : faderGain(faderDb) * (follows || music?.sourceId === source.id ? (shares.get(source.id) ?? 0) : 1);
    if (music?.sourceId === source.id && !muted) gain = Math.max(gain, faderGain(faderDb) * musicShare(show, air, frame));
    if (source.settings.kind === 'media' && !playerState(air, source.id, source.settings, frame, show.rate).playing) gain = 0;
    channels[source.id] = gain;
  }
  return { channels, programme: faderGain(show.programme.faderDb) * (1 - fadeLevel(air.black, frame)) };
}
