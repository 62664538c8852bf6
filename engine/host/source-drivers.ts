/** Keeps the drivers as the show wants them: starts, updates, restarts and stops them. */
import { type Air } from '#core/desk/air';
import { type Raster } from '#core/show/raster';
import { type Show } from '#core/desk/show';
import { type Source } from '#core/show/source';
import { type DriverHandle, type Drivers, type EngineFormat, type SourceLink } from '../capture/driver';
import { secondOf, type SourceHealth, type ToMixer } from '../picture/messages';
import { type SoundDesk } from '../sound/sound-desk';

interface Running {
  handle: DriverHandle;
  key: string;
  update: string;
}

/** What a driver must be restarted for; playing and points of a media file are only updates. */
function restartKey(source: Source): string {
  const { settings } = source;
  return settings.kind === 'media' ? `media ${settings.assetId}` : JSON.stringify(settings);
}

/** What a running driver must be told of. */
const updateKey = (source: Source, air: Air): string => JSON.stringify([source.settings, air.players[source.id]]);

export class SourceDrivers {
  private readonly running = new Map<string, Running>();

  constructor(
    private readonly drivers: Drivers,
    private format: EngineFormat,
    private readonly toMixer: (message: ToMixer, transfer?: Transferable[]) => void,
    private readonly sound: SoundDesk,
    private readonly onHealth: (id: string, health: SourceHealth) => void,
  ) {}

  reconcile(show: Show, air: Air): void {
    const wanted = new Map(show.sources.map((s) => [s.id, s]));
    for (const [id, { key }] of this.running) {
      const source = wanted.get(id);
      if (!source || restartKey(source) !== key) this.stop(id);
    }
    for (const source of show.sources) {
      const running = this.running.get(source.id);
      if (!running) this.start(source, air);
      else if (running.handle.update) {
        const update = updateKey(source, air);
        if (update !== running.update) running.handle.update(source, air);
        running.update = update;
      }
    }
  }

  private start(source: Source, air: Air): void {
    const driver = this.drivers[source.settings.kind];
    const link = this.link(source.id);
    // A colour needs no driver: the mixer draws it.
    const handle = driver ? driver(source, air, link, this.format) : { stop: () => undefined };
    if (source.settings.kind === 'colour') link.health('live');
    else if (!driver) link.health('lost', 'this kind of source cannot be used here');
    this.running.set(source.id, { handle, key: restartKey(source), update: updateKey(source, air) });
  }

  /** The engine works in another raster: sources that are drawn for it are drawn so. */
  resize(working: Raster): void {
    this.format = { ...this.format, working };
    for (const { handle } of this.running.values()) handle.resize?.(working);
  }

  /** Starts a source's driver anew, as after its device was lost. */
  restart(source: Source, air: Air): void {
    this.stop(source.id);
    this.start(source, air);
  }

  private stop(id: string): void {
    this.running.get(id)?.handle.stop();
    this.running.delete(id);
    this.sound.disconnect(id);
    this.toMixer({ type: 'source-gone', id });
    this.toMixer({ type: 'source-gone', id: secondOf(id) });
  }

  private link(id: string): SourceLink {
    return {
      framePort: (second) => {
        const { port1, port2 } = new MessageChannel();
        this.toMixer({ type: 'source-port', id: second ? secondOf(id) : id, port: port2 }, [port2]);
        return port1;
      },
      still: (image) => this.toMixer({ type: 'source-still', id, image, working: this.format.working }, [image]),
      soundPort: () => {
        const { port1, port2 } = new MessageChannel();
        this.sound.connectPcm(id, port2);
        return port1;
      },
      soundStream: (stream) => this.sound.connectStream(id, stream),
      health: (state, cause = '') => this.onHealth(id, { state, cause }),
    };
  }

  stopAll(): void {
    for (const id of [...this.running.keys()]) this.stop(id);
  }
}
