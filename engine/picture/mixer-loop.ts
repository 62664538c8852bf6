/** The frame clock of the programme: draws each frame once, on time, and says when it could not. */
import { type DrawItem, type FramePlan, type PicturePlan, placementOf, type TextureRef, wholePicture } from '#core/picture/draw';
import { changeAt } from '#core/picture/change';
import { internDesk } from '#core/graphics/intern';
import { type Paint } from '#core/graphics/paint';
import { planFrame, preparedItems } from '#core/picture/plan';
import { showsClean } from '#core/screens/look-scene';
import { type OutputPlan, planOutput } from '#core/screens/plan';
import { type Output, PROGRAMME_OUTPUT, surfaceShown } from '#core/screens/outputs';
import { OutputFrames } from './output-frames';
import { causeOf } from '#core/schema/cause';
import { type Air } from '#core/desk/air';
import { type Show } from '#core/desk/show';
import { Ahead } from '#core/time/ahead';
import { type MosaicLayout } from '#core/panels/mosaic';
import { frameMicros, framesPerSecond, frameToMicros, microsToFrame } from '#core/time/rate';
import { PICTURE_DELAY_MICROS } from '../time/delays';
import { type SharedClock } from '../time/shared-clock';
import { type MixerStats, type MonitorPicture, noStats, type ToMixer, type Working } from './messages';
import { MonitorWall } from './monitor-wall';
import { Mosaic } from './mosaic';
import { type PaintStore } from './paint-store';
import { type PictureLookup, type RefPicture, refsOf, type Renderer } from './renderer';
import { SourcePictures, type SourceSeen } from './source-pictures';

/** The programme as a picture that monitors show. */
const PROGRAMME = { kind: 'output', id: PROGRAMME_OUTPUT } as const satisfies TextureRef;
/** No monitor is begun with less time than this before the next programme frame, milliseconds: about what the largest takes. */
const MONITOR_RESERVE_MS = 6;
/** What outputs for windows leave of the time before the next programme frame, milliseconds: for monitors, and for surprises. */
const SCREENS_RESERVE_MS = 8;
/** Width of the small picture for the list of shows, pixels. */
const THUMBNAIL_WIDTH = 320;

/** Frames that paints are asked for ahead of being shown. */
const AHEAD_FRAMES = 4;

/** Frames that may wait to be drawn after a stall: as many as sources keep. */
const CATCH_UP_FRAMES = 6;

export class MixerLoop {
  readonly sources: SourcePictures;
  readonly wall = new MonitorWall();
  private mosaic: Mosaic | null = null;
  readonly outputs: OutputFrames;
  readonly stats = noStats();
  readonly renderer: Renderer;
  /** Desks that count only from a later frame on; the graphics of the newest. */
  private readonly ahead = new Ahead<{ show: Show; air: Air }>();
  private newest: Show['graphics'];
  private lastNumber = -1;
  private stopped = false;
  private failing = false;

  constructor(
    createRenderer: (lookup: PictureLookup) => Renderer,
    private readonly clock: SharedClock,
    private show: Show,
    private air: Air,
    private working: Working,
    seen: SourceSeen,
    private readonly ticked: (frame: number, stats: MixerStats) => void,
    /** A frame could not be drawn, and why; null when frames come again. */
    private readonly failed: (message: string | null) => void,
    readonly paints: PaintStore,
  ) {
    this.newest = show.graphics;
    this.stats.paints = paints.stats;
    this.sources = new SourcePictures(seen);
    this.renderer = createRenderer((ref, size) => this.lookup(ref, size));
    this.outputs = new OutputFrames(
      this.renderer,
      (ref, size) => this.lookup(ref, size),
      (p) => this.versionOf(p),
    );
    this.stats.screens = this.outputs.screens.rates;
    this.wall.setPace(working.monitors);
  }

  /** The desk as it comes over the port: graphics that have not changed are left out. */
  receive({ show, air, from }: Extract<ToMixer, { type: 'desk' }>): void {
    const desk = { show: { ...show, graphics: show.graphics ?? this.newest }, air };
    internDesk(desk, show.graphics !== null);
    this.newest = desk.show.graphics;
    if (from !== null && from <= this.lastNumber) this.stats.desksLate += 1;
    const now = this.ahead.push(desk, from !== null && from > this.lastNumber + 1 ? from : null);
    if (now) return this.setDesk(now.show, now.air);
    try {
      // Drawn before its frame, as what is pressed ready is.
      const { programme } = planFrame(desk.show, desk.air, from ?? this.lastNumber);
      this.want([...programme.base, ...(programme.over ?? []), ...programme.lanes, ...(programme.top ?? [])]);
    } catch {
      // What is wrong with it is said when it is shown.
    }
  }

  setDesk(show: Show, air: Air): void {
    // Costs nothing while the wipe is the same: its table is known.
    this.renderer.readyFor(changeAt(show, air, null, null, show.transition, 0, 0).mix);
    const before = this.heldReady();
    const graphics = this.show.graphics;
    this.show = show;
    this.air = air;
    if (graphics !== show.graphics || before !== this.heldReady()) this.prepareLanes();
  }

  /** What lanes and Next hold ready, by name: lanes themselves come anew with every desk. */
  private heldReady(): string {
    return [this.air.nextId, ...this.show.lanes.map((l) => `${l.id} ${l.content?.id ?? ''} ${JSON.stringify(l.rect)}`)].join();
  }

  /** Pixels of a paint where its graphic fills the picture. */
  private ownSize({ bounds, raster }: Paint): { width: number; height: number } {
    const scale = Math.min(this.working.raster.width / raster.width, this.working.raster.height / raster.height);
    return { width: Math.max(1, Math.round(bounds.width * scale)), height: Math.max(1, Math.round(bounds.height * scale)) };
  }

  /** Has paints of these items drawn, at the size that the programme shows them at. */
  private want(items: readonly DrawItem[]): void {
    const scale = this.working.raster.width / this.show.raster.width;
    for (const item of items) {
      const { texture, scaled } = item;
      if (texture.kind === 'scene') this.want(texture.scene);
      if (texture.kind !== 'paint') continue;
      const { target, window } = placementOf(item, texture.paint.bounds);
      const pixels = (length: number, share: number) => Math.max(1, Math.round((length * scale) / share));
      const shown = { width: pixels(target.width, window.width), height: pixels(target.height, window.height) };
      this.paints.want(texture.paint, scaled ? this.ownSize(texture.paint) : shown);
    }
  }

  /** What lanes and Next hold ready is drawn before it is shown: its first frame is there at the press. */
  private prepareLanes(): void {
    try {
      this.want(preparedItems(this.show, this.air, this.lastNumber));
    } catch {
      // What is wrong with it is said when it is shown.
    }
  }

  /** Paints that will be wanted in a moment: clocks and rolling numbers are drawn before their frame. */
  private wantAhead(plan: FramePlan): void {
    const { programme } = plan;
    const moving = [...programme.base, ...(programme.over ?? []), ...programme.lanes, ...(programme.top ?? [])];
    if (!moving.some(({ texture }) => texture.kind === 'paint' || texture.kind === 'scene')) return;
    const ahead = planFrame(this.show, this.air, plan.frame + AHEAD_FRAMES).programme;
    this.want([...ahead.base, ...(ahead.over ?? []), ...ahead.lanes, ...(ahead.top ?? [])]);
  }

  setWorking(working: Working): void {
    const { width, height } = this.working.raster;
    this.working = working;
    this.wall.setPace(working.monitors);
    if (width === working.raster.width && height === working.raster.height) return;
    this.renderer.resize(working.raster);
    this.outputs.forget();
    this.prepareLanes();
  }

  private lookup(ref: TextureRef, size?: { width: number; height: number }): RefPicture | null {
    if (ref.kind === 'paint') return this.paints.find(ref.paint, ref.slot, size ?? this.ownSize(ref.paint));
    return ref.kind === 'output' ? this.outputs.last(ref.id) : this.sources.lookup(this.show, ref, this.working.raster);
  }

  /** Runs until stopped. Worker timers are not slowed down in a hidden tab. */
  async run(): Promise<void> {
    await this.warmUp();
    while (!this.stopped) {
      const due = this.nextFrame();
      const wait = this.clock.millisUntil(frameToMicros(due, this.show.rate) + PICTURE_DELAY_MICROS);
      if (wait > 0.5) await new Promise((resolve) => setTimeout(resolve, wait));
      else await new Promise<void>((resolve) => yieldTo(resolve));
      if (this.clock.millisUntil(frameToMicros(due, this.show.rate) + PICTURE_DELAY_MICROS) > 1) continue;
      try {
        await this.tick(due);
        if (this.failing) this.failed(null);
        this.failing = false;
      } catch (error) {
        // One bad frame must not end the programme: say it once, and go on with the next.
        if (!this.failing) this.failed(causeOf(error));
        this.failing = true;
      }
    }
  }

  /** Draws one frame that nobody gets: the first takes many times as long as the others, and must not cost the programme any. */
  private async warmUp(): Promise<void> {
    try {
      const plan = planFrame(this.show, this.air, microsToFrame(this.clock.now() - PICTURE_DELAY_MICROS, this.show.rate));
      (await this.renderer.programme(plan.programme, plan.raster, 0, 0)).close();
    } catch {
      // What is wrong is said of the first frame that matters.
    }
  }

  stop(): void {
    this.stopped = true;
    this.outputs.close();
  }

  /** The next frame to draw: the one after the last, or the present one when the mixer has fallen behind. */
  private nextFrame(): number {
    const { rate } = this.show;
    const present = microsToFrame(this.clock.now() - PICTURE_DELAY_MICROS, rate);
    const step = this.working.frameStep;
    if (this.lastNumber < 0) return Math.ceil((present + 1) / step) * step;
    const next = this.lastNumber + step;
    // After a stall a mixer that is quick enough draws the missed frames from the sources' queues, so that files miss
    // nothing. One that is always behind gives frames up at once, or its delay would only grow.
    const frameMs = (frameMicros(rate) * step) / 1000;
    const backlog = this.stats.usualMs < frameMs / 2 ? CATCH_UP_FRAMES : 2;
    if (present - next < backlog * step) return next;
    const caught = Math.floor(present / step) * step;
    this.stats.dropped += (caught - next) / step;
    return caught;
  }

  private async tick(frame: number): Promise<void> {
    const started = performance.now();
    const stamp = frameToMicros(frame, this.show.rate);
    const lateMs = -this.clock.millisUntil(stamp + PICTURE_DELAY_MICROS);
    const frameMs = (frameMicros(this.show.rate) * this.working.frameStep) / 1000;
    if (lateMs > frameMs) this.stats.late += 1;
    this.lastNumber = frame;
    const due = this.ahead.at(frame);
    if (due) this.setDesk(due.show, due.air);
    const plan = planFrame(this.show, this.air, frame);
    this.sources.advance(stamp);
    const plans = new Map<string, OutputPlan>();
    const planOf = (output: Output): OutputPlan => {
      const known = plans.get(output.id) ?? planOutput(plan, this.show, this.air, output);
      plans.set(output.id, known);
      return known;
    };
    const duration = Math.round(frameMs * 1000);
    const trouble = await this.outputs.draw(planOf, showsClean(this.show, this.air.screens), stamp, duration);
    this.stats.drawMs = performance.now() - started;
    this.stats.usualMs += (this.stats.drawMs - this.stats.usualMs) * 0.1;
    const nextAt = frameToMicros(frame + this.working.frameStep, this.show.rate) + PICTURE_DELAY_MICROS;
    const leftMs = () => this.clock.millisUntil(nextAt) - SCREENS_RESERVE_MS;
    const group = (output: Output) => surfaceShown(this.show, output) ?? output.id;
    const screenTrouble = await this.outputs.drawScreens(planOf, group, stamp, duration, leftMs);
    this.wantAhead(plan);
    this.paints.watch();
    await this.drawMonitors(plan, frame);
    this.mosaic?.encode(stamp, duration);
    this.stats.frames += 1;
    this.ticked(frame, this.stats);
    // Said when everything else has been done.
    if (trouble ?? screenTrouble) throw new Error(trouble ?? screenTrouble ?? '');
  }

  /** The mosaic for panels; null while nobody looks. What cannot be encoded is shown to nobody, and disturbs nothing else. */
  setMosaic(layout: MosaicLayout | null, pictures: Readonly<Record<string, MonitorPicture>>, port: MessagePort | null): void {
    this.mosaic?.close();
    this.mosaic = null;
    if (!layout || !port) return;
    const fps = framesPerSecond(this.show.rate) / this.working.frameStep;
    this.mosaic = new Mosaic(this.wall, layout, pictures, fps, (piece) => port.postMessage(piece, [piece.buffer]));
  }

  /** The next picture of the mosaic can be decoded by itself. */
  wantKey(): void {
    this.mosaic?.wantKey();
  }

  /** Draws as many monitors as there is time for before the next frame is due. */
  private async drawMonitors(plan: FramePlan, frame: number): Promise<void> {
    const due = frameToMicros(frame + this.working.frameStep, this.show.rate) + PICTURE_DELAY_MICROS;
    const mayGoOn = () => this.clock.millisUntil(due) > MONITOR_RESERVE_MS;
    let left = 0;
    if (mayGoOn()) {
      const jobs = this.wall.jobs(this.show, this.air, plan, PROGRAMME, (p) => this.versionOf(p));
      left = jobs.length;
      const counted = jobs.map((job) => ({ ...job, done: () => (job.done(), (left -= 1)) }));
      this.paints.forMonitors = true;
      await this.renderer.monitors(counted, plan.raster, mayGoOn).finally(() => (this.paints.forMonitors = false));
    } else left = 1;
    this.stats.monitorsSkipped += left;
  }

  /** Changes whenever any picture that a plan shows does. */
  private versionOf(plan: PicturePlan): string {
    return refsOf(plan)
      .map((ref) => (ref.kind === 'paint' ? this.paints.version(ref.paint) : this.lookup(ref)?.version))
      .join();
  }

  /** The programme as a small JPEG, for the list of shows. */
  async thumbnail(): Promise<Blob | null> {
    const { width, height } = this.show.raster;
    const canvas = new OffscreenCanvas(THUMBNAIL_WIDTH, Math.max(2, Math.round((THUMBNAIL_WIDTH * height) / width)));
    const context = canvas.getContext('2d', { alpha: false, willReadFrequently: true });
    if (!this.outputs.last(PROGRAMME_OUTPUT) || !context) return null;
    await this.renderer.monitors(
      [{ plan: wholePicture(PROGRAMME, this.show.raster), context, width: canvas.width, height: canvas.height, done: () => undefined }],
      this.show.raster,
      () => true,
    );
    return canvas.convertToBlob({ type: 'image/jpeg', quality: 0.8 });
  }
}

/** Lets messages in without the delay that nested timers have. */
const channel = new MessageChannel();
const waiting: (() => void)[] = [];
channel.port1.onmessage = () => waiting.shift()?.();
function yieldTo(callback: () => void): void {
  waiting.push(callback);
  channel.port2.postMessage(null);
}
