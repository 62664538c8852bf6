/** The monitors of the interface: which canvas shows what, and what of it has changed. */
import { changeAt } from '#core/picture/change';
import { type MonitorPace } from '#core/picture/capability';
import { fullRect } from '#core/show/geometry';
import { type FramePlan, looksOf, type PicturePlan, plainPlan, type TextureRef, wholePicture } from '#core/picture/draw';
import { planView, previewPlan } from '#core/picture/plan';
import { findOutput, surfaceOf } from '#core/screens/outputs';
import { canvasPlan, planOutput } from '#core/screens/plan';
import { type Surface } from '#core/screens/surface';
import { asWall } from '#core/screens/wall-light';
import { type Rect } from '#core/show/geometry';
import { type Air } from '#core/desk/air';
import { type Raster } from '#core/show/raster';
import { type Show } from '#core/desk/show';
import { type MonitorPicture } from './messages';
import { type MonitorJob, type PixelTarget } from './renderer';

interface Monitor {
  /** Its pixels; a tile of a mosaic keeps those that it has. */
  canvas: { width: number; height: number };
  isTile: boolean;
  context: PixelTarget;
  picture: MonitorPicture;
  /** Pixels that it is shown at. */
  shown: Raster;
  /** Turn at which it was drawn last: who waits longest comes first. */
  drawnAt: number;
  /** What it shows, so that an unchanged picture is not drawn again. */
  version: string;
}

export class MonitorWall {
  private readonly monitors = new Map<string, Monitor>();
  private turn = 0;
  private pace: MonitorPace = { tileStep: 2, nextStep: 1, scale: 1 };

  /** How often monitors are drawn, and how fine. */
  setPace(pace: MonitorPace): void {
    this.pace = pace;
    for (const monitor of this.monitors.values()) this.fit(monitor);
  }

  /** Gives a monitor's canvas the pixels that it is drawn with. */
  private fit(monitor: Monitor): void {
    const { canvas, shown } = monitor;
    if (monitor.isTile) return;
    const width = Math.max(2, Math.round(shown.width * this.pace.scale));
    const height = Math.max(2, Math.round(shown.height * this.pace.scale));
    if (canvas.width === width && canvas.height === height) return;
    Object.assign(canvas, { width, height });
    monitor.version = '';
  }

  attach(key: string, canvas: OffscreenCanvas, picture: MonitorPicture): void {
    const context = canvas.getContext('2d', { alpha: false, willReadFrequently: true });
    if (context) this.add(key, canvas, context, picture, false);
  }

  /** A monitor that stands in a larger picture. */
  attachTile(key: string, tile: Raster & PixelTarget, picture: MonitorPicture): void {
    this.add(key, { width: tile.width, height: tile.height }, tile, picture, true);
  }

  private add(key: string, canvas: Raster, context: PixelTarget, picture: MonitorPicture, isTile: boolean): void {
    const { width, height } = canvas;
    this.monitors.set(key, { canvas, isTile, context, picture, shown: { width, height }, drawnAt: 0, version: '' });
  }

  resize(key: string, width: number, height: number): void {
    const monitor = this.monitors.get(key);
    if (!monitor) return;
    monitor.shown = { width, height };
    this.fit(monitor);
  }

  detach(key: string): void {
    this.monitors.delete(key);
  }

  /**
   * What is to be drawn at this tick, in the order in which it matters: the programme, Next at its pace, then tiles at theirs, those first
   * that have waited longest. What there is no time for comes at the next tick. `versionOf` names the content of a plan's pictures.
   */
  jobs(show: Show, air: Air, plan: FramePlan, programme: TextureRef, versionOf: (plan: PicturePlan) => string): MonitorJob[] {
    this.turn += 1;
    const { turn } = this;
    const due = [...this.monitors.values()].filter((m) => turn - m.drawnAt >= this.stepOf(m.picture));
    return due
      .sort((a, b) => RANK[a.picture.kind] - RANK[b.picture.kind] || a.drawnAt - b.drawnAt)
      .flatMap((monitor) => {
        const { picture, context, canvas } = monitor;
        const { raster, wall, ...drawn } = planFor(picture, programme, show, air, plan);
        const version = looksOf(drawn) + JSON.stringify([raster, wall]) + versionOf(drawn);
        if (version === monitor.version) return [];
        const done = () => Object.assign(monitor, { version, drawnAt: turn });
        const after: MonitorJob['after'] = wall && ((data, place) => asWall(data, place, wall.surface, wall.view, wall.on));
        const { width, height } = canvas;
        return [{ plan: drawn, ...(raster && { raster }), ...(after && { after }), context, width, height, done }];
      });
  }

  /** Every how many ticks a monitor is drawn at most. */
  private stepOf({ kind }: MonitorPicture): number {
    if (kind === 'programme') return 1;
    return kind === 'picture' || kind === 'guest' || kind === 'plan' ? this.pace.tileStep : this.pace.nextStep;
  }
}

/** What is drawn first when there is not time for all. */
const RANK: Record<MonitorPicture['kind'], number> = {
  programme: 0,
  next: 1,
  clean: 2,
  over: 3,
  trial: 3,
  picture: 4,
  guest: 4,
  output: 4,
  canvas: 4,
  plan: 5,
};

/** Pause between two rounds of a transition that is tried out, as a share of its length. */
const TRIAL_PAUSE = 0.4;

/** A plan, the raster of it where that is not the show's, and the wall that it is seen on. */
type Planned = PicturePlan & { raster?: Raster; wall?: { surface: Pick<Surface, 'screens' | 'blend'>; view: Rect; on: boolean } };

/** What a monitor shows. */
function planFor(picture: MonitorPicture, programme: TextureRef, show: Show, air: Air, plan: FramePlan): Planned {
  switch (picture.kind) {
    case 'programme':
      // The frame that has just left, not mixed again.
      return wholePicture(programme, show.raster);
    case 'next':
    case 'clean':
      return planView(plan, show, air, picture);
    case 'picture': {
      const shown = planView(plan, show, air, picture);
      return picture.matte ? { ...shown, base: shown.base.map((item) => ({ ...item, matte: true })) } : shown;
    }
    case 'guest':
      return plainPlan([{ texture: { kind: 'source', id: picture.id }, fit: 'contain', target: fullRect(show.raster), opacity: 1 }]);
    case 'over':
      return previewPlan(show, air, plan, picture.over, picture.laneId, picture.id);
    case 'output': {
      const output = findOutput(show, picture.id);
      if (!output) return plainPlan([]);
      const { plan: own, raster } = planOutput(plan, show, air, output);
      return { ...own, raster };
    }
    case 'canvas': {
      const surface = surfaceOf(show, picture.surfaceId);
      if (!surface) return plainPlan([]);
      const view = picture.view ?? { x: 0, y: 0, width: surface.width, height: surface.height };
      const { screens, blend } = surface;
      const own = canvasPlan(show, air, surface, { ...picture, drawn: false, view }, plan.frame);
      return {
        ...own.plan,
        raster: own.raster,
        ...(picture.light && { wall: { surface: { screens, blend }, view, on: picture.light === 'blended' } }),
      };
    }
    case 'plan':
      return picture.plan;
    case 'trial': {
      const { transition: t, fromId, toId } = picture;
      const round = Math.ceil(t.frames * (1 + TRIAL_PAUSE));
      const position = Math.min(1, Math.max(0, ((plan.frame % round) - (t.frames * TRIAL_PAUSE) / 2) / t.frames));
      return { ...plainPlan([]), ...changeAt(show, air, fromId, toId, t, position, plan.frame) };
    }
  }
}
