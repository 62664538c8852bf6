/** What a machine can mix: the raster and rate at which the engine works for a show. */
import { type Rate } from '../time/rate';
import { type Raster } from '../show/show';

export interface WorkingFormat {
  raster: Raster;
  /** Every how many frames of the show one is drawn. */
  frameStep: number;
  /** Says in plain words how this differs from the show; empty when it does not. */
  notice: string;
}

/** Without a GPU: at most these pixels and this rate, measured on two cores. */
const SOFTWARE_PIXELS = 640 * 360;
const SOFTWARE_RATE = 30;

const even = (n: number) => Math.max(2, 2 * Math.round(n / 2));

/** The format to work in. The show's proportions stay; its own raster is used whenever it can be. */
export function workingFormat(raster: Raster, rate: Rate, software: boolean): WorkingFormat {
  if (!software) return { raster: { ...raster }, frameStep: 1, notice: '' };
  const scale = Math.min(1, Math.sqrt(SOFTWARE_PIXELS / (raster.width * raster.height)));
  const working = scale === 1 ? { ...raster } : { width: even(raster.width * scale), height: even(raster.height * scale) };
  const fps = rate.num / rate.den;
  const frameStep = Math.max(1, Math.ceil(fps / SOFTWARE_RATE - 1e-9));
  const same = scale === 1 && frameStep === 1;
  const shownRate = Math.round((fps / frameStep) * 100) / 100;
  return {
    raster: working,
    frameStep,
    notice: same ? '' : `No GPU here: working at ${working.width}×${working.height}, ${shownRate} frames a second`,
  };
}
