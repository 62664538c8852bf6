/** What is chosen in the room Graphics; lives as long as the page, so that keys and other rooms can work on it. */
import { create } from 'zustand';
import { type Show } from '#core/desk/show';
import { type Entry, type Graphic } from '#core/graphics/document';
import { type Element } from '#core/graphics/element';
import { type ReadAnimation } from '#engine/graphics/animation-file';

export type GraphicsTab = 'fill' | 'draw';

interface GraphicsRoomState {
  tab: GraphicsTab;
  graphicId: string | null;
  entryId: string | null;
  laneId: string | null;
  /** Words that entries are looked for by. */
  search: string;
  /** Elements, in the order in which they were chosen. */
  chosen: readonly string[];
  copied: readonly Element[];
  /** Shown over the stage. */
  safe: boolean;
  grid: boolean;
  snap: boolean;
  /** Frame of the trial; null while it is not tried. */
  trial: number | null;
  playing: boolean;
  panel: 'entries' | 'sheets' | 'clocks' | 'tableaux';
  sheetId: string | null;
  /** The list of what a new graphic can be is open. */
  adding: boolean;
  /** Animations of a file that is coming in. */
  bringing: { fileName: string; animations: readonly ReadAnimation[] } | null;
}

export const useGraphicsRoom = create<GraphicsRoomState>(() => ({
  tab: 'fill',
  graphicId: null,
  entryId: null,
  laneId: null,
  search: '',
  chosen: [],
  copied: [],
  safe: true,
  grid: false,
  snap: true,
  trial: null,
  playing: false,
  panel: 'entries',
  sheetId: null,
  adding: false,
  bringing: null,
}));

export const setGraphicsRoom = (change: Partial<GraphicsRoomState>): void => useGraphicsRoom.setState(change);

/** The graphic that is open: the chosen one, or the first. */
export const openGraphic = (show: Show, id: string | null): Graphic | undefined =>
  show.graphics.list.find((g) => g.id === id) ?? show.graphics.list[0];

/** Opens another graphic; what was chosen in the one before is not any more. */
export const openGraphicById = (graphicId: string): void =>
  setGraphicsRoom({ graphicId, entryId: null, chosen: [], trial: null, playing: false, search: '' });

/** The lane that entries go to: the chosen one, one that holds an entry of the graphic, or the first. */
export function workLane(show: Show, laneId: string | null, graphic: Graphic | undefined): string | null {
  if (show.lanes.some((l) => l.id === laneId)) return laneId;
  const ids = new Set(graphic ? [graphic.id, ...graphic.entries.map((e) => e.id)] : []);
  return (show.lanes.find((l) => l.content !== null && ids.has(l.content.id)) ?? show.lanes[0])?.id ?? null;
}

/** The entry that is chosen, or the first of the table, so that Enter always means one. */
export const chosenEntry = (graphic: Graphic | undefined, entryId: string | null): Entry | undefined =>
  graphic?.entries.find((e) => e.id === entryId) ?? graphic?.entries[0];

/** What actions work on. */
export function chosenGraphics(show: Show) {
  const { graphicId, entryId, laneId, chosen } = useGraphicsRoom.getState();
  const graphic = openGraphic(show, graphicId);
  return {
    graphic: graphic?.id ?? null,
    entry: chosenEntry(graphic, entryId)?.id ?? null,
    elements: chosen.filter((id) => graphic?.elements.some((e) => e.id === id)),
    graphicLane: workLane(show, laneId, graphic),
  };
}
