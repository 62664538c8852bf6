/** Pace of a movement: cubic curves through (0, 0) and (1, 1). */
import { type Easing } from '../show/moves';

export function ease(easing: Easing, t: number): number {
  switch (easing) {
    case 'linear':
      return t;
    case 'in':
      return t ** 3;
    case 'out':
      return 1 - (1 - t) ** 3;
    case 'in-out':
      return t < 0.5 ? 4 * t ** 3 : 1 - 4 * (1 - t) ** 3;
  }
}
