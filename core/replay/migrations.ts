/** Replay of old shows. */
import { listOf, type Migrations, numberOf, objectOf } from '../schema/migration';

/** Replay as version 3 made it for a picture that is `height` pixels high. */
const firstReplay = (height: number) => ({
  angles: [],
  settings: {
    height: 0,
    megabits: height > 720 ? 10 : height > 360 ? 5 : 2,
    budget: { kind: 'gigabytes', value: 8 },
    grab1: 4,
    grab2: 8,
    grab3: 15,
    lookBackSeconds: 8,
    blend: false,
    soundAtSpeed: false,
    cacheMegabytes: height > 720 ? 512 : 160,
    join: 'cut',
    joinFrames: 12,
    after: 'hold',
    transitionId: null,
    musicId: null,
    musicFade: 3,
  },
  reels: Array.from({ length: 12 }, (_, i) => ({ id: `reel-${i + 1}`, name: `Reel ${i + 1}` })),
  reelId: 'reel-1',
  clips: [],
});

export const replayMigrations: Migrations = {
  // There was no replay.
  3: (show) => ({ ...show, replay: firstReplay(numberOf(objectOf(show.raster).height, 360) || 360) }),
  // Only sources were recorded as angles.
  5: (show) => {
    const replay = objectOf(show.replay);
    return {
      ...show,
      replay: { ...replay, angles: listOf(replay.angles).map(({ sourceId, ...angle }) => ({ ...angle, pictureId: sourceId })) },
    };
  },
};
