/** What the commands of guests share. */
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { usesOf } from '../desk/uses';
import { awayGuest, type GuestNow } from './air';
import { type Guest } from './document';

/** @throws CommandError when there is no such guest */
export function guestOf({ show }: Desk, id: string, field = 'guest'): Guest {
  const guest = show.guests.list.find((g) => g.id === id);
  if (!guest) throw new CommandError('unknown-guest', `There is no guest "${id}" in this show.`, field);
  return guest;
}

/** How it stands with a guest, to be changed. */
export function nowOf({ air }: Desk, id: string, frame: number): GuestNow {
  return (air.guests.now[id] ??= awayGuest(frame));
}

/** Places on air at which somebody is seen. */
export function seenOnAir({ show, air }: Desk, { sourceId, screenId }: Pick<Guest, 'sourceId' | 'screenId'>, frame: number): string[] {
  return [sourceId, screenId].flatMap((id) =>
    id === null
      ? []
      : usesOf(show, air, 'source', id, frame)
          .filter((u) => u.onAir)
          .map((u) => u.place),
  );
}
