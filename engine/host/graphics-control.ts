/** Keeps the graphics worker running, and tells air the time of day for clocks that need it. */
import { type Desk } from '#core/desk/air';
import { heldUntil } from '#core/graphics/animation/timed';
import { timeOfDay } from '#core/graphics/clocks';
import { type Growing, type Sizes } from '#core/graphics/grow';
import { wantedSizes } from '#core/graphics/growing';
import { type SizesTold, type ToGraphics } from '../graphics/messages';
import { type Follower, type HostAccess } from './follower';

/** The time of day is told again when it is off by this, seconds: less than a frame. */
const OFF_SECONDS = 0.02;
/** Frames between two looks at the clock on the wall. */
const LOOK_EVERY = 250;

/** Milliseconds after midnight on this machine's clock. */
export function millisOfDay(now = new Date()): number {
  return ((now.getHours() * 60 + now.getMinutes()) * 60 + now.getSeconds()) * 1000 + now.getMilliseconds();
}

export class GraphicsControl implements Follower {
  private worker: Worker | null = null;
  private looked = -Infinity;
  private said = 0;
  /** Texts that are being measured. */
  private readonly measuring = new Set<string>();
  /** Sizes that are known may be wrong. */
  private stale = false;
  private fonts: Desk['show']['graphics']['fonts'] = [];

  constructor(
    private readonly access: HostAccess,
    private readonly open: () => Worker = () => new Worker(new URL('../graphics/graphics.worker.ts', import.meta.url), { type: 'module' }),
  ) {
    this.start();
  }

  private tellFonts(): void {
    const fonts = this.fonts.map(({ family, assetId }) => ({ family, assetId }));
    this.worker?.postMessage({ type: 'fonts', fonts } satisfies ToGraphics);
  }

  private start(): void {
    const worker = this.open();
    this.worker = worker;
    worker.onerror = () => this.restart();
    worker.onmessage = ({ data }: MessageEvent<SizesTold>) => this.measured(data.sizes);
    this.measuring.clear();
    this.tellFonts();
    const { port1, port2 } = new MessageChannel();
    worker.postMessage({ type: 'port', port: port1 } satisfies ToGraphics, [port1]);
    // What was asked of the one before and has not come is asked again: what is on air comes back.
    this.access.mixer.send({ type: 'graphics-port', port: port2 }, [port2]);
  }

  /** The worker has died, or hangs: another takes its place. */
  restart(): void {
    this.worker?.terminate();
    this.start();
    this.access.notify('caution', 'The drawing of graphics stood still and was started anew. What is on air stayed.');
  }

  /** A graphic cannot be drawn. Said not more often than every few seconds. */
  failed(message: string): void {
    if (performance.now() - this.said < 5000) return;
    this.said = performance.now();
    this.access.notify(
      'caution',
      `A graphic cannot be drawn: ${message}. Make it smaller, or choose another file. The rest is on air as it was.`,
    );
  }

  /** Holds of animations that have lasted as long as they are to. */
  private endHolds({ show, air }: Desk, frame: number): void {
    for (const [lane, { picture, fade }] of Object.entries(air.lanes)) {
      if (picture?.kind !== 'graphic' || fade.to === 0) continue;
      const until = heldUntil(picture.shown, show.rate);
      if (until !== null && frame + 1 >= until) this.access.command({ type: 'lane.holdOver', args: { lane } });
    }
  }

  tick({ show, air }: Desk, frame: number): void {
    this.endHolds({ show, air }, frame);
    if (frame - this.looked < LOOK_EVERY) return;
    this.looked = frame;
    if (!show.graphics.clocks.some((c) => c.kind === 'day' || c.kind === 'until')) return;
    const millis = millisOfDay();
    const told = timeOfDay(air.graphics.day, frame, show.rate);
    if (told === null || Math.abs(told - millis / 1000) > OFF_SECONDS) this.access.command({ type: 'clock.day', args: { millis } });
  }

  follow({ show, air }: Desk): void {
    if (show.graphics.fonts !== this.fonts) {
      this.fonts = show.graphics.fonts;
      this.tellFonts();
      // Another font, another size.
      this.measuring.clear();
      this.stale = true;
    }
    this.measure({ show, air });
    // The first clock of the time of day should not wait.
    if (air.graphics.day === null && show.graphics.clocks.some((c) => c.kind === 'day' || c.kind === 'until')) this.looked = -Infinity;
  }

  /** Asks for the sizes of texts in boxes that grow which are not known yet. */
  private measure(desk: Desk): void {
    const { sizes } = desk.air.graphics;
    const texts: Growing[] = [];
    for (const [key, text] of wantedSizes(desk)) if ((this.stale || !sizes[key]) && !this.measuring.has(key)) texts.push(text);
    this.stale = false;
    if (texts.length === 0) return;
    for (const { key } of texts) this.measuring.add(key);
    this.worker?.postMessage({ type: 'sizes', id: 0, texts } satisfies ToGraphics);
  }

  /** Tells air what was measured, and forgets what is not wanted any more. */
  private measured(found: Sizes): void {
    for (const key of Object.keys(found)) this.measuring.delete(key);
    const { desk } = this.access.state();
    const known = { ...desk.air.graphics.sizes, ...found };
    const sizes = [...wantedSizes(desk).keys()].flatMap((key) => (known[key] ? [{ key, ...known[key] }] : []));
    this.access.command({ type: 'graphic.sizes', args: { sizes } });
  }

  close(): void {
    this.worker?.terminate();
    this.worker = null;
  }
}
