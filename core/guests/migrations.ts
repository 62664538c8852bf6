/** Steps of guests from old versions: see core/schema/migration.ts. */
import { type Migrations } from '../schema/migration';
import { isRecord } from '../schema/record';

export const guestMigrations: Migrations = {
  12: (show) => ({ ...show, guests: { list: [], casts: [], gatherings: [] } }),
};

/** Objects by identity, each with more in it. */
const each = (all: unknown, more: Record<string, unknown>): Record<string, unknown> =>
  Object.fromEntries(Object.entries(isRecord(all) ? all : {}).map(([id, one]) => [id, isRecord(one) ? { ...one, ...more } : one]));

export const guestAirMigrations: Migrations = {
  13: (air) => ({
    ...air,
    guests: { ...(isRecord(air.guests) ? air.guests : {}), now: each(isRecord(air.guests) ? air.guests.now : null, { seesOrder: false }) },
  }),
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
