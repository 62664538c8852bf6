/** Steps of screens from old versions: see core/schema/migration.ts. */
import { type Migrations } from '../schema/migration';

export const screenMigrations: Migrations = { 11: (show) => ({ ...show, screens: { outputs: [], surfaces: [], presets: [] } }) };

export const screenAirMigrations: Migrations = { 11: (air) => ({ ...air, screens: { over: {}, surfaces: {} } }) };
