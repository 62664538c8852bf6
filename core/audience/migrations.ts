/** Steps of the audience from old versions: see core/schema/migration.ts. */
import { type Migrations } from '../schema/migration';

export const audienceMigrations: Migrations = {
  13: (show) => ({
    ...show,
    audience: { open: true, perMinute: 6, words: [], banned: [], queue: [], polls: [], graphicId: null, laneId: null },
  }),
};

export const audienceAirMigrations: Migrations = {
  13: (air) => ({ ...air, audience: { inbox: [], poll: null } }),
};
