/** Steps of guests from old versions: see core/schema/migration.ts. */
import { type Migrations } from '../schema/migration';
import { isRecord } from '../schema/record';

export const guestMigrations: Migrations = {
  12: (show) => ({ ...show, guests: { list: [], casts: [], gatherings: [] } }),
};

const fields = (value: unknown): Record<string, unknown> => (isRecord(value) ? value : {});

export const guestAirMigrations: Migrations = {
  13: (air) => {
    const guests = fields(air.guests);
    const now = Object.fromEntries(Object.entries(fields(guests.now)).map(([id, guest]) => [id, { ...fields(guest), seesOrder: false }]));
    return { ...air, guests: { ...guests, now } };
  },
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
