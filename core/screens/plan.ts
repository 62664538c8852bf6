/** What an output shows in a frame. Pure. */
import { type FramePlan, type PicturePlan, plainPlan } from '../picture/draw';
import { planView } from '../picture/plan';
import { type Air } from '../desk/air';
import { type Show } from '../desk/show';
import { type Raster } from '../show/raster';
import { type Output, outputNow, screenOutput } from './outputs';
import { cardPlan, testPlan } from './test-pictures';

/** A plan, and the raster of its coordinates. */
export interface OutputPlan {
  plan: PicturePlan;
  raster: Raster;
  /** Pixels that leave; null for those that the show is worked in. */
  pixels: Raster | null;
}

/** What an output shows, as the show has it now. What has another shape than its raster is shown whole. */
export function planOutput(planned: FramePlan, show: Show, air: Air, output: Output): OutputPlan {
  const { name, shows, raster: pixels } = outputNow(show, air.screens, output);
  const of = (plan: PicturePlan): OutputPlan => ({ plan, raster: planned.raster, pixels });
  const own = pixels ?? planned.raster;
  switch (shows.kind) {
    case 'programme':
    case 'clean':
      return of(planView(planned, show, air, { kind: shows.kind }));
    case 'picture':
      return of(shows.pictureId === null ? plainPlan([]) : planView(planned, show, air, { kind: 'picture', id: shows.pictureId }));
    case 'test':
      return { plan: testPlan(shows.pattern, own, planned.frame), raster: own, pixels };
    case 'card':
      return { plan: cardPlan({ name }, own, screenOutput(show, output.id)?.display ?? ''), raster: own, pixels };
    case 'black':
      return of(plainPlan([]));
  }
}
