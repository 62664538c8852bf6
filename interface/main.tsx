/** The composition root: the only place that knows which drivers and stand-ins are wired in. */
import 'reflect-metadata';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { nanoid } from 'nanoid';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, createRoutesFromElements, Navigate, Outlet, Route } from 'react-router';
import { RouterProvider } from 'react-router/dom';
import { cameraDriver, screenDriver } from '#engine/capture/device-driver';
import { createDrawnDriver } from '#engine/capture/drawn-driver';
import { type OutsideDrivers } from '#engine/capture/driver';
import { mediaDriver, stillDriver } from '#engine/capture/file-drivers';
import { type ControlDriver } from '#engine/control/driver';
import { gamepadDriver } from '#engine/control/gamepad-driver';
import { hidDriver } from '#engine/control/hid-driver';
import { midiDriver } from '#engine/control/midi-driver';
import { browserSound } from '#engine/sound/browser-device';
import { type SoundDeviceDriver } from '#engine/sound/device-driver';
import { storeAsset } from '#engine/storage/assets';
import { db } from '#engine/storage/db';
import { storeShow, sweep } from '#engine/storage/shows';
import { type Raster } from '#core/show/raster';
import { browserGuestDevices } from '#engine/guests/devices';
import { simulatedGuest } from '#standins/guests/simulated-guest';
import { panelDriver } from '#standins/control/panel-driver';
import { createCardDriver } from '#standins/sound/card-driver';
import { readSheet } from '#engine/sheets/sheets';
import heatsUrl from '#standins/data/heats.xlsx?url&no-inline';
import { TEMPLATES } from '#standins/graphics/templates';
import { createDemoShow, DEMO_RASTER } from '#standins/show/demo';
import { drawBug, drawFrame, drawSail, drawSwell } from '#standins/show/demo-art';
import { StatusLine } from './parts/status-line';
import { JogPanelWindow } from './control/jog-panel';
import { ScreensRoom } from './screens/screens-room';
import { AutomationRoom } from './automation/automation-room';
import { Desk } from './desk/desk';
import { OpenShow } from './shell/open-show';
import { GuestsRoom } from './guests/guests-room';
import { obeyOpener } from './guests/simulated-orders';
import { JoinPage } from './guests/join-page';
import { GraphicsRoom } from './graphics/graphics-room';
import { LayoutsRoom } from './layouts/layouts-room';
import { OutputRoom } from './output/output-room';
import { ButtonsWindow } from './panels/buttons-window';
import { OrderWindow } from './panels/order-window';
import { WorkPanel } from './panels/work-panel';
import { TechnicianWindow } from './panels/technician-window';
import { PierWindow } from './panels/pier-window';
import { ProgrammeWindow } from './programme/programme-window';
import { ReplayRoom } from './replay/replay-room';
import { SettingsRoom } from './settings/settings-room';
import { DemoRoute } from './shows/demo-route';
import { ShowList } from './shows/show-list';
import { SoundRoom } from './sound/sound-room';
import './theme/theme.css';

const drivers: OutsideDrivers = {
  camera: cameraDriver,
  screen: screenDriver,
  media: mediaDriver,
  still: stillDriver,
  test: createDrawnDriver(() => new Worker(new URL('../engine/capture/test-signals.worker.ts', import.meta.url), { type: 'module' })),
  simulated: createDrawnDriver(() => new Worker(new URL('../standins/pictures/cameras.worker.ts', import.meta.url), { type: 'module' })),
};

// The stand-in first: real devices take whatever is left.
const soundDrivers: readonly SoundDeviceDriver[] = [createCardDriver(), browserSound];

/** Devices of a guest's page: drawn ones for a simulated guest, who can be told what to do by the window that has opened it. */
const guestDevices = (simulated: { name: string; number: number } | null) => {
  if (!simulated) return browserGuestDevices;
  const guest = simulatedGuest(simulated.name, simulated.number);
  obeyOpener(guest);
  return guest;
};

const controls: readonly ControlDriver[] = [midiDriver, gamepadDriver, hidDriver, panelDriver];

/** The demo's own animations, as files. */
async function storeTemplates(): Promise<Record<string, string>> {
  const stored: Record<string, string> = {};
  for (const { id, fileName, make } of TEMPLATES)
    stored[id] = await storeAsset(new Blob([JSON.stringify(make())], { type: 'application/json' }), fileName, 'application/json');
  return stored;
}

/** The rows of the demo's workbook; none where it cannot be read. */
async function heatRows(): Promise<{ columns: string[]; rows: string[] }> {
  try {
    return await readSheet(await (await fetch(heatsUrl)).blob(), 'heats.xlsx');
  } catch {
    return { columns: [], rows: [] };
  }
}

async function makeDemo(raster: Raster = DEMO_RASTER): Promise<string> {
  const scale = raster.height / 360;
  const art = async (drawn: Promise<Blob>, name: string) => storeAsset(await drawn, name, 'image/png');
  const { show, air } = createDemoShow(
    nanoid(12),
    {
      bug: await art(drawBug(scale), 'halyard-bug.png'),
      frame: await art(drawFrame(scale), 'sail-cloth-frame.png'),
      sail: await art(drawSail(scale), 'sail-sweep.png'),
      swell: await art(drawSwell(), 'swell.png'),
      templates: await storeTemplates(),
      heats: await heatRows(),
      port: Number(window.location.port) || 80,
    },
    raster,
  );
  await storeShow(show);
  await db.airs.put({ showId: show.id, air, savedFrame: 0 });
  return show.id;
}

void sweep();

/** Pages of the app itself: with the line of notices at their foot. Windows with one picture or panel have none. */
function Framed() {
  return (
    <>
      <Outlet />
      <StatusLine />
    </>
  );
}

/** The rooms: of a show that runs here, and of a panel. */
const rooms = (
  <>
    <Route index element={<Navigate to="desk" replace />} />
    <Route path="desk" element={<Desk />} />
    <Route path="replay" element={<ReplayRoom />} />
    <Route path="sound" element={<SoundRoom />} />
    <Route path="graphics" element={<GraphicsRoom />} />
    <Route path="layouts" element={<LayoutsRoom />} />
    <Route path="guests" element={<GuestsRoom />} />
    <Route path="output" element={<OutputRoom />} />
    <Route path="screens" element={<ScreensRoom />} />
    <Route path="automation" element={<AutomationRoom />} />
    <Route path="settings" element={<SettingsRoom controls={controls} />} />
  </>
);

const routes = createBrowserRouter(
  createRoutesFromElements(
    <>
      <Route path="/demo" element={<DemoRoute makeDemo={makeDemo} />} />
      <Route path="/panel" element={<JogPanelWindow />} />
      <Route path="/buttons" element={<ButtonsWindow />} />
      <Route path="/join/:showId" element={<JoinPage devicesFor={guestDevices} />} />
      <Route path="/technician" element={<TechnicianWindow />} />
      <Route path="/order" element={<OrderWindow />} />
      <Route path="/pier-devices" element={<PierWindow />} />
      <Route path="/programme" element={<ProgrammeWindow />} />
      <Route element={<Framed />}>
        <Route path="/" element={<ShowList makeDemo={makeDemo} />} />
        <Route path="/crew/:showId" element={<WorkPanel controls={controls} />}>
          {rooms}
        </Route>
        <Route path="/show/:showId" element={<OpenShow drivers={drivers} soundDrivers={soundDrivers} controls={controls} />}>
          {rooms}
        </Route>
      </Route>
      <Route path="*" element={<Navigate to="/" replace />} />
    </>,
  ),
);

const root = document.querySelector('#root');
if (!root) throw new Error('The page has no place for the app.');
createRoot(root).render(
  <QueryClientProvider
    client={new QueryClient({ defaultOptions: { queries: { networkMode: 'always', retry: false }, mutations: { networkMode: 'always' } } })}
  >
    <RouterProvider router={routes} />
  </QueryClientProvider>,
);
