/** New identities for commands: the host's own, or those that a panel has given already, so that it need not wait for them. */
import { nanoid } from 'nanoid';
import { type FromPass } from '#core/panels/messages';
import { panelIdNumber } from '#core/panels/panel-messages';

/** Connections whose identities are remembered. */
const REMEMBERED = 500;

export class PanelIds {
  /** The highest number that each connection has used. */
  private readonly used = new Map<string, number>();

  /** Gives identities one after another. Those of a panel count only when they are its own and rise: nothing is ever named twice. */
  maker(from?: FromPass): () => string {
    const own = () => nanoid(12);
    if (!from) return own;
    const { session, ids } = from;
    let at = 0;
    return () => {
      const id = ids[at];
      at += 1;
      const n = id === undefined ? null : panelIdNumber(session, id);
      const last = this.used.get(session) ?? -1;
      if (id === undefined || n === null || n <= last) return own();
      this.used.delete(session);
      this.used.set(session, n);
      if (this.used.size > REMEMBERED) this.used.delete(this.used.keys().next().value as string);
      return id;
    };
  }
}
