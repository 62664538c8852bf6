/** New graphics, elements, fields and clocks with sensible first settings. */
import { type Rect } from '../show/geometry';
import { type Raster } from '../show/raster';
import { type Clock, type Entry, type Field, type FieldKind, type Graphic, type Graphics, type Value } from './document';
import {
  type Accent,
  type AccentSign,
  type Content,
  type Element,
  type ElementKind,
  type ElementMove,
  type HoldMove,
  type MoveWay,
  type TextStyle,
} from './element';
import { type ColourFill, type ElementCrop, type Finish, type Stroke } from './fill';

export const FIRST_FAMILY = 'Atkinson Hyperlegible Next';

export const colourFill = (colour: string, opacity = 1): ColourFill => ({ kind: 'colour', colour, opacity });
export const noStroke = (): Stroke => ({ width: 0, colour: '#e2c48d', opacity: 1, place: 'centre', dash: 'solid' });
export const plainFinish = (colour: string): Finish => ({
  fill: colourFill(colour),
  stroke: noStroke(),
  shadow: null,
  glow: null,
  reflection: null,
});

/** Text of a size that suits a box of `height` pixels. */
export const textStyle = (height: number, change: Partial<TextStyle> = {}): TextStyle => ({
  family: FIRST_FAMILY,
  weight: 600,
  italic: false,
  size: Math.max(1, Math.round(height * 0.72)),
  lineHeight: 1.15,
  letterSpacing: 0,
  capitals: 'none',
  across: 'left',
  down: 'middle',
  wrap: false,
  overflow: 'shrink',
  depth: 0,
  light: 315,
  ...change,
});

export const move = (way: MoveWay, frames: number, change: Partial<ElementMove> = {}): ElementMove => ({
  way,
  edge: 'left',
  easing: 'in-out',
  start: 0,
  frames,
  ...change,
});

/** An element that breathes once in `frames`. */
export const holdMove = (way: HoldMove['way'], frames: number, change: Partial<HoldMove> = {}): HoldMove => ({
  ...move(way, frames),
  way,
  depth: 0.5,
  rest: 25,
  times: 0,
  ...change,
});

export const createAccent = (sign: AccentSign, change: Partial<Accent> = {}): Accent => ({
  sign,
  family: null,
  weight: 700,
  italic: false,
  size: 1,
  colour: null,
  ...change,
});

export const NO_CROP: ElementCrop = {
  left: 0,
  top: 0,
  right: 0,
  bottom: 0,
  featherLeft: 0,
  featherTop: 0,
  featherRight: 0,
  featherBottom: 0,
  follows: true,
};

/** What an element of a kind is at first. */
const FIRST: Record<ElementKind, (height: number) => Content> = {
  group: () => ({ kind: 'group', flow: 'none', align: 'start' }),
  text: (height) => ({ kind: 'text', text: 'Text', style: textStyle(height), accents: [] }),
  rectangle: () => ({ kind: 'rectangle' }),
  ellipse: () => ({ kind: 'ellipse' }),
  polygon: () => ({ kind: 'polygon', sides: 6 }),
  line: () => ({ kind: 'line' }),
  image: () => ({ kind: 'image', assetId: null, fileName: '', fit: 'contain' }),
  clock: (height) => ({
    kind: 'clock',
    clockId: null,
    format: 'm:ss',
    style: textStyle(height, { family: 'IBM Plex Mono', across: 'centre' }),
    lastSeconds: 10,
    lastColour: '#ff5a4f',
  }),
  window: () => ({ kind: 'window', pictureId: null, fit: 'cover' }),
  animation: () => ({
    kind: 'animation',
    assetId: null,
    fileName: '',
    first: 0,
    last: 1,
    pace: 1,
    rate: 25,
    width: 1280,
    height: 720,
    holds: [{ frame: 0, seconds: null }],
    stills: [],
    parts: [],
    units: [],
    given: [],
    problems: 0,
  }),
  ticker: (height) => ({
    kind: 'ticker',
    items: ['First item', 'Second item'],
    sheetId: null,
    column: '',
    separator: '•',
    separatorId: null,
    speed: 120,
    direction: 'left',
    loops: true,
    gap: Math.round(height * 0.5),
    style: textStyle(height),
  }),
  table: (height) => ({
    kind: 'table',
    sheetId: null,
    columns: [],
    sortBy: null,
    down: true,
    count: 5,
    numbered: true,
    rowHeight: Math.max(1, Math.round(height / 5)),
    gap: 4,
    plate: '#0d1517',
    plateOpacity: 0.85,
    style: textStyle(height / 5, { size: Math.max(1, Math.round((height / 5) * 0.5)) }),
    rows: [],
  }),
};

export const contentOf = (kind: ElementKind, height: number): Content => FIRST[kind](height);

/** Names of element kinds for people. */
export const KIND_NAMES: Record<ElementKind, string> = {
  group: 'Group',
  text: 'Text',
  rectangle: 'Rectangle',
  ellipse: 'Ellipse',
  polygon: 'Polygon',
  line: 'Line',
  image: 'Image',
  clock: 'Clock',
  window: 'Window',
  animation: 'Animation',
  ticker: 'Ticker',
  table: 'Table',
};

/** An element of a kind in a place. */
export function createElement(id: string, kind: ElementKind, place: Rect, change: Partial<Element> = {}): Element {
  const line = kind === 'line';
  const light = kind === 'text' || kind === 'clock' || kind === 'ticker' || kind === 'table';
  return {
    id,
    name: KIND_NAMES[kind],
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
    ...plainFinish(light ? '#e8efe9' : '#1b2a2e'),
    ...(kind === 'group' || kind === 'image' || kind === 'window' || kind === 'animation' || line
      ? { fill: { kind: 'none' as const } }
      : {}),
    ...(line && { stroke: { ...noStroke(), width: 4 } }),
    crop: null,
    mask: null,
    hideWhenEmpty: false,
    in: null,
    out: null,
    change: null,
    hold: null,
    keyframes: [],
    content: contentOf(kind, place.height),
    ...change,
  };
}

/** An entry that is filled in by hand. */
export const createEntry = (id: string, number: number | null, values: Entry['values'] = []): Entry => ({
  id,
  number,
  values,
  rowKey: null,
  done: false,
});

/** A graphic without elements. */
export const createGraphic = (id: string, name: string, raster: Raster): Graphic => ({
  id,
  designId: id,
  name,
  number: null,
  raster: { ...raster },
  elements: [],
  fields: [],
  entries: [],
  in: null,
  out: null,
  stingerFrames: 50,
  cutFrame: 25,
  guides: [],
  sheet: null,
});

const EMPTY: { [K in FieldKind]: () => Extract<Value, { kind: K }> } = {
  text: () => ({ kind: 'text', text: '' }),
  image: () => ({ kind: 'image', assetId: null }),
  colour: () => ({ kind: 'colour', colour: '#e2c48d' }),
  number: () => ({ kind: 'number', number: 0 }),
  flag: () => ({ kind: 'flag', on: true }),
  choice: () => ({ kind: 'choice', choice: '' }),
  clock: () => ({ kind: 'clock', clockId: null }),
  picture: () => ({ kind: 'picture', pictureId: null }),
};

/** A field's first value. */
export const emptyValue = (kind: FieldKind): Value => EMPTY[kind]();

export const createField = (id: string, name: string, value: Value, change: Partial<Field> = {}): Field => ({
  id,
  name,
  hint: '',
  default: value,
  least: null,
  most: null,
  longest: null,
  choices: [],
  targets: [],
  formula: null,
  ...change,
});

export const createClock = (id: string, name: string, change: Partial<Clock> = {}): Clock => ({
  id,
  name,
  number: null,
  kind: 'down',
  seconds: 90,
  atEnd: 'stop',
  endWords: '',
  ...change,
});

/** Finishes that a new show has. */
export const firstFinishes = (): Graphics['finishes'] => [
  { id: 'finish-deep', name: 'Deep water', finish: { ...plainFinish('#0d1517'), fill: colourFill('#0d1517', 0.88) } },
  {
    id: 'finish-cloth',
    name: 'Sail-cloth',
    finish: {
      ...plainFinish('#e8efe9'),
      fill: {
        kind: 'linear',
        angle: 90,
        length: 1,
        spread: 'pad',
        stops: [
          { at: 0, colour: '#f6f8f2', opacity: 1 },
          { at: 1, colour: '#d5ddd4', opacity: 1 },
        ],
      },
      shadow: { x: 0, y: 4, blur: 12, spread: 0, colour: '#000000', opacity: 0.4 },
    },
  },
  { id: 'finish-straw', name: 'Straw line', finish: { ...plainFinish('#e2c48d'), stroke: { ...noStroke(), width: 2, colour: '#8a6d34' } } },
  {
    id: 'finish-lamp',
    name: 'Lamp',
    finish: { ...plainFinish('#e2c48d'), glow: { blur: 18, colour: '#ffd98a', opacity: 0.7 } },
  },
  {
    id: 'finish-glass',
    name: 'Wet glass',
    finish: {
      ...plainFinish('#5aa9c9'),
      fill: {
        kind: 'linear',
        angle: 90,
        length: 1,
        spread: 'pad',
        stops: [
          { at: 0, colour: '#5aa9c9', opacity: 0.55 },
          { at: 0.5, colour: '#2a5d78', opacity: 0.5 },
          { at: 1, colour: '#16405a', opacity: 0.7 },
        ],
      },
      reflection: { height: 0.35, opacity: 0.35, gap: 2 },
    },
  },
];

export const createGraphics = (): Graphics => ({ list: [], clocks: [], finishes: firstFinishes(), fonts: [] });
