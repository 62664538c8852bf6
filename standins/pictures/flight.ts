/** The simulated kite flight that all cameras look at: one moment, worked out from its time alone. */

/** Metres; x along the shore, y out to sea, z up. The pilot stands at the origin on the pier. */
export interface Point {
  x: number;
  y: number;
  z: number;
}

export interface Flight {
  kite: Point;
  /** Roll of the kite, radians. */
  roll: number;
  /** Metres a second. */
  wind: number;
  /** Heat in progress and seconds of its 90 left. */
  heat: number;
  heatLeft: number;
  /** Phase of the swell, radians. */
  swell: number;
}

const HEAT_SECONDS = 90;

/** The flight at `seconds` of show time. Smooth, repeatable, never the same twice in a show's length. */
export function flightAt(seconds: number): Flight {
  const t = seconds;
  const azimuth = 0.75 * Math.sin(t * 0.43) + 0.22 * Math.sin(t * 1.31 + 0.6);
  const elevation = 0.62 + 0.22 * Math.sin(t * 0.86 + 1.1) + 0.07 * Math.sin(t * 2.3);
  const line = 42 + 3 * Math.sin(t * 0.2);
  return {
    kite: {
      x: line * Math.cos(elevation) * Math.sin(azimuth),
      y: line * Math.cos(elevation) * Math.cos(azimuth),
      z: 2 + line * Math.sin(elevation),
    },
    roll: 0.9 * Math.cos(t * 0.43) + 0.35 * Math.cos(t * 1.31 + 0.6),
    wind: 8.5 + 2.1 * Math.sin(t * 0.31) + 0.9 * Math.sin(t * 1.7),
    heat: 1 + (Math.floor(t / HEAT_SECONDS) % 12),
    heatLeft: HEAT_SECONDS - (t % HEAT_SECONDS),
    swell: t * 0.9,
  };
}
