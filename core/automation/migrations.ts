/** Steps of automation from old versions: see core/schema/migration.ts. */
import { listOf, type Migrations, objectOf, type Raw } from '../schema/migration';

const withGuest = (when: unknown): Raw => ({ ...objectOf(when), guestId: null });
const conditionsWithGuest = (conditions: unknown): Raw[] => listOf(conditions).map((c) => ({ ...c, is: withGuest(c.is) }));

export const automationMigrations: Migrations = {
  10: (show) => ({ ...show, automation: { macros: [], triggers: [] } }),
  13: (show) => {
    const automation = objectOf(show.automation);
    const triggers = listOf(automation.triggers).map((t) => ({
      ...t,
      when: withGuest(t.when),
      conditions: conditionsWithGuest(t.conditions),
    }));
    const buttons = (page: Raw) =>
      listOf(page.buttons).map((b) => (b.lit ? { ...b, lit: { ...objectOf(b.lit), is: withGuest(objectOf(b.lit).is) } } : b));
    return { ...show, automation: { ...automation, triggers }, pages: listOf(show.pages).map((p) => ({ ...p, buttons: buttons(p) })) };
  },
};

export const automationAirMigrations: Migrations = {
  10: (air) => ({ ...air, automation: { runs: {}, recording: null, triggers: {}, told: {}, held: false, log: [] } }),
};
