/** Steps of guests from old versions: see core/schema/migration.ts. */
import { type Migrations } from '../schema/migration';

export const guestMigrations: Migrations = {
  12: (show) => ({ ...show, guests: { list: [], casts: [] } }),
};

export const guestAirMigrations: Migrations = {
  12: (air) => ({ ...air, guests: { now: {} } }),
};
