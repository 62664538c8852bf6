/** The monitors of the interface: which canvas shows what, and what of it has changed. */
import { type FramePlan, type PicturePlan, sourceItem } from '#core/picture/plan';
import { findSource, type Show } from '#core/show/show';
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
  jobs(show: Show, plan: FramePlan, versionOf: (plan: PicturePlan) => string): MonitorJob[] {
    this.odd = !this.odd;
    return [...this.monitors.values()].flatMap((monitor) => {
      const { picture, context, canvas } = monitor;
      if (picture.kind === 'programme' || (picture.kind === 'source' && !this.odd)) return [];
      const drawn = picture.kind === 'next' ? plan.next : tilePlan(show, picture.id);
      const version = JSON.stringify(drawn) + versionOf(drawn);
      if (version === monitor.version) return [];
      monitor.version = version;
      return [{ plan: drawn, context, width: canvas.width, height: canvas.height }];
    });
  }
}

function tilePlan(show: Show, id: string): PicturePlan {
  const source = findSource(show, id);
  return { base: source ? [sourceItem(show, source, 1)] : [], over: null, mix: null, lanes: [], black: 0 };
}
