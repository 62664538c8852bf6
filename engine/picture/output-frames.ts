/** The frames of all outputs that somebody takes: each drawn once, and only when it is another picture than before. */
import { looksOf, type PicturePlan } from '#core/picture/draw';
import { MIXER_OUTPUTS, type Output, PROGRAMME_OUTPUT } from '#core/screens/outputs';
import { type OutputPlan } from '#core/screens/plan';
import { drawOutput, type OutputSink, outputTrouble } from './output-drawing';
import { type PictureLookup, type RefPicture, type Renderer } from './renderer';
import { ScreenFrames } from './screen-frames';

interface Drawn {
  frame: VideoFrame;
  /** What was drawn, so that it is not drawn again. */
  content: string;
  serial: number;
  /** See `OutputPlan`. */
  slot: number;
}

/** The frame of the programme is always drawn: monitors show it, and the thumbnail of the show. */
const [ALWAYS, CLEAN] = MIXER_OUTPUTS as readonly [Output, Output];

export class OutputFrames {
  private readonly sinks = new Map<string, OutputSink>();
  private readonly drawn = new Map<string, Drawn>();
  /** The slot that each sink was given last, by its key. */
  private readonly given = new Map<string, number>();
  private serials = 0;

  /** Those that only windows take, in pixels of their own. */
  readonly screens: ScreenFrames;

  constructor(
    private readonly renderer: Renderer,
    lookup: PictureLookup,
    /** Names the content of a plan's pictures. */
    private readonly versionOf: (plan: PicturePlan) => string,
  ) {
    this.screens = new ScreenFrames(renderer, lookup, versionOf);
  }

  add(key: string, sink: OutputSink): void {
    this.remove(key);
    this.sinks.set(key, sink);
  }

  remove(key: string): void {
    this.sinks.get(key)?.end();
    this.sinks.delete(key);
    this.given.delete(key);
  }

  /** The frame that an output showed last; the programme's while it has none of its own. */
  last(id: string): RefPicture | null {
    const drawn = this.drawn.get(id) ?? this.drawn.get(PROGRAMME_OUTPUT);
    if (!drawn) return null;
    const { frame, serial } = drawn;
    return { image: frame, width: frame.displayWidth, height: frame.displayHeight, opaque: true, version: `drawn ${serial}` };
  }

  /**
   * Draws what is wanted, the programme first, and hands it over; times in show microseconds. `clean`: pictures show the clean programme,
   * whether it is taken or not. An output that cannot be drawn keeps none of the others from it: why it cannot is returned, null when all
   * could.
   */
  async draw(planOf: (output: Output) => OutputPlan, clean: boolean, stamp: number, duration: number): Promise<string | null> {
    let trouble: string | null = null;
    const wanted = new Map([ALWAYS, ...(clean ? [CLEAN] : [])].map((o) => [o.id, o]));
    const waiting = this.waiting(planOf);
    for (const [key, { output }] of this.sinks) if (!waiting.has(key)) wanted.set(output.id, output);
    for (const [id, drawn] of this.drawn) if (!wanted.has(id)) this.drop(id, drawn);
    for (const output of wanted.values()) {
      const planned = planOf(output);
      try {
        const frame = await this.frameOf(output, planned, stamp, duration);
        for (const [key, sink] of this.sinks) {
          if (sink.output.id !== output.id || waiting.has(key) || this.given.get(key) === planned.slot) continue;
          this.given.set(key, planned.slot);
          sink.take(new VideoFrame(frame, { timestamp: stamp, duration }), stamp);
        }
      } catch (error) {
        if (output.id === PROGRAMME_OUTPUT) throw error;
        trouble ??= outputTrouble(output, planned, error);
      }
    }
    return trouble;
  }

  /** Sinks of outputs that only windows take, in pixels of their own: they get what there is time for. */
  private waiting(planOf: (output: Output) => OutputPlan): ReadonlyMap<string, OutputSink> {
    const every = new Set([...this.sinks.values()].flatMap((s) => (s.every ? [s.output.id] : [])));
    return new Map([...this.sinks].filter(([, s]) => !every.has(s.output.id) && planOf(s.output).pixels !== null));
  }

  /** Goes on with outputs that only windows take, in the milliseconds that are left: see `ScreenFrames`. */
  drawScreens(
    planOf: (output: Output) => OutputPlan,
    groupOf: (output: Output) => string,
    stamp: number,
    duration: number,
    leftMs: () => number,
  ): Promise<string | null> {
    return this.screens.draw(this.waiting(planOf), planOf, groupOf, stamp, duration, leftMs);
  }

  private async frameOf(output: Output, planned: OutputPlan, stamp: number, duration: number): Promise<VideoFrame> {
    const { plan, raster, pixels, finish = null, frozen, slot } = planned;
    const before = this.drawn.get(output.id);
    if (before && (frozen || before.slot === slot)) return before.frame;
    const content = looksOf(plan) + JSON.stringify([raster, pixels, finish]) + this.versionOf(plan);
    if (before?.content === content) {
      before.slot = slot;
      return before.frame;
    }
    // The programme below its lanes is the programme while no lane is up.
    const programme = this.drawn.get(PROGRAMME_OUTPUT);
    const frame =
      pixels === null && !finish && programme?.content === content
        ? programme.frame.clone()
        : await drawOutput(this.renderer, planned, stamp, duration);
    before?.frame.close();
    this.serials += 1;
    this.drawn.set(output.id, { frame, content, slot, serial: this.serials });
    return frame;
  }

  private drop(id: string, { frame }: Drawn): void {
    frame.close();
    this.drawn.delete(id);
  }

  /** Closes what was drawn in the size that the renderer works in. */
  forget(): void {
    for (const [id, drawn] of this.drawn) this.drop(id, drawn);
  }

  /** Closes every frame that is kept. */
  close(): void {
    this.forget();
    this.screens.forget();
  }
}
