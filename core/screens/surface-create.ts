/** New surfaces, screens and layers with sensible first settings. */
import { createBox } from '../layout/document';
import { type Rect } from '../show/geometry';
import { type BoxContent } from '../layout/document';
import { type Layer, type Screen, type Surface } from './surface';

/** Edges as wide as their overlaps. */
export const plainEdges = () => ({ left: null, top: null, right: null, bottom: null });
export const FULL_GAIN = { red: 1, green: 1, blue: 1 } as const;

export const createSurface = (id: string, name: string, width: number, height: number, pitch: number): Surface => ({
  id,
  name,
  width,
  height,
  pitch,
  screens: [],
  blend: { curve: 'smooth', gamma: 2.2, lift: 0 },
  templateId: null,
  look: { background: null, layers: [] },
  change: { kind: 'dissolve', frames: 25, colour: '#000000' },
  withTake: false,
  places: [],
});

export const createScreen = (id: string, name: string, rect: Rect, change: Partial<Screen> = {}): Screen => ({
  id,
  name,
  rect,
  outputId: null,
  area: null,
  turn: 'none',
  size: null,
  blends: false,
  edges: plainEdges(),
  gain: { ...FULL_GAIN },
  corners: null,
  masks: [],
  locked: false,
  ...change,
});

export const createLayer = (
  id: string,
  name: string,
  rect: Rect,
  content: BoxContent | null,
  shows: Layer['shows'] = 'picture',
): Layer => ({
  ...createBox(id, name, rect, content),
  // Places of styles are pixels of the show's picture, not of a canvas.
  own: ['position', 'size'],
  shows,
});
