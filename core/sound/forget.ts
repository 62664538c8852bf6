/** Takes what is gone from the show out of the sound desk. */
import { type Desk } from '../desk/air';
import { type Show } from '../desk/show';
import { type EntityKind } from '../schema/kinds';
import { PROGRAMME_BUS } from './document';

/**
 * What goes with a thing although it does not have to: a guest who was nobody but the channel that is gone, and the bus that was made for
 * a guest, unless others use it.
 */
export function goesWithSound({ sound }: Show, gone: { kind: EntityKind; id: string }): { kind: EntityKind; id: string }[] {
  if (gone.kind === 'listener') return busOfGuest(sound, gone.id);
  const guests =
    gone.kind === 'source' || gone.kind === 'input'
      ? sound.listeners.filter((l) => l.kind === 'guest' && l.ownIds.length === 1 && l.ownIds[0] === gone.id)
      : [];
  return guests.flatMap((guest) => [{ kind: 'listener' as const, id: guest.id }, ...busOfGuest(sound, guest.id)]);
}

/** The bus that was made for this guest and is used by nobody else. */
function busOfGuest(sound: Show['sound'], id: string): { kind: EntityKind; id: string }[] {
  const guest = sound.listeners.find((l) => l.id === id);
  if (guest?.kind !== 'guest' || guest.busId === PROGRAMME_BUS) return [];
  const { busId } = guest;
  const used =
    sound.listeners.some((l) => l.id !== id && l.busId === busId) ||
    sound.patches.some((p) => p.busId === busId) ||
    sound.sends.some((s) => s.fromId === busId);
  return used ? [] : [{ kind: 'bus', id: busId }];
}

/** Solo, ears, talkback, holds and measurements of what is gone end. */
export function forgetInSound({ show, air }: Desk, _kind: EntityKind, id: string): void {
  const { sound } = air;
  const { buses, listeners, inputs } = show.sound;
  const heard = new Set([...buses, ...inputs, ...show.sources].map((s) => s.id));
  if (sound.solos.some((s) => s.id === id) && !heard.has(id)) sound.solos = sound.solos.filter((s) => s.id !== id);
  if (sound.earsId === id && !heard.has(id)) sound.earsId = PROGRAMME_BUS;
  if (!heard.has(id)) {
    delete sound.held[id];
    delete sound.loudness[id];
  }
  const { talkback } = sound;
  if (talkback && talkback.listenerIds.some((l) => !listeners.some((known) => known.id === l)))
    talkback.listenerIds = talkback.listenerIds.filter((l) => listeners.some((known) => known.id === l));
}
