/** What formulas can see besides their row: other sheets, and clocks at a frame. */
import { type Desk } from '../desk/air';
import { type World } from '../formula/world';
import { wholeSeconds } from '../graphics/clocks';
import { sitterOf } from '../guests/sitter';
import { clockNamed } from '../graphics/find';
import { type Sheet } from './document';

export interface Around {
  sheets: readonly Sheet[];
  clock: World['clock'];
  seat: World['seat'];
}

/** All of it as it is at `frame`; clocks and seats are called by their names, whatever the capitals. */
export const aroundAt = ({ show, air }: Desk, frame: number): Around => ({
  sheets: show.sheets,
  clock: (name) => {
    const clock = clockNamed(show, name);
    return clock && wholeSeconds(clock, air.graphics, frame, show.rate);
  },
  seat: (name) => {
    const seat = show.seats.find((s) => s.name.toLowerCase() === name.trim().toLowerCase());
    return seat && sitterOf(show, seat);
  },
});
