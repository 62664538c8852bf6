/** The composition root: which address opens what. Each page and each room comes when it is wanted; what is wired into them stands in `wiring/`. */
import 'reflect-metadata';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { type ComponentType } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, createRoutesFromElements, Navigate, Outlet, Route } from 'react-router';
import { RouterProvider } from 'react-router/dom';
import { type Raster } from '#core/show/raster';
import { fetchLater } from './parts/later';
import { StatusLine } from './parts/status-line';
import { type RoomId } from '#core/control/rooms';
import './theme/theme.css';

type Page = () => Promise<ComponentType>;

/** How each room is fetched. Whoever has opened a show has all of them soon after, so that no room is missing when the server is away. */
const ROOMS: Record<RoomId, Page> = {
  desk: () => import('./desk/desk').then((m) => m.Desk),
  replay: () => import('./replay/replay-room').then((m) => m.ReplayRoom),
  sound: () => import('./sound/sound-room').then((m) => m.SoundRoom),
  graphics: () => import('./graphics/graphics-room').then((m) => m.GraphicsRoom),
  layouts: () => import('./layouts/layouts-room').then((m) => m.LayoutsRoom),
  guests: () => import('./guests/guests-room').then((m) => m.GuestsRoom),
  output: () => import('./output/output-room').then((m) => m.OutputRoom),
  screens: () => import('./screens/screens-room').then((m) => m.ScreensRoom),
  automation: () => import('./automation/automation-room').then((m) => m.AutomationRoom),
  settings: () => import('./wiring/settings').then((m) => m.Settings),
};

/** A route whose page is fetched when it is opened. */
const page = (load: Page) => async () => ({ Component: await load() });

/** A window with a show in it wants the rooms. */
const withRooms =
  (load: Page): Page =>
  async () => {
    const loaded = await load();
    void fetchLater(Object.values(ROOMS));
    return loaded;
  };

async function makeDemo(raster?: Raster): Promise<string> {
  const demo = await import('./wiring/demo');
  // What runs it comes while it is made.
  void import('./wiring/show-engine').catch(() => undefined);
  return demo.makeDemo(raster);
}

void import('#engine/storage/shows').then(({ sweep }) => sweep());

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
    {Object.entries(ROOMS).map(([room, load]) => (
      <Route key={room} path={room} lazy={page(load)} />
    ))}
  </>
);

const routes = createBrowserRouter(
  createRoutesFromElements(
    <Route HydrateFallback={() => null}>
      <Route
        path="/demo"
        lazy={async () => {
          const { DemoRoute } = await import('./shows/demo-route');
          return { element: <DemoRoute makeDemo={makeDemo} /> };
        }}
      />
      <Route path="/panel" lazy={page(() => import('./control/jog-panel').then((m) => m.JogPanelWindow))} />
      <Route path="/buttons" lazy={page(() => import('./panels/buttons-window').then((m) => m.ButtonsWindow))} />
      <Route path="/join/:showId" lazy={page(() => import('./wiring/join').then((m) => m.Join))} />
      <Route path="/technician" lazy={page(() => import('./panels/technician-window').then((m) => m.TechnicianWindow))} />
      <Route path="/order" lazy={page(() => import('./panels/order-window').then((m) => m.OrderWindow))} />
      <Route path="/pier-devices" lazy={page(() => import('./panels/pier-window').then((m) => m.PierWindow))} />
      <Route path="/programme" lazy={page(() => import('./programme/programme-window').then((m) => m.ProgrammeWindow))} />
      <Route element={<Framed />}>
        <Route
          path="/"
          lazy={async () => {
            const { ShowList } = await import('./shows/show-list');
            return { element: <ShowList makeDemo={makeDemo} /> };
          }}
        />
        <Route path="/crew/:showId" lazy={page(withRooms(() => import('./wiring/panel').then((m) => m.PanelWindow)))}>
          {rooms}
        </Route>
        <Route path="/show/:showId" lazy={page(withRooms(() => import('./wiring/show').then((m) => m.ShowWindow)))}>
          {rooms}
        </Route>
      </Route>
      <Route path="*" element={<Navigate to="/" replace />} />
    </Route>,
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
