/** The monitors of the interface: which canvas shows what, and what of it has changed. */
import { changeAt } from '#core/picture/change';
import { type FramePlan, type PicturePlan, plainPlan } from '#core/picture/draw';
import { sceneOf } from '#core/picture/scene';
import { type Air } from '#core/show/air';
import { type Show } from '#core/show/show';
import { type MonitorPicture } from './messages';
import { type MonitorJob } from './renderer';

interface Monitor {
  canvas: OffscreenCanvas;
  context: OffscreenCanvasRenderingContext2D;
  picture: MonitorPicture;
  /** What it shows, so that an unchanged picture is not drawn again. */
  version: string;
}

export class MonitorWall {
  private readonly monitors = new Map<string, Monitor>();
  private odd = false;

  attach(key: string, canvas: OffscreenCanvas, picture: MonitorPicture): void {
    const context = canvas.getContext('2d', { alpha: false, willReadFrequently: true });
    if (context) this.monitors.set(key, { canvas, context, picture, version: '' });
  }

  resize(key: string, width: number, height: number): void {
    const monitor = this.monitors.get(key);
    if (!monitor || (monitor.canvas.width === width && monitor.canvas.height === height)) return;
    Object.assign(monitor.canvas, { width, height });
    monitor.version = '';
  }

  detach(key: string): void {
    this.monitors.delete(key);
  }

  /** Shows the frame that has just left. */
  showProgramme(frame: VideoFrame, version: string): void {
    for (const monitor of this.monitors.values()) {
      if (monitor.picture.kind !== 'programme' || monitor.version === version) continue;
      monitor.version = version;
      monitor.context.drawImage(frame, 0, 0, monitor.canvas.width, monitor.canvas.height);
    }
  }

  /**
   * What must be drawn at this tick: Next whenever it has changed, tiles at half the rate. `versionOf` names the
   * content of a plan's pictures. Monitors count as drawn from here on.
   */
  jobs(show: Show, air: Air, plan: FramePlan, versionOf: (plan: PicturePlan) => string): MonitorJob[] {
    this.odd = !this.odd;
    return [...this.monitors.values()].flatMap((monitor) => {
      const { picture, context, canvas } = monitor;
      if (picture.kind === 'programme' || (picture.kind === 'source' && !this.odd)) return [];
      const drawn = planFor(picture, show, air, plan);
      const version = JSON.stringify(drawn) + versionOf(drawn);
      if (version === monitor.version) return [];
      monitor.version = version;
      return [{ plan: drawn, context, width: canvas.width, height: canvas.height }];
    });
  }
}

/** Pause between two rounds of a transition that is tried out, as a share of its length. */
const TRIAL_PAUSE = 0.4;

function planFor(picture: Exclude<MonitorPicture, { kind: 'programme' }>, show: Show, air: Air, plan: FramePlan): PicturePlan {
  switch (picture.kind) {
    case 'next':
      return plan.next;
    case 'clean':
      return plan.clean;
    case 'source': {
      const scene = sceneOf(show, air, picture.id, plan.frame);
      return plainPlan(picture.matte ? scene.map((item) => ({ ...item, matte: true })) : scene);
    }
    case 'trial': {
      const { transition: t, fromId, toId } = picture;
      const round = Math.ceil(t.frames * (1 + TRIAL_PAUSE));
      const position = Math.min(1, Math.max(0, ((plan.frame % round) - (t.frames * TRIAL_PAUSE) / 2) / t.frames));
      return { ...plainPlan([]), ...changeAt(show, air, fromId, toId, t, position, plan.frame) };
    }
  }
}
