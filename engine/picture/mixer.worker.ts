/** The mixer's thread: answers the page and runs the loop. */
import { workerScope } from '../worker-scope';
import { SharedClock } from '../time/shared-clock';
import { MixerLoop } from './mixer-loop';
import { FrameOutlet, WINDOW_FRAMES } from './frame-outlet';
import { PlaneOutlet } from './plane-outlet';
import { type FromMixer, type MixerStats, type ToMixer } from './messages';
import { internDesk } from '#core/graphics/intern';
import { causeOf } from '#core/schema/cause';
import { type Raster } from '#core/show/raster';
import { GlRenderer } from './gl-renderer';
import { PaintStore } from './paint-store';
import { loadPlateFonts } from './plates';
import { type PictureLookup, type Renderer } from './renderer';
import { SoftRenderer } from './soft-renderer';
import { chooseUploadPath, describeRenderer } from './upload-trial';

const scope = workerScope;
const say = (message: FromMixer) => scope.postMessage(message);

let loop: MixerLoop | null = null;
const early: ToMixer[] = [];

/** The newest tick that the page has not been told of: a busy page gets one when it comes back, not one for each frame. */
let untold: { frame: number; stats: MixerStats } | null = null;
let telling = false;

function tell(frame: number, stats: MixerStats): void {
  untold = { frame, stats };
  if (telling) return;
  telling = true;
  say({ type: 'tick', ...untold });
  untold = null;
}

function taken(): void {
  telling = false;
  if (untold) tell(untold.frame, untold.stats);
}

/** WebGL2 where a graphics card draws it; in software planes are far quicker than a software driver. */
async function chooseRenderer(working: Raster, prefer: 'gl' | 'soft' | null) {
  const canvas = new OffscreenCanvas(working.width, working.height);
  const gl =
    prefer === 'soft'
      ? null
      : canvas.getContext('webgl2', { alpha: false, antialias: false, depth: false, stencil: false, powerPreference: 'high-performance' });
  const described = gl ? describeRenderer(gl) : { renderer: 'no WebGL2', software: true };
  if (!gl || (described.software && prefer !== 'gl'))
    return { ...described, create: (lookup: PictureLookup): Renderer => new SoftRenderer(working, lookup) };
  const path = await chooseUploadPath(gl);
  return { ...described, create: (lookup: PictureLookup): Renderer => new GlRenderer(gl, lookup, path) };
}

async function start(message: Extract<ToMixer, { type: 'start' }>): Promise<void> {
  await loadPlateFonts().catch(() => undefined);
  const { renderer, software, create } = await chooseRenderer(message.working.raster, message.prefer);
  const { show, air } = message.desk;
  internDesk(message.desk, true);
  loop = new MixerLoop(
    create,
    new SharedClock(message.clock),
    show,
    air,
    message.working,
    (id, width, height) => say({ type: 'source-seen', id, width, height }),
    (frame, stats) => tell(frame, stats),
    (message) => say({ type: 'failed', message }),
    new PaintStore(
      (message) => say({ type: 'paint-failed', message }),
      () => say({ type: 'graphics-dead' }),
    ),
  );
  say({ type: 'ready', renderer, software, mixer: loop.renderer.description });
  for (const waiting of early.splice(0)) handle(loop, waiting);
  await loop.run();
}

function handle(loop: MixerLoop, message: ToMixer): void {
  switch (message.type) {
    case 'desk':
      return loop.receive(message);
    case 'tick-taken':
      return taken();
    case 'working':
      return loop.setWorking(message.working);
    case 'source-port':
      return loop.sources.connectPort(message.id, message.port);
    case 'source-still':
      return loop.sources.setStill(message.id, message.image, message.working);
    case 'source-gone':
      return loop.sources.remove(message.id);
    case 'source-health':
      return loop.sources.setHealth(message.id, message.health);
    case 'mosaic':
      return loop.setMosaic(message.layout, message.pictures, message.port);
    case 'mosaic-key':
      return loop.wantKey();
    case 'monitor':
      return loop.wall.attach(message.key, message.canvas, message.picture);
    case 'monitor-size':
      return loop.wall.resize(message.key, message.width, message.height);
    case 'monitor-gone':
      return loop.wall.detach(message.key);
    case 'output-port': {
      const { key, port, output, waiting, as } = message;
      const outlet = as === 'frames' ? new FrameOutlet(port, waiting) : new PlaneOutlet(port, waiting, () => loop.outputs.remove(key));
      const take = (frame: VideoFrame, stamp: number) => outlet.send({ frame, stamp });
      return loop.outputs.add(key, { output, take, every: waiting > WINDOW_FRAMES, end: () => outlet.close() });
    }
    case 'output-gone':
      return loop.outputs.remove(message.key);
    case 'copies-port':
      return loop.sources.copyTo(message.id, message.port);
    case 'copies-gone':
      return loop.sources.copyNoMore(message.id);
    case 'graphics-port':
      return loop.paints.connect(message.port);
    case 'thumbnail':
      void loop.thumbnail().then((blob) => blob && say({ type: 'thumbnail', blob }));
      return;
    case 'start':
      return;
  }
}

scope.onmessage = ({ data }: MessageEvent<ToMixer>) => {
  if (data.type === 'start') {
    start(data).catch((error: unknown) => say({ type: 'failed', message: causeOf(error) }));
  } else if (loop) handle(loop, data);
  else early.push(data);
};
