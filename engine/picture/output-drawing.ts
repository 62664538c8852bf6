/** Drawing one output, and who takes it. */
import { type Output } from '#core/screens/outputs';
import { type OutputPlan } from '#core/screens/plan';
import { containRect, fullRect } from '#core/show/geometry';
import { causeOf } from '#core/schema/cause';
import { type PictureLookup, type Renderer } from './renderer';

/** Takes an output's frames over; each consumer is given a frame of its own to close. */
export interface OutputSink {
  output: Output;
  take: (frame: VideoFrame, stamp: number) => void;
  /** It wants every frame of the show: a recorder does. Windows show what there is time for. */
  every: boolean;
  /** After this nothing more is given to it. */
  end: () => void;
}

/** Draws an output in the size that the renderer works in, or in one of its own; what has another shape than its pixels is shown whole. */
export function drawOutput(
  renderer: Renderer,
  { plan, raster, pixels, finish = null }: OutputPlan,
  stamp: number,
  duration: number,
  pictures?: PictureLookup,
): Promise<VideoFrame> {
  if (!pixels) return renderer.programme(plan, raster, stamp, duration);
  const { x, y, ...shape } = containRect(fullRect(pixels), raster.width, raster.height);
  const even = (n: number) => Math.round(n / 2) * 2;
  const place = { x: even(x), y: even(y), width: Math.max(2, even(shape.width)), height: Math.max(2, even(shape.height)) };
  return renderer.output({ plan, raster, size: pixels, place, finish, ...(pictures && { pictures }) }, stamp, duration);
}

/** Why an output cannot be drawn, for people. */
export function outputTrouble({ name }: Output, { pixels }: OutputPlan, error: unknown): string {
  const size = pixels ? ` in ${pixels.width}×${pixels.height}` : '';
  return `The output ${name} cannot be drawn${size}: ${causeOf(error)} Give it fewer pixels, or something else to show.`;
}
