/** What is chosen in the room Screens; lives as long as the page. */
import { create } from 'zustand';
import { type Show } from '#core/desk/show';
import { type ScreenOutput } from '#core/screens/document';
import { type LengthUnit } from '#core/screens/lengths';
import { type Surface } from '#core/screens/surface';
import { type Rect } from '#core/show/geometry';

interface ScreensRoomState {
  /** What stands on the stage: a surface, or one output. */
  what: 'surface' | 'output';
  outputId: string | null;
  surfaceId: string | null;
  /** What the mouse works on the canvas. */
  hand: 'layers' | 'screens';
  screenIds: readonly string[];
  layerIds: readonly string[];
  unit: LengthUnit;
  /** The part of the canvas that is seen, its pixels; null for all of it. */
  view: Rect | null;
  /** As the wall looks, with its blends on or off; null for the picture as it is sent. */
  light: 'blended' | 'unblended' | null;
  snap: boolean;
  /** Width and height keep their proportions: changing one changes the other, in sight. */
  proportions: boolean;
  /** Safe areas of screens are drawn. */
  safe: boolean;
  template: boolean;
}

export const useScreensRoom = create<ScreensRoomState>(() => ({
  what: 'surface',
  outputId: null,
  surfaceId: null,
  hand: 'layers',
  screenIds: [],
  layerIds: [],
  unit: 'm',
  view: null,
  light: null,
  snap: true,
  proportions: false,
  safe: false,
  template: true,
}));

export const setRoom = (change: Partial<ScreensRoomState>): void => useScreensRoom.setState(change);
export const chooseOutput = (outputId: string | null): void => setRoom({ outputId, what: 'output' });
export const chooseSurface = (surfaceId: string | null): void =>
  setRoom({ surfaceId, what: 'surface', screenIds: [], layerIds: [], view: null });

type Screens = Pick<Show, 'screens'>;

/** The chosen output, the first of the list while none is. */
export const chosenOutput = ({ screens }: Screens, outputId: string | null): ScreenOutput | undefined =>
  screens.outputs.find((o) => o.id === outputId) ?? screens.outputs[0];

/** The chosen surface, the first of the list while none is. */
export const chosenSurface = ({ screens }: Screens, surfaceId: string | null): Surface | undefined =>
  screens.surfaces.find((s) => s.id === surfaceId) ?? screens.surfaces[0];

/** What of a list is chosen, in the order of the list: what has gone is not. */
export const chosenOf = <T extends { id: string }>(list: readonly T[], ids: readonly string[]): T[] =>
  list.filter((x) => ids.includes(x.id));
