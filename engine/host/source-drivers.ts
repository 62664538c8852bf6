/** Keeps the drivers as the show wants them: starts, updates, restarts and stops them. */
import { type Air, type Desk } from '#core/desk/air';
import { isKind, traitsOf } from '#core/show/source-kinds';
import { type Raster } from '#core/show/raster';
import { type Source } from '#core/show/source';
import { type DrivenKind, type AnyDriver, type DriverHandle, type Drivers, type EngineFormat, type SourceLink } from '../capture/driver';
import { secondOf, type SourceHealth } from '../picture/messages';
import { type SoundDesk } from '../sound/sound-desk';
import { type Follower, type HostAccess } from './follower';

interface Running {
  handle: DriverHandle;
  key: string;
  update: string;
}

/** What a driver must be restarted for; all else is told while it runs. */
const restartKey = (source: Source): string => `${source.settings.kind} ${traitsOf(source).startedFor(source.settings)}`;

/** What a running driver must be told of. */
const updateKey = (source: Source, air: Air): string => JSON.stringify([source.settings, air.players[source.id]]);

export class SourceDrivers implements Follower {
  private readonly running = new Map<string, Running>();

  constructor(
    private readonly drivers: Drivers,
    private format: EngineFormat,
    private readonly sound: Pick<SoundDesk, 'connectPcm' | 'connectStream' | 'disconnect'>,
    private readonly host: HostAccess,
  ) {}

  follow({ show, air }: Desk): void {
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
    const link = this.link(source.id);
    this.running.set(source.id, { handle: this.open(source, air, link), key: restartKey(source), update: updateKey(source, air) });
  }

  private open(source: Source, air: Air, link: SourceLink): DriverHandle {
    if (isKind(source, 'colour')) {
      // It needs no driver: the mixer draws it.
      link.health('live');
      return { stop: () => undefined };
    }
    const driver = this.drivers[source.settings.kind as DrivenKind] as AnyDriver;
    return driver(source, air, link, this.format);
  }

  /** The press that a source needs before it may be opened; within the press itself, so that the browser lets it ask. */
  press(id: string): void {
    this.running.get(id)?.handle.press?.();
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
    this.host.mixer.send({ type: 'source-gone', id });
    this.host.mixer.send({ type: 'source-gone', id: secondOf(id) });
  }

  private link(id: string): SourceLink {
    return {
      framePort: (second) => {
        const { port1, port2 } = new MessageChannel();
        this.host.mixer.send({ type: 'source-port', id: second ? secondOf(id) : id, port: port2 }, [port2]);
        return port1;
      },
      still: (image) => this.host.mixer.send({ type: 'source-still', id, image, working: this.format.working }, [image]),
      soundPort: () => {
        const { port1, port2 } = new MessageChannel();
        this.sound.connectPcm(id, port2);
        return port1;
      },
      soundStream: (stream) => this.sound.connectStream(id, stream),
      health: (state, cause = '') => this.setHealth(id, { state, cause }),
    };
  }

  private setHealth(id: string, health: SourceHealth): void {
    this.host.set({ health: { ...this.host.state().health, [id]: health } });
    this.reportLost(id, health);
    this.host.mixer.send({ type: 'source-health', id, health });
  }

  /** Tells air which sources give no picture, so that a stinger that is lost is known before the take. */
  private reportLost(id: string, { state, cause }: SourceHealth): void {
    const now = state === 'lost' ? cause.slice(0, 300) || 'no picture' : '';
    if (state === 'waiting') return;
    // Not at once: drivers report in the middle of commands too.
    queueMicrotask(() => {
      const { show, air } = this.host.state().desk;
      if (show.sources.some((s) => s.id === id) && (air.lost[id] ?? '') !== now)
        this.host.command({ type: 'source.report', args: { source: id, cause: now } });
    });
  }

  close(): void {
    for (const id of [...this.running.keys()]) this.stop(id);
  }
}
