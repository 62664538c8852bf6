/** Steps of pages of buttons from old versions: see core/schema/migration.ts. */
import { type Migrations } from '../schema/migration';

export const buttonMigrations: Migrations = { 10: (show) => ({ ...show, pages: [] }) };
