/** Graphics of old shows: name cards became entries of a graphic that looks as their plate did. Written out in full: nothing here may change. */
import { listOf, type Migrations, numberOf, objectOf, type Raw } from '../schema/migration';

const element = (id: string, name: string, place: Raw, change: Raw): Raw => ({
  id,
  name,
  parentId: null,
  visible: true,
  locked: false,
  ...place,
  rotation: 0,
  turnX: 0,
  turnY: 0,
  skewX: 0,
  skewY: 0,
  flipX: false,
  flipY: false,
  corners: { topLeft: 0, topRight: 0, bottomRight: 0, bottomLeft: 0 },
  opacity: 1,
  fill: { kind: 'none' },
  stroke: { width: 0, colour: '#e2c48d', opacity: 1, place: 'centre', dash: 'solid' },
  shadow: null,
  glow: null,
  reflection: null,
  crop: null,
  mask: null,
  hideWhenEmpty: false,
  in: null,
  out: null,
  change: null,
  keyframes: [],
  ...change,
});

const words = (text: string, size: number, weight: number): Raw => ({
  kind: 'text',
  text,
  style: {
    family: 'Atkinson Hyperlegible Next',
    weight,
    italic: false,
    size,
    lineHeight: 1.15,
    letterSpacing: 0,
    capitals: 'none',
    across: 'left',
    down: 'middle',
    wrap: false,
    overflow: 'shrink',
    depth: 0,
    light: 315,
  },
});

/** The plate of version 6 in a picture of this size, as a graphic: half the width, in the lower third, inside the 90 % safe area. */
function plate(id: string, width: number, height: number, entries: Raw[]): Raw {
  const w = Math.round(width * 0.52);
  const h = Math.round(height * 0.165);
  const [x, y] = [Math.round(width * 0.05), Math.round(height * 0.95) - h];
  const slant = h * 0.28;
  // A skew of 0.28 to the height.
  const skewX = -15.6422;
  const left = x + slant + h * 0.2;
  const room = w - slant - h * 0.2 - slant - h * 0.1;
  const field = (fieldId: string, name: string, hint: string, longest: number): Raw => ({
    id: fieldId,
    name,
    hint,
    default: { kind: 'text', text: '' },
    least: null,
    most: null,
    longest,
    choices: [],
    targets: [{ elementId: fieldId, property: 'content' }],
  });
  return {
    id,
    designId: id,
    name: 'Name card',
    number: null,
    raster: { width, height },
    elements: [
      element(
        'plate',
        'Plate',
        { x: x + slant / 2, y, width: w - slant, height: h },
        { skewX, fill: { kind: 'colour', colour: '#0d1517', opacity: 0.88 } },
      ),
      element(
        'edge',
        'Edge',
        { x: x + slant / 2, y, width: h * 0.1, height: h },
        { skewX, fill: { kind: 'colour', colour: '#e2c48d', opacity: 1 } },
      ),
      element('lines', 'Lines', { x: left, y, width: room, height: h }, { content: { kind: 'group', flow: 'column', align: 'middle' } }),
      element(
        'name',
        'Name',
        { x: left, y: y + h * 0.14, width: room, height: h * 0.48 },
        {
          parentId: 'lines',
          fill: { kind: 'colour', colour: '#e8efe9', opacity: 1 },
          content: words('', h * 0.42, 600),
        },
      ),
      element(
        'role',
        'Who that is',
        { x: left - h * 0.08, y: y + h * 0.62, width: room, height: h * 0.28 },
        {
          parentId: 'lines',
          hideWhenEmpty: true,
          fill: { kind: 'colour', colour: '#c3d0cb', opacity: 1 },
          content: words('', h * 0.25, 400),
        },
      ),
    ].map((e) => ({ content: { kind: 'rectangle' }, ...e })),
    fields: [field('name', 'Name', 'first line', 60), field('role', 'Who that is', 'second line', 90)],
    entries,
    in: null,
    out: null,
    stingerFrames: 50,
    cutFrame: 25,
    guides: [],
  };
}

const valuesOf = (card: Raw): Raw[] => [
  { fieldId: 'name', value: { kind: 'text', text: String(card.name ?? '') } },
  { fieldId: 'role', value: { kind: 'text', text: String(card.role ?? '') } },
];

const idsOf = (show: Raw, ...fields: string[]): unknown[] => fields.flatMap((f) => listOf(show[f]).map((item) => item.id));

/** Cards had a space of identities of their own: one that is a picture's too gets another. */
function entryIds(show: Raw): (id: unknown) => string {
  const taken = new Set(idsOf(show, 'sources', 'framings', 'layouts', 'presets', 'seats'));
  return (id) => (taken.has(id) ? `entry-${String(id)}`.slice(0, 64) : String(id));
}

const fill = (colour: string, opacity: number): Raw => ({ kind: 'colour', colour, opacity });

/** A graphic of version 7, also one that came as a file: elements can do something while they stand, texts have other styles inside. */
export const graphicOf8 = (graphic: Raw): Raw => ({
  ...graphic,
  sheet: null,
  entries: listOf(graphic.entries).map((e) => ({ ...e, rowKey: null, done: false })),
  fields: listOf(graphic.fields).map((f) => ({ ...f, targets: listOf(f.targets).map((t) => ({ ...t, part: null })) })),
  elements: listOf(graphic.elements).map((e) => {
    const content = objectOf(e.content);
    return { ...e, hold: null, content: content.kind === 'text' ? { ...content, accents: [] } : e.content };
  }),
});

export const graphicsMigrations: Migrations = {
  7: ({ cards, ...show }) => {
    const idOf = entryIds({ ...show });
    const { width, height } = objectOf(show.raster);
    const entries = listOf(cards).map((card, i) => ({ id: idOf(card.id), number: i + 1, values: valuesOf(card) }));
    const stroke = { width: 0, colour: '#e2c48d', opacity: 1, place: 'centre', dash: 'solid' };
    const finish = (change: Raw): Raw => ({ fill: fill('#e2c48d', 1), stroke, shadow: null, glow: null, reflection: null, ...change });
    return {
      ...show,
      lanes: listOf(show.lanes).map((lane) => {
        const content = objectOf(lane.content);
        return {
          ...lane,
          follows: false,
          content: content.kind === 'card' ? { kind: 'picture', id: idOf(content.id) } : (lane.content ?? null),
        };
      }),
      graphics: {
        list: entries.length > 0 ? [plate('name-card', numberOf(width, 1280), numberOf(height, 720), entries)] : [],
        clocks: [],
        fonts: [],
        finishes: [
          { id: 'finish-deep', name: 'Deep water', finish: finish({ fill: fill('#0d1517', 0.88) }) },
          { id: 'finish-straw', name: 'Straw line', finish: finish({ stroke: { ...stroke, width: 2, colour: '#8a6d34' } }) },
        ],
      },
      tableaux: [],
    };
  },
  8: (show) => {
    const graphics = objectOf(show.graphics);
    return {
      ...show,
      graphics: {
        ...graphics,
        list: listOf(graphics.list).map(graphicOf8),
        clocks: listOf(graphics.clocks).map((c) => ({ ...c, endWords: '' })),
      },
    };
  },
  9: (show) => {
    const graphics = objectOf(show.graphics);
    return {
      ...show,
      graphics: { ...graphics, list: listOf(graphics.list).map((g) => graphicOf9(g, fpsOf9(show))) },
      sheets: listOf(graphics.list).flatMap((graphic): Raw[] => {
        if (!graphic.sheet) return [];
        const { fileName, key, columns } = objectOf(graphic.sheet);
        const name = typeof fileName === 'string' && fileName !== '' ? fileName.slice(0, 80) : 'Sheet';
        const names = listOf(columns).map((c) => c.column);
        return [
          {
            id: sheetId9(graphic),
            name,
            source: { kind: 'file', fileName: fileName ?? '' },
            columns: [...new Set(typeof key === 'string' ? [key, ...names] : names)],
            rows: [],
            key: key ?? null,
            images: [],
            readAt: null,
          },
        ];
      }),
    };
  },
  10: (show) => {
    const graphics = objectOf(show.graphics);
    return { ...show, graphics: { ...graphics, list: listOf(graphics.list).map(graphicOf10) } };
  },
};

/** Frames a second of a show. */
const fpsOf9 = (show: Raw): number => numberOf(objectOf(show.rate).num, 25) / numberOf(objectOf(show.rate).den, 1);

/** Identity of the sheet that a graphic of version 8 had a link to. */
const sheetId9 = (graphic: Raw): string => `sheet-${String(graphic.id)}`.slice(0, 64);

/** A graphic of version 8: fields get no formula; what told of its sheet points at one that has none of its rows yet. */
export const graphicOf9 = (graphic: Raw, fps: number): Raw => ({
  ...graphic,
  elements: listOf(graphic.elements).map((e) => {
    const content = objectOf(e.content);
    if (content.kind !== 'animation') return e;
    const holds = listOf(content.holds).map((h) => ({ ...h, seconds: null }));
    return { ...e, content: { ...content, rate: Math.min(1000, Math.max(0.001, numberOf(content.pace, 1) * fps)), holds } };
  }),
  fields: listOf(graphic.fields).map((f) => ({ ...f, formula: null })),
  sheet: graphic.sheet ? { sheetId: sheetId9(graphic), all: false, columns: listOf(objectOf(graphic.sheet).columns) } : null,
});

/** A graphic of version 9: the parts of its animations have no track for live pictures. */
export const graphicOf10 = (graphic: Raw): Raw => ({
  ...graphic,
  elements: listOf(graphic.elements).map((e) => {
    const content = objectOf(e.content);
    if (content.kind !== 'animation') return e;
    return { ...e, content: { ...content, parts: listOf(content.parts).map((p) => ({ ...p, track: [] })) } };
  }),
});

/** Air with each copy of a graphic changed, in lanes and in the picture, and with `more` beside them. */
function withCopies(air: Raw, graphicOf: (graphic: Raw) => Raw, shownOf: (shown: Raw) => Raw, more: Raw): Raw {
  const filled = (raw: Raw): Raw => ({ ...raw, graphic: graphicOf(objectOf(raw.graphic)) });
  const shown = (raw: Raw): Raw => shownOf({ ...filled(raw), before: raw.before ? filled(objectOf(raw.before)) : null });
  const copied = (picture: unknown): unknown => {
    const { kind, shown: copy } = objectOf(picture);
    return kind === 'graphic' ? { ...objectOf(picture), shown: shown(objectOf(copy)) } : (picture ?? null);
  };
  const laneOf = (lane: Raw): Raw => ({
    ...lane,
    picture: copied(lane.picture),
    leaving: lane.leaving ? { ...objectOf(lane.leaving), picture: copied(objectOf(lane.leaving).picture) } : null,
  });
  const graphics = objectOf(air.graphics);
  const each = (of: unknown, change: (raw: Raw) => Raw) =>
    Object.fromEntries(Object.entries(objectOf(of)).map(([id, raw]) => [id, change(objectOf(raw))]));
  return { ...air, lanes: each(air.lanes, laneOf), graphics: { ...graphics, ...more, shown: each(graphics.shown, shown) } };
}

export const graphicsAirMigrations: Migrations = {
  7: (air, show) => {
    const idOf = entryIds(show);
    const { width, height } = objectOf(show.raster);
    const copied = (picture: unknown): unknown => {
      const { kind, id, card } = objectOf(picture);
      if (kind !== 'card') return picture ?? null;
      const graphic = plate('name-card', numberOf(width, 1280), numberOf(height, 720), []);
      return { kind: 'graphic', id: idOf(id), shown: { graphic, values: valuesOf(objectOf(card)), start: 0, before: null } };
    };
    return {
      ...air,
      lanes: Object.fromEntries(
        Object.entries(objectOf(air.lanes)).map(([id, raw]) => {
          const lane = objectOf(raw);
          const leaving = lane.leaving ? { ...objectOf(lane.leaving), picture: copied(objectOf(lane.leaving).picture) } : null;
          return [id, { ...lane, changes: false, picture: copied(lane.picture), leaving }];
        }),
      ),
      graphics: { shown: {}, clocks: {}, day: null },
    };
  },
  8: (air) => withCopies(air, graphicOf8, (shown) => ({ ...shown, hold: { index: 0, start: 0 } }), { sizes: {} }),
  9: (air, show) =>
    withCopies(
      air,
      (graphic) => graphicOf9(graphic, fpsOf9(show)),
      (shown) => shown,
      { tickers: {} },
    ),
  10: (air) => withCopies(air, graphicOf10, (shown) => shown, {}),
};
