/** What is open on the Desk; lives as long as the page. */
import { create } from 'zustand';

/** In the order of their keys. */
export const SHELF_TABS = ['layouts', 'framings', 'seats', 'graphics', 'replay'] as const;

/** What can be under the picture on air, where there is room for one thing at a time. */
export const DESK_PARTS = ['next', 'sources', 'lanes', 'shelf', 'sound'] as const;
export type DeskPart = (typeof DESK_PARTS)[number];

interface DeskRoomState {
  part: DeskPart;
  tab: (typeof SHELF_TABS)[number];
  /** The sheet of all transitions is open. */
  transitions: boolean;
  /** Graphic whose entries the shelf shows; the first one when it is gone. */
  graphicId: string | null;
}

export const useDeskRoom = create<DeskRoomState>(() => ({ part: 'next', tab: 'layouts', transitions: false, graphicId: null }));

export const setDeskRoom = (change: Partial<DeskRoomState>): void => useDeskRoom.setState(change);
