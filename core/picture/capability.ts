/**
 * What a machine can mix. A show is worked at its own raster and rate; when the machine is late with its frames, the engine steps down in
 * the order of `STEPS`, says so with the reason, and steps up again when there is room.
 */
import { type Raster } from '../show/raster';

/** How the monitors are drawn. Tiles are pictures of single sources; Next has a rate of its own. */
export interface MonitorPace {
  /** One of so many frames draws tiles. */
  tileStep: number;
  /** One of so many frames draws Next and what is tried out. */
  nextStep: number;
  /** Pixels of a monitor's side, as a share of what it is shown at. */
  scale: number;
}

export interface WorkingFormat {
  raster: Raster;
  /** Every how many frames of the show one is drawn. */
  frameStep: number;
  monitors: MonitorPace;
  /** Says in plain words what is reduced and why; empty when nothing is. */
  notice: string;
  /** What is reduced, in a word or two, for the bar. */
  brief: string;
}

interface Step {
  monitors: MonitorPace;
  /** Share of the show's raster, of each side. */
  scale: number;
  frameStep: number;
  /** In words, after "working with". */
  says: (raster: Raster, fps: number) => string;
  brief: (raster: Raster) => string;
}

const FULL: MonitorPace = { tileStep: 2, nextStep: 1, scale: 1 };
const RARE: MonitorPace = { ...FULL, tileStep: 4 };
const SMALL: MonitorPace = { tileStep: 4, nextStep: 1, scale: 0.5 };
const LEAST: MonitorPace = { tileStep: 8, nextStep: 2, scale: 0.5 };

/** Smallest side of a working raster, pixels. */
const SMALLEST = 90;

const smaller = (scale: number, frameStep = 1): Step => ({
  monitors: LEAST,
  scale,
  frameStep,
  says: (raster, fps) =>
    `pictures of ${raster.width}×${raster.height}${frameStep > 1 ? `, ${Math.round((fps / frameStep) * 100) / 100} frames a second` : ''}`,
  brief: (raster) => `${raster.width}×${raster.height}`,
});

/** From nothing reduced to everything. */
export const STEPS: readonly Step[] = [
  { monitors: FULL, scale: 1, frameStep: 1, says: () => '', brief: () => '' },
  { monitors: RARE, scale: 1, frameStep: 1, says: () => 'fewer pictures a second on small monitors', brief: () => 'monitors' },
  { monitors: SMALL, scale: 1, frameStep: 1, says: () => 'coarser monitors', brief: () => 'monitors' },
  {
    monitors: LEAST,
    scale: 1,
    frameStep: 1,
    says: () => 'coarser monitors and half as many pictures a second in Next',
    brief: () => 'Next',
  },
  smaller(0.75),
  smaller(0.5),
  smaller(3 / 8),
  smaller(0.25),
  smaller(0.25, 2),
];

/** The first step that changes the pictures that go out. */
export const FIRST_PICTURE_STEP = STEPS.findIndex((s) => s.scale < 1);

const even = (n: number) => Math.max(2, 2 * Math.round(n / 2));

/** The raster of a step, in the show's proportions. */
const rasterOf = ({ width, height }: Raster, scale: number): Raster => {
  const least = Math.min(1, SMALLEST / Math.min(width, height));
  const share = Math.max(scale, least);
  return share === 1 ? { width, height } : { width: even(width * share), height: even(height * share) };
};

/** What the engine works in at a step; `reason` says what made it step down. */
export function workingFormat(raster: Raster, fps: number, step: number, reason: string): WorkingFormat {
  const { monitors, scale, frameStep, says, brief } = STEPS[Math.min(Math.max(0, step), STEPS.length - 1)] as Step;
  const working = rasterOf(raster, scale);
  const words = says(working, fps);
  return { raster: working, frameStep, monitors, notice: words === '' ? '' : `${reason}: working with ${words}`, brief: brief(working) };
}
