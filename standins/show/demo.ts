/** The demo show: Skerry Point Kite Trials, an invented contest. */
import { createAir } from '#core/desk/air';
import { type Starter, starterBoxes } from '#core/layout/starters';
import { createShow, createSource } from '#core/desk/create';
import { type BoxContent, createBox, createFraming, createLayout, type Framing, type Layout, plainLook } from '#core/layout/document';
import { createClock, createField } from '#core/graphics/create';
import { type Field } from '#core/graphics/document';
import { GALLERY } from '#core/graphics/gallery/gallery';
import { animationContent, animationGraphic } from '#core/graphics/animation/create';
import { readLottie } from '#core/graphics/animation/lottie';
import { GREEN_KEY } from '#core/layout/look';
import { createLane } from '#core/picture/create';
import { createReplay } from '#core/replay/document';
import { type Raster } from '#core/show/raster';
import { type Show } from '#core/desk/show';
import { TEMPLATES } from '../graphics/templates';
import { addDemoSound } from '../sound/demo-sound';
import { addMacros } from './demo-automation';
import { addButtons } from './demo-buttons';
import { addDevices } from './demo-devices';
import { addOrder } from './demo-order';
import { addScreens } from './demo-screens';
import { addSheets, type HeatRows } from './demo-sheets';
import { type SimulatedCamera, type SourceSettings } from '#core/show/source';
import { DEMO_NAME, DEMO_RASTER } from './demo-name';

const CAMERAS: [SimulatedCamera, string][] = [
  ['shore', 'Shore wide'],
  ['line', 'Flight line'],
  ['mast', 'Mast overhead'],
  ['desk', 'Commentary desk'],
];

/** Assets that hold the drawn artwork. */
export interface DemoArt {
  bug: string;
  frame: string;
  sail: string;
  swell: string;
  /** Animations, by their template. */
  templates: Record<string, string>;
  /** Rows of the workbook of the heats. */
  heats: HeatRows;
  /** Port of the server, behind which the simulated devices listen; null where there is none. */
  port: number | null;
}

/** Pixels that places below are drawn at. */
const DRAWN_WIDTH = 640;
/** Lines that the demo's angles are recorded with. */
const ANGLE_HEIGHT = 360;

/** The demo show under `id`, in a size of 16:9. Its air begins on the shore camera. */
export function createDemoShow(id: string, art: DemoArt, raster: Raster = DEMO_RASTER): { show: Show; air: ReturnType<typeof createAir> } {
  const show = createShow(id, DEMO_NAME, { ...raster }, { num: 25, den: 1 });
  const add = (sourceId: string, name: string, settings: SourceSettings, groupId: string | null) => {
    show.sources.push({ ...createSource(show, sourceId, name, settings), groupId });
  };
  show.groups = [
    { id: 'cameras', name: 'Pier cameras', folded: false },
    { id: 'line-up', name: 'Line-up', folded: false },
    { id: 'replay', name: 'Replay', folded: false },
  ];
  for (const [camera, name] of CAMERAS) add(camera, name, { kind: 'simulated', camera }, 'cameras');
  add('bars', 'Bars and tone', { kind: 'test', pattern: 'bars' }, 'line-up');
  add('sync', 'Flash and beep', { kind: 'test', pattern: 'sync' }, 'line-up');
  add('harbour', 'Harbour blue', { kind: 'colour', colour: '#16405a' }, 'line-up');
  add('hut', 'Weather hut', { kind: 'simulated', camera: 'hut' }, 'line-up');
  const still = (sourceId: string, name: string, assetId: string, fileName: string, hasAlpha: boolean) => {
    add(sourceId, name, { kind: 'still', assetId, fileName, hasAlpha }, 'line-up');
    Object.assign(show.sources.at(-1) as object, { feedsOnly: true, number: null });
  };
  still('bug', 'Halyard & Sons bug', art.bug, 'halyard-bug.png', true);
  still('frame', 'Sail-cloth frame', art.frame, 'sail-cloth-frame.png', true);
  still('sail', 'Sail sweep', art.sail, 'sail-sweep.png', true);
  still('swell', 'Swell, for wipes', art.swell, 'swell.png', false);
  addPictures(show);
  add('deck-1', 'Deck 1', { kind: 'deck', deck: 1 }, 'replay');
  add('deck-2', 'Deck 2', { kind: 'deck', deck: 2 }, 'replay');
  // Four angles at the show's size are more than two cores encode beside everything else.
  show.replay = createReplay(Math.min(raster.height, ANGLE_HEIGHT));
  show.replay.angles = CAMERAS.map(([sourceId]) => ({ pictureId: sourceId, soundId: sourceId }));
  addGraphics(show, art);
  addDemoSound(show);
  const air = createAir(show);
  addScreens(show, air);
  air.onAirId = 'shore';
  air.nextId = 'line';
  air.replay.decks[1].angleId = 'line';
  air.replay.decks[2].angleId = 'shore';
  return { show, air };
}

/** The gallery's graphics, their clocks, what the lanes hold, and a tableau. */
function addGraphics(show: Show, art: DemoArt): void {
  show.graphics.clocks = [
    createClock('heat', 'Heat clock', { number: 1, seconds: 90, atEnd: 'show', endWords: 'Over' }),
    createClock('to-final', 'To the final', { number: 2, kind: 'until', seconds: (15 * 60 + 20) * 60 }),
    createClock('pier-time', 'Time at the pier', { number: 3, kind: 'day', seconds: 0 }),
  ];
  show.graphics.list = GALLERY.map(({ make }) => make());
  for (const { id, fileName, make } of TEMPLATES) {
    const doc = readLottie(make());
    const made = animationContent(doc, { assetId: art.templates[id] ?? null, fileName, rate: show.rate, problems: 0 });
    const graphic = animationGraphic(id, String(doc.nm), made, DEMO_RASTER);
    // What comes up shows the line, live.
    const view = made.content.parts.find((p) => p.kind === 'window');
    if (view) {
      const targets: Field['targets'] = [{ elementId: 'animation', property: 'part', part: view.id }];
      graphic.fields = graphic.fields.filter((f) => f.default.kind !== 'image');
      graphic.fields.push(createField('view', 'View', { kind: 'picture', pictureId: 'line' }, { targets }));
    }
    // Under the heat clock, which has the corner.
    const [dial] = graphic.elements;
    if (id === 'wind-dial' && dial) dial.y += DEMO_RASTER.height * 0.13;
    show.graphics.list.push(graphic);
  }
  addSheets(show, art.heats);
  addMacros(show);
  addOrder(show);
  if (art.port !== null) addDevices(show, art.port);
  addButtons(show);
  show.lanes.push({ ...createLane('lane-4', 'News', 4), content: { kind: 'picture', id: 'news-line' }, follows: true });
  const [names, bugs, clock] = show.lanes;
  if (names) Object.assign(names, { name: 'Names', content: { kind: 'picture', id: 'card-1' }, holdSeconds: 8 });
  if (bugs) Object.assign(bugs, { name: 'Bug', content: { kind: 'picture', id: 'bug' } });
  if (clock) Object.assign(clock, { name: 'Clock', content: { kind: 'picture', id: 'heat-clock' } });
  show.tableaux = [
    {
      id: 'heat-start',
      name: 'Heat start',
      number: 1,
      pictureId: 'line',
      lanes: [
        { laneId: 'lane-1', contentId: null },
        { laneId: 'lane-3', contentId: 'heat-clock' },
      ],
      transition: null,
    },
  ];
}

/** Seats, framings, layouts, a style and transitions of the demo show. */
function addPictures(show: Show): void {
  const framing = (id: string, name: string, sourceId: string, change: Partial<Framing>) =>
    show.framings.push({ ...createFraming(id, name, sourceId), ...change });
  framing('ilse', 'Ilse at the desk', 'desk', { crop: { left: 0.04, top: 0.16, right: 0.5, bottom: 0.12 } });
  framing('bram', 'Bram at the desk', 'desk', { crop: { left: 0.5, top: 0.16, right: 0.04, bottom: 0.12 } });
  framing('analyst', 'Wind analyst, keyed', 'hut', { key: { ...GREEN_KEY, similarity: 0.3, softness: 0.2, garbageTop: 0.1 } });
  framing('kite', 'Kite close', 'line', { zoom: 1.6, panY: -0.3 });
  show.eyes = [
    { pictureId: 'ilse', x: 172 / 640, y: 170 / 360 },
    { pictureId: 'bram', x: 468 / 640, y: 170 / 360 },
    { pictureId: 'analyst', x: 0.5, y: 213 / 360 },
  ];
  const seat = (id: string, name: string, colour: string, occupantId: string | null) => show.seats.push({ id, name, colour, occupantId });
  seat('host', 'Host', '#5aa9c9', 'ilse');
  seat('guest', 'Guest 1', '#c9955a', 'bram');
  seat('wind', 'Wind analyst', '#8fbf6a', 'analyst');
  seat('judge', 'Judge', '#b58ad6', null);

  const k = show.raster.width / DRAWN_WIDTH;
  const look = {
    ...plainLook({ x: 0, y: 0, width: 100, height: 100 }),
    radius: 10 * k,
    border: { width: 3 * k, colour: '#e2c48d' },
    shadow: { x: 4 * k, y: 6 * k, blur: 14 * k, opacity: 0.6 },
  };
  show.styles = [{ id: 'regatta', name: 'Regatta box', properties: ['radius', 'border', 'shadow'], look, framingIds: [] }];

  const boxes = (starter: Starter, contents: (BoxContent & { name: string; zoom?: number })[]) =>
    starterBoxes(starter, show.raster).map((rect, i) => {
      const { name = `Box ${i + 1}`, zoom = 1, ...content } = contents[i] ?? {};
      return {
        ...createBox(`${starter}-${i}`, name, rect, 'kind' in content ? (content as BoxContent) : null),
        fit: 'eye' as const,
        zoom,
        styleId: rect.width < show.raster.width ? 'regatta' : null,
      };
    });
  const seatBox = (id: string, name: string, zoom = 1.2) => ({ kind: 'seat' as const, id, name, zoom });
  const harbour: BoxContent = { kind: 'source', id: 'harbour' };
  const layout = (id: string, name: string, number: number, change: Partial<Layout>) =>
    show.layouts.push({ ...createLayout(id, name), number, ...change });
  layout('talk', 'Host and wind', 9, {
    background: harbour,
    boxes: boxes('two', [seatBox('host', 'Host'), seatBox('wind', 'Wind analyst', 1.7)]),
  });
  layout('flight', 'Flight with host', 10, {
    boxes: boxes('inset', [{ kind: 'source', id: 'line', name: 'Flight' }, seatBox('host', 'Host')]),
  });
  const framed = [
    { ...createBox('framed-0', 'Flight', { x: 28 * k, y: 60 * k, width: 356 * k, height: 218 * k }, { kind: 'source', id: 'shore' }) },
    {
      ...createBox('framed-1', 'Guest 1', { x: 402 * k, y: 96 * k, width: 210 * k, height: 182 * k }, { kind: 'seat', id: 'guest' }),
      fit: 'eye' as const,
      zoom: 1.2,
    },
  ];
  layout('framed', 'In the sail-cloth', 11, { boxes: framed, frameId: 'frame' });
  layout('four', 'Everybody', 12, {
    background: harbour,
    boxes: boxes('four', [
      seatBox('host', 'Host'),
      seatBox('guest', 'Guest 1'),
      seatBox('wind', 'Wind analyst', 1.7),
      seatBox('judge', 'Judge', 1),
    ]),
  });

  const second = show.transition.frames;
  show.transitions.push(
    {
      id: 'tr-sail',
      name: 'Sail sweep',
      settings: { ...show.transition, kind: 'stinger', stingerId: 'sail', frames: second, cutFrame: Math.round(second / 2) },
    },
    { id: 'tr-opening', name: 'Opening sails', settings: { ...show.transition, kind: 'stinger', stingerId: 'opening' } },
    { id: 'tr-swell', name: 'Swell', settings: { ...show.transition, kind: 'luma', imageId: 'swell', softness: 0.2 } },
  );
}
