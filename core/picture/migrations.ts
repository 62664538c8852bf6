/** Lanes and transitions of old shows, and of their air. */
import { listOf, type Migrations, numberOf, objectOf, type Raw } from '../schema/migration';

/** A dissolve as version 2 made it. */
const dissolve = (frames: number): Raw => ({
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

const WIPE_ANGLES = new Map<unknown, number>([
  ['right', 0],
  ['down', 90],
  ['left', 180],
  ['up', 270],
]);

/** A lane's content, or what it shows, said `source` for pictures of every kind. */
const named = (content: unknown): unknown =>
  objectOf(content).kind === 'source' ? { ...objectOf(content), kind: 'picture' } : (content ?? null);

export const pictureMigrations: Migrations = {
  // Drafts made before fade to black had a length of its own.
  1: (show) => ({ ...show, blackFrames: show.blackFrames ?? objectOf(show.transition).frames ?? 25 }),
  // Four lanes that fade, and transitions with a direction only.
  2: (show) => {
    const fade = (frames: unknown) => ({ kind: 'fade', edge: 'left', easing: 'linear', frames });
    const { direction, ...armed } = objectOf(show.transition);
    const frames = numberOf(armed.frames, 25);
    return {
      ...show,
      lanes: listOf(show.lanes).map(({ fadeFrames, ...lane }) => ({
        ...lane,
        in: fade(fadeFrames),
        out: fade(fadeFrames),
        rect: null,
        key: null,
        whileId: null,
        throughBlack: false,
      })),
      transition: { ...dissolve(frames), ...armed, angle: WIPE_ANGLES.get(direction) ?? 0 },
      transitions: [{ id: 'tr-dissolve', name: 'Dissolve', settings: dissolve(frames) }],
      overrides: [],
    };
  },
  // A lane that held a picture of any kind said `source`.
  5: (show) => ({ ...show, lanes: listOf(show.lanes).map((lane) => ({ ...lane, content: named(lane.content) })) }),
  // Keys found a lane by its place; now by a number that stays with it.
  6: (show) => ({ ...show, lanes: listOf(show.lanes).map((lane, i) => ({ ...lane, number: i + 1 })) }),
};

export const pictureAirMigrations: Migrations = {
  5: (air) => ({
    ...air,
    lanes: Object.fromEntries(
      Object.entries(objectOf(air.lanes)).map(([id, raw]) => {
        const lane = objectOf(raw);
        const leaving = lane.leaving && { ...objectOf(lane.leaving), picture: named(objectOf(lane.leaving).picture) };
        return [id, { ...lane, picture: named(lane.picture), leaving: leaving ?? null }];
      }),
    ),
  }),
};
