/** Runs sources that are drawn and synthesised in a worker, as drivers of the same shape as a camera's. */
import { type WorkerScope } from '../worker-scope';
import { type Raster } from '#core/show/raster';
import { type SourceSettings } from '#core/show/source';
import { frameToMicros, microsToFrame, type Rate } from '#core/time/rate';
import { SAMPLE_RATE, type SoundChunk } from '../sound/chunk';
import { SharedClock } from '../time/shared-clock';
import { CanvasFrames } from './canvas-frames';

/** Draws one source. Deterministic in the frame number, so that angles agree frame by frame. */
export interface Painter {
  /** A picture that never changes is sent once. */
  still?: boolean;
  paint(context: OffscreenCanvasRenderingContext2D, frame: number, rate: Rate): void;
  /** `count` stereo samples from sample `from` of show time, at SAMPLE_RATE. */
  sound?(from: number, count: number): [Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>];
}

export type PainterFactory = (settings: SourceSettings, size: Raster, rate: Rate) => Painter | null;

export type ToDrawn =
  | { type: 'start'; clock: SharedArrayBuffer; rate: Rate; frameStep: number; size: Raster }
  | { type: 'add'; id: string; settings: SourceSettings; frames: MessagePort; sound: MessagePort }
  | { type: 'size'; size: Raster }
  | { type: 'remove'; id: string };

interface Running {
  settings: SourceSettings;
  painter: Painter;
  canvas: OffscreenCanvas;
  context: OffscreenCanvasRenderingContext2D;
  frames: MessagePort;
  sound: MessagePort;
  sent: boolean;
  /** Next sample of show time to make; −1 before the first. */
  sample: number;
}

/** Sound is made this far ahead, in show microseconds: a worker that is late with its pictures must not be heard. */
const SOUND_AHEAD = 500_000;
/** Frames that may be drawn late after a stall. */
const CATCH_UP_FRAMES = 5;

/** Serves a worker's messages with the given painters. */
export function runDrawnSources(scope: WorkerScope, factory: PainterFactory): void {
  const running = new Map<string, Running>();
  const pictures = new CanvasFrames();
  let setup: { clock: SharedClock; rate: Rate; frameStep: number; size: Raster } | null = null;
  let last = -1;

  function add(message: Extract<ToDrawn, { type: 'add' }>): void {
    if (!setup) return;
    const painter = factory(message.settings, setup.size, setup.rate);
    const canvas = new OffscreenCanvas(setup.size.width, setup.size.height);
    const context = canvas.getContext('2d', { alpha: false, willReadFrequently: true });
    if (!painter || !context) return;
    remove(message.id);
    running.set(message.id, {
      settings: message.settings,
      painter,
      canvas,
      context,
      frames: message.frames,
      sound: message.sound,
      sent: false,
      sample: -1,
    });
  }

  /** Draws everything at another size from now on. */
  function resize(size: Raster): void {
    if (!setup) return;
    setup.size = size;
    for (const source of running.values()) {
      source.painter = factory(source.settings, size, setup.rate) ?? source.painter;
      Object.assign(source.canvas, { width: size.width, height: size.height });
      source.sent = false;
    }
  }

  function remove(id: string): void {
    const old = running.get(id);
    old?.frames.close();
    old?.sound.close();
    running.delete(id);
  }

  async function step(source: Running, frame: number, rate: Rate): Promise<void> {
    const stamp = frameToMicros(frame, rate);
    if (!source.painter.still || !source.sent) {
      source.painter.paint(source.context, frame, rate);
      const picture = await pictures.take(source.canvas, stamp);
      // It may have been removed meanwhile: its port is closed then.
      if (![...running.values()].includes(source)) return picture.close();
      source.frames.postMessage({ frame: picture, stamp }, [picture]);
      source.sent = true;
    }
  }

  /** Makes the sound up to `SOUND_AHEAD` from `now`, show microseconds. */
  function sound(source: Running, now: number): void {
    if (!source.painter.sound) return;
    const until = Math.round(((now + SOUND_AHEAD) * SAMPLE_RATE) / 1e6);
    // After a stall the sound goes on from now; what was missed would come too late to be heard.
    const present = Math.round((now * SAMPLE_RATE) / 1e6);
    if (source.sample < present) source.sample = present;
    const channels = source.painter.sound(source.sample, until - source.sample);
    const chunk: SoundChunk = { sample: source.sample, channels };
    source.sound.postMessage(
      chunk,
      channels.map((c) => c.buffer),
    );
    source.sample = until;
  }

  async function run(): Promise<void> {
    if (!setup) return;
    const { clock, rate, frameStep } = setup;
    for (;;) {
      const present = microsToFrame(clock.now(), rate);
      // After a short stall what was missed is still drawn, as a camera's buffer would give it.
      const next = last + frameStep;
      const frame =
        last >= 0 && present - next <= CATCH_UP_FRAMES * frameStep ? next : Math.max(next, Math.floor(present / frameStep) * frameStep);
      const wait = clock.millisUntil(frameToMicros(frame, rate));
      await new Promise((resolve) => setTimeout(resolve, Math.max(0, wait)));
      if (clock.millisUntil(frameToMicros(frame, rate)) > 1) continue;
      last = frame;
      // Sound first: after a stall pictures take their time.
      for (const source of running.values()) sound(source, clock.now());
      for (const source of [...running.values()]) await step(source, frame, rate);
    }
  }

  scope.onmessage = ({ data }: MessageEvent<ToDrawn>) => {
    if (data.type === 'start') {
      setup = { clock: new SharedClock(data.clock), rate: data.rate, frameStep: data.frameStep, size: data.size };
      void run();
    } else if (data.type === 'add') add(data);
    else if (data.type === 'size') resize(data.size);
    else remove(data.id);
  };
}
