/** What formulas can see besides their row: other sheets, and clocks at a frame. */
import { type Desk } from '../desk/air';
import { type World } from '../formula/world';
import { wholeSeconds } from '../graphics/clocks';
import { clockNamed } from '../graphics/find';
import { type Sheet } from './document';

export interface Around {
  sheets: readonly Sheet[];
  clock: World['clock'];
}

/** All of it as it is at `frame`; clocks are called by their names, whatever the capitals. */
export const aroundAt = ({ show, air }: Desk, frame: number): Around => ({
  sheets: show.sheets,
  clock: (name) => {
    const clock = clockNamed(show, name);
    return clock && wholeSeconds(clock, air.graphics, frame, show.rate);
  },
});
