/** Sources of old shows. */
import { listOf, type Migrations, objectOf } from '../schema/migration';

export const showMigrations: Migrations = {
  11: (show) => ({ ...show, sources: listOf(show.sources).map((source) => ({ ...source, expects: null })) }),
  // Files did not say whether they have transparent parts: stills were taken to have some.
  2: (show) => ({
    ...show,
    sources: listOf(show.sources).map((source) => {
      const settings = objectOf(source.settings);
      const isFile = settings.kind === 'media' || settings.kind === 'still';
      return isFile ? { ...source, settings: { ...settings, hasAlpha: settings.kind === 'still' } } : source;
    }),
  }),
};
