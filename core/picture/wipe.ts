/** Wipes and pushes. In a wipe every place of the picture has its turn, 0 to 1; it changes when the edge gets there. */
import { type Direction, type WipeShape } from './document';

/**
 * The turn of a place. `u`, `v` are 0 to 1 across and down; `width` and `height` give the proportions. Angles are degrees
 * clockwise from rightwards: where a linear wipe travels to, where a clock or radial wipe begins.
 */
export function wipeTurn(shape: WipeShape, angle: number, u: number, v: number, width: number, height: number): number {
  const x = (u - 0.5) * width;
  const y = (v - 0.5) * height;
  const a = (angle * Math.PI) / 180;
  switch (shape) {
    case 'linear': {
      const [cos, sin] = [Math.cos(a), Math.sin(a)];
      return (x * cos + y * sin) / (Math.abs(cos) * width + Math.abs(sin) * height) + 0.5;
    }
    case 'iris':
      return Math.hypot(x, y) / Math.hypot(width / 2, height / 2);
    case 'clock': {
      const turn = (Math.atan2(y, x) - a) / (2 * Math.PI);
      return turn - Math.floor(turn);
    }
    case 'radial': {
      // A fan: two hands part from one direction and meet opposite.
      const turn = (Math.atan2(y, x) - a) / (2 * Math.PI);
      return Math.abs(turn - Math.round(turn)) * 2;
    }
  }
}

/** Narrowest soft edge, share of the travel: about one line of a picture. */
export const HARDEST = 1 / 512;

/**
 * Share of the new picture at a place whose turn is `turn`. The soft edge lies wholly inside the travel, so position 0
 * shows none of the new picture and 1 all of it.
 */
export function wipeCoverage(position: number, softness: number, turn: number): number {
  const soft = Math.max(softness, HARDEST);
  return Math.min(1, Math.max(0, (position * (1 + soft) - turn) / soft));
}

/** Where push and slide travel to, in picture sizes. */
export function directionOf(direction: Direction): { x: number; y: number } {
  return { left: { x: -1, y: 0 }, right: { x: 1, y: 0 }, up: { x: 0, y: -1 }, down: { x: 0, y: 1 } }[direction];
}
