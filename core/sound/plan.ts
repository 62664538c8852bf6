/** The sound twin of the frame plan: how loud each channel and bus is at a frame. */
import { runningTransition, transitionPosition } from '../picture/transition';
import { type Air } from '../desk/air';
import { isLetIn } from '../guests/let-in';
import { fadeLevel } from '../time/fade';
import { lanePictures } from '../picture/air';
import { deckPlace, liveAngle, rollLeft } from '../replay/deck';
import { picturesWithin, findSource } from '../desk/pictures';
import { type Show } from '../desk/show';
import { playerState } from '../media/player';
import { frameToSeconds } from '../time/rate';
import { channelsOf, seatSource, takenBySeats } from './channels';
import { PROGRAMME_BUS } from './document';
import { dbToGain, faderGain } from './level';

export interface ChannelGain {
  /** Amplitude factor after the fader: fader, group, mute and picture worked in. */
  after: number;
  /** Amplitude factor before the fader: 1, or 0 while muted. */
  before: number;
  /** Seconds in which `after` is reached: fades of the channel's own. 0 where the plan itself fades. */
  seconds: number;
}

export interface SoundPlan {
  /** Amplitude factor after the fader by channel. */
  channels: Record<string, number>;
  /** The same with what else is known. */
  gains: Record<string, ChannelGain>;
  /** Amplitude factor by bus; fade to black is worked into the programme. */
  buses: Record<string, number>;
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
    for (const { picture, level } of lanePictures(state, frame)) if (picture.kind === 'picture') add(picture.id, level);
  }
  return shares;
}

/** Parts of a picture that is on its way to air, or there: what a channel with a fade of its own goes by. */
function wanted(show: Show, air: Air, frame: number): Set<string> {
  const ids = new Set(soundingWithin(show, air, air.onAirId, frame));
  for (const lane of show.lanes) {
    const state = air.lanes[lane.id];
    if (!state) continue;
    for (const { picture, going } of lanePictures(state, frame))
      if (picture.kind === 'picture' && !going) for (const part of soundingWithin(show, air, picture.id, frame)) ids.add(part);
  }
  return ids;
}

/** Gains at `frame`. A fade to black takes the programme down with the picture. */
export function planSound(show: Show, air: Air, frame: number): SoundPlan {
  const shares = presence(show, air, frame);
  const { music } = air.replay;
  const { sound } = show;
  const taken = takenBySeats(show);
  const groups = new Map(sound.groups.map((g) => [g.id, g]));
  const plan: SoundPlan = { channels: {}, gains: {}, buses: {} };
  let coming: Set<string> | null = null;
  for (const { id, feed, sound: strip } of channelsOf(show)) {
    const group = strip.groupId === null ? undefined : groups.get(strip.groupId);
    const sourceId = feed === null ? id : feed.kind === 'seat' ? seatSource(show, feed.seatId) : null;
    const parts = feed?.kind === 'seat' ? [feed.seatId, sourceId ?? ''] : [id];
    const source = findSource(show, sourceId);
    const stands = source?.settings.kind === 'media' && !playerState(air, source.id, source.settings, frame, show.rate).playing;
    // A source whose seat has a channel is heard there; a seat that nobody fills is silent.
    const elsewhere = feed === null ? taken.has(id) : feed.kind === 'seat' && (sourceId === null || taken.get(sourceId) !== id);
    const closed = strip.muted || group?.muted === true || stands || elsewhere || !isLetIn(show, air, source);
    const underRoll = music?.sourceId === id;
    const own = strip.inFrames !== null || strip.outFrames !== null;
    let share = 1;
    let seconds = 0;
    if (strip.follows || underRoll) {
      if (own && !underRoll) {
        coming ??= wanted(show, air, frame);
        const up = parts.some((p) => coming?.has(p));
        share = Number(up);
        seconds = frameToSeconds((up ? strip.inFrames : strip.outFrames) ?? 0, show.rate);
      } else share = Math.max(...parts.map((p) => shares.get(p) ?? 0));
    }
    if (underRoll) share = Math.max(share, musicShare(show, air, frame));
    const fader = faderGain(strip.faderDb) * (group ? faderGain(group.faderDb) : 1);
    const after = closed ? 0 : fader * share;
    plan.channels[id] = after;
    plan.gains[id] = { after, before: closed ? 0 : 1, seconds };
  }
  for (const bus of sound.buses) {
    const held = air.sound.held[bus.id];
    const black = bus.id === PROGRAMME_BUS ? 1 - fadeLevel(air.black, frame) : 1;
    plan.buses[bus.id] = bus.muted ? 0 : faderGain(bus.faderDb) * (held ? dbToGain(-held.db) : 1) * black;
  }
  return plan;
}
