/** Steps of guests from old versions: see core/schema/migration.ts. */
import { type Migrations } from '../schema/migration';

export const guestMigrations: Migrations = {
  12: (show) => ({ ...show, guests: { list: [], casts: [], gatherings: [] } }),
};

export const guestAirMigrations: Migrations = {
  12: (air) => ({
    ...air,
    guests: {
      now: {},
      gathered: {
        crowd: { now: [], before: [], since: 0 },
        speaker: { now: null, before: null, since: 0 },
        shared: { now: null, before: null, since: 0 },
      },
    },
  }),
};
