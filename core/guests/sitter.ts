/** Who sits in a seat, as names are shown: a guest by their own name and title, anything else by the name of its picture. Pure. */
import { pictureName, sourceBehind } from '../desk/pictures';
import { type Show } from '../desk/show';
import { type Seat } from '../layout/document';

/** Null while the seat is empty. */
export function sitterOf(show: Show, { occupantId }: Pick<Seat, 'occupantId'>): { name: string; title: string } | null {
  if (occupantId === null) return null;
  const sourceId = sourceBehind(show, occupantId);
  const guest = show.guests.list.find((g) => g.sourceId === sourceId);
  return guest ? { name: guest.name, title: guest.title } : { name: pictureName(show, occupantId), title: '' };
}
