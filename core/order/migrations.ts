/** Steps of the running order from old versions: see core/schema/migration.ts. */
import { type Migrations } from '../schema/migration';

export const orderMigrations: Migrations = {
  10: (show) => ({ ...show, order: { startsAt: null, endsAt: null, prepares: true, items: [] } }),
};

export const orderAirMigrations: Migrations = {
  10: (air) => ({ ...air, order: { onId: null, since: 0, nextId: null, skipped: [], past: [] } }),
};
