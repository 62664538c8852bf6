/**
 * The frames of outputs that only windows take, in pixels of their own: drawn in the time that the programme leaves. All outputs of one
 * surface are drawn of one frame of the show, however many frames of the programme that takes, and leave together.
 */
import { looksOf, type PicturePlan } from '#core/picture/draw';
import { type Output } from '#core/screens/outputs';
import { type OutputPlan } from '#core/screens/plan';
import { drawOutput, type OutputSink, outputTrouble } from './output-drawing';
import { isFrame, type PictureLookup, refKey, type RefPicture, refsOf, type Renderer } from './renderer';

/** What is seen does not change for so long: it is sent again all the same, so that whoever takes it knows that it is there. Microseconds. */
const AGAIN_MICROS = 1_000_000;
/** Ticks of the mixer that a group waits at most for time to be left. */
const MOST_WAIT = 8;
/** How much of a new cost is believed at once, when it is higher than thought, and when it is lower. */
const BELIEVED = { higher: 0.3, lower: 0.8 };
/** What handing over takes stands among the costs under this name, which no output has. */
const HANDING = ' handing over';
/** How often rates are worked out, microseconds. */
const RATE_MICROS = 1_000_000;

/** Frames a second of an output; null while its picture stands still. */
export type ScreenRates = Record<string, number | null>;

interface Shown {
  frame: VideoFrame;
  content: string;
  /** When it was sent last, show microseconds, by the key of the sink. */
  sent: Map<string, number>;
  drawn: number;
  /** See `OutputPlan`. */
  slot: number;
}

/** Outputs that are drawn of one frame of the show. */
interface Job {
  group: string;
  stamp: number;
  left: { output: Output; planned: OutputPlan; content: string }[];
  done: { output: Output; frame: VideoFrame; content: string; slot: number }[];
  pictures: Pictures;
}

/** Pictures as they were when a job began. */
class Pictures {
  private readonly kept = new Map<string, RefPicture | null>();

  constructor(
    plans: readonly PicturePlan[],
    private readonly live: PictureLookup,
  ) {
    for (const ref of plans.flatMap(refsOf)) {
      const key = refKey(ref);
      if (ref.kind === 'paint' || this.kept.has(key)) continue;
      const picture = live(ref);
      this.kept.set(key, picture && isFrame(picture.image) ? { ...picture, image: picture.image.clone() } : picture);
    }
  }

  /** A paint is what it is by its key: it is looked up as it is wanted. */
  readonly lookup: PictureLookup = (ref, size) => {
    const kept = ref.kind === 'paint' ? undefined : this.kept.get(refKey(ref));
    return kept === undefined ? this.live(ref, size) : kept;
  };

  close(): void {
    for (const picture of this.kept.values()) if (picture && isFrame(picture.image)) picture.image.close();
  }
}

export class ScreenFrames {
  private readonly shown = new Map<string, Shown>();
  private job: Job | null = null;
  /** What an output took to draw lately, milliseconds, by its identity. */
  private readonly costs = new Map<string, number>();
  /** Why outputs cannot be drawn, by their identity. */
  private readonly troubles = new Map<string, string>();
  private waited = 0;
  private last = '';
  private counted = 0;
  /** Measured; of every output that somebody takes. */
  readonly rates: ScreenRates = {};

  constructor(
    private readonly renderer: Renderer,
    private readonly lookup: PictureLookup,
    private readonly versionOf: (plan: PicturePlan) => string,
  ) {}

  /**
   * Goes on with what is being drawn, as far as it fits into `leftMs`, and hands over what is finished. `groupOf` names what is drawn together.
   * Times in show microseconds. Returns why an output cannot be drawn, null when all can.
   */
  async draw(
    sinks: ReadonlyMap<string, OutputSink>,
    planOf: (output: Output) => OutputPlan,
    groupOf: (output: Output) => string,
    stamp: number,
    duration: number,
    leftMs: () => number,
  ): Promise<string | null> {
    const wanted = new Map([...sinks.values()].map(({ output }) => [output.id, output]));
    for (const id of this.shown.keys()) if (!wanted.has(id)) this.drop(id);
    this.measure(stamp);
    this.again(sinks, stamp, duration);
    this.waited += 1;
    for (const id of this.troubles.keys()) if (!wanted.has(id)) this.troubles.delete(id);
    await this.goOn(sinks, wanted, planOf, groupOf, stamp, duration, leftMs);
    const [trouble = null] = this.troubles.values();
    return trouble;
  }

  private async goOn(
    sinks: ReadonlyMap<string, OutputSink>,
    wanted: ReadonlyMap<string, Output>,
    planOf: (output: Output) => OutputPlan,
    groupOf: (output: Output) => string,
    stamp: number,
    duration: number,
    leftMs: () => number,
  ): Promise<void> {
    let drawn = 0;
    // As many groups as there is time for, each at most once.
    for (let turns = new Set([...wanted.values()].map(groupOf)).size; turns > 0; turns -= 1) {
      const job = (this.job ??= this.next([...wanted.values()], planOf, groupOf, stamp));
      if (!job) return;
      for (;;) {
        const one = job.left[0];
        if (!one) break;
        // Begun only where it will be done in time, but never put off for long.
        const { id } = one.output;
        if (!this.fits(id, drawn, leftMs())) return;
        drawn += 1;
        this.waited = 0;
        job.left.shift();
        if (!wanted.has(id)) continue;
        const started = performance.now();
        try {
          const frame = await drawOutput(this.renderer, one.planned, job.stamp, duration, job.pictures.lookup);
          this.troubles.delete(one.output.id);
          job.done.push({ output: one.output, frame, content: one.content, slot: one.planned.slot });
          this.cost(id, performance.now() - started);
        } catch (error) {
          this.troubles.set(one.output.id, outputTrouble(one.output, one.planned, error));
        }
      }
      if (!this.fits(HANDING, 0, leftMs())) return;
      this.waited = 0;
      const started = performance.now();
      this.finish(job, sinks);
      this.cost(HANDING, performance.now() - started);
    }
  }

  /** True when something can be done in the time that is left, or has waited long enough. What was never done is tried first in its tick. */
  private fits(what: string, drawn: number, leftMs: number): boolean {
    const cost = this.costs.get(what) ?? (drawn > 0 ? Infinity : 0);
    return leftMs > cost || this.waited >= MOST_WAIT;
  }

  private cost(what: string, took: number): void {
    const before = this.costs.get(what) ?? took;
    this.costs.set(what, before + (took - before) * (took > before ? BELIEVED.higher : BELIEVED.lower));
  }

  /** The next group of which anything has changed. */
  private next(
    outputs: readonly Output[],
    planOf: (output: Output) => OutputPlan,
    groupOf: (output: Output) => string,
    stamp: number,
  ): Job | null {
    const groups = [...new Set(outputs.map(groupOf))];
    const from = groups.indexOf(this.last) + 1;
    for (const group of [...groups.slice(from), ...groups.slice(0, from)]) {
      const left = outputs.flatMap((output): Job['left'] => {
        if (groupOf(output) !== group) return [];
        const planned = planOf(output);
        const before = this.shown.get(output.id);
        if (before && (planned.frozen || planned.slot === before.slot)) return [];
        const { plan, raster, pixels, finish = null } = planned;
        const content = looksOf(plan) + JSON.stringify([raster, pixels, finish]) + this.versionOf(plan);
        return before?.content === content ? [] : [{ output, planned, content }];
      });
      if (left.length === 0) continue;
      this.last = group;
      return {
        group,
        stamp,
        left,
        done: [],
        pictures: new Pictures(
          left.map((l) => l.planned.plan),
          this.lookup,
        ),
      };
    }
    return null;
  }

  /** Everything of one group leaves together. */
  private finish(job: Job, sinks: ReadonlyMap<string, OutputSink>): void {
    this.job = null;
    job.pictures.close();
    for (const { output, frame, content, slot } of job.done) {
      const before = this.shown.get(output.id);
      before?.frame.close();
      this.shown.set(output.id, { frame, content, slot, sent: new Map(), drawn: (before?.drawn ?? 0) + 1 });
    }
    this.again(sinks, job.stamp, 0);
  }

  /** Sends what was not sent yet, or not for long. */
  private again(sinks: ReadonlyMap<string, OutputSink>, stamp: number, duration: number): void {
    for (const [key, sink] of sinks) {
      const shown = this.shown.get(sink.output.id);
      const sent = shown?.sent.get(key);
      if (!shown || (sent !== undefined && stamp - sent < AGAIN_MICROS)) continue;
      shown.sent.set(key, stamp);
      const timestamp = sent === undefined ? shown.frame.timestamp : stamp;
      sink.take(new VideoFrame(shown.frame, { timestamp, ...(duration > 0 && { duration }) }), timestamp);
    }
  }

  private measure(stamp: number): void {
    const since = stamp - this.counted;
    if (since < RATE_MICROS && since >= 0) return;
    this.counted = stamp;
    for (const id of Object.keys(this.rates)) if (!this.shown.has(id)) delete this.rates[id];
    for (const [id, shown] of this.shown) {
      this.rates[id] = shown.drawn > 0 ? (shown.drawn * 1e6) / Math.max(since, RATE_MICROS) : null;
      shown.drawn = 0;
    }
  }

  private drop(id: string): void {
    this.shown.get(id)?.frame.close();
    this.shown.delete(id);
  }

  /** Closes every frame that is kept. */
  forget(): void {
    for (const { frame } of this.job?.done ?? []) frame.close();
    this.job?.pictures.close();
    this.job = null;
    for (const id of [...this.shown.keys()]) this.drop(id);
  }
}
