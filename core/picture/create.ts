/** Lanes and transitions with sensible first settings. */
import { MOST_LANES, type Lane, type StoredTransition, type Transition } from './document';

/** A lane that fades in and out. */
export function createLane(id: string, name: string, number: number | null): Lane {
  return {
    id,
    name,
    number,
    content: null,
    in: { kind: 'fade', edge: 'left', easing: 'linear', frames: 12 },
    out: { kind: 'fade', edge: 'left', easing: 'linear', frames: 12 },
    holdSeconds: null,
    rect: null,
    key: null,
    whileId: null,
    throughBlack: false,
    follows: false,
  };
}

/** Lanes of a new show, by what they are for. */
export const firstLanes = (): Lane[] => [
  createLane('lane-1', 'Names', 1),
  createLane('lane-2', 'Bug', 2),
  createLane('lane-3', 'Clock', 3),
];

/** The lowest number that no lane has; null when all are taken. */
export function freeLaneNumber(lanes: readonly Pick<Lane, 'number'>[]): number | null {
  const taken = new Set(lanes.map((l) => l.number));
  for (let n = 1; n <= MOST_LANES; n += 1) if (!taken.has(n)) return n;
  return null;
}

/** A dissolve of `frames`, with settings for every other kind. */
export const plainTransition = (frames: number): Transition => ({
  kind: 'dissolve',
  frames,
  easing: 'linear',
  light: 'gamma',
  dipColour: '#0d1517',
  shape: 'linear',
  angle: 0,
  softness: 0.06,
  direction: 'left',
  imageId: null,
  stingerId: null,
  cutFrame: Math.round(frames / 2),
});

/** Transitions that a new show has at hand. */
export function firstTransitions(frames: number): StoredTransition[] {
  const make = (id: string, name: string, change: Partial<Transition>) => ({
    id,
    name,
    settings: { ...plainTransition(frames), ...change },
  });
  return [
    make('tr-dissolve', 'Dissolve', {}),
    make('tr-glide', 'Glide', { kind: 'glide', easing: 'in-out' }),
    make('tr-wipe', 'Wipe right', { kind: 'wipe' }),
    make('tr-iris', 'Iris', { kind: 'wipe', shape: 'iris', softness: 0.15 }),
    make('tr-push', 'Push left', { kind: 'push', easing: 'in-out' }),
    make('tr-zoom', 'Zoom blur', { kind: 'zoom', easing: 'in-out' }),
    make('tr-dip', 'Dip to deep', { kind: 'dip' }),
  ];
}
