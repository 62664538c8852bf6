/** Words for movements that several domains share. */

export const EASINGS = ['linear', 'in', 'out', 'in-out'] as const;

/** How a movement gathers and loses pace. */
export type Easing = (typeof EASINGS)[number];

export const EDGES = ['left', 'right', 'top', 'bottom'] as const;

export type Edge = (typeof EDGES)[number];
