/**
 * Air: what is happening now. Plain data with the frames at which things began; nothing in it is ticked, so every
 * picture and sound can be worked out for any frame. All frames are show frames: counts since the air began.
 */
import { createReplayAir, type ReplayAir } from '../replay/air';
import { createSoundAir, type SoundAir } from '../sound/air';
import { type NameCard, type Show, type Transition } from './show';

/** A fade between 0 and 1 that began at `start` from `from` and takes `frames`. */
export interface Fade {
  from: number;
  to: 0 | 1;
  start: number;
  frames: number;
}

/** A transition under way. `toId` is already the picture on air, `fromId` what it replaces. */
export interface RunningTransition {
  fromId: string | null;
  toId: string | null;
  settings: Transition;
  /** `auto` runs by itself from `startPosition` at `start`; `bar` stays at `position` until moved. */
  mode: 'auto' | 'bar';
  start: number;
  /** Frames that the rest of the way takes, in `auto`. */
  frames: number;
  startPosition: number;
  position: number;
  /** Lanes that change together with this take; they go back if the bar goes back. */
  lanes: string[];
}

/** What a lane shows, as it was when it was put up: later edits wait for the next showing. */
export type LanePicture = { kind: 'source'; id: string } | { kind: 'card'; id: string; card: NameCard };

export interface AirLane {
  /** Changes together with the next take. */
  armed: boolean;
  picture: LanePicture | null;
  fade: Fade;
  /** Frame at which it leaves by itself. */
  leaveAt: number | null;
  /** Frames the leaving takes. */
  leaveFrames: number;
  /** What it showed before, on its way out under the new picture. */
  leaving: { picture: LanePicture; fade: Fade } | null;
}

/** The transport of a media source: at `start` it stood at `position` seconds. */
export interface Player {
  playing: boolean;
  start: number;
  position: number;
}

/** A recording or stream that the crew has asked for. */
export interface OutputRun {
  id: string;
  startFrame: number;
}

export interface Air {
  onAirId: string | null;
  nextId: string | null;
  transition: RunningTransition | null;
  /** 1 is fully black. */
  black: Fade;
  /** By lane identity. */
  lanes: Record<string, AirLane>;
  /** By source identity. */
  players: Record<string, Player>;
  /** Sources that give no picture, with the cause, as the engine has reported. */
  lost: Record<string, string>;
  recording: OutputRun | null;
  stream: OutputRun | null;
  replay: ReplayAir;
  sound: SoundAir;
}

/** The pair that commands work on. */
export interface Desk {
  show: Show;
  air: Air;
}

export const restingFade = (level: 0 | 1): Fade => ({ from: level, to: level, start: 0, frames: 0 });

export function createAirLane(): AirLane {
  return { armed: false, picture: null, fade: restingFade(0), leaveAt: null, leaveFrames: 0, leaving: null };
}

/** Nothing on air yet, every lane down. */
export function createAir(show: Show): Air {
  return {
    onAirId: null,
    nextId: null,
    transition: null,
    black: restingFade(0),
    lanes: Object.fromEntries(show.lanes.map((lane) => [lane.id, createAirLane()])),
    players: {},
    lost: {},
    recording: null,
    stream: null,
    replay: createReplayAir(),
    sound: createSoundAir(),
  };
}

/** Level of a fade at `frame`, 0 to 1. Linear; a fade of no frames is at its end at once. */
export function fadeLevel(fade: Fade, frame: number): number {
  if (fade.frames <= 0) return frame >= fade.start ? fade.to : fade.from;
  const share = Math.min(1, Math.max(0, (frame - fade.start) / fade.frames));
  return fade.from + (fade.to - fade.from) * share;
}

/** A fade to `to` that starts at `frame` from wherever `fade` is then; a full way takes `frames`. */
export function turnFade(fade: Fade, to: 0 | 1, frame: number, frames: number): Fade {
  const from = fadeLevel(fade, frame);
  return { from, to, start: frame, frames: Math.round(frames * Math.abs(to - from)) };
}

/** The fade of a lane's picture with its leaving by itself worked in. */
export function laneFade(lane: AirLane, frame: number): Fade {
  if (lane.leaveAt === null || frame < lane.leaveAt || lane.fade.to === 0) return lane.fade;
  return turnFade(lane.fade, 0, lane.leaveAt, lane.leaveFrames);
}

/** True when a lane is up or on its way up at `frame`. */
export function laneIsUp(lane: AirLane, frame: number): boolean {
  return laneFade(lane, frame).to === 1;
}

/** Everything a lane shows at `frame`, lowest first, with its level 0 to 1, and whether it is on its way out. */
export function lanePictures(lane: AirLane, frame: number): { picture: LanePicture; level: number; going: boolean }[] {
  const shown: { picture: LanePicture; level: number; going: boolean }[] = [];
  if (lane.leaving) shown.push({ picture: lane.leaving.picture, level: fadeLevel(lane.leaving.fade, frame), going: true });
  const fade = laneFade(lane, frame);
  if (lane.picture) shown.push({ picture: lane.picture, level: fadeLevel(fade, frame), going: fade.to === 0 });
  return shown.filter((item) => item.level > 0);
}
