/** What follows a show: everything that makes a part of the engine do what show and air ask for has this one shape. */
import { type Command } from '#core/commands/command';
import { type Desk } from '#core/desk/air';
import { type Person } from '#core/desk/history';
import { type DispatchAllResult, type DispatchResult } from '../client/show-client';
import { type LiveState, type Notice, type ShowState } from '../client/state';
import { type MixerPort } from './mixer-port';

export interface Follower {
  /** Show or air have changed. Called with every act, before anything else hears of it. `by` has done it with a pass. */
  follow?(desk: Desk, by?: Person): void;
  /** The mixer has mixed this frame. */
  tick?(desk: Desk, frame: number): void;
  /** The show ends: ends what it has begun. Resolves when that is done, or will not be. */
  close?(): void | Promise<void>;
}

/** What a follower may know, and ask of the host. */
export interface HostAccess {
  state(): LiveState;
  /** Sends a command of the engine's own, so that log and remote see it; null when the show is closed. */
  command(command: Command): DispatchResult | null;
  /** Sends commands of a macro as one step that takes effect at a frame, as far as that has not been drawn yet; null when the show is closed. */
  commandsAt(commands: readonly Command[], frame: number, gesture: string): DispatchAllResult | null;
  /** Says something to the crew. It leaves by itself as soon as `over` is true of the desk: what it says is over then. */
  notify(tone: Notice['tone'], text: string, over?: (desk: Desk) => boolean): void;
  /** Puts what it has found out where rooms read it. */
  set(change: Partial<Omit<ShowState, 'desk' | 'history'>>): void;
  readonly mixer: MixerPort;
}
