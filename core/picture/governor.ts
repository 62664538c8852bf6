/** Decides from what is measured how far the engine steps down, so that the programme keeps its frames. Pure: one call for each second. */
import { FIRST_PICTURE_STEP, STEPS } from './capability';

/** One second of the mixer's life. */
export interface LoadSample {
  /** Programme frames drawn, drawn late, and given up. */
  frames: number;
  late: number;
  dropped: number;
  /** Share of a frame's time that a programme frame takes to draw, 0 to 1 and above. */
  cost: number;
  /** Something is being recorded or streamed: its raster must not change. */
  recording: boolean;
}

export interface Pace {
  /** Index into STEPS. */
  step: number;
  /** Why it is there; empty at step 0. */
  reason: string;
  /** Seconds of strain that have added up, and quiet seconds in a row. */
  strain: number;
  calm: number;
  /** Quiet seconds that are waited for before a step up. */
  patience: number;
  /** Seconds since the last step up; a step down soon after says that it was too early. */
  sinceUp: number;
}

const FIRST_PATIENCE = 15;
const LONGEST_PATIENCE = 300;
/** A step up that does not hold for so many seconds was too early. */
const TOO_EARLY = 30;
/** A second is strained with this share of late frames, and quiet with less than the other. */
const STRAINED = 0.1;
const QUIET = 0.03;
/** Strained seconds for a step of the monitors, and for one of the pictures that go out. */
const MONITOR_STRAIN = 3;
const PICTURE_STRAIN = 6;
/** Drawing that takes less than this share of a frame's time is not what makes frames late: smaller pictures would not help. */
const LIGHT = 0.2;
/** Steps up only where drawing will take less than this share of a frame's time. */
const ROOM = 0.6;

export const FIRST_PACE: Pace = { step: 0, reason: '', strain: 0, calm: 0, patience: FIRST_PATIENCE, sinceUp: Infinity };

const area = (step: number) => (STEPS[step]?.scale ?? 1) ** 2 / (STEPS[step]?.frameStep ?? 1);

function down(pace: Pace, share: number): Pace {
  const early = pace.sinceUp < TOO_EARLY;
  return {
    step: pace.step + 1,
    reason: `This machine was late with ${Math.max(1, Math.round(share * 100))} % of its frames`,
    strain: 0,
    calm: 0,
    patience: early ? Math.min(LONGEST_PATIENCE, pace.patience * 2) : FIRST_PATIENCE,
    sinceUp: Infinity,
  };
}

/** The pace after one more second. */
export function govern(before: Pace, { frames, late, dropped, cost, recording }: LoadSample): Pace {
  const share = frames + dropped === 0 ? 0 : (late + dropped) / (frames + dropped);
  const strained = share > STRAINED;
  const pace = {
    ...before,
    strain: strained ? before.strain + 1 : Math.max(0, before.strain - 0.5),
    calm: share < QUIET && dropped === 0 ? before.calm + 1 : strained ? 0 : before.calm,
    sinceUp: before.sinceUp + 1,
  };
  const next = pace.step + 1;
  const ofPictures = next >= FIRST_PICTURE_STEP;
  if (strained && next < STEPS.length && pace.strain >= (ofPictures ? PICTURE_STRAIN : MONITOR_STRAIN)) {
    if (!ofPictures || (!recording && cost > LIGHT)) return down(pace, share);
  }
  const pictures = pace.step >= FIRST_PICTURE_STEP;
  const fits = cost * (area(pace.step - 1) / area(pace.step)) < ROOM;
  if (pace.step > 0 && pace.calm >= pace.patience && fits && !(pictures && recording)) {
    return { ...pace, step: pace.step - 1, reason: pace.step === 1 ? '' : pace.reason, strain: 0, calm: 0, sinceUp: 0 };
  }
  return pace;
}
