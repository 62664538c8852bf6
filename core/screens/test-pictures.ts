/**
 * Test pictures and identification cards as plans, in the pixels of the output that shows them. Pure: the sweep is a function of the frame.
 */
import { createElement } from '../graphics/create';
import { paintOf } from '../graphics/paint';
import { type DrawItem, type PicturePlan, plainPlan } from '../picture/draw';
import { type Rect } from '../show/geometry';
import { type Raster } from '../show/raster';
import { type Output } from './outputs';
import { type Pattern } from './document';

/** Bars 100/0/75/0 in the naming of ITU-R BT.471, as displayed values. */
const BARS = ['#ffffff', '#bfbf00', '#00bfbf', '#00bf00', '#bf00bf', '#bf0000', '#0000bf', '#000000'];
const LIGHT = '#e8efe9';
const DARK = '#101a1c';
/** Steps of the grey ramp. */
const GREYS = 33;
/** Frames in which the sweep crosses the picture. */
const SWEEP_FRAMES = 150;

export const box = (colour: string, x: number, y: number, width: number, height: number): DrawItem => ({
  texture: { kind: 'colour', colour },
  target: { x, y, width, height },
  fit: 'fill',
  opacity: 1,
});

const whole = ({ width, height }: Raster, colour: string): DrawItem => box(colour, 0, 0, width, height);

/** Words in a place; `size` in pixels. */
export function words(text: string, place: Rect, size: number, raster: Raster, colour = LIGHT): DrawItem {
  const element = createElement('words', 'text', place, { fill: { kind: 'colour', colour, opacity: 1 } });
  if (element.content.kind === 'text') {
    element.content.text = text;
    Object.assign(element.content.style, { size, across: 'centre', down: 'middle', wrap: false, overflow: 'shrink', weight: 700 });
  }
  const paint = paintOf([{ element, mask: null, moment: null }], raster);
  return { texture: { kind: 'paint', paint, slot: `screen ${text}` }, target: paint.bounds, fit: 'fill', opacity: 1 };
}

/** Thickness of a line, pixels: it is still seen in a monitor of half the size. */
export const lineOf = (height: number): number => Math.max(2, Math.round(height / 400));

/** A frame around the whole, and lines that cross in the middle. */
function edges({ width, height }: Raster, colour: string): DrawItem[] {
  const line = lineOf(height);
  const middle = (length: number) => Math.round((length - line) / 2);
  return [
    box(colour, 0, 0, width, line),
    box(colour, 0, height - line, width, line),
    box(colour, 0, 0, line, height),
    box(colour, width - line, 0, line, height),
    box(colour, 0, middle(height), width, line),
    box(colour, middle(width), 0, line, height),
  ];
}

/** Side of a cell of the grid, pixels: about twelve cells across, of a round number. */
export function gridCell({ width, height }: Raster): number {
  const about = Math.max(width, height) / 12;
  const round = 10 ** Math.floor(Math.log10(about));
  return [1, 2, 2.5, 5, 10].map((n) => n * round).find((n) => n >= about) ?? about;
}

/** Lines at round numbers of pixels, with the numbers written at the upper and the left edge. */
function grid(raster: Raster): DrawItem[] {
  const { width, height } = raster;
  const cell = gridCell(raster);
  const line = lineOf(height);
  const size = Math.max(8, Math.round(cell / 5));
  const items = [whole(raster, DARK)];
  for (let x = cell; x + line <= width; x += cell) items.push(box('#4c6468', x, 0, line, height));
  for (let y = cell; y + line <= height; y += cell) items.push(box('#4c6468', 0, y, width, line));
  for (let x = cell; x < width; x += cell)
    items.push(words(String(x), { x: x + 4, y: 2, width: cell - 8, height: size * 1.4 }, size, raster));
  for (let y = cell; y < height; y += cell)
    items.push(words(String(y), { x: 2, y: y + 2, width: cell - 8, height: size * 1.4 }, size, raster));
  return [...items, ...edges(raster, LIGHT)];
}

function ramp(raster: Raster): DrawItem[] {
  const { width, height } = raster;
  return Array.from({ length: GREYS }, (_, i) => {
    const grey = Math.round((255 * i) / (GREYS - 1));
    const from = Math.round((width * i) / GREYS);
    const colour = `#${grey.toString(16).padStart(2, '0').repeat(3)}`;
    return box(colour, from, 0, Math.round((width * (i + 1)) / GREYS) - from, height);
  });
}

const bars = ({ width, height }: Raster): DrawItem[] =>
  BARS.map((colour, i) => {
    const from = Math.round((width * i) / BARS.length);
    return box(colour, from, 0, Math.round((width * (i + 1)) / BARS.length) - from, height);
  });

/** Lines of one, two, three and four pixels in the corners and the middle: what is out of focus, or scaled on the way, turns grey. */
function lines(raster: Raster): DrawItem[] {
  const { width, height } = raster;
  const side = Math.round(Math.min(width, height) / 6);
  const places = [
    [0, 0],
    [width - side, 0],
    [0, height - side],
    [width - side, height - side],
    [Math.round((width - side) / 2), Math.round((height - side) / 2)],
  ] as const;
  const items = [whole(raster, '#808080')];
  for (const [x, y] of places) {
    items.push(box('#000000', x, y, side, side));
    let at = 2;
    // At most forty lines a place: all together they stay below what a picture may hold.
    for (let n = 0; n < 40; n += 1) {
      const thick = 1 + Math.floor((4 * at) / side);
      if (at + thick > side) break;
      items.push(box('#ffffff', x + at, y, thick, side));
      at += thick * 2;
    }
  }
  return items;
}

/** A line that crosses the picture evenly: what judders, or is late, is seen on it. */
function sweep(raster: Raster, frame: number): DrawItem[] {
  const { width, height } = raster;
  const thick = Math.max(2, Math.round(width / 160));
  const x = Math.round(((frame % SWEEP_FRAMES) / SWEEP_FRAMES) * (width - thick));
  return [whole(raster, DARK), ...edges(raster, '#4c6468'), box(LIGHT, x, 0, thick, height)];
}

const DRAWN: Record<Pattern, (raster: Raster, frame: number) => DrawItem[]> = { bars, grid, ramp, lines, sweep };

/** Pictures that stand still are worked out once: they are asked for at every frame. */
const still = new Map<string, PicturePlan>();
const MOST_STILL = 100;

export function once(key: string, draw: () => DrawItem[]): PicturePlan {
  const known = still.get(key);
  if (known) return known;
  if (still.size >= MOST_STILL) still.clear();
  const plan = plainPlan(draw());
  still.set(key, plan);
  return plan;
}

/** A test picture of an output. */
export const testPlan = (pattern: Pattern, raster: Raster, frame: number): PicturePlan =>
  pattern === 'sweep'
    ? plainPlan(DRAWN.sweep(raster, frame))
    : once(`${pattern} ${raster.width}×${raster.height}`, () => DRAWN[pattern](raster, frame));

/** The card of an output: its name, its pixels, and where its window stands. */
export function cardPlan({ name }: Pick<Output, 'name'>, raster: Raster, display: string): PicturePlan {
  const { width, height } = raster;
  const row = (y: number, share: number, text: string, colour = LIGHT) => {
    const place = { x: width * 0.06, y: height * y, width: width * 0.88, height: height * share };
    return words(text, place, Math.round(height * share * 0.7), raster, colour);
  };
  return once(JSON.stringify([name, raster, display]), () => [
    whole(raster, '#16405a'),
    ...edges(raster, '#e2c48d'),
    row(0.2, 0.34, name),
    row(0.58, 0.14, `${width}×${height}`, '#e2c48d'),
    ...(display === '' ? [] : [row(0.74, 0.1, display)]),
  ]);
}
