/** What is chosen in the room Layouts; lives as long as the page, so that keys and other rooms can work on it. */
import { create } from 'zustand';
import { type Layout } from '#core/layout/document';
import { type Show } from '#core/desk/show';

export interface CanvasTools {
  /** Handles crop and pan instead of moving. */
  crop: boolean;
  /** Proportions are kept. */
  locked: boolean;
  snap: boolean;
  /** Safe areas are drawn. */
  safe: boolean;
}

interface LayoutsRoomState {
  mode: 'layouts' | 'framings';
  openId: string | null;
  framingId: string | null;
  /** Boxes of the open layout. */
  chosen: string[];
  tab: 'box' | 'layout' | 'styles' | 'seats';
  tools: CanvasTools;
  /** The box whose geometry was copied; kept from one layout to another. */
  copied: { layout: string; box: string } | null;
  /** The list of new layouts is open. */
  adding: boolean;
}

export const useLayoutsRoom = create<LayoutsRoomState>(() => ({
  mode: 'layouts',
  openId: null,
  framingId: null,
  chosen: [],
  tab: 'box',
  tools: { crop: false, locked: false, snap: true, safe: false },
  copied: null,
  adding: false,
}));

export const setLayoutsRoom = (change: Partial<LayoutsRoomState>): void => useLayoutsRoom.setState(change);

/** The layout that is open: the chosen one, otherwise the first. */
export const openLayout = (show: Pick<Show, 'layouts' | 'presets'>, openId: string | null): Layout | undefined =>
  [...show.layouts, ...show.presets].find((l) => l.id === openId) ?? show.layouts[0];

/** Opens a layout; its boxes are not chosen. */
export const openLayoutById = (openId: string): void => setLayoutsRoom({ openId, chosen: [], mode: 'layouts' });
