/** Steps of devices from old versions: see core/schema/migration.ts. */
import { type Migrations } from '../schema/migration';

export const deviceMigrations: Migrations = { 10: (show) => ({ ...show, devices: [] }) };

export const deviceAirMigrations: Migrations = { 10: (air) => ({ ...air, devices: { last: 0, sent: [], heard: [] } }) };
