/** What runs a show in this window, with the drivers and stand-ins that are wired in. It is fetched while what was left of the show is painted. */
import { cameraDriver, screenDriver } from '#engine/capture/device-driver';
import { createDrawnDriver } from '#engine/capture/drawn-driver';
import { type OutsideDrivers } from '#engine/capture/driver';
import { mediaDriver, stillDriver } from '#engine/capture/file-drivers';
import { ShowHost } from '#engine/host/show-host';
import { browserSound } from '#engine/sound/browser-device';
import { type SoundDeviceDriver } from '#engine/sound/device-driver';
import { createCardDriver } from '#standins/sound/card-driver';
import { RunningShow } from '../shell/running-show';
import { type ShowEngine } from '../shell/open-show';
import { CONTROLS } from './controls';

const drivers: OutsideDrivers = {
  camera: cameraDriver,
  screen: screenDriver,
  media: mediaDriver,
  still: stillDriver,
  test: createDrawnDriver(() => new Worker(new URL('../../engine/capture/test-signals.worker.ts', import.meta.url), { type: 'module' })),
  simulated: createDrawnDriver(() => new Worker(new URL('../../standins/pictures/cameras.worker.ts', import.meta.url), { type: 'module' })),
};

// The stand-in first: real devices take whatever is left.
const soundDrivers: readonly SoundDeviceDriver[] = [createCardDriver(), browserSound];

export const ENGINE: ShowEngine = {
  open: (row, reloaded) => ShowHost.open(row, drivers, soundDrivers, reloaded),
  controls: CONTROLS,
  Running: RunningShow,
};
