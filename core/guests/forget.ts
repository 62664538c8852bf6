/** What is forgotten of guests in air when one is gone from the show, or a clock that they see. */
import { type Desk } from '../desk/air';

export function forgetInGuests({ show, air }: Desk): void {
  const there = new Set(show.guests.list.map((g) => g.id));
  for (const id of Object.keys(air.guests.now)) if (!there.has(id)) delete air.guests.now[id];
  const clocks = new Set(show.graphics.clocks.map((c) => c.id));
  for (const now of Object.values(air.guests.now)) if (now.clockId !== null && !clocks.has(now.clockId)) now.clockId = null;
}
