/** The ways in of a show: made and withdrawn here, kept in this browser and in no show, and told to the server by their hashes. */
import { createStore } from 'zustand/vanilla';
import { type Desk } from '#core/desk/air';
import { type WayIn, type WayKind } from '#core/panels/way-in';
import { type ShowWays } from '../client/show-client';
import { db, type WayRow } from '../storage/db';
import { type Follower } from './follower';
import { hashOf, newSecret } from './secret';

const keyOf = ({ kind, id }: Pick<WayRow, 'kind' | 'id'>): string => `${kind} ${id}`;

export class WaysIn implements Follower, ShowWays {
  readonly store = createStore<{ ways: readonly WayRow[] }>(() => ({ ways: [] }));
  /** By kind and whose; null until they have been read: then the server waits for them. */
  private hashes: ReadonlyMap<string, string> | null = null;
  private toldText = '';
  /** Parts of the show that ways are for, as they were looked at last. */
  private looked: readonly unknown[] = [];
  private readonly ready: Promise<void>;

  /** `nameOf` gives the name of what a way is for; null where the show has that no more. `tell` sends the ways to the server, as `told` has them. */
  constructor(
    private readonly showId: string,
    private readonly nameOf: (kind: WayKind, id: string) => string | null,
    private readonly tell: (told: WayIn[] | null) => void,
  ) {
    this.ready = this.read();
  }

  private async read(): Promise<void> {
    await this.keep(await db.ways.where('showId').equals(this.showId).toArray());
  }

  private async keep(ways: readonly WayRow[]): Promise<void> {
    this.hashes = new Map(await Promise.all(ways.map(async (w) => [keyOf(w), await hashOf(w.secret)] as const)));
    this.store.setState({ ways });
    this.look();
  }

  /** Ways as the server may know them: for what the show has now. An undo that brings something back brings its way back too. */
  get told(): WayIn[] | null {
    const { hashes } = this;
    return (
      hashes &&
      this.store.getState().ways.flatMap((way) => {
        const { kind, id, until } = way;
        const [name, hash] = [this.nameOf(kind, id), hashes.get(keyOf(way))];
        return name !== null && hash !== undefined ? [{ kind, id, name: name.slice(0, 200), until, hash }] : [];
      })
    );
  }

  /** What a way is for may have gone, come back, or be called otherwise. */
  follow({ show: { name, guests, sources } }: Desk): void {
    const now = [name, guests.list, sources];
    if (now.every((part, i) => part === this.looked[i])) return;
    this.looked = now;
    this.look();
  }

  /** Tells the server where something has changed: a way, or a name. */
  private look(): void {
    const { told } = this;
    const text = JSON.stringify(told);
    if (text === this.toldText) return;
    this.toldText = text;
    this.tell(told);
  }

  async make(kind: WayKind, id: string, until: number | null): Promise<WayRow> {
    await this.ready;
    const row: WayRow = { showId: this.showId, kind, id, secret: newSecret(), until };
    await db.ways.put(row);
    await this.keep([...this.store.getState().ways.filter((w) => keyOf(w) !== keyOf(row)), row]);
    return row;
  }

  async withdraw(kind: WayKind, id: string): Promise<void> {
    await this.ready;
    await db.ways.delete([this.showId, kind, id]);
    await this.keep(this.store.getState().ways.filter((w) => w.kind !== kind || w.id !== id));
  }
}
