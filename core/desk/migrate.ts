/** Brings a show of any known version to the present one. */
import { automationAirMigrations, automationMigrations } from '../automation/migrations';
import { audienceAirMigrations, audienceMigrations } from '../audience/migrations';
import { graphicsAirMigrations, graphicsMigrations } from '../graphics/migrations';
import { guestAirMigrations, guestMigrations } from '../guests/migrations';
import { layoutMigrations } from '../layout/migrations';
import { buttonMigrations } from '../buttons/migrations';
import { deviceAirMigrations, deviceMigrations } from '../devices/migrations';
import { orderAirMigrations, orderMigrations } from '../order/migrations';
import { outputMigrations } from '../output/migrations';
import { pictureAirMigrations, pictureMigrations } from '../picture/migrations';
import { replayMigrations } from '../replay/migrations';
import { type Migrations, type Raw } from '../schema/migration';
import { screenAirMigrations, screenMigrations } from '../screens/migrations';
import { showMigrations } from '../show/migrations';
import { soundMigrations } from '../sound/migrations';
import { type Air } from './air';
import { type Show } from './show';
import { SHOW_VERSION } from './version';
import { ShowError, showProblems } from './validate';

/** Every domain's steps; those of one version run in this order. */
const SHOW_STEPS: readonly Migrations[] = [
  showMigrations,
  pictureMigrations,
  layoutMigrations,
  outputMigrations,
  replayMigrations,
  soundMigrations,
  graphicsMigrations,
  automationMigrations,
  orderMigrations,
  deviceMigrations,
  buttonMigrations,
  screenMigrations,
  guestMigrations,
  audienceMigrations,
];
const AIR_STEPS: readonly Migrations[] = [
  pictureAirMigrations,
  graphicsAirMigrations,
  automationAirMigrations,
  orderAirMigrations,
  deviceAirMigrations,
  screenAirMigrations,
  guestAirMigrations,
  audienceAirMigrations,
];

/** `raw` brought from one version to the present one. */
function upToDate(raw: Raw, from: number, domains: readonly Migrations[], show: Raw = raw): Raw {
  let data = raw;
  for (let version = from + 1; version <= SHOW_VERSION; version += 1) {
    for (const steps of domains) data = steps[version]?.(data, show) ?? data;
  }
  return data;
}

/** Air of a show of an older version, as far as it can go on; `show` is that show as it is today. */
export const readAir = (air: Air, version: number, show: Show): Air =>
  upToDate(air as unknown as Raw, version, AIR_STEPS, show as unknown as Raw) as unknown as Air;

/**
 * `raw` as a sound show of the present version.
 * @throws ShowError when it is no show, is from a newer Bivoca, or is faulty: with every place.
 */
export function readShow(raw: unknown): Show {
  if (typeof raw !== 'object' || raw === null || (raw as Raw).format !== 'bivoca-show') {
    throw new ShowError('This is not a Bivoca show: its format mark is missing.');
  }
  let data = raw as Raw;
  const version = data.version;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 0) {
    throw new ShowError('This show does not say which version it is.', [{ path: 'version', message: 'is missing' }]);
  }
  if (version > SHOW_VERSION) {
    throw new ShowError(
      `This show was saved by a newer Bivoca (version ${version}; this one reads up to ${SHOW_VERSION}). Update Bivoca to open it.`,
    );
  }
  try {
    data = { ...upToDate(data, version, SHOW_STEPS), version: SHOW_VERSION };
  } catch {
    throw new ShowError(`This show is damaged: it is not the form of version ${version} that it says it is.`);
  }
  const problems = showProblems(data);
  if (problems.length > 0) {
    const first = problems[0];
    const more = problems.length > 1 ? ` (and ${problems.length - 1} more)` : '';
    throw new ShowError(`This show is damaged: ${first?.path} ${first?.message}${more}.`, problems);
  }
  return data as unknown as Show;
}
