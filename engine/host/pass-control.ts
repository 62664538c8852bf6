/** The passes of a show: made and withdrawn here, kept in this browser, and told to the server, which lets people in by them. */
import { nanoid } from 'nanoid';
import { createStore } from 'zustand/vanilla';
import { type Connected } from '#core/panels/messages';
import { LONGEST_PASS_NAME, MOST_PASSES, type Pass, type PassHash, type Rooms } from '#core/panels/pass';
import { type ShowPasses } from '../client/show-client';
import { fetchAddresses } from '../remote/host-key';
import { hashOf, newSecret } from './secret';
import { db, type PassRow } from '../storage/db';

export class PassControl implements ShowPasses {
  readonly store = createStore<{ passes: readonly PassRow[]; people: readonly Connected[] }>(() => ({ passes: [], people: [] }));
  private hashes: PassHash[] = [];
  private readonly ready: Promise<void>;

  /** `tell` sends the passes to the server, as `told` has them. */
  constructor(
    private readonly showId: string,
    private readonly tell: () => void,
  ) {
    this.ready = this.read();
  }

  private async read(): Promise<void> {
    const passes = await db.passes.where('showId').equals(this.showId).toArray();
    this.store.setState({ passes: passes.sort((a, b) => a.madeAt - b.madeAt) });
    await this.changed();
  }

  /** Null until they have been read: then the server waits for them. */
  told: PassHash[] | null = null;

  private async changed(): Promise<void> {
    const { passes } = this.store.getState();
    this.hashes = await Promise.all(
      passes.map(async ({ id, name, rooms, until, secret }) => ({ id, name, rooms, until, hash: await hashOf(secret) })),
    );
    this.told = this.hashes;
    this.tell();
  }

  readonly addresses = (): Promise<readonly string[]> => fetchAddresses().catch(() => []);

  setPeople(people: readonly Connected[]): void {
    this.store.setState({ people });
  }

  /** @throws Error when there are too many already, or it is for no room */
  async add(name: string, rooms: Rooms, until: number | null): Promise<PassRow> {
    await this.ready;
    const { passes } = this.store.getState();
    if (passes.length >= MOST_PASSES) throw new Error(`A show has at most ${MOST_PASSES} passes. Withdraw those that are not used.`);
    if (Object.keys(rooms).length === 0) throw new Error('A pass is for one room at least.');
    const madeAt = Math.max(Date.now(), (passes.at(-1)?.madeAt ?? 0) + 1);
    const clean = name.trim().slice(0, LONGEST_PASS_NAME) || `Person ${passes.length + 1}`;
    const row: PassRow = { id: nanoid(12), showId: this.showId, name: clean, rooms, until, secret: newSecret(), madeAt };
    await db.passes.add(row);
    this.store.setState({ passes: [...this.store.getState().passes, row] });
    await this.changed();
    return row;
  }

  async set(id: string, change: Partial<Pick<Pass, 'name' | 'rooms' | 'until'>>): Promise<void> {
    await this.ready;
    await db.passes.update(id, change);
    this.store.setState({ passes: this.store.getState().passes.map((p) => (p.id === id ? { ...p, ...change } : p)) });
    await this.changed();
  }

  async withdraw(id: string): Promise<void> {
    await this.ready;
    await db.passes.delete(id);
    this.store.setState({ passes: this.store.getState().passes.filter((p) => p.id !== id) });
    await this.changed();
  }
}
