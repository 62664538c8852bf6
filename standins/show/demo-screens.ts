/** The venue of the demo: the pier wall of two projectors, a ribbon and a sail of LED, and what leaves for the foyer and the judges. */
import { type Air } from '#core/desk/air';
import { type Show } from '#core/desk/show';
import { type BoxContent } from '#core/layout/document';
import { createOutput } from '#core/screens/create';
import { type Look, type Screen } from '#core/screens/surface';
import { createLayer, createScreen, createSurface } from '#core/screens/surface-create';
import { type Rect } from '#core/show/geometry';

const PIER = 'pier-wall';
/** Millimetres that a pixel of the pier wall measures. */
const PITCH = 2.5;

const rect = (x: number, y: number, width: number, height: number): Rect => ({ x, y, width, height });
const size = ({ width, height }: Rect) => ({ width: width * PITCH, height: height * PITCH });

/** Each screen with the pixels of the output that feeds it. */
const SCREENS: readonly [string, string, Rect, { width: number; height: number }, Partial<Screen>][] = [
  ['pier-left', 'Projector left', rect(0, 0, 1920, 1200), { width: 1920, height: 1200 }, { blends: true }],
  ['pier-right', 'Projector right', rect(1680, 0, 1920, 1200), { width: 1920, height: 1200 }, { blends: true }],
  ['ribbon-left', 'Ribbon left', rect(0, 1280, 1800, 256), { width: 1920, height: 1080 }, { area: rect(0, 0, 1800, 256) }],
  ['ribbon-right', 'Ribbon right', rect(1800, 1280, 1800, 256), { width: 1920, height: 1080 }, { area: rect(0, 0, 1800, 256) }],
  ['sail-screen', 'Sail', rect(4160, 32, 896, 1536), { width: 1536, height: 896 }, { turn: 'right' }],
];

const BOTH = rect(0, 0, 3600, 1200);
const RIBBON = rect(0, 1280, 3600, 256);
const SAIL = rect(4160, 32, 896, 1536);

const source = (id: string): BoxContent => ({ kind: 'source', id });
const look = (...layers: Look['layers']): Look => ({ background: source('harbour'), layers });

/** Outputs, the surface with what is in Next and on air, and its presets. */
export function addScreens(show: Show, air: Air): void {
  const surface = createSurface(PIER, 'Pier wall', 5120, 1600, PITCH);
  surface.screens = SCREENS.map(([id, name, place, , change]) =>
    createScreen(`on-${id}`, name, place, { outputId: id, size: size(place), ...change }),
  );
  surface.places = [
    { id: 'place-both', name: 'Both projectors', rect: BOTH },
    { id: 'place-ribbon', name: 'Ribbon', rect: RIBBON },
    { id: 'place-sail', name: 'Sail', rect: SAIL },
  ];
  const sail = createLayer('layer-sail', 'Sail', SAIL, source('mast'));
  const swell = createLayer('layer-ribbon', 'Ribbon', RIBBON, source('swell'));
  const flight = createLayer('layer-flight', 'Flight', BOTH, source('line'));
  const board = {
    ...createLayer('layer-board', 'Board', rect(420, 150, 1050, 900), { kind: 'graphic', id: 'standings-table' }),
    fit: 'contain' as const,
  };
  surface.look = look(flight, sail, swell);
  const welcome = look(swell);
  show.screens.surfaces = [surface];
  show.screens.presets = [
    { id: 'preset-welcome', name: 'Welcome', number: 1, looks: [{ surfaceId: PIER, look: welcome }] },
    { id: 'preset-flight', name: 'Flight', number: 2, looks: [{ surfaceId: PIER, look: look(flight, sail, swell) }] },
    { id: 'preset-board', name: 'Standings', number: 3, looks: [{ surfaceId: PIER, look: look(board, sail, swell) }] },
  ];
  // The foyer gets the pictures without graphics, the judges a board of their own.
  show.screens.outputs = [
    createOutput('foyer', 'Foyer'),
    createOutput('judges', 'Judges’ board', { shows: { kind: 'picture', pictureId: 'standings-table' } }),
    ...SCREENS.map(([id, name, , raster]) => createOutput(id, name, { raster, shows: { kind: 'surface', surfaceId: PIER } })),
  ];
  air.screens.surfaces = { [PIER]: { look: structuredClone(welcome), change: null, over: null } };
}
