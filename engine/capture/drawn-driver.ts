/** A driver for sources drawn in one shared worker. */
import { type Driver, type EngineFormat } from './driver';
import { type ToDrawn } from './drawn-source';

/** `open` starts the worker; it is shared by all sources of this driver and started at the first. */
export function createDrawnDriver(open: () => Worker): Driver {
  let worker: Worker | null = null;
  const started = (format: EngineFormat) => {
    if (!worker) {
      worker = open();
      const { clock, rate, frameStep, working } = format;
      worker.postMessage({ type: 'start', clock, rate, frameStep, size: working } satisfies ToDrawn);
    }
    return worker;
  };
  return (source, _air, link, format) => {
    const target = started(format);
    const frames = link.framePort();
    const sound = link.soundPort();
    const message: ToDrawn = { type: 'add', id: source.id, settings: source.settings, frames, sound };
    target.postMessage(message, [frames, sound]);
    link.health('live');
    return { stop: () => target.postMessage({ type: 'remove', id: source.id } satisfies ToDrawn) };
  };
}
