/** A driver for sources drawn in one shared worker. */
import { type Raster } from '#core/show/raster';
import { type AnyDriver, type EngineFormat } from './driver';
import { type ToDrawn } from './drawn-source';

/** `open` starts the worker; it is shared by all sources of a show and started at the first. */
export function createDrawnDriver(open: () => Worker): AnyDriver {
  let running: { worker: Worker; clock: SharedArrayBuffer; size: Raster } | null = null;
  const started = ({ clock, rate, frameStep, working: size }: EngineFormat) => {
    // Another show has a clock of its own.
    if (running?.clock !== clock) {
      running?.worker.terminate();
      running = { worker: open(), clock, size };
      running.worker.postMessage({ type: 'start', clock, rate, frameStep, size } satisfies ToDrawn);
    }
    return running.worker;
  };
  return (source, _air, link, format) => {
    const worker = started(format);
    const frames = link.framePort();
    const sound = link.soundPort();
    const message: ToDrawn = { type: 'add', id: source.id, settings: source.settings, frames, sound };
    worker.postMessage(message, [frames, sound]);
    link.health('live');
    return {
      stop: () => worker.postMessage({ type: 'remove', id: source.id } satisfies ToDrawn),
      resize: (size) => {
        // One word is enough for all that this worker draws.
        if (running?.worker !== worker || (running.size.width === size.width && running.size.height === size.height)) return;
        running.size = size;
        worker.postMessage({ type: 'size', size } satisfies ToDrawn);
      },
    };
  };
}
