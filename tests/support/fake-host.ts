/** A host for followers in tests: it holds a desk, does what they ask at once, and writes down what it is told. */
import { type Command } from '#core/commands/command';
import { type Desk } from '#core/desk/air';
import { executeAll } from '#core/desk/execute';
import { type DispatchAllResult, type DispatchResult } from '#engine/client/show-client';
import { type LiveState } from '#engine/client/state';
import { type Follower, type HostAccess } from '#engine/host/follower';
import { MixerPort } from '#engine/host/mixer-port';
import { firstState } from '#engine/client/first-state';
import { noStats } from '#engine/picture/messages';
import { type FromMixer, type ToMixer } from '#engine/picture/messages';
import { FakeWorker } from './fake-worker';
import { must, sampleDesk } from './sample-show';

export class FakeHost implements HostAccess {
  readonly commands: Command[] = [];
  readonly notices: string[] = [];
  readonly mixerWorker = new FakeWorker<ToMixer, FromMixer>();
  readonly mixer: MixerPort;
  frame = 0;
  /** Told of every change, once it is set. */
  follower: Follower | null = null;
  private now: LiveState;

  constructor(desk: Desk = sampleDesk()) {
    // It is the host's own, and none of those that a follower starts.
    FakeWorker.started = FakeWorker.started.filter((w) => (w as unknown) !== this.mixerWorker);
    const working = { raster: { width: 64, height: 36 }, frameStep: 1 } as LiveState['working'];
    this.now = { ...firstState(desk, working), soundAwake: true, frame: 0, mixer: noStats() };
    this.mixer = new MixerPort(this.mixerWorker as unknown as Worker, {
      tick: () => undefined,
      ready: () => undefined,
      seen: () => undefined,
      thumbnail: () => undefined,
      failed: () => undefined,
      paintFailed: () => undefined,
      graphicsDead: () => undefined,
    });
  }

  get desk(): Desk {
    return this.now.desk;
  }

  set desk(desk: Desk) {
    this.now = { ...this.now, desk };
  }

  // Followers take these out of the host, so they are bound to it.
  readonly state = (): LiveState => ({ ...this.now, frame: this.frame });

  readonly set = (change: Partial<LiveState>): void => {
    this.now = { ...this.now, ...change };
  };

  readonly notify = (tone: string, text: string): void => void this.notices.push(`${tone}: ${text}`);

  readonly command = (command: Command): DispatchResult => {
    this.commands.push(command);
    this.run(command.type, command.args);
    return { ok: true, result: {} };
  };

  readonly commandsAt = (commands: readonly Command[], frame: number): DispatchAllResult => {
    const done = executeAll(this.desk, commands, { frame, newId: () => `at-${this.commands.length}` });
    if (!done.ok) return done;
    this.commands.push(...commands);
    this.desk = done.desk;
    this.follower?.follow?.(this.desk);
    return { ok: true, results: done.results };
  };

  /** Runs a command that must succeed, and tells the follower. */
  readonly run = (type: string, args: Record<string, unknown> = {}): void => {
    this.desk = must(this.desk, type, args, this.frame);
    this.follower?.follow?.(this.desk);
  };

  /** What the mixer was told, in short: kind, and what of. */
  get mixed(): string[] {
    return this.mixerWorker.told.map((m) =>
      m.type === 'output-port' ? `${m.type} ${m.output.id}` : `${m.type} ${'id' in m ? m.id : ''}`.trim(),
    );
  }
}
