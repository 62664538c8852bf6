/** The frames of all outputs that somebody takes: each drawn once, and only when it is another picture than before. */
import { looksOf, type PicturePlan } from '#core/picture/draw';
import { type Output, PROGRAMME_OUTPUT } from '#core/screens/outputs';
import { type OutputPlan } from '#core/screens/plan';
import { containRect, fullRect } from '#core/show/geometry';
import { causeOf } from '#core/schema/cause';
import { type Raster } from '#core/show/raster';
import { type RefPicture, type Renderer } from './renderer';

/** Takes an output's frames over; each consumer is given a frame of its own to close. */
export interface OutputSink {
  output: Output;
  take: (frame: VideoFrame, stamp: number) => void;
  /** After this nothing more is given to it. */
  end: () => void;
}

interface Drawn {
  frame: VideoFrame;
  /** What was drawn, so that it is not drawn again. */
  content: string;
  serial: number;
}

/** The frame of the programme is always drawn: monitors show it, and the thumbnail of the show. */
const ALWAYS: Output = { id: PROGRAMME_OUTPUT, name: 'Programme', shows: { kind: 'programme' }, raster: null };

function contextOf(canvas: OffscreenCanvas): OffscreenCanvasRenderingContext2D {
  const context = canvas.getContext('2d', { alpha: false, willReadFrequently: true });
  if (!context) throw new Error('a canvas for an output cannot be had');
  return context;
}

export class OutputFrames {
  private readonly sinks = new Map<string, OutputSink>();
  private readonly drawn = new Map<string, Drawn>();
  private serials = 0;
  private readonly canvases = new Map<'picture' | 'around', OffscreenCanvas>();

  constructor(
    private readonly renderer: Renderer,
    /** Names the content of a plan's pictures. */
    private readonly versionOf: (plan: PicturePlan) => string,
  ) {}

  add(key: string, sink: OutputSink): void {
    this.remove(key);
    this.sinks.set(key, sink);
  }

  remove(key: string): void {
    this.sinks.get(key)?.end();
    this.sinks.delete(key);
  }

  /** The frame that an output showed last; the programme's while it has none of its own. */
  last(id: string): RefPicture | null {
    const drawn = this.drawn.get(id) ?? this.drawn.get(PROGRAMME_OUTPUT);
    if (!drawn) return null;
    const { frame, serial } = drawn;
    return { image: frame, width: frame.displayWidth, height: frame.displayHeight, opaque: true, version: `drawn ${serial}` };
  }

  /**
   * Draws what is wanted, the programme first, and hands it over; times in show microseconds. An output that cannot be drawn keeps none of
   * the others
   * from it: why it cannot is returned, null when all could.
   */
  async draw(planOf: (output: Output) => OutputPlan, stamp: number, duration: number): Promise<string | null> {
    let trouble: string | null = null;
    const wanted = new Map([[ALWAYS.id, ALWAYS]]);
    for (const { output } of this.sinks.values()) wanted.set(output.id, output);
    for (const [id, drawn] of this.drawn) if (!wanted.has(id)) this.drop(id, drawn);
    for (const output of wanted.values()) {
      const planned = planOf(output);
      try {
        const frame = await this.frameOf(output, planned, stamp, duration);
        for (const sink of this.sinks.values())
          if (sink.output.id === output.id) sink.take(new VideoFrame(frame, { timestamp: stamp, duration }), stamp);
      } catch (error) {
        if (output.id === PROGRAMME_OUTPUT) throw error;
        const size = planned.pixels ? ` in ${planned.pixels.width}×${planned.pixels.height}` : '';
        trouble ??= `The output ${output.name} cannot be drawn${size}: ${causeOf(error)} Give it fewer pixels, or something else to show.`;
      }
    }
    return trouble;
  }

  private async frameOf(output: Output, { plan, raster, pixels }: OutputPlan, stamp: number, duration: number): Promise<VideoFrame> {
    const before = this.drawn.get(output.id);
    const content = looksOf(plan) + JSON.stringify([raster, pixels]) + this.versionOf(plan);
    if (before?.content === content) return before.frame;
    // The programme below its lanes is the programme while no lane is up.
    const programme = this.drawn.get(PROGRAMME_OUTPUT);
    const frame =
      pixels === null && programme?.content === content
        ? programme.frame.clone()
        : await this.render(pixels, plan, raster, stamp, duration);
    before?.frame.close();
    this.serials += 1;
    this.drawn.set(output.id, { frame, content, serial: this.serials });
    return frame;
  }

  /** A frame in the size that the renderer works in, or in one of its own. */
  private async render(size: Raster | null, plan: PicturePlan, raster: Raster, timestamp: number, duration: number): Promise<VideoFrame> {
    if (!size) return this.renderer.programme(plan, raster, timestamp, duration);
    // What has another shape than its pixels is shown whole, black beside it.
    const { x, y, ...shape } = containRect(fullRect(size), raster.width, raster.height);
    const place = { x: Math.round(x), y: Math.round(y), width: Math.round(shape.width), height: Math.round(shape.height) };
    const whole = place.width === size.width && place.height === size.height;
    const canvas = this.canvasOf('picture', whole ? size : place);
    await this.renderer.monitors(
      [{ plan, context: contextOf(canvas), width: canvas.width, height: canvas.height, done: () => undefined }],
      raster,
      () => true,
    );
    if (whole) return new VideoFrame(canvas, { timestamp, duration });
    const around = this.canvasOf('around', size);
    const context = contextOf(around);
    context.fillStyle = '#000000';
    context.fillRect(0, 0, size.width, size.height);
    context.drawImage(canvas, place.x, place.y);
    return new VideoFrame(around, { timestamp, duration });
  }

  /** A canvas of this size, kept for the next output that wants one. */
  private canvasOf(use: 'picture' | 'around', { width, height }: Raster): OffscreenCanvas {
    const canvas = this.canvases.get(use) ?? new OffscreenCanvas(width, height);
    this.canvases.set(use, canvas);
    if (canvas.width !== width || canvas.height !== height) Object.assign(canvas, { width, height });
    return canvas;
  }

  private drop(id: string, { frame }: Drawn): void {
    frame.close();
    this.drawn.delete(id);
  }

  /** Closes every frame that is kept. */
  forget(): void {
    for (const [id, drawn] of this.drawn) this.drop(id, drawn);
  }
}
