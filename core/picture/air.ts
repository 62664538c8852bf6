/** What mixer and lanes are doing now. Frames are show frames: counts since the air began. */
import { type Fade, restingFade, turnFade, fadeLevel } from '../time/fade';
import { type Shown } from '../graphics/air';
import { type Transition } from './document';

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
export type LanePicture = { kind: 'picture'; id: string } | { kind: 'graphic'; id: string; shown: Shown };

export interface AirLane {
  /** Changes together with the next take. */
  armed: boolean;
  /** Armed to change to what it holds ready, not to leave. */
  changes: boolean;
  picture: LanePicture | null;
  fade: Fade;
  /** Frame at which it leaves by itself. */
  leaveAt: number | null;
  /** Frames the leaving takes. */
  leaveFrames: number;
  /** What it showed before, on its way out under the new picture. */
  leaving: { picture: LanePicture; fade: Fade } | null;
}

export function createAirLane(): AirLane {
  return { armed: false, changes: false, picture: null, fade: restingFade(0), leaveAt: null, leaveFrames: 0, leaving: null };
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

/** The copies of graphics in lanes, those on their way out too. */
export const lanePicturesOf = (lanes: Readonly<Record<string, AirLane>>): Shown[] =>
  Object.values(lanes).flatMap((l) => [l.picture, l.leaving?.picture].flatMap((p) => (p?.kind === 'graphic' ? [p.shown] : [])));

/** One picture of a lane at a frame. */
export interface LaneShown {
  picture: LanePicture;
  /** 0 is gone, 1 is there. */
  level: number;
  /** On its way out. */
  going: boolean;
  /** What moves it: from which level, since which frame. */
  fade: Fade;
}

/** Everything a lane shows at `frame`, lowest first. */
export function lanePictures(lane: AirLane, frame: number): LaneShown[] {
  const shown: LaneShown[] = [];
  if (lane.leaving)
    shown.push({ picture: lane.leaving.picture, level: fadeLevel(lane.leaving.fade, frame), going: true, fade: lane.leaving.fade });
  const fade = laneFade(lane, frame);
  if (lane.picture) shown.push({ picture: lane.picture, level: fadeLevel(fade, frame), going: fade.to === 0, fade });
  return shown.filter((item) => item.level > 0);
}
