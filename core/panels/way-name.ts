/** What a way in by a link is called, as far as the show has what it is for. Pure. */
import { type Show } from '../desk/show';
import { type WayKind } from './way-in';

/** Of all pages of the audience, and of all viewers: there is one way for them. */
export const ALL_OF_THEM = 'all';

/** Null when the show has no such guest or source. */
export function wayName({ name, guests, sources }: Pick<Show, 'name' | 'guests' | 'sources'>, kind: WayKind, id: string): string | null {
  switch (kind) {
    case 'guest':
      return guests.list.find((g) => g.id === id)?.name ?? null;
    case 'encoder':
      return sources.find((s) => s.id === id && s.settings.kind === 'encoder')?.name ?? null;
    case 'audience':
    case 'viewer':
      return id === ALL_OF_THEM ? name : null;
  }
}
