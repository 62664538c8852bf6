/** What an output shows in a frame. Pure. */
import { type FramePlan, type PicturePlan, plainPlan } from '../picture/draw';
import { planView } from '../picture/plan';
import { type Air } from '../desk/air';
import { type Show } from '../desk/show';
import { sceneOf } from '../picture/scene';
import { fullRect, type Rect } from '../show/geometry';
import { type Raster } from '../show/raster';
import { surfaceNow } from './air';
import { areaOf, planToOutput, wayOf } from './canvas';
import { type ShowsCanvas } from './document';
import { finishOf, type OutputFinish } from './finish';
import { surfacePlan } from './look-scene';
import { marks } from './marks';
import { coverOf, type Output, outputNow, screenOutput, surfaceOf } from './outputs';
import { type Surface } from './surface';
import { cardPlan, testPlan } from './test-pictures';

/** A plan, and the raster of its coordinates. */
export interface OutputPlan {
  plan: PicturePlan;
  raster: Raster;
  /** Pixels that leave; null for those that the show is worked in. */
  pixels: Raster | null;
  /** What is done to the picture after it is drawn; its rectangles are pixels that leave. */
  finish?: OutputFinish;
  /** The frame that was shown last stays, where there is one. */
  frozen?: boolean;
  /** Counts the frames that leave at the output's own rate: while it stays as it was, the frame that was shown last stays too. */
  slot: number;
}

/** What an output shows, as the show has it now. What has another shape than its raster is shown whole. */
export function planOutput(planned: FramePlan, show: Show, air: Air, output: Output): OutputPlan {
  const { name, shows, raster: pixels, frameStep = 1 } = outputNow(show, air.screens, output);
  const frozen = coverOf(air.screens, output.id)?.kind === 'frozen';
  const slot = Math.floor(planned.frame / frameStep);
  return { ...planShown(planned, show, air, { id: output.id, name, shows, raster: pixels }), slot, ...(frozen && { frozen }) };
}

type Shown = Omit<OutputPlan, 'slot'>;

function planShown(planned: FramePlan, show: Show, air: Air, { id, name, shows, raster: pixels }: Output): Shown {
  const of = (plan: PicturePlan): Shown => ({ plan, raster: planned.raster, pixels });
  const own = pixels ?? planned.raster;
  switch (shows.kind) {
    case 'programme':
    case 'clean':
      return of(planView(planned, show, air, { kind: shows.kind }));
    case 'picture':
      return of(shows.pictureId === null ? plainPlan([]) : planView(planned, show, air, { kind: 'picture', id: shows.pictureId }));
    case 'surface': {
      const surface = surfaceOf(show, shows.surfaceId);
      if (!surface) return of(plainPlan([]));
      const ways = surface.screens.flatMap((s) => (s.outputId === id ? [wayOf(s, areaOf(s, own))] : []));
      const plan = planToOutput(ways, surfacePlan(show, air, surface, 'air', planned.frame), show.raster, own);
      const held = surfaceNow(air.screens, surface.id, planned.frame).over?.kind === 'frozen';
      return { plan, raster: own, pixels: own, finish: finishOf(surface, id, own), ...(held && { frozen: true }) };
    }
    case 'canvas': {
      const surface = surfaceOf(show, shows.surfaceId);
      if (!surface) return of(plainPlan([]));
      return { ...canvasPlan(show, air, surface, shows, planned.frame), pixels: own };
    }
    case 'test':
      return { plan: testPlan(shows.pattern, own, planned.frame), raster: own, pixels };
    case 'card':
      return { plan: cardPlan({ name }, own, screenOutput(show, id)?.display ?? ''), raster: own, pixels };
    case 'black':
      return of(plainPlan([]));
  }
}

/** What of a canvas is seen. */
interface CanvasView extends Pick<ShowsCanvas, 'which' | 'drawn'> {
  /** The part that is seen; all of it without. */
  view?: Rect;
  /** Over the picture that was made for the venue, which never goes to air. */
  template?: boolean;
}

/** How much of the template shines through from under the layers. */
const TEMPLATE_OPACITY = 0.6;

/** A canvas or a part of it as one picture. What layouts within it are drawn in stays the show's raster. */
export function canvasPlan(
  show: Show,
  air: Air,
  surface: Surface,
  { which, drawn, view, template = false }: CanvasView,
  frame: number,
): Pick<OutputPlan, 'plan' | 'raster'> {
  const full = fullRect(surface);
  const from = view ?? full;
  const raster = { width: Math.max(2, Math.round(from.width)), height: Math.max(2, Math.round(from.height)) };
  const way = wayOf({ rect: from, turn: 'none' }, fullRect(raster));
  const planned = surfacePlan(show, air, surface, which, frame);
  const under = template && surface.templateId !== null ? sceneOf(show, air, surface.templateId, frame) : [];
  const ground = planned.base.filter((i) => i.layer === 'background');
  const base = [
    ...ground,
    ...under.map((item) => ({ ...item, target: full, fit: 'fill' as const, opacity: TEMPLATE_OPACITY })),
    ...planned.base.filter((i) => i.layer !== 'background'),
  ];
  const plan = { ...planned, base, lanes: drawn ? [...planned.lanes, ...marks(show, surface, false)] : planned.lanes };
  return { plan: planToOutput([way], plan, show.raster, raster), raster };
}
