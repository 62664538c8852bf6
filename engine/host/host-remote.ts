/** The show as the remote sees it: a snapshot with a revision, then patches in order; commands in, answers out. */
import { type Patch } from 'immer';
import { type HostOutcome } from '#core/panels/messages';
import { type Desk } from '#core/desk/air';
import { HostLink } from '../remote/host-link';

export interface RemoteAccess {
  desk: () => Desk;
  frame: () => number;
  status: () => Record<string, unknown>;
  command: (command: unknown) => HostOutcome;
  /** Resolves when everything done so far is on disk. */
  saved: () => Promise<void>;
  connected: (connected: boolean) => void;
}

export class HostRemote {
  private readonly link: HostLink;
  private revision = 0;

  constructor(
    showId: string,
    private readonly access: RemoteAccess,
  ) {
    this.link = new HostLink({
      show: () => ({ id: showId, name: access.desk().show.name }),
      command: (command) => this.run(command),
      snapshot: () => ({ kind: 'state', revision: this.revision, ...access.desk(), frame: access.frame(), status: access.status() }),
      connected: access.connected,
    });
  }

  /** What is acknowledged is on disk: whoever sent it may count on it. */
  private async run(command: unknown): Promise<HostOutcome> {
    const outcome = this.access.command(command);
    if (outcome.ok) await this.access.saved();
    return outcome;
  }

  changed(patches: Patch[]): void {
    this.revision += 1;
    this.link.send({ kind: 'patches', revision: this.revision, frame: this.access.frame(), patches });
  }

  tellStatus(): void {
    this.link.send({ kind: 'status', frame: this.access.frame(), status: this.access.status() });
  }

  close(): void {
    this.link.close();
  }
}
