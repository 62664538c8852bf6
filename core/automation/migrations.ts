/** Steps of automation from old versions: see core/schema/migration.ts. */
import { type Migrations } from '../schema/migration';

export const automationMigrations: Migrations = {
  10: (show) => ({ ...show, automation: { macros: [], triggers: [] } }),
};

export const automationAirMigrations: Migrations = {
  10: (air) => ({ ...air, automation: { runs: {}, recording: null, triggers: {}, told: {}, held: false, log: [] } }),
};
